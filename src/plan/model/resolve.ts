/**
 * A variant as geometry: who shares a joint with whom, and each line's length, bends and bores. The one reader of a line's sizes: today
 * they are as entered. What it returns is what later steps are kept by: an unchanged line or joint is the same object as before.
 */
import type { HoseShape } from '@/core/network/hose'
import { contractionLoss, expansionLoss } from '@/core/network/friction'
import { weakMemo } from '@/core/weak-memo'
import { unions } from '@/core/unions'
import { toSi } from '@/core/units/units'
import { isThrough } from '../document/kinds'
import { baffleDropKpa, coverBaffleOf } from '../catalogue/cover-baffle'
import { PORT_FIELDS } from '../document/fields'
import type { Line, LineEnd, Part, Port, Variant } from '../document/schema'

const MM = toSi('length', 1, 'mm')
const mm = (v: number) => v * MM

/** Which joint each port stands on, and who shares it. Depends on the joins alone, not on sizes or states. */
export type Topology = {
  /** joint of `${part}.${port}` */
  readonly nodeOf: ReadonlyMap<string, string>
  /** joint of a space or of a place that holds a pressure, by its part */
  readonly jointOf: ReadonlyMap<string, string>
  /** ports of covers that gas passes through a baffle and a nipple */
  readonly baffled: ReadonlyMap<string, CoverPort>
  /** parts that no chain of lines joins to the crankcase */
  readonly unjoined: ReadonlySet<string>
  /** joints at the two ends of what gas passes: lines, parts that it flows through, baffled ports */
  readonly ends: ReadonlyMap<string, readonly [from: string, to: string]>
  /** ports and parts with the joint that they stand on, where it has another name */
  readonly renamed: readonly (readonly [id: string, joint: string])[]
}

/** A port of a cover with its baffle and nipple, an element of its own between the cover and what is joined to it; by ids. */
export type CoverPort = { readonly part: string; readonly port: string }

/** A hose or drain as gas and oil meet it. */
export type ResolvedLine = {
  readonly id: string
  readonly kind: 'hose' | 'drain'
  /** joints at its ends */
  readonly from: string
  readonly to: string
  readonly shape: HoseShape
  /** its second end above its first, m; undefined where it is not known */
  readonly riseM: number | undefined
}

export type Resolved = {
  readonly variant: Variant
  readonly parts: ReadonlyMap<string, Part>
  readonly topology: Topology
  /** hoses and drains by id */
  readonly lines: ReadonlyMap<string, ResolvedLine>
}

/** Ports of covers behind a baffle and a nipple: those that a line ends at, but for passages from below. Losses of nothing are none. */
function baffledPorts(variant: Variant, parts: ReadonlyMap<string, Part>): Map<string, CoverPort> {
  const found = new Map<string, CoverPort>()
  for (const line of variant.lines) {
    if (line.kind === 'drain') continue
    for (const [end, other] of [
      [line.from, line.to],
      [line.to, line.from],
    ] as const) {
      const part = parts.get(end.part)
      if (part?.kind !== 'cover' || parts.get(other.part)?.kind === 'passage') continue
      const port = part.ports.find((p) => p.id === end.port)
      if (port && portLoss(port) > 0) found.set(`${part.id}.${port.id}`, { part: part.id, port: port.id })
    }
  }
  return found
}
/** Drop of a port's baffle and nipple at 100 l/min, kPa, with that of the plates that the builder puts under it. */
export function portLoss(port: Port): number {
  const plates = coverBaffleOf(port)
  return (port.lossKpaAt100 ?? PORT_FIELDS.lossKpaAt100.standIn) + (plates ? baffleDropKpa(plates) : 0)
}

/** A port's own joint before lines: a space is one joint but for its baffled ports, a through part one at each end. */
const ownNode = (part: Part, portId: string, baffled: ReadonlyMap<string, CoverPort>) =>
  isThrough(part.kind) || baffled.has(`${part.id}.${portId}`) ? `${part.id}.${portId}` : part.id

