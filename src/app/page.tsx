import { Garage } from '@/features/garage/garage'
import { summarise } from '@/features/garage/summary'
import { listBuilds } from '@/server/builds'
import { today } from '@/server/today'

export const dynamic = 'force-dynamic'

export default async function GaragePage() {
  const day = today()
  const builds = (await listBuilds())
    .map((b) => summarise(b.id, b.document, day))
    .toSorted((a, b) => a.urgency - b.urgency)
  return <Garage builds={builds} />
}
