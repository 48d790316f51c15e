import type { Metadata } from 'next'
import { Garage } from '@/features/garage/garage'
import type { ListedBuild } from '@/features/garage/ticket'
import { listBackups } from '@/server/backups'
import { listHeads, listRemoved, readBuild, type ListedHead } from '@/server/builds'
import { summariseStored } from '@/server/judge'
import { today } from '@/server/today'
import { asResult } from '@/server/as-result'
import { TroublePage } from '@/ui/trouble'

export const metadata: Metadata = { title: 'Garage · Ivent' }
export const dynamic = 'force-dynamic'

async function listed(head: ListedHead, day: string): Promise<ListedBuild> {
  const { id, name, revision, savedAt } = head
  const row = { id, name, revision, savedAt }
  const found = await asResult(() => summariseStored(head, day, async () => (await readBuild(id))?.document))
  if (!found.ok) return { ...row, trouble: found.reason }
  return found.value ? { ...row, ...found.value } : { ...row, trouble: 'It has just been taken away.' }
}

export default async function GaragePage() {
  const day = today()
  const found = await asResult(async () => ({
    builds: await Promise.all((await listHeads()).map((h) => listed(h, day))),
    removed: await listRemoved(),
  }))
  if (!found.ok) return <TroublePage title="The garage cannot be read" words={found.reason} />
  const { builds, removed } = found.value
  return <Garage builds={builds} removed={removed} backups={listBackups()} />
}
