import type { Metadata } from 'next'
import { Garage } from '@/features/garage/garage'
import type { ListedBuild } from '@/features/garage/ticket'
import { listBackups } from '@/server/backups'
import { listHeads, listRemoved, readBuild, type ListedHead } from '@/server/builds'
import { summariseStored } from '@/server/judge'
import { keepSummary, keptSummaries, type KeptSummary } from '@/server/summaries'
import { today } from '@/server/today'
import { asResult } from '@/server/as-result'
import { TroublePage } from '@/ui/trouble'

export const metadata: Metadata = { title: 'Garage · Ivent' }
export const dynamic = 'force-dynamic'

async function listed(head: ListedHead, day: string, kept: KeptSummary | undefined): Promise<ListedBuild> {
  const { id, name, revision, savedAt } = head
  const row = { id, name, revision, savedAt }
  // as it was shown last: after a restart it is there at once
  if (kept?.isCurrent) return { ...row, summary: kept.summary, pending: false }
  const found = await asResult(() => summariseStored(head, day, async () => (await readBuild(id))?.document))
  if (!found.ok) return { ...row, trouble: found.reason }
  if (!found.value) return { ...row, trouble: 'It has just been taken away.' }
  if ('trouble' in found.value) return { ...row, ...found.value }
  const { summary, pending } = found.value
  if (summary && !pending) await asResult(() => keepSummary(id, revision, day, summary))
  return { ...row, summary: summary ?? kept?.summary, pending }
}

export default async function GaragePage() {
  const day = today()
  const found = await asResult(async () => {
    const all = await listHeads()
    const kept = await keptSummaries(all, day)
    // worked out in the order in which they are seen
    const urgency = (h: ListedHead) => kept.get(h.id)?.summary.urgency ?? Number.MAX_VALUE
    const heads = all.toSorted((a, b) => urgency(a) - urgency(b))
    return {
      builds: await Promise.all(heads.map((h) => listed(h, day, kept.get(h.id)))),
      removed: await listRemoved(),
    }
  })
  if (!found.ok) return <TroublePage title="The garage cannot be read" words={found.reason} />
  const { builds, removed } = found.value
  return <Garage builds={builds} removed={removed} backups={listBackups()} />
}
