/** What a plan comes too near to in its bay: boxes by kind, and the bonnet above. */
import type { Point3 } from '@/core/drain/profile'
import {
  distanceOfWay,
  distanceOfWays,
  distanceToBox,
  END_FREE,
  heightAt,
  walkAlong,
  type Box,
} from '@/core/route/distance'
import type { Bay, Build, Variant } from '../document/schema'
import { lowered } from '../document/words'
import { canBody, pointOf, type CanBody } from '../catalogue/bay-geometry'
import { layOf, wayOf } from './lay'

type KeptClear = Bay['keepOuts'][number]

/** Clearance that each kind asks, m (estimates): heat by the surface's temperature. */
export function clearanceAsked({ kind, surfaceC }: Pick<KeptClear, 'kind' | 'surfaceC'>): number {
  if (kind === 'hot') return (surfaceC ?? 500) > 300 ? 0.06 : 0.03
  return { moving: 0.025, sharp: 0.01, electrical: 0.015, fuel: 0.02, brake: 0.02, service: 0.005, panel: 0.008 }[kind]
}
/** Room that a bonnet asks over a can and a hose: the engine rocks (estimate), m. */
export const BONNET_ASKED = 0.015

/** The block that something to keep clear of fills, m, in the axes of the bay (x forward, y left, z up). */
export const boxOf = (k: KeptClear): Box => ({
  middle: pointOf(k),
  half: [k.longMm / 2000, k.wideMm / 2000, k.highMm / 2000],
  ...(k.round ? { round: true, along: k.lies && (k.lies === 'ahead' ? 0 : 1) } : {}),
})

/** The block that a can fills, m. */
export const boxOfCan = ({ floor: [x, y, z], radiusM, heightM }: CanBody): Box => ({
  middle: [x, y, z + heightM / 2],
  half: [radiusM, radiusM, heightM / 2],
  round: true,
})

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

/** Hoses that touch rub through: between any two that do not meet at a part (estimate), m. */
export const HOSES_ASKED = 0.006
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
export function thingsIn(build: Build, variant: Variant): Thing[] {
  const lines = variant.lines.flatMap((l): Thing[] => {
    if (l.kind === 'direct') return []
    const lay = layOf(build.bay, variant, l)
    // a line that cannot bend so is still in the way of others, straight from point to point
    const points = lay.ok ? lay.value.middle : wayOf(build.bay, variant, l)
    const joins = [l.from.part, l.to.part]
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

/** Gap of one thing to a box. An end of a hose that stands at a port inside the box is meant to be there. */
function gapTo(
  { points, radiusM, kind }: Thing,
  keepOut: KeptClear,
): { readonly gapM: number; readonly at: Point3 | undefined } {
  const box = boxOf(keepOut)
  const inside = (p: Point3 | undefined) => kind === 'line' && p !== undefined && distanceToBox(p, box) === 0
  const inner = points.slice(inside(points[0]) ? 1 : 0, inside(points.at(-1)) ? -1 : undefined)
  const { least, at } = distanceOfWay(inner.length > 0 ? inner : points, box)
  return { gapM: Math.max(0, least - radiusM), at }
}

/** Room between a hose and the can that it joins: both hang on the same bracket (estimate), m. */
const OWN_ASKED = 0.001

/** Gap of a hose to the body of a can that it joins, past the mouths of its ports. */
function gapToOwn({ points, radiusM }: Thing, can: Thing): { readonly gapM: number; readonly at: Point3 | undefined } {
  const [first, last] = [points[0]!, points.at(-1)!]
  const near = (p: Point3, q: Point3) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) < END_FREE
  const [floor, top] = [can.points[0]!, can.points.at(-1)!]
  const body = boxOfCan({ floor, radiusM: can.radiusM, heightM: top[2] - floor[2] })
  let least: { gapM: number; at: Point3 | undefined } = { gapM: Infinity, at: undefined }
  walkAlong(points, (p) => {
    if (near(p, first) || near(p, last)) return
    const gapM = Math.max(0, distanceToBox(p, body) - radiusM)
    if (gapM < least.gapM) least = { gapM, at: p }
  })
  return least
}

/** Every gap that is smaller than what is asked, the worst first. */
export function tightGaps(build: Build, variant: Variant): readonly Gap[] {
  const { bay } = build
  if (!bay) return []
  const bonnet = bay.bonnet.map(pointOf)
  const things = thingsIn(build, variant)
  const gaps = things.flatMap((thing, i): Gap[] => {
    const { points, radiusM, joins, ...who } = thing
    const near = bay.keepOuts.map((k): Gap => ({
      ...who,
      ...gapTo(thing, k),
      to: k.name,
      askedM: clearanceAsked(k),
    }))
    const lid = points.reduce<{ gapM: number; at: Point3 | undefined }>(
      (low, p) => {
        const height = heightAt(bonnet, p[0], p[1])
        const gapM = height === undefined ? Infinity : height - p[2] - (thing.kind === 'line' ? radiusM : 0)
        return gapM < low.gapM ? { gapM, at: p } : low
      },
      { gapM: Infinity, at: undefined },
    )
    const hoses = things.slice(i + 1).flatMap((other): Gap[] => {
      if (other.joins.some((j) => joins.includes(j))) return []
      const { least, at } = distanceOfWays(points, other.points)
      const gapM = Math.max(0, least - radiusM - other.radiusM)
      return [{ ...who, to: `the ${lowered(other.name)}`, gapM, at, askedM: HOSES_ASKED }]
    })
    // a hose may touch the can that it hangs on, but not pass through it
    const own = things.flatMap((other): Gap[] => {
      if (thing.kind !== 'line' || other.kind !== 'part' || !joins.includes(other.of)) return []
      return [
        {
          ...who,
          ...gapToOwn(thing, other),
          to: `the ${lowered(other.name)} that it joins`,
          askedM: OWN_ASKED,
          own: other.of,
        },
      ]
    })
    return [...near, ...own, { ...who, ...lid, to: 'the bonnet', askedM: BONNET_ASKED }, ...hoses]
  })
  return gaps.filter((g) => g.gapM < g.askedM).toSorted((a, b) => a.gapM - a.askedM - (b.gapM - b.askedM))
}
