/** What was practised, in the store. */
import type { KeptProgress, Progress } from '@/plan/practice/progress'
import { query } from './store'

/** As much as is kept; the oldest goes first. */
const MOST = 500

export async function listPractice(): Promise<readonly KeptProgress[]> {
  const rows = await query<{ key: string; body: Progress; at: Date | string }>(
    'select key, body, at from practice order by at desc',
  )
  return rows.map(({ key, body, at }) => ({ key, progress: body, at: new Date(at).toISOString() }))
}

export async function keepPractice(key: string, progress: Progress): Promise<void> {
  await query(
    `insert into practice (key, body) values ($1, $2)
     on conflict (key) do update set body = excluded.body, at = now()`,
    [key, JSON.stringify(progress)],
  )
  await query('delete from practice where key in (select key from practice order by at desc offset $1)', [MOST])
}

/** Takes one away, or all. */
export async function forgetPractice(key?: string): Promise<number> {
  const gone =
    key === undefined
      ? await query('delete from practice returning key')
      : await query('delete from practice where key = $1 returning key', [key])
  return gone.length
}
