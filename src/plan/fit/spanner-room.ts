/** Whether a spanner finds room round each fitting, by the bay as it was measured. */
import { distanceToBox, heightAt } from '@/core/route/distance'
import { boxOf } from '../bay/place'
import { endPlace, pointOf } from '../catalogue/bay-geometry'
import { dashOf } from '../catalogue/forms'
import type { Build, Variant } from '../document/schema'
import { lowered } from '../document/words'
import { madeOf, type Strip, type StripEnd } from './strips'

/** Wall of an open spanner round the hexagon, and a hand's play beside it, m (estimates). */
const SPANNER = 0.012
/** Corner to corner of a hexagon, over its flats. */
const CORNERS = 2 / Math.sqrt(3)

export type SpannerRoom = {
  readonly at: string
  readonly hexMm: number
  /** from the middle of the fitting to the nearest thing, and what that is, m */
  readonly freeM: number
  readonly to: string
  readonly askedM: number
}

/** The largest hexagon that is turned at an end; undefined where nothing is screwed. */
function hexOf(end: StripEnd): number | undefined {
  if (!end.chain.ok) return undefined
  const { pieces, hoseEnd } = end.chain.value
  const all = pieces.flatMap((p) => (p.hexMm === undefined ? [] : [p.hexMm]))
  if (hoseEnd.kind === 'hose end') all.push(dashOf(hoseEnd.dash)!.hexMm)
  return all.length > 0 ? Math.max(...all) : undefined
}

/** Ends of the hoses that are made whose place was measured and at which something is screwed, the tightest first. */
export function spannerRooms(build: Build, variant: Variant, strips: readonly Strip[]): readonly SpannerRoom[] {
  const { bay } = build
  if (!bay) return []
  const bonnet = bay.bonnet.map(pointOf)
  return madeOf(strips)
    .flatMap((s) =>
      s.ends.flatMap((e): SpannerRoom[] => {
        const hexMm = hexOf(e)
        const place = endPlace(bay, variant, e.end)
        if (hexMm === undefined || !place) return []
        const lid = heightAt(bonnet, place.at[0], place.at[1])
        const near = [
          ...bay.keepOuts.map((k) => ({ to: lowered(k.name), freeM: distanceToBox(place.at, boxOf(k)) })),
          ...(lid === undefined ? [] : [{ to: 'the bonnet', freeM: lid - place.at[2] }]),
        ].toSorted((a, b) => a.freeM - b.freeM)[0]
        if (!near) return []
        const at = `${e.part.name}, ${lowered(e.port)}`
        return [{ at, hexMm, ...near, askedM: (hexMm * CORNERS) / 2000 + SPANNER }]
      }),
    )
    .toSorted((a, b) => a.freeM - a.askedM - (b.freeM - b.askedM))
}
