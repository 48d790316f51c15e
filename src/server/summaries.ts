/** What the garage last showed of each build, kept over a restart. */
import { readFileSync } from 'node:fs'
import type { BuildSummary } from '@/plan/studies/summary'
import { query } from './store'

export type KeptSummary = {
  readonly summary: BuildSummary
  /** it is of this revision, worked out on this day by this Ivent: as it would be now */
  readonly isCurrent: boolean
}

/** The build of Ivent that runs: another one may judge otherwise. */
function madeBy(): string {
  try {
    return readFileSync('.next/BUILD_ID', 'utf8').trim()
  } catch {
    return 'development'
  }
}

/** Summaries by build, as of a day. */
export async function keptSummaries(
  heads: readonly { readonly id: string; readonly revision: number }[],
  today: string,
): Promise<ReadonlyMap<string, KeptSummary>> {
  const rows = await query<{ build_id: string; revision: number; day: string; made_by: string; body: BuildSummary }>(
    'select build_id, revision, day::text as day, made_by, body from summary',
  )
  const [revisions, maker] = [new Map(heads.map((h) => [h.id, h.revision])), madeBy()]
  return new Map(
    rows.map((r) => [
      r.build_id,
      {
        summary: r.body,
        isCurrent: r.revision === revisions.get(r.build_id) && r.day === today && r.made_by === maker,
      },
    ]),
  )
}

/** Keeps what was worked out of a build for the next start. */
export async function keepSummary(id: string, revision: number, today: string, summary: BuildSummary): Promise<void> {
  await query(
    'insert into summary (build_id, revision, day, made_by, body) values ($1, $2, $3, $4, $5) on conflict (build_id) do update set revision = excluded.revision, day = excluded.day, made_by = excluded.made_by, body = excluded.body',
    [id, revision, today, madeBy(), JSON.stringify(summary)],
  )
}
