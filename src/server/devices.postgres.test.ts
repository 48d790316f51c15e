/** Devices as in devices.test.ts, on a PostgreSQL server. */
import './devices.test'
import { onPostgres } from './testing-postgres'

onPostgres('devices')
