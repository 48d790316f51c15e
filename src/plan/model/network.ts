/** A variant of a build in one state, as the network that the core solves. One way: the document is never read back from it. */
import { DROP_REFERENCE } from '../catalogue/stages'
import { circleArea } from '@/core/circle'
import type { Element, Network, Node, Tee } from '@/core/network/elements'
import { makeHose } from '@/core/network/hose'
import { GAS_GAMMA, GAS_R } from '@/core/gas/air'
import type { OperatingState, Surroundings } from '@/core/engine/states'
import { toSi } from '@/core/units/units'
import { DISCHARGE } from '../catalogue/valves'
import { fieldsOfPart } from '../document/fields'
import {
  isBoundaryPart,
  isBreather,
  isThrough,
  isThroughPart,
  type BoundaryPart,
  type ThroughPart,
} from '../document/kinds'
import type { Part, Port } from '../document/schema'
import { coverPort, leastBore, nodeOfPart, portLoss, type Resolved, type ResolvedLine, type Topology } from './resolve'

// looked up once: a thousand draws ask for them over and over
const [MM, MM2, KPA] = [toSi('length', 1, 'mm'), toSi('area', 1, 'mm2'), toSi('pressure', 1, 'kPa')]
const mm = (v: number) => v * MM
const mm2 = (v: number) => v * MM2
const kpa = (v: number) => v * KPA
const hole = (boreMm: number) => circleArea(mm(boreMm))

/** Joints by which the engine breathes: inlet tract and open air. */
export const breatherNodes = (r: Resolved): ReadonlySet<string> =>
  new Set(r.variant.parts.filter((p) => isBreather(p.kind)).flatMap((p) => nodeOfPart(r, p) ?? []))

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

/** An element's name and the joints that it lies between. */
type ElementPlace = { readonly id: string; readonly from: string; readonly to: string }

/** dp = a Q + b rho Q^2 from the drop at 100 l/min of air at 1.2 kg/m3, Pa, and its share in step with flow. */
function lossElement({ id, from, to }: ElementPlace, dp: number, share: number): Element {
  const { flow, density } = DROP_REFERENCE
  const a = (share * dp) / flow
  const b = ((1 - share) * dp) / (density * flow * flow)
  // a part without drop still needs a law: a tenth of a pascal at 100 l/min
  return { kind: 'loss', id, from, to, a: a + b > 0 ? a : 0.1 / flow, b }
}

type Holed = Extract<Part, { kind: 'passage' | 'restrictor' | 'pcv' | 'check' | 'relief' | 'regulator' }>
/** Whether a part has a hole with a discharge coefficient. */
export const isHoled = (part: Part): part is Holed => Object.hasOwn(fieldsOfPart(part.kind), 'cd')
/** Discharge coefficient of a part with a hole: its own, else that of its kind. */
export const dischargeOf = (part: Holed): number => part.cd ?? DISCHARGE[part.kind]

/** Share in step with flow of a cover's baffle and nipple (estimate). */
const PORT_LINEAR = 0.1

/** Open area of a valve at its widest, m2. */
const widest = (area: readonly (readonly [number, number])[]) => area.reduce((most, [, a]) => Math.max(most, a), 0)

