/** A way for one line through what stands in the bay: found, not drawn. */
import type { Point3 } from '@/core/drain/profile'
import { scaled, type Job } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import { findWay, type RoutingBay as Free } from '@/core/route/find'
import { heightAt } from '@/core/route/distance'
import type { Build, Line, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { lowered } from '../document/words'
import { BONNET_ASKED, boxOf, boxOfCan, clearanceAsked, HOSES_ASKED, tubeRadius } from './clearance'
import { bendRadius, canBody, endPlace, pointOf, type EndPlace } from '../catalogue/bay-geometry'
import { layOf } from './lay'

/** A spare millimetre or two, so that what is found is not judged too near by rounding, m. */
const SPARE = 0.002
/** Points that stand for another hose, m apart. */
const PIECE = 0.03

/** What is free for the middle of a hose of this radius. */
function freeFor(build: Build, variant: Variant, line: Line, radiusM: number): Free {
  const { bay } = build
  const joined = [line.from.part, line.to.part]
  const keepOuts = (bay?.keepOuts ?? []).map((k) => ({
    name: k.name,
    box: boxOf(k),
    keepM: clearanceAsked(k) + radiusM + SPARE,
  }))
  const cans = variant.parts.flatMap((p) => {
    const body = p.kind === 'can' ? canBody(bay, p) : undefined
    if (!body) return []
    // it may touch the can that it joins
    return [{ name: p.name, box: boxOfCan(body), keepM: (joined.includes(p.id) ? 0 : HOSES_ASKED) + radiusM + SPARE }]
  })
  const hoses = variant.lines.flatMap((other) => {
    if (other.id === line.id || other.kind === 'direct') return []
    if (joined.some((j) => other.from.part === j || other.to.part === j)) return []
    const lay = layOf(bay, variant, other)
    if (!lay.ok) return []
    const keepM = tubeRadius(other.boreMm) + HOSES_ASKED + radiusM + SPARE
    let last: readonly number[] | undefined
    return lay.value.middle.flatMap((p, i, all) => {
      const far = !last || Math.hypot(p[0] - last[0]!, p[1] - last[1]!, p[2] - last[2]!) > PIECE || i === all.length - 1
      if (!far) return []
      const from = last ?? p
      last = p
      const middle = [0, 1, 2].map((k) => (p[k]! + from[k]!) / 2) as [number, number, number]
      const half = [0, 1, 2].map((k) => Math.abs(p[k]! - from[k]!) / 2) as [number, number, number]
      return [{ name: `the ${lowered(other.name)}`, box: { middle, half }, keepM }]
    })
  })
  const bonnet = (bay?.bonnet ?? []).map(pointOf)
  return {
    boxes: [...keepOuts, ...cans, ...hoses],
    ceiling: (x, y) => {
      const height = heightAt(bonnet, x, y)
      return height === undefined ? undefined : height - BONNET_ASKED - radiusM - SPARE
    },
  }
}

/**
 * Points to lead a line of the active plan by, so that it keeps clear and, a drain, falls; or what is in the way.
 * Yields the share done.
 */
export function* findLineWay(build: Build, lineId: string): Job<Result<NonNullable<Line['way']>>> {
  const variant = activeVariant(build)
  const line = variant.lines.find((l) => l.id === lineId)
  if (!line || line.kind === 'direct') return fail('There is no such hose.')
  const [from, to] = [endPlace(build.bay, variant, line.from), endPlace(build.bay, variant, line.to)]
  if (!from || !to) return fail('Measure both of its ends first.')
  const falls = line.kind === 'drain'
  // a drain falls from the part that it empties, whichever end that was entered as
  const upwards = falls && variant.parts.find((p) => p.id === line.to.part)?.kind === 'can'
  const [a, b] = upwards ? [to, from] : [from, to]
  const free = freeFor(build, variant, line, tubeRadius(line.boreMm))
  const radiusM = bendRadius(line.boreMm / 1000)
  const search = (start: Point3, end: Point3) => findWay(free, { from: start, to: end, radiusM, falls })
  const placed = (points: readonly Point3[]): NonNullable<Line['way']> => {
    const way = points.map(([x, y, z]) => ({
      forwardMm: Math.round(x * 1000),
      leftMm: Math.round(y * 1000),
      upMm: Math.round(z * 1000),
    }))
    return upwards ? way.toReversed() : way
  }
  // out of each port the way it points, first; where that finds no way, an end is bent
  const [leadA, leadB] = [leadOf(a, radiusM, falls ? -1 : 0), leadOf(b, radiusM, falls ? 1 : 0)]
  if (leadA || leadB) {
    const along = yield* scaled(search(leadA ?? a.at, leadB ?? b.at), 0, 0.5)
    if (along.ok) {
      const way = placed([...(leadA ? [leadA] : []), ...along.value, ...(leadB ? [leadB] : [])])
      if (layOf(build.bay, variant, { ...line, way }).ok) return ok(way)
    }
  }
  const found = yield* search(a.at, b.at)
  return found.ok ? ok(placed(found.value)) : found
}

/**
 * Where a hose that leaves a port straight may begin to bend; none for a port that points nowhere in particular.
 * @param climbs -1: it may not climb from there, 1: nor fall away from there, 0: either
 */
function leadOf({ at, points }: EndPlace, radiusM: number, climbs: -1 | 0 | 1): Point3 | undefined {
  if (!points || points[2] * climbs < 0) return undefined
  return [at[0] + points[0] * radiusM, at[1] + points[1] * radiusM, at[2] + points[2] * radiusM]
}
