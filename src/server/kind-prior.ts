/** What other builds of the garage have taught of the kind of one. */
import { asOnCar } from '@/plan/document/fitted-plan'
import type { Build, KindPrior } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { kindPriorFrom } from '@/plan/service/kind-prior'
import { listHeads, readBuild } from './builds'
import { summariseStored } from './judge'
import { keptSummaries } from './summaries'
import { today } from './today'

/** For the plan on the car; undefined where too few other cars have taught anything. @param id its own, where it is in the garage */
export async function kindPriorFor(build: Build, id: string | undefined): Promise<KindPrior | undefined> {
  const day = today()
  const heads = (await listHeads()).filter((h) => h.id !== id)
  const kept = await keptSummaries(heads, day)
  const summaries = await Promise.all(
    heads.map(async (head) => {
      const known = kept.get(head.id)
      if (known?.isCurrent) return known.summary
      const found = await summariseStored(head, day, async () => (await readBuild(head.id))?.document)
      return found && 'summary' in found ? (found.summary ?? known?.summary) : undefined
    }),
  )
  // one that an earlier version kept does not say
  const evidence = summaries.flatMap((s) => (s && 'evidence' in s ? [s.evidence] : []))
  return kindPriorFrom(evidence, build.engine, activeVariant(asOnCar(build)), day)
}