function throughElement(part: ThroughPart, place: ElementPlace, state: OperatingState, amb: Surroundings): Element {
  // written out: a thousand draws make them over and over
  const { id, from, to } = place
  const orifice = (cd: number, areaM2: number): Element => ({ kind: 'orifice', id, from, to, cd, areaM2 })
  switch (part.kind) {
    case 'passage':
      return orifice(dischargeOf(part), hole(part.boreMm) * part.count)
    case 'restrictor':
      return orifice(dischargeOf(part), hole(part.boreMm))
    case 'sensor':
      return orifice(DISCHARGE.sensor, hole(part.boreMm))
    case 'pcv': {
      const cd = dischargeOf(part)
      const area = part.areaMm2ByKpa.map(([dp, a]) => [kpa(dp), mm2(a)] as const)
      // stuck open it is its widest hole both ways; stuck shut it is no hole
      if (part.stuck) return orifice(cd, part.stuck === 'open' ? widest(area) : 0)
      return { kind: 'pcv', id, from, to, cd, area, leakM2: widest(area) * ((part.leakPct ?? 0) / 100) }
    }
    case 'check': {
      const cd = dischargeOf(part)
      if (part.stuck) return orifice(cd, part.stuck === 'open' ? hole(part.seatMm) : 0)
      const areaM2 = hole(part.seatMm)
      return {
        kind: 'check',
        id,
        from,
        to,
        cd,
        areaM2,
        crackPa: kpa(part.crackKpa),
        leakM2: areaM2 * ((part.leakPct ?? 0) / 100),
      }
    }
    case 'relief': {
      const cd = dischargeOf(part)
      if (part.stuck) return orifice(cd, part.stuck === 'open' ? hole(part.seatMm) : 0)
      return { kind: 'check', id, from, to, cd, areaM2: hole(part.seatMm), crackPa: kpa(part.openKpa) }
    }
    case 'regulator': {
      const cd = dischargeOf(part)
      if (part.stuck) return orifice(cd, part.stuck === 'open' ? hole(part.boreMm) : 0)
      const [set, half] = [amb.pressurePa + kpa(part.setKpa), kpa(part.bandKpa) / 2]
      return { kind: 'regulator', id, from, to, cd, areaM2: hole(part.boreMm), openPa: set + half, shutPa: set - half }
    }
    case 'pump':
      return {
        kind: 'pump',
        id,
        from,
        to,
        sweptM3s: part.stuck ? 0 : (toSi('volume', part.ccPerTurn, 'cc') * part.ratio * state.rpm) / 60,
        clearance: part.clearancePct / 100,
      }
    case 'can':
    case 'filter':
      return lossElement(place, kpa(part.dropKpaAt100) * (part.fouling ?? 1), part.linearPct / 100)
  }
}

/** Pressure in Pa that a boundary part holds in a state. */
export function boundaryPressure(part: BoundaryPart, state: OperatingState, amb: Surroundings): number {
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
  }
}

/** Elements of a plan, with what each was made of: a part, or a resolved line. */
type MadeElements = {
  readonly r: Resolved
  readonly ambientPa: number
  /** a pump turns with the engine: its elements are others in every state */
  readonly turns: boolean
  readonly of: readonly (Part | Port | ResolvedLine)[]
  readonly elements: readonly Element[]
}
const MOST_RECENT = 3

/** Elements of a resolved variant; those of `like`, made of the same topology, where what they were made of is the same. */
function elementsOf(
  r: Resolved,
  state: OperatingState,
  amb: Surroundings,
  like: MadeElements | undefined,
): MadeElements {
  const { nodeOf, unjoined } = r.topology
  const of: (Part | Port | ResolvedLine)[] = []
  const elements: Element[] = []
  const put = (source: Part | Port | ResolvedLine, make: () => Element) => {
    const before =
      like?.of[of.length] === source && !('kind' in source && source.kind === 'pump')
        ? like.elements[of.length]
        : undefined
    of.push(source)
    elements.push(before ?? make())
  }
  for (const part of r.variant.parts) {
    if (unjoined.has(part.id) || !isThroughPart(part)) continue
    const { id } = part
    const place = { id, from: nodeOf.get(`${id}.in`)!, to: nodeOf.get(`${id}.out`)! }
    put(part, () => throughElement(part, place, state, amb))
  }
  for (const [id, at] of r.topology.baffled) {
    const joint = r.topology.jointOf.get(at.part)
    if (joint === undefined || unjoined.has(at.part)) continue
    const { port } = coverPort(r, at)
    put(port, () => lossElement({ id, from: joint, to: nodeOf.get(id)! }, kpa(portLoss(port)), PORT_LINEAR))
  }
  for (const line of r.variant.lines) {
    const resolved = line.kind === 'hose' && !unjoined.has(line.from.part) ? r.lines.get(line.id) : undefined
    if (resolved) put(resolved, () => makeHose(resolved.id, resolved.from, resolved.to, resolved.shape))
  }
  return { r, ambientPa: amb.pressurePa, turns: r.variant.parts.some((p) => p.kind === 'pump'), of, elements }
}

/** Joints of a plan before a state says what they hold, and the parts that say it, by id. */
type JointFrame = {
  readonly elements: number
  readonly free: Readonly<Record<string, Node>>
  readonly says: readonly (readonly [joint: string, part: string])[]
}

