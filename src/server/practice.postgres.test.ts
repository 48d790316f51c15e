/** What was practised as in practice.test.ts, on a PostgreSQL server. */
import './practice.test'
import { onPostgres } from './testing-postgres'

onPostgres('practice')
