/** An offer as a plan of its build: its places come along as far as they move nothing of the other plans. */
import { setBay } from '../bay/bay-builders'
import type { Bay, Build, Line, Variant } from '../document/schema'
import { sameJson } from '../edit/diff'
import { addPlan, chain, type EditBuilder } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'

/** Plans are told apart by a letter. */
const LETTERS = 'abcdefghijklmnopqrstuvwxyz'

/** The id that a further plan of a build gets. */
export const freePlanId = ({ variants }: Pick<Build, 'variants'>): string =>
  [...LETTERS].find((letter) => variants.every((v) => v.id !== letter)) ?? `plan-${variants.length + 1}`

/** The part that a spot of the bay belongs to: a port's is `part.port`. */
const partOfSpot = (id: string) => id.split('.')[0]!

/** What a plan has in the bay that the bay of its build has elsewhere. */
function movedParts(bay: Bay, offered: Bay): ReadonlySet<string> {
  const known = new Map(bay.spots.map((s) => [s.id, s]))
  return new Set(
    offered.spots.flatMap((s) => {
      const has = known.get(s.id)
      return has && !sameJson(has, s) ? [partOfSpot(s.id)] : []
    }),
  )
}

/** Makes an offer a plan of the build that it was made for. A hose keeps its way where both its ends stand where the way was led. */
export function takeOffer(offer: Build): EditBuilder {
  return (build) => {
    const plan = activeVariant(offer)
    const id = freePlanId(build)
    const { bay } = build
    if (!bay || !offer.bay) {
      const lines = plan.lines.map((l): Line => ({ ...l, way: undefined }))
      return addPlan({ ...plan, id, lines } satisfies Variant)(build)
    }
    const moved = movedParts(bay, offer.bay)
    const lines = plan.lines.map((l): Line =>
      moved.has(l.from.part) || moved.has(l.to.part) ? { ...l, way: undefined } : l,
    )
    const parts = new Set(plan.parts.map((p) => p.id))
    const more = offer.bay.spots.filter((s) => parts.has(partOfSpot(s.id)) && bay.spots.every((has) => has.id !== s.id))
    return chain(addPlan({ ...plan, id, lines }), setBay({ ...bay, spots: [...bay.spots, ...more] }))(build)
  }
}