/** Legs of a plan's tees. One that is joined straight to a part or a baffled cover is that part; to another joint, what the others leave. */
function teesOf(r: Resolved, elements: readonly Element[]): Tee[] {
  const place = new Map(elements.map((e, k) => [e.id, k]))
  const leg = (part: Part, port: Port): Tee['legs'][number] => {
    for (const line of r.variant.lines) {
      const outward = line.from.part === part.id && line.from.port === port.id
      if (line.kind === 'drain' || !(outward || (line.to.part === part.id && line.to.port === port.id))) continue
      const other = outward ? line.to : line.from
      if (line.kind === 'hose') {
        const own = outward ? line.from : line.to
        const areaM2 = hole(leastBore(own, line.boreMm, port.boreMm))
        return { element: place.get(line.id)!, inwards: outward ? -1 : 1, areaM2 }
      }
      const through = place.get(other.part)
      if (through !== undefined) return { element: through, inwards: other.port === 'in' ? -1 : 1, areaM2: 0 }
      const baffle = place.get(`${other.part}.${other.port}`)
      return baffle === undefined ? 'rest' : { element: baffle, inwards: 1, areaM2: 0 }
    }
    return 'capped'
  }
  return r.variant.parts.flatMap((part) => {
    if (part.kind !== 'tee' || part.ports.length < 2 || r.topology.unjoined.has(part.id)) return []
    const legs = part.ports.map((port) => leg(part, port))
    // how two that nobody measures share what is left cannot be known
    return legs.filter((l) => l === 'rest').length > 1 ? [] : [{ legs }]
  })
}

function frameOf(r: Resolved, elements: readonly Element[]): JointFrame {
  const free: Record<string, Node> = {}
  for (const e of elements) {
    free[e.from] = FREE
    free[e.to] = FREE
  }
  const says: [string, string][] = []
  for (const part of r.variant.parts) {
    if (isThrough(part.kind) || r.topology.unjoined.has(part.id)) continue
    const own = nodeOfPart(r, part) ?? part.id
    free[own] ??= FREE
    if (part.kind === 'crankcase' || isBoundaryPart(part)) says.push([own, part.id])
  }
  return { elements: elements.length, free, says }
}

export type NetworkOf = (r: Resolved, state: OperatingState, amb: Surroundings, blowBy: number) => Network

/** Network of a resolved variant in one state, with `blowBy` kg/s entering the crankcase. Parts that no line joins to the crankcase are left out. */
export const networkOf: NetworkOf = (r, state, amb, blowBy) => makeNetworkOf()(r, state, amb, blowBy)

/**
 * `networkOf` for who asks again and again: from state to state elements are the same unless a pump turns with the engine, from draw to
 * draw all but a few.
 */
export function makeNetworkOf(): NetworkOf {
  /** newest first */
  const recent: MadeElements[] = []
  const frames = new WeakMap<Topology, JointFrame>()
  // bores of tees are their hoses', which may be others in the same topology
  const tees = new WeakMap<Resolved, readonly Tee[]>()
  function made(r: Resolved, state: OperatingState, amb: Surroundings): MadeElements {
    const known = recent.find((m) => m.r === r && m.ambientPa === amb.pressurePa)
    if (known && !known.turns) return known
    const like = recent.find((m) => m.r.topology === r.topology && m.ambientPa === amb.pressurePa)
    recent.unshift(elementsOf(r, state, amb, like))
    recent.length = Math.min(recent.length, MOST_RECENT)
    return recent[0]!
  }
  return (r, state, amb, blowBy) => {
    const { elements } = made(r, state, amb)
    let frame = frames.get(r.topology)
    if (frame?.elements !== elements.length) frames.set(r.topology, (frame = frameOf(r, elements)))
    let own = tees.get(r)
    if (!own) tees.set(r, (own = teesOf(r, elements)))
    return inState({ r, state, amb, blowBy }, elements, frame, own)
  }
}

type InState = {
  readonly r: Resolved
  readonly state: OperatingState
  readonly amb: Surroundings
  readonly blowBy: number
}
function inState(
  { r, state, amb, blowBy }: InState,
  elements: readonly Element[],
  { free, says }: JointFrame,
  tees: readonly Tee[],
): Network {
  const nodes: Record<string, Node> = { ...free }
  for (const [joint, part] of says) {
    const boundary = r.parts.get(part)!
    // blow-by enters at the crankcase and nowhere else
    nodes[joint] = isBoundaryPart(boundary) ? { p: boundaryPressure(boundary, state, amb) } : { source: blowBy }
  }
  return { shape: r.topology, gas: { R: GAS_R, gamma: GAS_GAMMA, T: state.gasK }, nodes, elements, tees }
}
const FREE: Node = {}
