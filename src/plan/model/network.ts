/** A variant of a build in one state, as the network that the core solves. One way: the document is never read back from it. */
import type { Element, Network, Node } from '@/core/network/elements'
import { contractionLoss, expansionLoss } from '@/core/network/friction'
import { makeHose, type HoseShape } from '@/core/network/hose'
import { GAS_GAMMA, GAS_R } from '@/core/gas/air'
import type { OperatingState, Surroundings } from '@/core/engine/states'
import { toSi } from '@/core/units/units'
import { DISCHARGE } from '../catalogue/catalogue'
import { isBreather, isThrough } from '../document/kinds'
import type { Line, LineEnd, Part, Variant } from '../document/schema'

const mm = (v: number) => toSi('length', v, 'mm')
const mm2 = (v: number) => toSi('area', v, 'mm2')
const kpa = (v: number) => toSi('pressure', v, 'kPa')
const hole = (boreMm: number) => (Math.PI * mm(boreMm) ** 2) / 4

/** Which node each port stands on, and who shares it. Depends on the joins alone, not on sizes or states. */
export type Topology = {
  /** node of `${part}.${port}` */
  readonly nodeOf: ReadonlyMap<string, string>
  /** parts that no chain of lines joins to the crankcase */
  readonly unjoined: readonly string[]
}

const key = (end: { part: string; port: string }) => `${end.part}.${end.port}`

/** A port's own node before joins: a space is one node, a through part one at each end. */
const ownNode = (part: Part, portId: string) => (isThrough(part.kind) ? `${part.id}.${portId}` : part.id)

export function topologyOf(variant: Variant): Topology {
  const root = new Map<string, string>()
  const find = (n: string): string => {
    const up = root.get(n)
    return up === undefined || up === n ? n : find(up)
  }
  const parts = new Map<string, Part>(variant.parts.map((p) => [p.id, p]))
  const nodeOfEnd = (end: LineEnd) => ownNode(parts.get(end.part)!, end.port)
  for (const line of variant.lines) {
    if (line.kind !== 'direct') continue
    const a = find(nodeOfEnd(line.from))
    const b = find(nodeOfEnd(line.to))
    // a space lends its name to the joint, so that pressures are found under it
    if (a !== b) root.set(parts.has(a) ? b : a, parts.has(a) ? a : b)
  }
  const nodeOf = new Map<string, string>()
  for (const part of variant.parts)
    for (const p of part.ports) nodeOf.set(`${part.id}.${p.id}`, find(ownNode(part, p.id)))

  const next = new Map<string, string[]>()
  const join = (a: string, b: string) => {
    next.set(a, [...(next.get(a) ?? []), b])
    next.set(b, [...(next.get(b) ?? []), a])
  }
  for (const line of variant.lines) if (line.kind !== 'drain') join(line.from.part, line.to.part)
  const reached = new Set<string>()
  const queue = variant.parts.filter((p) => p.kind === 'crankcase').map((p) => p.id)
  for (let id = queue.pop(); id !== undefined; id = queue.pop()) {
    if (reached.has(id)) continue
    reached.add(id)
    queue.push(...(next.get(id) ?? []))
  }
  return { nodeOf, unjoined: variant.parts.filter((p) => !reached.has(p.id)).map((p) => p.id) }
}

/** Joint of a space or of a place that holds a pressure; undefined for a part without ports. */
export const nodeOfPart = (topology: Topology, part: Part): string | undefined =>
  part.ports[0] && topology.nodeOf.get(`${part.id}.${part.ports[0].id}`)

/** Joint of the crankcase. */
export const crankcaseNode = (variant: Variant, topology: Topology): string | undefined => {
  const part = variant.parts.find((p) => p.kind === 'crankcase')
  return part && nodeOfPart(topology, part)
}

/** Joints by which the engine breathes: inlet tract and open air. */
export const breatherNodes = (variant: Variant, topology: Topology): ReadonlySet<string> =>
  new Set(variant.parts.filter((p) => isBreather(p.kind)).flatMap((p) => nodeOfPart(topology, p) ?? []))

/** Flow in kg/s that enters the joints in `into`, over all elements of a solved network. */
export const netInflow = (
  network: Network,
  flow: Readonly<Record<string, number>>,
  into: ReadonlySet<string>,
): number =>
  network.elements.reduce(
    (sum, e) => sum + (into.has(e.to) ? flow[e.id]! : 0) - (into.has(e.from) ? flow[e.id]! : 0),
    0,
  )

