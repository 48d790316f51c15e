/** Whether a can stands well in a place: what is too near, under or over it, what it stands above, and what it hangs on. */
import type { Point3 } from '@/core/drain/profile'
import { distanceOfCylinder, distanceToBox, heightAt, type Box } from '@/core/route/distance'
import { canBody, canSize, endPlace, pointOf, type CanBody } from '../catalogue/bay-geometry'
import { KINDS } from '../document/kinds'
import type { Bay, PartOf, Variant } from '../document/schema'
import { joinWords, lowered } from '../document/words'
import { BRACKET_REACH, supportedKg, fullMassKg, mountsNear, mountsWithin } from './hanging'

type KeepOut = Bay['keepOuts'][number]

/** Clearance that each kind asks, m (estimates): heat by the surface's temperature. */
export function clearanceAsked({ kind, surfaceC }: Pick<KeepOut, 'kind' | 'surfaceC'>): number {
  if (kind === 'hot') return (surfaceC ?? 500) > 300 ? 0.06 : 0.03
  return {
    moving: 0.025,
    steering: 0.025,
    sharp: 0.01,
    electrical: 0.015,
    fuel: 0.02,
    brake: 0.02,
    service: 0.005,
    panel: 0.008,
    engine: 0.005,
  }[kind]
}
/** Room that a bonnet asks over a can and a hose: the engine rocks (estimate), m. */
export const BONNET_ASKED = 0.015
/** Between two hoses, a hose and a can, two cans: what touches rubs through (estimate), m. */
export const HOSES_ASKED = 0.006
/** Room below a can for a tap and a hand, and above it to lift its lid, m (estimates). */
export const [HAND, LID] = [0.06, 0.05]
/** What a drip from a can may fall on, m below it. */
const DRIPS = 0.6

/** The block that something to keep clear of fills, m, in the axes of the bay (x forward, y left, z up). */
export const boxOf = (k: KeepOut): Box => ({
  middle: pointOf(k),
  half: [k.longMm / 2000, k.wideMm / 2000, k.highMm / 2000],
  ...(k.round ? { round: true, along: k.lies && (k.lies === 'ahead' ? 0 : 1) } : {}),
})
/** The column above something that is drawn up (a dipstick, a cap); undefined for what stays. */
export function pullColumn(k: KeepOut): Box | undefined {
  if (!k.pullMm) return undefined
  const { middle, half, ...round } = boxOf(k)
  const top = middle[2] + half[2]
  const high = k.pullMm / 2000
  return { ...round, middle: [middle[0], middle[1], top + high], half: [half[0], half[1], high] }
}

/** Whether a can is screwed to the engine without a hose: a separator in the filler's place. */
export const sitsOnEngine = (variant: Variant, can: string): boolean =>
  variant.lines.some((l) => {
    if (l.kind !== 'direct' || (l.from.part !== can && l.to.part !== can)) return false
    const other = variant.parts.find((p) => p.id === (l.from.part === can ? l.to.part : l.from.part))
    return other !== undefined && KINDS[other.kind].engine === true
  })

export type PlaceFault = {
  /**
   * too near to something; no hand under it; no room to lift its lid; over what a drip harms; in the way of what is drawn up; nothing to hang
   * it on; too heavy; a return that does not fall far enough; no room for the vent over it; no room for a spanner at its ports
   */
  readonly what: 'near' | 'bonnet' | 'hand' | 'lid' | 'over' | 'pull' | 'mount' | 'weight' | 'head' | 'vent' | 'spanner'
  /** what it is about: a box's name, another can, the bonnet, a mount */
  readonly to: string
  /** what there is and what is asked: m, or kg for a weight */
  readonly has: number
  readonly asked: number
}

/** What a can is judged by, once a bay: everything else that stands there. */
export type PlaceGround = {
  readonly bay: Bay
  readonly can: PartOf<'can'>
  readonly massKg: number
  readonly radiusM: number
  readonly heightM: number
  /** room below it for a hand, or for the bowl that unscrews downward, m */
  readonly belowM: number
  readonly bonnet: readonly Point3[]
  readonly seated: boolean
  readonly boxes: readonly {
    readonly k: KeepOut
    readonly box: Box
    readonly askedM: number
    readonly pull: Box | undefined
  }[]
  /** other cans, and whatever else it may not meet */
  readonly others: readonly { readonly name: string; readonly box: Box; readonly askedM: number }[]
}

/** The block that a can fills, m. */
export const boxOfCan = ({ floor: [x, y, z], radiusM, heightM }: CanBody): Box => ({
  middle: [x, y, z + heightM / 2],
  half: [radiusM, radiusM, heightM / 2],
  round: true,
})

/** Room for a nipple and the bend of its hose under a bowl, m (estimate). */
const TAP_NIPPLE = 0.03
/** Whether a can is emptied by a tap on a hose. */
export const hasTap = (can: Pick<PartOf<'can'>, 'tapMm'>): boolean => (can.tapMm ?? 0) > 0

