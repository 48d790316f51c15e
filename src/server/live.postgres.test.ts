/** What is told as it happens as in live.test.ts, on a PostgreSQL server. */
import './live.test'
import { onPostgres } from './testing-postgres'

onPostgres('live')
