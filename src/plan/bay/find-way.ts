/** A way for one line through what stands in the bay: found, not drawn. */
import type { Point3 } from '@/core/drain/profile'
import { scaled, type Job } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import { findWay } from '@/core/route/find'
import { boxInWay, type Obstacle, type RoutingBay } from '@/core/route/room'
import { distanceBetween, END_FREE, heightAt } from '@/core/route/distance'
import type { Bay, Build, Line, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { lowered } from '../document/words'
import { bendRadius, canBody, endPlace, joinedBy, placedAt, pointOf, type EndPlace } from '../catalogue/bay-geometry'
import { withWay } from './bay-builders'
import { OWN_ASKED, tightGapsOf, tubeRadius } from './clearance'
import { layOf } from './lay'
import { BONNET_ASKED, boxOf, boxOfCan, clearanceAsked, HOSES_ASKED, pullColumn } from './place'

/** A spare millimetre or two, so that what is found is not judged too near by rounding, m. */
const SPARE = 0.002
/** Points that stand for another hose, m apart. */
const PIECE = 0.03
/** How often a way is looked for again where the lid of a can has turned to it. */
const ROUNDS = 3

/** A hose as a row of blocks round its middle, its own radius left to who keeps from it. */
function piecesOf(name: string, middle: readonly Point3[], keepM: number): Obstacle[] {
  let last: Point3 | undefined
  return middle.flatMap((p, i) => {
    const far = !last || distanceBetween(p, last) > PIECE || i === middle.length - 1
    if (!far) return []
    const from = last ?? p
    last = p
    const between = [0, 1, 2].map((k) => (p[k]! + from[k]!) / 2) as [number, number, number]
    const half = [0, 1, 2].map((k) => Math.abs(p[k]! - from[k]!) / 2) as [number, number, number]
    return [{ name, box: { middle: between, half }, keepM }]
  })
}

/** Hoses of a plan that lie in its bay, but for some, for what keeps its surface `beyondM` further from theirs than hoses do. */
export const hosesAsObstacles = (
  bay: Bay | undefined,
  variant: Variant,
  beyondM: number,
  except: (line: Line) => boolean,
): Obstacle[] =>
  variant.lines.flatMap((l) => {
    const lay = l.kind === 'direct' || except(l) ? undefined : layOf(bay, variant, l)
    if (!lay?.ok) return []
    return piecesOf(`the ${lowered(l.name)}`, lay.value.middle, tubeRadius(l.boreMm) + HOSES_ASKED + beyondM)
  })

/** Bodies that the middle of a hose of this radius keeps from: what stands there, what is drawn up, cans; it may touch those that it joins. */
export function bodiesFor(build: Build, variant: Variant, radiusM: number, joined: ReadonlySet<string>): Obstacle[] {
  const { bay } = build
  const keepOuts = (bay?.keepOuts ?? []).map((k) => ({
    name: k.name,
    box: boxOf(k),
    keepM: clearanceAsked(k) + radiusM + SPARE,
  }))
  const pulls = (bay?.keepOuts ?? []).flatMap((k) => {
    const box = pullColumn(k)
    return box ? [{ name: `what is drawn up from the ${lowered(k.name)}`, box, keepM: radiusM + SPARE }] : []
  })
  const cans = variant.parts.flatMap((p) => {
    const body = p.kind === 'can' ? canBody(bay, p) : undefined
    if (!body) return []
    const asked = joined.has(p.id) ? OWN_ASKED : HOSES_ASKED
    return [{ name: `the ${lowered(p.name)}`, box: boxOfCan(body), keepM: asked + radiusM + SPARE }]
  })
  return [...keepOuts, ...pulls, ...cans]
}

/** What is free for the middle of a line; lines of `unled` have no way yet. */
function freeFor(build: Build, variant: Variant, line: Line, unled: ReadonlySet<string>): RoutingBay {
  const { bay } = build
  const radiusM = tubeRadius(line.boreMm)
  const joined = joinedBy(variant, [line.from.part, line.to.part])
  const passedBy = (other: Line) =>
    other.id === line.id || unled.has(other.id) || joined.has(other.from.part) || joined.has(other.to.part)
  const hoses = hosesAsObstacles(bay, variant, radiusM + SPARE, passedBy)
  const bonnet = (bay?.bonnet ?? []).map(pointOf)
  return {
    boxes: [...bodiesFor(build, variant, radiusM, joined), ...hoses],
    ceiling: (x, y) => {
      const height = heightAt(bonnet, x, y)
      return height === undefined ? undefined : height - BONNET_ASKED - radiusM - SPARE
    },
  }
}

type WayWish = {
  /** lines that have no way yet: they find theirs after this one */
  readonly unled?: ReadonlySet<string>
  /** a drain is led so that it falls, unless this says that it need not */
  readonly falls?: false
  /** least bend radius, where it is not that of the hose, m */
  readonly radiusM?: number
}

/** Points for one line as its ends stand now. */
function* searchOnce(
  build: Build,
  line: Line,
  { unled = new Set(), falls: need, radiusM = bendRadius(line.boreMm / 1000) }: WayWish,
): Job<Result<NonNullable<Line['way']>>> {
  const variant = activeVariant(build)
  const [from, to] = [endPlace(build.bay, variant, line.from), endPlace(build.bay, variant, line.to)]
  if (!from || !to) return fail('Measure both of its ends first.')
  const falls = line.kind === 'drain' && need !== false
  // a drain falls from the part that it empties, whichever end that was entered as
  const upwards = falls && variant.parts.find((p) => p.id === line.to.part)?.kind === 'can'
  const [a, b] = upwards ? [to, from] : [from, to]
  const free = freeFor(build, variant, line, unled)
  const search = (start: Point3, end: Point3) => findWay(free, { from: start, to: end, radiusM, falls })
  const placed = (points: readonly Point3[]): NonNullable<Line['way']> => {
    const way = points.map(placedAt)
    return upwards ? way.toReversed() : way
  }
  // out of each port the way it points, first; where that finds no way, an end is bent
  const [leadA, leadB] = [leadOf(a, radiusM, falls ? -1 : 0), leadOf(b, radiusM, falls ? 1 : 0)]
  if (leadA || leadB) {
    const along = yield* scaled(search(leadA ?? a.at, leadB ?? b.at), 0, 0.5)
    if (along.ok) {
      const way = placed([...(leadA ? [leadA] : []), ...along.value, ...(leadB ? [leadB] : [])])
      const lay = layOf(build.bay, variant, { ...line, way })
      if (lay.ok && boxInWay(free, lay.value.corners, radiusM) === undefined) return ok(way)
    }
  }
  const found = yield* search(a.at, b.at)
  return found.ok ? ok(placed(found.value)) : found
}

/**
 * Points to lead a line of the active plan by, so that it keeps clear and, a drain, falls; or what is in the way. Yields the share done.
 */
export function* findLineWay(build: Build, lineId: string, wish: WayWish = {}): Job<Result<NonNullable<Line['way']>>> {
  const line = activeVariant(build).lines.find((l) => l.id === lineId)
  if (!line || line.kind === 'direct') return fail('There is no such hose.')
  let now = build
  let reason: string | undefined
  for (let round = 0; round < ROUNDS; round++) {
    const found = yield* scaled(searchOnce(now, line, wish), round / ROUNDS, 1 / ROUNDS)
    if (!found.ok) {
      reason ??= found.reason
      break
    }
    now = withWay(now, lineId, found.value)
    // the lid of a can may have turned to the hose, and its mouth moved: what counts is what is judged
    const wrong = judged(now, lineId, wish)
    if (wrong === undefined) return found
    reason = wrong
  }
  // where no other is found, the way that it has may do
  const before = judged(build, lineId, wish)
  return before === undefined ? ok(line.way ?? []) : fail(reason ?? 'No way was found.')
}

/** Bends of a hose that is only to pass clear, m. */
const KINKED = 0.02

/** Points past everything for a line whose bends find no room: it cannot be laid so, which is said, but it leads through nothing. */
export const passingWay = (build: Build, line: Line, wish: WayWish): Job<Result<NonNullable<Line['way']>>> =>
  searchOnce(build, line, { ...wish, radiusM: KINKED })

/** What is wrong with a line as it is led, in a sentence, but for what its own ports stand too near to; undefined for nothing. */
function judged(build: Build, lineId: string, { unled = new Set(), falls }: WayWish): string | undefined {
  const variant = activeVariant(build)
  const among = { ...variant, lines: variant.lines.filter((l) => l.id === lineId || !unled.has(l.id)) }
  const line = variant.lines.find((l) => l.id === lineId)!
  const lay = layOf(build.bay, variant, line)
  if (!lay.ok) return lay.reason
  const { middle } = lay.value
  const ends = [middle[0]!, middle.at(-1)!]
  const atEnd = (p: Point3 | undefined) => p !== undefined && ends.some((e) => distanceBetween(e, p) < END_FREE)
  const met = tightGapsOf(build, among, lineId).find((g) => !atEnd(g.at))?.to
  if (met !== undefined) return `Every way that was tried comes too near to ${met}.`
  return line.kind === 'drain' && falls !== false && climbs(middle)
    ? 'It would climb on its way: a drain has to fall.'
    : undefined
}

/** Whether a way goes up anywhere, from whichever end it falls. */
const climbs = (middle: readonly Point3[]): boolean => {
  const down = middle[0]![2] >= middle.at(-1)![2] ? middle : middle.toReversed()
  return down.some((p, i) => i > 0 && p[2] > down[i - 1]![2] + 1e-6)
}

/**
 * Where a hose that leaves a port straight may begin to bend; none for a port that points nowhere in particular.
 * @param climbs -1: it may not climb from there, 1: nor fall away from there, 0: either
 */
function leadOf({ at, points }: EndPlace, radiusM: number, climbs: -1 | 0 | 1): Point3 | undefined {
  if (!points || points[2] * climbs < 0) return undefined
  return [at[0] + points[0] * radiusM, at[1] + points[1] * radiusM, at[2] + points[2] * radiusM]
}