/** What a can of a plan is judged by in its bay, once for many places; `others` are hoses and whatever else stands there by then. */
export function placeGround(
  bay: Bay,
  variant: Variant,
  can: PartOf<'can'>,
  others: PlaceGround['others'] = [],
): PlaceGround {
  const size = canSize(can)
  const seated = sitsOnEngine(variant, can.id)
  const bowl = (can.bowlMl * 1e-6) / (can.faceCm2 * 1e-4)
  const cans = variant.parts.flatMap((p) => {
    const body = p.kind === 'can' && p.id !== can.id ? canBody(bay, p) : undefined
    return body ? [{ name: `the ${lowered(p.name)}`, box: boxOfCan(body), askedM: HOSES_ASKED }] : []
  })
  return {
    bay,
    can,
    massKg: fullMassKg(can, size),
    ...size,
    // by a tap it is emptied where that hangs: below it stands no more than its nipple
    belowM: seated ? 0 : hasTap(can) ? TAP_NIPPLE : Math.max(HAND, can.drain ? 0 : bowl),
    bonnet: bay.bonnet.map(pointOf),
    seated,
    boxes: bay.keepOuts.map((k) => ({ k, box: boxOf(k), askedM: clearanceAsked(k), pull: pullColumn(k) })),
    others: [...cans, ...others],
  }
}

/** Least height of the bonnet over the lid of a can, m; Infinity where it is not known. */
export function roomOverLid({ bonnet, radiusM, heightM }: PlaceGround, floor: Point3): number {
  if (bonnet.length === 0) return Infinity
  const around = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => (i * Math.PI) / 4)
  const heights = [
    heightAt(bonnet, floor[0], floor[1])!,
    ...around.map((a) => heightAt(bonnet, floor[0] + radiusM * Math.cos(a), floor[1] + radiusM * Math.sin(a))!),
  ]
  return Math.min(...heights) - floor[2] - heightM
}

/** What is wrong with a can whose floor stands here, one after the other: who only asks whether it is free looks at the first. */
export function* placeFaults(ground: PlaceGround, floor: Point3): Generator<PlaceFault> {
  const { radiusM, heightM, belowM, seated } = ground
  const body: CanBody = { floor, radiusM, heightM }
  if (!seated) {
    const on = mountsWithin(ground.bay, body)
    const nearest = mountsNear(ground.bay, body)[0]
    if (on.length === 0)
      yield { what: 'mount', to: nearest ? nearest.m.name : '', has: nearest?.awayM ?? Infinity, asked: BRACKET_REACH }
    else if (supportedKg(on) < ground.massKg)
      yield { what: 'weight', to: joinWords(on.map(({ m }) => m.name)), has: supportedKg(on), asked: ground.massKg }
  }
  const over = roomOverLid(ground, floor)
  if (over < BONNET_ASKED) yield { what: 'bonnet', to: 'the bonnet', has: over, asked: BONNET_ASKED }
  for (const { k, box, askedM, pull } of ground.boxes) {
    // what sits on the engine stands on it
    const own = seated && (k.kind === 'engine' || k.kind === 'service')
    const gap = own ? Infinity : distanceOfCylinder(body, box)
    if (gap < askedM) yield { what: 'near', to: k.name, has: gap, asked: askedM }
    else if (!own && distanceOfCylinder({ floor: [floor[0], floor[1], floor[2] - belowM], radiusM, heightM }, box) <= 0)
      yield { what: 'hand', to: k.name, has: floor[2] - box.middle[2] - box.half[2], asked: belowM }
    else if (!own && distanceOfCylinder({ floor, radiusM, heightM: heightM + LID }, box) <= 0)
      yield { what: 'lid', to: k.name, has: box.middle[2] - box.half[2] - floor[2] - heightM, asked: LID }
    else if (!own && (k.kind === 'service' || k.kind === 'electrical')) {
      const drop = distanceOfCylinder({ floor: [floor[0], floor[1], floor[2] - DRIPS], radiusM, heightM: DRIPS }, box)
      if (drop <= 0) yield { what: 'over', to: k.name, has: 0, asked: 0 }
    }
    if (pull && !own && distanceOfCylinder(body, pull) <= 0) yield { what: 'pull', to: k.name, has: 0, asked: 0 }
  }
  for (const { name, box, askedM } of ground.others) {
    const gap = distanceOfCylinder(body, box)
    if (gap < askedM) yield { what: 'near', to: name, has: gap, asked: askedM }
  }
}

/** Room round the middle of a fitting for an open spanner, m: half of a 27 mm hexagon over its corners, and the spanner's wall (estimate). */
export const SPANNER_ROOM = 0.028

/** Ports of a can at its lid that no spanner gets at, as its lid is set; what it hangs on by its own bracket is not asked. */
export function* spannerFaults(bay: Bay, variant: Variant, can: PartOf<'can'>): Generator<PlaceFault> {
  if (sitsOnEngine(variant, can.id)) return
  for (const port of can.ports) {
    const line = variant.lines.find((l) => [l.from, l.to].some((e) => e.part === can.id && e.port === port.id))
    const mouth = line && endPlace(bay, variant, line.from.part === can.id ? line.from : line.to)?.at
    if (!mouth) continue
    for (const k of bay.keepOuts) {
      const has = distanceToBox(mouth, boxOf(k))
      if (has < SPANNER_ROOM) yield { what: 'spanner', to: k.name, has, asked: SPANNER_ROOM }
    }
  }
}