function topologyOf(variant: Variant, parts: ReadonlyMap<string, Part>): Topology {
  const joints = unions()
  const baffled = baffledPorts(variant, parts)
  const nodeOfEnd = (end: LineEnd) => joints.find(ownNode(parts.get(end.part)!, end.port, baffled))
  for (const line of variant.lines) {
    if (line.kind !== 'direct') continue
    const [a, b] = [nodeOfEnd(line.from), nodeOfEnd(line.to)]
    // a space lends its name to the joint, so that pressures are found under it
    if (parts.has(a)) joints.join(a, b)
    else joints.join(b, a)
  }
  const nodeOf = new Map<string, string>()
  for (const part of variant.parts)
    for (const p of part.ports) nodeOf.set(`${part.id}.${p.id}`, joints.find(ownNode(part, p.id, baffled)))

  const jointOf = new Map<string, string>()
  for (const part of variant.parts)
    if (!isThrough(part.kind) && part.ports.length > 0) jointOf.set(part.id, joints.find(part.id))

  const groups = unions()
  for (const line of variant.lines) if (line.kind !== 'drain') groups.join(line.from.part, line.to.part)
  const crankcase = variant.parts.find((p) => p.kind === 'crankcase')
  const home = crankcase && groups.find(crankcase.id)
  return {
    nodeOf,
    jointOf,
    baffled,
    ends: endsOf(variant, { nodeOf, jointOf, baffled }),
    renamed: [...nodeOf, ...jointOf].filter(([id, joint]) => id !== joint),
    unjoined: new Set(variant.parts.flatMap((p) => (groups.find(p.id) === home ? [] : [p.id]))),
  }
}

function endsOf(
  variant: Variant,
  { nodeOf, jointOf, baffled }: Pick<Topology, 'nodeOf' | 'jointOf' | 'baffled'>,
): Topology['ends'] {
  const ends = new Map<string, readonly [string, string]>()
  for (const { id, kind, from, to } of variant.lines)
    if (kind !== 'direct')
      ends.set(id, [nodeOf.get(`${from.part}.${from.port}`)!, nodeOf.get(`${to.part}.${to.port}`)!])
  for (const [id, port] of baffled) ends.set(id, [jointOf.get(port.part)!, nodeOf.get(id)!])
  for (const { id, kind } of variant.parts)
    if (isThrough(kind)) ends.set(id, [nodeOf.get(`${id}.in`)!, nodeOf.get(`${id}.out`)!])
  return ends
}

/** Loss where a line meets a space: where gas enters the line, and where it comes out of it. */
export const SPACE_END_K = { enters: 0.5, leaves: 1 } as const

/** Bore of a barb less than that of its hose (estimate, 2.5 to 4 mm), and never less than this share of it. */
const BARB_LESS_MM = 3.2
const BARB_LEAST = 0.5

/** Bore of a barb that was not measured. */
export const barbOf = (boreMm: number): number => Math.max(boreMm - BARB_LESS_MM, BARB_LEAST * boreMm)

/**
 * The least bore at one end: hose, barb, and the port that the barb stands on.
 *
 * @example
 * import { leastBore } from '@/plan/model/resolve'
 *
 * console.log(leastBore({ part: 'cover', port: 'a' }, 15.9, undefined)) // 12.7
 */
export const leastBore = (end: LineEnd, boreMm: number, portBoreMm: number | undefined): number =>
  Math.min(boreMm, end.barbMm ?? barbOf(boreMm), portBoreMm === undefined ? Infinity : portBoreMm)

/**
 * Loss at one end of a hose, on the hose's velocity: the space it opens into, and a bore narrower than the hose.
 * @param narrowMm the least bore there
 * @param meets the space there: whether gas enters the hose from it or leaves the hose into it
 *
 * @example
 * import { endLoss } from '@/plan/model/resolve'
 *
 * console.log(endLoss({ narrowMm: 15.9, boreMm: 15.9 }, true, 'enters')) // 0.5
 */
export function endLoss(
  { narrowMm, boreMm }: { readonly narrowMm: number; readonly boreMm: number },
  meetsSpace: boolean,
  gas: keyof typeof SPACE_END_K,
): number {
  const beta = narrowMm / boreMm
  const open = meetsSpace ? SPACE_END_K[gas] : 0
  // from the narrow bore it widens into the hose, or the hose narrows to it
  const change = gas === 'enters' ? expansionLoss(beta) : contractionLoss(beta)
  return (open + change) / (beta * beta * (beta * beta))
}

/** A tee is a joint of hoses, not a space that a flow comes to rest in: what it costs depends on how its flow splits, and is the solver's. */
const meetsSpace = (part: Part | undefined) => part !== undefined && part.kind !== 'tee' && !isThrough(part.kind)

function lossAt(end: LineEnd, boreMm: number, part: Part | undefined, gas: keyof typeof SPACE_END_K): number {
  const port = part?.ports.find((p) => p.id === end.port)
  return endLoss({ narrowMm: leastBore(end, boreMm, port?.boreMm), boreMm }, meetsSpace(part), gas)
}

type HoseOrDrain = Line & { readonly kind: ResolvedLine['kind'] }
const isHoseOrDrain = (line: Line): line is HoseOrDrain => line.kind !== 'direct'

