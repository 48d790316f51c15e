/** Batches of changes as in batches.test.ts, on a PostgreSQL server. */
import './batches.test'
import { onPostgres } from './testing-postgres'

onPostgres('batches')
