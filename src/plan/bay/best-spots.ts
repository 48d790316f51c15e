/** Where a can would stand well: the free volume scanned, every place judged by what counts for this can. */
import type { Point3 } from '@/core/drain/profile'
import type { Job } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import { distanceToBox, heightAt, type Box } from '@/core/route/distance'
import type { Bay, Build, PartOf, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { isSolved, type StateResult } from '../model/results'
import { BONNET_ASKED, boxOf, clearanceAsked } from './clearance'
import { drainInBay } from './drains'
import { canBody, endPlace, pointOf, spotIn, type CanBody } from '../catalogue/bay-geometry'

export type BestSpot = {
  readonly forwardMm: number
  readonly leftMm: number
  readonly upMm: number
  /** straight from its ports to where its lines go, m */
  readonly hoseM: number
  /** least head of its drain over all states, m; undefined without a drain */
  readonly headM: number | undefined
  /** nearest hot surface, m */
  readonly heatM: number | undefined
  /** bonnet over its lid, m */
  readonly lidM: number | undefined
  /** nearest thing to hang it on */
  readonly mount: { readonly name: string; readonly awayM: number } | undefined
}

/** Grid of the scan, how far real choices stand apart, how many are shown, m. */
const [STEP, APART, MOST] = [0.035, 0.14, 4]
/** Room below a can: for a tap and a hand, or for the whole bowl that unscrews downward, m (estimates). */
const TAP_ROOM = 0.06
/** Beyond this heat counts no more, m. */
const WARM = 0.3
/** What a bracket may reach over, m. */
const REACH = 0.25

/** Space that the engine takes: from port to port, as far as they are measured. */
function engineBox(bay: Bay, variant: Variant): Box | undefined {
  const own = new Set(variant.parts.flatMap((p) => (['cover', 'crankcase', 'manifold'].includes(p.kind) ? [p.id] : [])))
  const points = bay.spots.filter((s) => own.has(s.id.split('.')[0]!)).map(pointOf)
  if (points.length < 2) return undefined
  const low = [0, 1, 2].map((k) => Math.min(...points.map((p) => p[k]!))) as [number, number, number]
  const high = [0, 1, 2].map((k) => Math.max(...points.map((p) => p[k]!))) as [number, number, number]
  return {
    middle: [0, 1, 2].map((k) => (low[k]! + high[k]!) / 2) as [number, number, number],
    half: [0, 1, 2].map((k) => (high[k]! - low[k]!) / 2 + 0.04) as [number, number, number],
  }
}

/** Distance of an upright can to a box: of points up its middle, less its radius. */
function away(body: CanBody, floor: Point3, below: number, box: Box): number {
  let least = Infinity
  for (let z = -below; z < body.heightM + 0.02; z += 0.02)
    least = Math.min(least, distanceToBox([floor[0], floor[1], floor[2] + Math.min(z, body.heightM)], box))
  return least - body.radiusM
}

/** What a spot costs, in metres of hose: hose itself, heat, a missing mount; head to spare earns a little. */
const costOf = (s: BestSpot): number =>
  s.hoseM +
  (s.heatM === undefined ? 0 : 2 * Math.max(0, WARM - s.heatM)) +
  (s.mount ? Math.max(0, s.mount.awayM - 0.1) : 0.15) -
  Math.min(0.3, s.headM ?? 0)

type Scan = {
  readonly body: CanBody
  readonly below: number
  readonly engine: Box | undefined
  readonly bonnet: readonly Point3[]
  readonly keepOuts: readonly { readonly box: Box; readonly askedM: number }[]
}

/** Whether a can fits with its floor here: clear of everything, its lid under the bonnet, room below it. */
function fits({ body, below, engine, bonnet, keepOuts }: Scan, floor: Point3): boolean {
  if (engine && away(body, floor, 0, engine) <= 0) return false
  const lid = heightAt(bonnet, floor[0], floor[1])
  if (lid !== undefined && lid - floor[2] - body.heightM < BONNET_ASKED) return false
  return keepOuts.every((k) => away(body, floor, below, k.box) >= k.askedM)
}

/**
 * The best places for a can, apart enough to be real choices, the best first; at most four. Yields the share done.
 * @returns fails when nothing is free, or its lines' other ends are not measured
 */
export function* bestSpots(
  build: Build,
  states: readonly StateResult[],
  canId: string,
): Job<Result<readonly BestSpot[]>> {
  const variant = activeVariant(build)
  const { bay } = build
  const can = variant.parts.find((p): p is PartOf<'can'> => p.id === canId && p.kind === 'can')
  const here = bay && spotIn(bay, canId)
  const body = can && canBody(bay, can)
  if (!bay || !can || !here || !body) return fail('Give the can a place first; any will do.')
  const others = variant.lines.flatMap((l): Point3[] => {
    if (l.kind === 'direct' || (l.from.part !== canId && l.to.part !== canId)) return []
    const place = endPlace(bay, variant, l.from.part === canId ? l.to : l.from)
    return place ? [place.at] : []
  })
  if (others.length === 0) return fail('Measure where its lines go first.')
  const face = can.faceCm2 * 1e-4
  const below = Math.max(TAP_ROOM, can.drain ? 0 : (can.bowlMl * 1e-6) / face)
  const bonnet = bay.bonnet.map(pointOf)
  const scan: Scan = {
    body,
    below,
    engine: engineBox(bay, variant),
    bonnet,
    keepOuts: bay.keepOuts.map((k) => ({ box: boxOf(k), askedM: clearanceAsked(k) })),
  }
  const solved = states.filter(isSolved)
  const drain = drainInBay(build, variant, solved, canId)
  // the return's end stays: head changes with the floor alone
  const column = drain ? Math.max(...drain.states.map((s) => s.columnM)) : undefined
  const returnZ = drain?.way.at(-1)?.[2]
  const hot = bay.keepOuts.filter((k) => k.kind === 'hot').map(boxOf)
  const all = [...bay.spots, ...bay.keepOuts].map(pointOf)
  const range = (k: 0 | 1 | 2, room: number) =>
    [Math.min(...all.map((p) => p[k])) - room, Math.max(...all.map((p) => p[k])) + room] as const
  const [xs, ys, zs] = [range(0, 0.05), range(1, 0.05), range(2, 0.1)]
  const found: BestSpot[] = []
  for (let x = xs[0]; x <= xs[1]; x += STEP) {
    for (let y = ys[0]; y <= ys[1]; y += STEP)
      for (let z = zs[0]; z <= zs[1]; z += STEP) {
        const floor: Point3 = [x, y, z]
        const headM = column === undefined || returnZ === undefined ? undefined : z - returnZ - column
        if (headM !== undefined && headM < 0.01) continue
        if (!fits(scan, floor)) continue
        const top: Point3 = [x, y, z + body.heightM]
        const lid = heightAt(bonnet, x, y)
        const mount = (bay.mounts ?? [])
          .map((m) => ({ name: m.name, awayM: Math.hypot(...pointOf(m).map((v, k) => v - floor[k]!)) }))
          .toSorted((a, b) => a.awayM - b.awayM)[0]
        found.push({
          forwardMm: Math.round(x * 1000),
          leftMm: Math.round(y * 1000),
          upMm: Math.round(z * 1000),
          hoseM: others.reduce((sum, p) => sum + Math.hypot(p[0] - x, p[1] - y, p[2] - top[2]), 0),
          headM,
          heatM: hot.length > 0 ? Math.min(...hot.map((b) => away(body, floor, 0, b))) : undefined,
          lidM: lid === undefined ? undefined : lid - top[2],
          mount: mount && mount.awayM < REACH ? mount : undefined,
        })
      }
    yield (x - xs[0]) / (xs[1] - xs[0])
  }
  const best: BestSpot[] = []
  for (const s of found.toSorted((a, b) => costOf(a) - costOf(b))) {
    if (best.length === MOST) break
    const apart = (o: BestSpot) =>
      Math.hypot(s.forwardMm - o.forwardMm, s.leftMm - o.leftMm, s.upMm - o.upMm) / 1000 > APART
    if (best.every(apart)) best.push(s)
  }
  if (best.length > 0) return ok(best)
  return fail(
    drain
      ? 'There is no free place from which it would drain: a smaller can, less suction, or another return.'
      : 'There is no free place for a can of this size. Try a smaller one, or measure more of the bay.',
  )
}