/** @param bends the line's in SI */
function resolveLine(
  line: HoseOrDrain,
  parts: ReadonlyMap<string, Part>,
  joints: Topology['ends'],
  bends: HoseShape['bends'],
): ResolvedLine {
  const { from, to } = line
  const [fromJoint, toJoint] = joints.get(line.id)!
  const ends = (first: keyof typeof SPACE_END_K, second: keyof typeof SPACE_END_K) =>
    lossAt(from, line.boreMm, parts.get(from.part), first) + lossAt(to, line.boreMm, parts.get(to.part), second)
  return {
    id: line.id,
    kind: line.kind,
    from: fromJoint,
    to: toJoint,
    riseM: line.riseMm === undefined ? undefined : mm(line.riseMm),
    shape: {
      boreM: mm(line.boreMm),
      lengthM: mm(line.lengthMm),
      bends,
      mitres: from.elbowDeg || to.elbowDeg ? [from.elbowDeg ?? 0, to.elbowDeg ?? 0].filter((a) => a > 0) : NO_MITRES,
      k: line.boreMm > 0 ? ends('enters', 'leaves') : 0,
      kBack: line.boreMm > 0 ? ends('leaves', 'enters') : 0,
    },
  }
}

const NO_MITRES: readonly number[] = []

/** Bends in SI. */
const bendsOf = (bends: Line['bends']) => bends.map((b) => ({ angleDeg: b.angleDeg, radiusM: mm(b.radiusMm) }))

// how much a port loses is no matter of joints or lines, but for whether it loses anything
const samePort = (a: Port, b: Port) =>
  a === b || (a.id === b.id && a.boreMm === b.boreMm && portLoss(a) > 0 === portLoss(b) > 0)
const samePorts = (a: readonly Port[], b: readonly Port[]) =>
  a === b || (a.length === b.length && a.every((p, i) => samePort(p, b[i]!)))
const sameEnd = (a: LineEnd, b: LineEnd) => a.part === b.part && a.port === b.port
const sameParts = (a: readonly Part[], b: readonly Part[]) =>
  a.length === b.length &&
  a.every((p, i) => p === b[i] || (p.id === b[i]!.id && p.kind === b[i]!.kind && samePorts(p.ports, b[i]!.ports)))
const sameLines = (a: readonly Line[], b: readonly Line[]) =>
  a.length === b.length &&
  a.every(
    (l, i) =>
      l === b[i] ||
      (l.id === b[i]!.id && l.kind === b[i]!.kind && sameEnd(l.from, b[i]!.from) && sameEnd(l.to, b[i]!.to)),
  )

const MOST_RECENT = 4
export type Resolve = (variant: Variant) => Resolved

/** Resolves a valid variant. */
export const resolve: Resolve = (variant) => makeResolve()(variant)

/**
 * `resolve` for who resolves many variants, one like the other: documents are never changed in place, so the last answers are kept, and
 * joints and lines that are as before are reused.
 */
export function makeResolve(): Resolve {
  /** newest first: the next is most often one of them, or the same but for some figure */
  const recent: Resolved[] = []
  const bends = weakMemo(bendsOf)
  return (variant) => {
    const known = recent.find((r) => r.variant === variant)
    if (known) return known
    const like = recent.find(({ variant: v }) => sameParts(v.parts, variant.parts) && sameLines(v.lines, variant.lines))
    const parts = new Map<string, Part>()
    for (const p of variant.parts) parts.set(p.id, p)
    const topology = like?.topology ?? topologyOf(variant, parts)
    const lines = new Map<string, ResolvedLine>()
    variant.lines.forEach((line, i) => {
      if (!isHoseOrDrain(line)) return
      const same = like?.variant.lines[i] === line ? like.lines.get(line.id) : undefined
      lines.set(line.id, same ?? resolveLine(line, parts, topology.ends, bends(line.bends)))
    })
    const made = { variant, parts, topology, lines }
    recent.unshift(made)
    recent.length = Math.min(recent.length, MOST_RECENT)
    return made
  }
}

/** Joint of a space or of a place that holds a pressure; undefined for a part without ports. */
export const nodeOfPart = ({ topology }: Resolved, part: Part): string | undefined => topology.jointOf.get(part.id)

/** A cover's port as the plan has it. */
export function coverPort(r: Resolved, { part, port }: CoverPort): { readonly part: Part; readonly port: Port } {
  const cover = r.parts.get(part)!
  return { part: cover, port: cover.ports.find((p) => p.id === port)! }
}

/** Joint of the crankcase. */
export const crankcaseNode = (r: Resolved): string | undefined => {
  const part = r.variant.parts.find((p) => p.kind === 'crankcase')
  return part && nodeOfPart(r, part)
}
