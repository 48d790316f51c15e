/** Where a can would stand well: the free volume scanned, every place judged by what counts for this can, its hoses led to the best. */
import type { Point3 } from '@/core/drain/profile'
import { scaled, type Job } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import { distanceBetween, distanceOfCylinder } from '@/core/route/distance'
import type { Bay, Build, PartOf, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { isSolved, type StateResult } from '../model/results'
import { canSize, endPlace, pointOf, spotIn } from '../catalogue/bay-geometry'
import { leadLines, linesRound, type Led } from './lead-lines'
import { canOfVent, withLooseParts, withSpots } from './loose-parts'
import { drainInBay } from './drains'
import { hosesAsObstacles } from './find-way'
import { fullMassKg, mountsWithin, supportFor, type MountNear } from './hanging'
import {
  BONNET_ASKED,
  boxOf,
  placeFaults,
  placeGround,
  roomOverLid,
  type PlaceFault,
  spannerFaults,
  type PlaceGround,
} from './place'
import { joinWords } from '../document/words'

/** A free place for a can, by itself. */
export type FreeSpot = {
  readonly floor: Point3
  /** straight from its ports to where its lines go, m */
  readonly hoseM: number
  /** least head of its drain over all states, m; undefined without a drain */
  readonly headM: number | undefined
  /** nearest hot surface, m; undefined without any */
  readonly heatM: number | undefined
  /** bonnet over its lid, m */
  readonly lidM: number | undefined
  /** what it hangs on; nothing for what sits on the engine */
  readonly mounts: readonly MountNear[]
}
export type BestSpot = FreeSpot & {
  /** how its bracket shakes there, Hz; undefined for what sits on the engine */
  readonly ringsHz: number | undefined
  /** the build with the can there and its hoses led; those that no way was found for */
  readonly led: Led
}

/** Grid of the scan, how far real choices stand apart, m; how many are shown, and how many are tried for them. */
const [STEP, APART, MOST, TRIED] = [0.035, 0.14, 4, 9]
/** Beyond this heat counts no more, m. */
const WARM = 0.3
/** Room that a vent filter takes over the lid of its can, m (estimate). */
const VENT_ROOM = 0.05

/** What a spot costs at the least, in metres of hose: hose itself; head to spare and height earn a little. */
const leastCostOf = (s: Pick<FreeSpot, 'floor' | 'hoseM' | 'headM'>): number =>
  s.hoseM - Math.min(0.3, s.headM ?? 0) - 0.15 * s.floor[2]
/** What it costs in all: heat and a mount that is far add to it. */
const costOf = (s: FreeSpot): number =>
  leastCostOf(s) +
  (s.heatM === undefined ? 0 : 2 * Math.max(0, WARM - s.heatM)) +
  Math.max(0, (s.mounts[0]?.awayM ?? 0) - 0.1)

/** What is looked for in a bay for one can. */
type Scan = {
  readonly build: Build
  readonly variant: Variant
  readonly bay: Bay
  readonly can: PartOf<'can'>
  readonly ground: PlaceGround
  /** where its lines go */
  readonly ends: readonly Point3[]
  /** oil that its drain holds up at most, and the height of where that ends, m */
  readonly columnM: number | undefined
  readonly returnZ: number | undefined
  /** highest that the bonnet is known over, m */
  readonly highest: number
  readonly vented: boolean
}
/** How many places, and whether its drain has to fall to them. */
type Wanted = { readonly most: number; readonly drained: boolean }

function scanOf(build: Build, states: readonly StateResult[], canId: string, drained: boolean): Result<Scan> {
  const variant = activeVariant(build)
  const { bay } = build
  const can = variant.parts.find((p): p is PartOf<'can'> => p.id === canId && p.kind === 'can')
  if (!bay || !can) return fail('Measure the bay first, or start from a ready one.')
  const ends = variant.lines.flatMap((l): Point3[] => {
    if (l.kind === 'direct' || (l.from.part !== canId && l.to.part !== canId)) return []
    const place = endPlace(bay, variant, l.from.part === canId ? l.to : l.from)
    return place ? [place.at] : []
  })
  const joined = variant.lines.some((l) => l.from.part === canId || l.to.part === canId)
  if (ends.length === 0) return fail(joined ? 'Measure where its lines go first.' : 'Nothing is joined to it yet.')
  const again = linesRound(build, canId)
  const hoses = hosesAsObstacles(bay, variant, 0, (l) => again.has(l.id))
  const drain = drained ? drainInBay(build, variant, states.filter(isSolved), canId) : undefined
  return ok({
    build,
    variant,
    bay,
    can,
    ground: placeGround(
      bay,
      variant,
      can,
      hoses.map(({ keepM, ...o }) => ({ ...o, askedM: keepM })),
    ),
    ends,
    // the return's end stays: head changes with the floor alone
    columnM: drain ? Math.max(...drain.states.map((s) => s.columnM)) : undefined,
    returnZ: drain?.way.at(-1)?.[2],
    highest: bay.bonnet.length > 0 ? Math.max(...bay.bonnet.map((b) => b.upMm)) / 1000 : Infinity,
    vented: variant.parts.some((p) => p.kind === 'filter' && canOfVent(variant, p) === can),
  })
}

/** Head that is left to its drain with its floor here, m; undefined without a drain that is judged. */
const headAt = ({ columnM, returnZ }: Scan, floor: Point3): number | undefined =>
  columnM === undefined || returnZ === undefined ? undefined : floor[2] - returnZ - columnM

/** Straight from the lid of a can that stands here to where its lines go, m. */
const hoseFrom = ({ ends, ground }: Scan, [x, y, z]: Point3): number =>
  ends.reduce((sum, p) => sum + Math.hypot(p[0] - x, p[1] - y, p[2] - z - ground.heightM), 0)

/** A spot as it is shown, once it is known to be free. */
function spotAt(scan: Scan, floor: Point3): FreeSpot {
  const { ground, bay } = scan
  const { heightM, radiusM } = ground
  const body = { floor, heightM, radiusM }
  const hot = ground.boxes.filter((b) => b.k.kind === 'hot')
  const over = roomOverLid(ground, floor)
  return {
    floor,
    hoseM: hoseFrom(scan, floor),
    headM: headAt(scan, floor),
    heatM: hot.length > 0 ? Math.min(...hot.map((b) => distanceOfCylinder(body, b.box))) : undefined,
    lidM: Number.isFinite(over) ? over : undefined,
    mounts: ground.seated ? [] : mountsWithin(bay, body),
  }
}

/** What is wrong with a floor here, over and above what the place itself has: a drain that does not fall, no room for a vent over it. */
function* faultsAt(scan: Scan, floor: Point3): Generator<PlaceFault> {
  const { bay, variant, can, ground, vented, highest } = scan
  const headM = headAt(scan, floor)
  if (headM !== undefined && headM < 0.01) yield { what: 'head', to: 'its return', has: headM, asked: 0.01 }
  const room = highest - BONNET_ASKED - floor[2] - ground.heightM
  if (vented && room < VENT_ROOM) yield { what: 'vent', to: 'the bonnet', has: room, asked: VENT_ROOM }
  yield* placeFaults(ground, floor)
  yield* spannerFaults(bayWith(bay, can.id, floor), variant, can)
}

/** The bay with a can's floor somewhere else. */
function bayWith(bay: Bay, canId: string, [x, y, z]: Point3): Bay {
  const at = { forwardMm: x * 1000, leftMm: y * 1000, upMm: z * 1000 }
  const spot = spotIn(bay, canId) ?? { id: canId, points: undefined, turnDeg: undefined, measured: false }
  return { ...bay, spots: [...bay.spots.filter((s) => s.id !== canId), { ...spot, ...at }] }
}

/** Floors of the grid over everything that is measured. */
function* floorsOf(bay: Bay, step: number): Generator<Point3> {
  const all = [...bay.spots, ...(bay.mounts ?? []), ...bay.bonnet].map(pointOf)
  const boxes = bay.keepOuts.map(boxOf)
  const range = (k: 0 | 1 | 2, room: number) => {
    const low = Math.min(...all.map((p) => p[k]), ...boxes.map((b) => b.middle[k] - b.half[k]))
    const high = Math.max(...all.map((p) => p[k]), ...boxes.map((b) => b.middle[k] + b.half[k]))
    return [low - room, high + room] as const
  }
  const [xs, ys, zs] = [range(0, 0), range(1, 0), range(2, 0.1)]
  for (let x = xs[0]; x <= xs[1]; x += step)
    for (let y = ys[0]; y <= ys[1]; y += step) for (let z = zs[0]; z <= zs[1]; z += step) yield [x, y, z]
}

/** Real choices among spots, the cheapest first: no two nearer than `APART`. */
function choicesOf(spots: readonly FreeSpot[], most: number): FreeSpot[] {
  const out: FreeSpot[] = []
  for (const s of spots.toSorted((a, b) => costOf(a) - costOf(b))) {
    if (out.length === most) break
    if (out.every((o) => distanceBetween(s.floor, o.floor) > APART)) out.push(s)
  }
  return out
}

/** How often it is looked whether what was found is the cheapest, in metres of hose. */
const LOOK_EACH = 0.02
/**
 * Real choices among the free places of the grid, the cheapest first. Floors are judged in the order of what they cost at the least, until
 * no other can cost less than what was found: most are never judged. Yields the share done.
 */
function* cheapestSpots(scan: Scan, most: number): Job<readonly FreeSpot[]> {
  const floors = [...floorsOf(scan.bay, STEP)]
    .map((floor) => ({
      floor,
      leastCost: leastCostOf({ floor, hoseM: hoseFrom(scan, floor), headM: headAt(scan, floor) }),
    }))
    .toSorted((a, b) => a.leastCost - b.leastCost)
  const found: FreeSpot[] = []
  let lookAt = -Infinity
  for (const [k, { floor, leastCost }] of floors.entries()) {
    if (leastCost >= lookAt) {
      yield k / floors.length
      const choices = choicesOf(found, most)
      if (choices.length === most && costOf(choices.at(-1)!) < leastCost) return choices
      lookAt = leastCost + LOOK_EACH
    }
    if (faultsAt(scan, floor).next().done) found.push(spotAt(scan, floor))
  }
  return choicesOf(found, most)
}

/** The build with a can at a spot, what hangs on it moved along and its hoses led there; given up with more than `mostStuck` that find no way. */
export function* putAt(build: Build, canId: string, floor: Point3, mostStuck?: number): Job<Led> {
  const cans = new Set(activeVariant(build).parts.flatMap((p) => (p.kind === 'can' ? [p.id] : [])))
  const there = withLooseParts(withSpots(build, new Map([[canId, floor]])), cans)
  return yield* leadLines(there, linesRound(there, canId), mostStuck)
}

/** Places for a can by themselves, no hose led yet; fails with what is in the way. Yields the share done. */
export function* spotsFor(
  build: Build,
  states: readonly StateResult[],
  canId: string,
  { most, drained }: Wanted,
): Job<Result<readonly FreeSpot[]>> {
  const scan = scanOf(build, states, canId, drained)
  if (!scan.ok) return scan
  const spots = yield* cheapestSpots(scan.value, most)
  return spots.length > 0 ? ok(spots) : fail(inTheWay(scan.value))
}

/**
 * The best places for a can, apart enough to be real choices, the best first; at most four. Each with the hoses led: those to which every
 * hose finds a way come first. Yields the share done.
 * @returns fails when nothing is free, with what is in the way and the least that would have to move
 */
export function* bestSpots(
  build: Build,
  states: readonly StateResult[],
  canId: string,
): Job<Result<readonly BestSpot[]>> {
  const spots = yield* scaled(spotsFor(build, states, canId, { most: TRIED, drained: true }), 0, 0.2)
  if (!spots.ok) return spots
  const can = activeVariant(build).parts.find((p): p is PartOf<'can'> => p.id === canId && p.kind === 'can')!
  const massKg = fullMassKg(can, canSize(can))
  const tried: BestSpot[] = []
  for (const [i, s] of spots.value.entries()) {
    const led = yield* scaled(
      putAt(build, canId, s.floor),
      0.2 + (0.8 * i) / spots.value.length,
      0.8 / spots.value.length,
    )
    tried.push({ ...s, led, ringsHz: supportFor(build.engine, s.mounts, { massKg })?.ringsHz })
    if (tried.filter((t) => t.led.stuck.length === 0).length === MOST) break
  }
  return ok(tried.toSorted((a, b) => a.led.stuck.length - b.led.stuck.length).slice(0, MOST))
}

const millimetres = (m: number) => `${Math.max(1, Math.ceil(m * 1000))} mm`
/** What would have to change for one fault to be gone, the least of it; and what that costs, m. */
const CURES: Readonly<Record<PlaceFault['what'], (f: PlaceFault) => { readonly says: string; readonly m: number }>> = {
  near: (f) => ({ says: `${f.to} stood ${millimetres(f.asked - f.has)} further away`, m: f.asked - f.has }),
  bonnet: (f) => ({ says: `the can were ${millimetres(f.asked - f.has)} lower under the bonnet`, m: f.asked - f.has }),
  hand: (f) => ({ says: `${f.to} left ${millimetres(f.asked - f.has)} more below it for a hand`, m: f.asked - f.has }),
  lid: (f) => ({
    says: `${f.to} left ${millimetres(f.asked - f.has)} more above it to lift its lid`,
    m: f.asked - f.has,
  }),
  over: (f) => ({ says: `it might drip on ${f.to}`, m: 0.1 }),
  pull: (f) => ({ says: `${f.to} were drawn up another way`, m: 0.2 }),
  mount: (f) => ({
    says: `there were a bolt ${millimetres(f.has - f.asked)} nearer than ${f.to || 'any'}`,
    m: f.has - f.asked,
  }),
  weight: (f) => ({ says: `${f.to} carried ${f.asked.toFixed(1)} kg instead of ${f.has.toFixed(1)}`, m: 0.15 }),
  head: (f) => ({
    says: `its return ended ${millimetres(f.asked - f.has)} lower, or suction held less oil up`,
    m: f.asked - f.has,
  }),
  spanner: (f) => ({
    says: `${f.to} left a spanner ${millimetres(f.asked - f.has)} more at its ports`,
    m: f.asked - f.has,
  }),
  vent: (f) => ({
    says: `the bonnet left ${millimetres(f.asked - f.has)} more for its vent filter`,
    m: f.asked - f.has,
  }),
}

/** Why no place holds a can: the place that comes nearest to holding it, and the least that would have to move there. */
function inTheWay(scan: Scan): string {
  const { bay, can } = scan
  const size = `${Math.round(scan.ground.radiusM * 2000)} mm wide and ${Math.round(scan.ground.heightM * 1000)} mm high`
  if ((bay.mounts ?? []).length === 0 && !scan.ground.seated)
    return `Nothing is entered that the ${can.name.toLowerCase()} could hang on. Enter a bolt, stud or bracket of the bay.`
  let best: { readonly says: string; readonly m: number; readonly floor: Point3 } | undefined
  for (const floor of floorsOf(bay, STEP * 1.5)) {
    const cures = [...faultsAt(scan, floor)].map((f) => CURES[f.what](f))
    const m = cures.reduce((sum, c) => sum + c.m, 0) + 0.05 * cures.length
    if (cures.length === 0 || !Number.isFinite(m) || (best && m >= best.m)) continue
    best = { says: joinWords(cures.map((c) => c.says)), m, floor }
  }
  const first = `There is no free place for it, ${size}`
  if (!best) return `${first}: measure more of the bay, or try a smaller one.`
  const [x, y, z] = best.floor.map((v) => Math.round(v * 1000))
  return `${first}. Nearest to one comes ${x} mm ahead, ${y} mm left, ${z} mm up: it would do if ${best.says}. A smaller can may do as it is.`
}