/** Loss where a line meets a space: 0.5 going in, 1.0 coming out; a line may run either way, so their mean. */
export const SPACE_END_K = 0.75

/** Loss at one end of a hose, on the hose's velocity: the space it opens into, and a barb narrower than the hose (in or out, so the mean). */
export function endLoss(end: LineEnd, meetsSpace: boolean, boreMm: number): number {
  const beta = end.barbMm !== undefined && end.barbMm < boreMm ? end.barbMm / boreMm : 1
  const open = meetsSpace ? SPACE_END_K : 0
  return (open + (contractionLoss(beta) + expansionLoss(beta)) / 2) / beta ** 4
}

/** The hose as the core's shape; the same figures that the working shows. */
export function hoseShape(line: Line, parts: ReadonlyMap<string, Part>): HoseShape {
  // a tee is a joint of hoses, not a space that a flow comes to rest in
  const meets = (end: LineEnd) => {
    const kind = parts.get(end.part)?.kind
    return kind !== undefined && kind !== 'tee' && !isThrough(kind)
  }
  return {
    boreM: mm(line.boreMm),
    lengthM: mm(line.lengthMm),
    bends: line.bends.map((b) => ({ angleDeg: b.angleDeg, radiusM: mm(b.radiusMm) })),
    mitres: [line.from.elbowDeg, line.to.elbowDeg].filter((a): a is number => a !== undefined && a > 0),
    k:
      line.boreMm > 0
        ? endLoss(line.from, meets(line.from), line.boreMm) + endLoss(line.to, meets(line.to), line.boreMm)
        : 0,
  }
}

const Q100 = 0.1 / 60
const DROP_DENSITY = 1.2

function throughElement(
  part: Part,
  from: string,
  to: string,
  state: OperatingState,
  amb: Surroundings,
): Element | undefined {
  const ends = { id: part.id, from, to }
  switch (part.kind) {
    case 'passage':
      return { ...ends, kind: 'orifice', cd: part.cd ?? DISCHARGE.passage, areaM2: hole(part.boreMm) * part.count }
    case 'restrictor':
      return { ...ends, kind: 'orifice', cd: part.cd ?? DISCHARGE.restrictor, areaM2: hole(part.boreMm) }
    case 'sensor':
      return { ...ends, kind: 'orifice', cd: DISCHARGE.sensor, areaM2: hole(part.boreMm) }
    case 'pcv': {
      const cd = part.cd ?? DISCHARGE.pcv
      const area = part.areaMm2ByKpa.map(([dp, a]) => [kpa(dp), mm2(a)] as const)
      // stuck open it is its widest hole both ways; stuck shut it is no hole
      if (part.stuck)
        return { ...ends, kind: 'orifice', cd, areaM2: part.stuck === 'open' ? Math.max(...area.map((a) => a[1])) : 0 }
      return { ...ends, kind: 'pcv', cd, area }
    }
    case 'check': {
      const cd = part.cd ?? DISCHARGE.check
      if (part.stuck) return { ...ends, kind: 'orifice', cd, areaM2: part.stuck === 'open' ? hole(part.seatMm) : 0 }
      return { ...ends, kind: 'check', cd, areaM2: hole(part.seatMm), crackPa: kpa(part.crackKpa) }
    }
    case 'relief': {
      const cd = part.cd ?? DISCHARGE.check
      if (part.stuck) return { ...ends, kind: 'orifice', cd, areaM2: part.stuck === 'open' ? hole(part.seatMm) : 0 }
      return { ...ends, kind: 'check', cd, areaM2: hole(part.seatMm), crackPa: kpa(part.openKpa) }
    }
    case 'regulator': {
      const cd = part.cd ?? DISCHARGE.regulator
      if (part.stuck) return { ...ends, kind: 'orifice', cd, areaM2: part.stuck === 'open' ? hole(part.boreMm) : 0 }
      const [set, half] = [amb.pressurePa + kpa(part.setKpa), kpa(part.bandKpa) / 2]
      return { ...ends, kind: 'regulator', cd, areaM2: hole(part.boreMm), openPa: set + half, shutPa: set - half }
    }
    case 'pump':
      return {
        ...ends,
        kind: 'pump',
        sweptM3s: part.stuck ? 0 : (toSi('volume', part.ccPerTurn, 'cc') * part.ratio * state.rpm) / 60,
        clearance: part.clearancePct / 100,
      }
    case 'can':
    case 'filter': {
      const dp = kpa(part.dropKpaAt100) * (part.kind === 'filter' ? (part.fouling ?? 1) : 1)
      const share = part.linearPct / 100
      const a = (share * dp) / Q100
      const b = ((1 - share) * dp) / (DROP_DENSITY * Q100 * Q100)
      // a part without drop still needs a law: a tenth of a pascal at 100 l/min
      return { ...ends, kind: 'loss', a: a + b > 0 ? a : 0.1 / Q100, b }
    }
    default:
      return undefined
  }
}

