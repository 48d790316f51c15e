/** The numbered scripts that make a database what this Ivent expects. */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Driver } from './driver'

const MIGRATIONS = join(process.cwd(), 'src', 'server', 'migrations')

/** Scripts that a database has not seen. */
export async function unseenMigrations(db: Driver): Promise<readonly string[]> {
  await db.script(
    'create table if not exists migration (name text primary key, applied_at timestamptz not null default now())',
  )
  const done = new Set((await db.query<{ name: string }>('select name from migration')).map((r) => r.name))
  return readdirSync(MIGRATIONS)
    .filter((f) => f.endsWith('.sql') && !done.has(f))
    .toSorted()
}

/** Runs the scripts that this database has not seen, each whole or not at all. */
export async function migrateDatabase(db: Driver): Promise<void> {
  for (const name of await unseenMigrations(db)) {
    const script = readFileSync(join(MIGRATIONS, name), 'utf8')
    await db.script(`begin; ${script}; insert into migration (name) values ('${name}'); commit;`)
  }
}
