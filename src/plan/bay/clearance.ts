/** What a plan comes too near to in its bay: boxes by kind, and the bonnet above. */
import type { Point } from '@/core/drain/profile'
import { distanceOfWay, distanceToBox, heightAt, type Box } from '@/core/route/distance'
import type { Bay, Build, Variant } from '../document/schema'
import { canBody, pointOf, wayOf } from './geometry'

type KeepOut = Bay['keepOuts'][number]

/** Clearance that each kind asks, m (estimates): heat by the surface's temperature. */
export function clearanceAsked({ kind, surfaceC }: Pick<KeepOut, 'kind' | 'surfaceC'>): number {
  if (kind === 'hot') return (surfaceC ?? 500) > 300 ? 0.06 : 0.03
  return { moving: 0.025, sharp: 0.01, electrical: 0.015, fuel: 0.02, brake: 0.02, service: 0.005, panel: 0.008 }[kind]
}
/** Room that a bonnet asks over a can and a hose: the engine rocks (estimate), m. */
export const BONNET_ASKED = 0.015

const boxOf = (k: KeepOut): Box => ({
  middle: pointOf(k),
  half: [k.longMm / 2000, k.wideMm / 2000, k.highMm / 2000],
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
}

type Thing = Pick<Gap, 'of' | 'kind' | 'name'> & { readonly points: readonly Point[]; readonly radiusM: number }

/** Hoses as their middle line and radius; cans as a ring of points down their side. */
function thingsOf(build: Build, variant: Variant): Thing[] {
  const lines = variant.lines.flatMap((l): Thing[] => {
    const points = l.kind === 'direct' ? undefined : wayOf(build.bay, variant, l)
    return points ? [{ of: l.id, kind: 'line', name: l.name, points, radiusM: l.boreMm / 2000 + 0.0035 }] : []
  })
  const cans = variant.parts.flatMap((p): Thing[] => {
    const body = p.kind === 'can' ? canBody(build.bay, p) : undefined
    if (!body) return []
    const [x, y, z] = body.floor
    return [
      { of: p.id, kind: 'part', name: p.name, points: [body.floor, [x, y, z + body.heightM]], radiusM: body.radiusM },
    ]
  })
  return [...lines, ...cans]
}

/** Every gap that is smaller than what is asked, the worst first. */
export function tightGaps(build: Build, variant: Variant): readonly Gap[] {
  const { bay } = build
  if (!bay) return []
  const bonnet = bay.bonnet.map(pointOf)
  const gaps = thingsOf(build, variant).flatMap(({ points, radiusM, ...thing }): Gap[] => {
    const near = bay.keepOuts.map((k): Gap => {
      const box = boxOf(k)
      // an end of a hose that stands at a port inside the box is meant to be there
      const inner = points.length > 2 ? points.slice(1, -1) : points
      const { least } = distanceOfWay(
        thing.kind === 'line' && distanceToBox(points[0]!, box) === 0 ? inner : points,
        box,
      )
      return { ...thing, to: k.name, gapM: Math.max(0, least - radiusM), askedM: clearanceAsked(k) }
    })
    const above = points.map((p) => {
      const height = heightAt(bonnet, p[0], p[1])
      return height === undefined ? Infinity : height - p[2] - (thing.kind === 'line' ? radiusM : 0)
    })
    const lid: Gap = { ...thing, to: 'the bonnet', gapM: Math.min(Infinity, ...above), askedM: BONNET_ASKED }
    return [...near, lid]
  })
  return gaps.filter((g) => g.gapM < g.askedM).toSorted((a, b) => a.gapM - a.askedM - (b.gapM - b.askedM))
}
