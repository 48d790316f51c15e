/** What a plan comes too near to in its bay: boxes by kind, the bonnet above, its own hoses and cans. */
import type { Point3 } from '@/core/drain/profile'
import { distanceOfWay, distanceOfWays, distanceToBox, heightAt, mayComeWithin } from '@/core/route/distance'
import type { Bay, Build, Variant } from '../document/schema'
import { lowered } from '../document/words'
import { canBody, joinedBy, pointOf } from '../catalogue/bay-geometry'
import { layOf, wayOf } from './lay'
import { BONNET_ASKED, boxOf, boxOfCan, clearanceAsked, HOSES_ASKED, placeFaults, placeGround } from './place'

type KeptClear = Bay['keepOuts'][number]

export type Gap = {
  /** line or part that comes near */
  readonly of: string
  readonly kind: 'line' | 'part'
  readonly name: string
  /** what it comes near to: a box's name, or the bonnet */
  readonly to: string
  readonly gapM: number
  readonly askedM: number
  /** the can that a hose joins and leads through */
  readonly own?: string
  /** where it is nearest */
  readonly at: Point3 | undefined
}

/** Wall of a hose, m. */
const WALL = 0.0035
/** Outside radius of a hose in m by its bore in mm: half of it and the wall of reinforced rubber (estimate). */
export const tubeRadius = (boreMm: number): number => boreMm / 2000 + WALL

type Thing = Pick<Gap, 'of' | 'kind' | 'name'> & {
  readonly points: readonly Point3[]
  readonly radiusM: number
  /** parts that it is joined to */
  readonly joins: readonly string[]
}

/** What a plan puts into its bay: hoses as their middle line and radius, cans as a line up their middle. */
export function bayObjects(build: Build, variant: Variant): Thing[] {
  const lines = variant.lines.flatMap((l): Thing[] => {
    if (l.kind === 'direct') return []
    const lay = layOf(build.bay, variant, l)
    // a line that cannot bend so is still in the way of others, straight from point to point
    const points = lay.ok ? lay.value.middle : wayOf(build.bay, variant, l)
    const joins = [...joinedBy(variant, [l.from.part, l.to.part])]
    return points ? [{ of: l.id, kind: 'line', name: l.name, points, radiusM: tubeRadius(l.boreMm), joins }] : []
  })
  const cans = variant.parts.flatMap((p): Thing[] => {
    const body = p.kind === 'can' ? canBody(build.bay, p) : undefined
    if (!body) return []
    const [x, y, z] = body.floor
    const points: Point3[] = [body.floor, [x, y, z + body.heightM]]
    return [{ of: p.id, kind: 'part', name: p.name, points, radiusM: body.radiusM, joins: [p.id] }]
  })
  return [...lines, ...cans]
}

/** A port stands on a body of the engine or the car within this of it, m: a nipple or a bung, or what is screwed to it. */
const STUB = 0.045
/** Ends of a hose that stand on a body, or in it: there the hose is meant to be near. */
const endsOn = (points: readonly Point3[], k: KeptClear): Point3[] => {
  const within = k.kind === 'engine' || k.kind === 'panel' ? STUB : 0
  return [points[0]!, points.at(-1)!].filter((p) => distanceToBox(p, boxOf(k)) <= within)
}
/** Room between a hose and the can that it joins: both hang on the same bracket (estimate), m. */
export const OWN_ASKED = 0.001

/** The block of a can among things. */
const bodyOf = ({ points, radiusM }: Thing) => {
  const [floor, top] = [points[0]!, points.at(-1)!]
  return boxOfCan({ floor, radiusM, heightM: top[2] - floor[2] })
}

type Near = { readonly gapM: number; readonly at: Point3 | undefined }

/** Height of the bonnet over a hose, m. */
function underBonnet(bonnet: readonly Point3[], { points, radiusM }: Thing): Near {
  return points.reduce<Near>(
    (low, p) => {
      const height = heightAt(bonnet, p[0], p[1])
      const gapM = height === undefined ? Infinity : height - p[2] - radiusM
      return gapM < low.gapM ? { gapM, at: p } : low
    },
    { gapM: Infinity, at: undefined },
  )
}