/** Pressure in Pa that a boundary part holds in a state; undefined for a part that holds none. */
export function boundaryPressure(part: Part, state: OperatingState, amb: Surroundings): number | undefined {
  switch (part.kind) {
    case 'manifold':
      return state.manifoldPa
    case 'inlet':
      return amb.pressurePa - (state.inletDepressionPa * part.depressionPct) / 100
    case 'chargePipe':
      return Math.max(state.manifoldPa, amb.pressurePa - state.inletDepressionPa)
    // a throttle ahead of the blower: behind it the blower's inlet follows the manifold until that rises above what the inlet tract holds
    case 'blowerInlet':
      return Math.min(state.manifoldPa, amb.pressurePa - state.inletDepressionPa)
    case 'exhaust':
      return amb.pressurePa - kpa(part.suctionKpa) * state.flowShare ** 2
    case 'atmosphere':
      return amb.pressurePa
    default:
      return undefined
  }
}

type Ways = { readonly ambientPa: number; readonly elements: readonly Element[] }
/** Elements of a variant, which is never changed in place, are the same in every state unless a pump turns with the engine. */
const waysOf = new WeakMap<Variant, Ways>()

function elementsOf(
  variant: Variant,
  topology: Topology,
  state: OperatingState,
  amb: Surroundings,
): readonly Element[] {
  const known = waysOf.get(variant)
  if (known?.ambientPa === amb.pressurePa) return known.elements
  const parts = new Map<string, Part>(variant.parts.map((p) => [p.id, p]))
  const out = new Set(topology.unjoined)
  const node = (end: { part: string; port: string }) => topology.nodeOf.get(key(end))!
  const elements: Element[] = []
  for (const part of variant.parts) {
    if (out.has(part.id) || !isThrough(part.kind)) continue
    const element = throughElement(
      part,
      node({ part: part.id, port: 'in' }),
      node({ part: part.id, port: 'out' }),
      state,
      amb,
    )
    if (element) elements.push(element)
  }
  for (const line of variant.lines) {
    if (line.kind !== 'hose' || out.has(line.from.part)) continue
    elements.push(makeHose(line.id, node(line.from), node(line.to), hoseShape(line, parts)))
  }
  if (!variant.parts.some((p) => p.kind === 'pump')) waysOf.set(variant, { ambientPa: amb.pressurePa, elements })
  return elements
}

/**
 * Network of `variant` in one state, with `blowBy` kg/s entering the crankcase. Parts that no line joins to the crankcase are left out.
 */
export function networkOf(
  variant: Variant,
  topology: Topology,
  state: OperatingState,
  amb: Surroundings,
  blowBy: number,
): Network {
  const elements = elementsOf(variant, topology, state, amb)
  const nodes: Record<string, Node> = {}
  for (const e of elements) {
    nodes[e.from] ??= FREE
    nodes[e.to] ??= FREE
  }
  for (const part of variant.parts) {
    if (isThrough(part.kind) || topology.unjoined.includes(part.id)) continue
    const own = nodeOfPart(topology, part) ?? part.id
    const p = boundaryPressure(part, state, amb)
    if (p !== undefined) nodes[own] = { p }
    else if (part.kind === 'crankcase') nodes[own] = { source: blowBy }
    else nodes[own] ??= FREE
  }
  return { gas: { R: GAS_R, gamma: GAS_GAMMA, T: state.gasK }, nodes, elements }
}
const FREE: Node = {}
