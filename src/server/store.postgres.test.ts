/** The store as in store.test.ts, on a PostgreSQL server. */
import './store.test'
import { onPostgres } from './testing-postgres'

onPostgres('store')