/** Gaps of one hose to what stands near it in the bay, the bonnet, and the cans and hoses that come after it in the list. */
function gapsOfHose(bay: Bay, thing: Thing, later: readonly Thing[], all: readonly Thing[]): Gap[] {
  const { points, radiusM, joins, ...who } = thing
  const beyond = ({ least, at }: { least: number; at: Point3 | undefined }, r: number): Near => ({
    gapM: Math.max(0, least - r),
    at,
  })
  const near = bay.keepOuts.flatMap((k): Gap[] => {
    const [box, askedM] = [boxOf(k), clearanceAsked(k)]
    if (!mayComeWithin(radiusM + askedM, points, box)) return []
    return [{ ...who, ...beyond(distanceOfWay(points, box, endsOn(points, k)), radiusM), to: k.name, askedM }]
  })
  const others = later.flatMap((other): Gap[] => {
    if (other.joins.some((j) => joins.includes(j))) return []
    const gap =
      other.kind === 'part'
        ? beyond(distanceOfWay(points, bodyOf(other)), radiusM)
        : beyond(distanceOfWays(points, other.points), radiusM + other.radiusM)
    return [{ ...who, ...gap, to: `the ${lowered(other.name)}`, askedM: HOSES_ASKED }]
  })
  // a hose may touch the can that it hangs on, but not pass through it
  const own = all.flatMap((can): Gap[] => {
    if (can.kind !== 'part' || !joins.includes(can.of)) return []
    const body = bodyOf(can)
    const mouths = [points[0]!, points.at(-1)!].filter((p) => distanceToBox(p, body) <= STUB)
    const gap = beyond(distanceOfWay(points, body, mouths), radiusM)
    return [{ ...who, ...gap, to: `the ${lowered(can.name)} that it joins`, askedM: OWN_ASKED, own: can.of }]
  })
  const lid = underBonnet(bay.bonnet.map(pointOf), thing)
  return [...near, ...own, ...others, { ...who, ...lid, to: 'the bonnet', askedM: BONNET_ASKED }]
}

const isTight = (g: Gap) => g.gapM < g.askedM

/** What one hose comes too near to, hoses and cans among it. */
export function tightGapsOf(build: Build, variant: Variant, lineId: string): readonly Gap[] {
  const things = bayObjects(build, variant)
  const hose = things.find((t) => t.of === lineId)
  if (!build.bay || !hose) return []
  const others = things.filter((t) => t !== hose)
  return gapsOfHose(build.bay, hose, others, others).filter(isTight)
}

/**
 * Every gap that is smaller than what is asked, the worst first.
 *
 * @example
 * import { tightGaps } from '@/plan/bay/clearance'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(tightGaps(build, build.variants[0])) // []
 */
export function tightGaps(build: Build, variant: Variant): readonly Gap[] {
  const { bay } = build
  if (!bay) return []
  const things = bayObjects(build, variant)
  const hoses = things.flatMap((thing, i) =>
    thing.kind === 'line' ? gapsOfHose(bay, thing, things.slice(i + 1), things) : [],
  )
  const cans = variant.parts.flatMap((p): Gap[] => {
    const body = p.kind === 'can' ? canBody(bay, p) : undefined
    if (p.kind !== 'can' || !body) return []
    const at: Point3 = [body.floor[0], body.floor[1], body.floor[2] + body.heightM]
    return [...placeFaults(placeGround(bay, variant, p), body.floor)].flatMap((f) =>
      f.what === 'near' || f.what === 'bonnet'
        ? [{ of: p.id, kind: 'part', name: p.name, to: f.to, gapM: Math.max(0, f.has), askedM: f.asked, at }]
        : [],
    )
  })
  return [...hoses, ...cans].filter(isTight).toSorted((a, b) => a.gapM - a.askedM - (b.gapM - b.askedM))
}
