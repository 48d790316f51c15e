/** Oil and water carried through a solved network: every node mixes what flows in; cans take some out. */
import { keptFor } from '../kept'
import { airDensity, meanFreePath } from '../gas/air'
import { coolAndCondense, DRY_GAS_KG_PER_MOL, WATER_KG_PER_MOL } from '../water/vapour'
import { sizeBins, slipOn, type Mode, type SizeBin } from './droplets'
import { keptAgainstFlow, SOUDERS_BROWN_OPEN, SOUDERS_BROWN_PAD, stageEfficiency, type Stage } from './stages'

/** An element's flow between two nodes, kg/s, positive from `from` to `to`. */
export type Stream = { readonly id: string; readonly from: string; readonly to: string; readonly flow: number }

export type CanSpec = {
  readonly id: string
  readonly stages: readonly Stage[]
  readonly faceM2: number
  readonly packed: boolean
  /** W/K to the surroundings */
  readonly ua: number
}

/** Oil of one origin: its sizes, how much of it a m3 of gas holds where it is made, kg, and where that is. */
export type Source = {
  readonly mode: Omit<Mode, 'fraction'>
  readonly concentration: number
  readonly nodes: readonly string[]
}

export type CarriageInput = {
  readonly pressure: Readonly<Record<string, number>>
  readonly streams: readonly Stream[]
  readonly cans: readonly CanSpec[]
  readonly gasK: number
  readonly bonnetK: number
  readonly oilDensity: number
  /** mist is made in the crankcase, splash where a cover's gas is taken off */
  readonly mist: Source
  readonly splash: Source
  /** blow-by's own water: kg/s of gas that enters at `node` with water mole fraction `y`; fresh air elsewhere carries `yAir` */
  readonly blowBy: { readonly node: string; readonly flow: number; readonly y: number }
  readonly yAir: number
  /** boundaries: gas that comes out of them is fresh */
  readonly boundaries: ReadonlySet<string>
}

/** Oil in kg/s told apart by where it came from, since cornering multiplies splash alone. */
export type Oil = { readonly mist: number; readonly splash: number }
export type CanResult = {
  readonly oilIn: Oil
  readonly caught: Oil
  readonly waterCaught: number
  readonly outK: number
  readonly faceVelocity: number
  readonly kept: number
}
export type Carriage = {
  /** oil kg/s carried by each stream */
  readonly oil: Readonly<Record<string, Oil>>
  /** water vapour kg/s */
  readonly water: Readonly<Record<string, number>>
  readonly cans: Readonly<Record<string, CanResult>>
}

/** Sizes of each mode. */
const SIZES = 16
/** Most sweeps where a pump sends gas round, and how little may still change, of all that goes round. */
const SWEEPS = 240
const SETTLED = 1e-12
/** What the balance of gas leaves open, kg/s: no stream, and nothing is carried by it. */
const TRICKLE = 1e-10
/** Flow below which a stream carries nothing worth following up a pump, kg/s. */
const LIFTING = 1e-9

const sizesOf = keptFor((mode: Source['mode']): readonly SizeBin[] => sizeBins({ ...mode, fraction: 1 }, SIZES))
/** Sizes of a mode; a build's modes are the same objects in every state. */
const binsOf = ({ mode }: Source): readonly SizeBin[] => sizesOf(mode)
const waterShare = (y: number) => (y * WATER_KG_PER_MOL) / (y * WATER_KG_PER_MOL + (1 - y) * DRY_GAS_KG_PER_MOL)
const moleFraction = (w: number) => w / WATER_KG_PER_MOL / (w / WATER_KG_PER_MOL + (1 - w) / DRY_GAS_KG_PER_MOL)

/** Oil by size in a kg of the gas that leaves the node at hand. */
const perKg = new Float64Array(2 * SIZES)

/** What has come to a node: kg/s of gas, of water, and of oil by size, mist first; no sizes where no oil has come. */
type Load = { gas: number; water: number; oil: Float64Array | undefined }

/** A node with what leaves it. What a pump lifts to it after its turn is there in the next sweep. */
type Node = {
  readonly pressure: number
  readonly boundary: boolean
  readonly makesMist: boolean
  readonly makesSplash: boolean
  readonly here: Load
  readonly lifted: Load
  readonly leaving: Way[]
}
/** A stream as its gas runs. */
type Way = {
  readonly id: string
  readonly kgS: number
  readonly to: Node
  readonly uphill: boolean
  readonly can: CanSpec | undefined
}

/**
 * Rooms for oil by size, kept from sweep to sweep: to make one costs more than all that is done in it. What a sweep has lifted is the next
 * one's to use, so that there are two sets, in turn.
 */
const rooms: readonly [Float64Array[], Float64Array[]] = [[], []]
let turn = 0
let taken = 0
function nextSweep(): void {
  turn = 1 - turn
  taken = 0
}
function noSizes(): Float64Array {
  const room = (rooms[turn as 0 | 1][taken++] ??= new Float64Array(2 * SIZES))
  for (let k = 0; k < 2 * SIZES; k++) room[k] = 0
  return room
}

const NO_OIL: Oil = { mist: 0, splash: 0 }
type Caught = { readonly carried: number; readonly caught: number }

/** Nodes from the highest pressure down, put in one by one: for the few joints of a circuit in half the time of `toSorted`. */
function nodesOf({ pressure, boundaries, mist, splash }: CarriageInput): ReadonlyMap<string, Node> {
  const order: string[] = []
  for (const id in pressure) {
    let k = order.length
    for (; k > 0 && pressure[order[k - 1]!]! < pressure[id]!; k--) order[k] = order[k - 1]!
    order[k] = id
  }
  const nodes = new Map<string, Node>()
  for (const id of order)
    nodes.set(id, {
      pressure: pressure[id]!,
      boundary: boundaries.has(id),
      makesMist: mist.nodes.includes(id),
      makesSplash: splash.nodes.includes(id),
      here: { gas: 0, water: 0, oil: undefined },
      lifted: { gas: 0, water: 0, oil: undefined },
      leaving: [],
    })
  return nodes
}

/** What the gas does in a can: its velocity, and the share of the catch that stays. */
type Crossing = { readonly faceVelocity: number; readonly kept: number }
function crossingOf(can: CanSpec, volumeFlow: number, pPa: number, input: CarriageInput): Crossing {
  const faceVelocity = volumeFlow / can.faceM2
  const limit = can.packed ? SOUDERS_BROWN_PAD : SOUDERS_BROWN_OPEN
  return { faceVelocity, kept: keptAgainstFlow(faceVelocity, limit, pPa, input.gasK, input.oilDensity) }
}

/** Share of each size that a can takes out, mist first, before some of it is torn off again. */
function captureOf(can: CanSpec, volumeFlow: number, pPa: number, input: CarriageInput): Float64Array {
  const carrier = { flow: volumeFlow, pPa, tK: input.gasK, oilDensity: input.oilDensity }
  const laws = can.stages.map((stage) => stageEfficiency(stage, carrier))
  const lambda = meanFreePath(pPa, input.gasK)
  const takes = noSizes()
  let k = 0
  for (const source of [input.mist, input.splash]) {
    for (const { d } of binsOf(source)) {
      const cc = slipOn(lambda, d)
      let pass = 1
      for (const law of laws) pass *= 1 - law(d, cc)
      takes[k++] = 1 - pass
    }
  }
  return takes
}

/**
 * Carries oil, size by size, and water down the network. Gas runs from high pressure to low, so nodes are taken from the highest down and
 * each is complete when its turn comes. Only a pump lifts gas: what it brings to a node that has had its turn is there for the next sweep,
 * and sweeps are repeated until nothing changes. Crankcase and covers hold their concentration (oil is always at hand
 * there); other nodes mix.
 * @example Object.keys(carry({ pressure: { a: 101400, b: 101325 }, streams: [], cans: [], gasK: 350, bonnetK: 320, oilDensity: 850, mist: { mode: { mmd: 1e-6, gsd: 2 }, concentration: 0, nodes: ['a'] }, splash: { mode: { mmd: 1e-5, gsd: 2 }, concentration: 0, nodes: ['a'] }, blowBy: { node: 'a', flow: 0.001, y: 0.1 }, yAir: 0.01, boundaries: new Set(['b']) }).cans).length // 0
 */
export function carry(input: CarriageInput): Carriage {
  const nodes = nodesOf(input)
  const cans = new Map(input.cans.map((c) => [c.id, c]))
  let lifts = false
  for (const { id, from, to, flow } of input.streams) {
    const kgS = Math.abs(flow)
    if (kgS < TRICKLE) continue
    const [source, sink] = flow > 0 ? [nodes.get(from)!, nodes.get(to)!] : [nodes.get(to)!, nodes.get(from)!]
    const uphill = kgS > LIFTING && source.pressure < sink.pressure
    lifts ||= uphill
    source.leaving.push({ id, kgS, to: sink, uphill, can: cans.get(id) })
  }
  const out: Out = { oil: {}, water: {}, cans: {} }
  const order = [...nodes.values()]
  const crank = nodes.get(input.blowBy.node)
  const burnt = Math.max(0, input.blowBy.flow)
  const fresh = waterShare(input.yAir)
  const sweep = () => {
    nextSweep()
    for (const { here, lifted } of order) takeOver(here, lifted)
    if (crank) {
      crank.here.gas += burnt
      crank.here.water += burnt * waterShare(input.blowBy.y)
    }
    for (const node of order) if (node.leaving.length > 0) leave(node, input, fresh, out)
  }
  sweep()
  if (lifts) goRound(sweep, order)
  return out
}

type Out = { oil: Record<string, Oil>; water: Record<string, number>; cans: Record<string, CanResult> }

/** What was lifted in the last sweep is what is there when the next begins. */
function takeOver(here: Load, lifted: Load): void {
  here.gas = lifted.gas
  here.water = lifted.water
  here.oil = lifted.oil
  lifted.gas = 0
  lifted.water = 0
  lifted.oil = undefined
}

/** Sends on all that has come to a node, shared out by gas. */
function leave(node: Node, input: CarriageInput, freshWater: number, out: Out): void {
  const rho = airDensity(node.pressure, input.gasK)
  // shared out over what leaves, not over what came: the balance of gas is solved to a billionth, that of oil and water is exact
  let leavingKg = 0
  for (const way of node.leaving) leavingKg += way.kgS
  const oily = oilPerKg(node, leavingKg, rho, input)
  const waterPerKg = node.boundary || node.here.gas <= 0 ? freshWater : node.here.water / leavingKg
  for (const way of node.leaving) send(way, node.pressure, rho, oily, waterPerKg, input, out)
}

/** Writes the oil by size that a kg of gas leaving a node carries; false where it carries none. */
function oilPerKg(
  { boundary, makesMist, makesSplash, here }: Node,
  leavingKg: number,
  rho: number,
  input: CarriageInput,
) {
  if (boundary || !(makesMist || makesSplash || here.oil)) return false
  const share = leavingKg > 0 ? 1 / leavingKg : 0
  for (let k = 0; k < 2 * SIZES; k++) perKg[k] = here.oil ? here.oil[k]! * share : 0
  if (makesMist) make(input.mist, rho, 0)
  if (makesSplash) make(input.splash, rho, SIZES)
  return true
}
/** Oil is always at hand where it is made: the gas holds what it can. */
function make(source: Source, rho: number, from: number): void {
  const bins = binsOf(source)
  for (let k = 0; k < SIZES; k++) perKg[from + k] = (source.concentration / rho) * bins[k]!.share
}

/** Oil of one origin, the sizes from `from` on: what a stream carries and what of it the can keeps; the rest goes on. */
function sendOil(kgS: number, takes: Float64Array | undefined, kept: number, to: Float64Array, from: number): Caught {
  let carried = 0
  let caught = 0
  for (let k = from; k < from + SIZES; k++) {
    const into = kgS * perKg[k]!
    const stays = takes ? into * takes[k]! * kept : 0
    carried += into
    caught += stays
    to[k]! += into - stays
  }
  return { carried, caught }
}

function send(
  way: Way,
  pPa: number,
  rho: number,
  oily: boolean,
  waterPerKg: number,
  input: CarriageInput,
  out: Out,
): void {
  const { id, kgS, can } = way
  const to = way.uphill ? way.to.lifted : way.to.here
  const crossing = can && crossingOf(can, kgS / rho, pPa, input)
  let carried: Oil = NO_OIL
  let caught: Oil = NO_OIL
  if (oily) {
    const takes = can && captureOf(can, kgS / rho, pPa, input)
    const kept = crossing?.kept ?? 1
    to.oil ??= noSizes()
    const mist = sendOil(kgS, takes, kept, to.oil, 0)
    const splash = sendOil(kgS, takes, kept, to.oil, SIZES)
    carried = { mist: mist.carried, splash: splash.carried }
    caught = { mist: mist.caught, splash: splash.caught }
  }
  let waterOn = kgS * waterPerKg
  out.water[id] = waterOn
  out.oil[id] = carried
  if (can && crossing) {
    const dry = (kgS * (1 - waterPerKg)) / DRY_GAS_KG_PER_MOL
    const { gasK, bonnetK } = input
    const { outK, condensed } = coolAndCondense(dry, moleFraction(waterPerKg), gasK, bonnetK, can.ua, way.to.pressure)
    const waterCaught = condensed * WATER_KG_PER_MOL
    waterOn -= waterCaught
    const { faceVelocity, kept } = crossing
    out.cans[id] = { oilIn: carried, caught, waterCaught, outK, faceVelocity, kept }
  }
  to.gas += kgS
  to.water += waterOn
}

/**
 * What goes round is what comes round: sweeps until nothing changes. What a loop returns is nearly a share of what it was given, so every
 * third sweep goes straight to where such a series ends (Aitken), however much the loop returns.
 */
function goRound(sweep: () => void, nodes: readonly Node[]): void {
  const nothing = new Float64Array(2 * SIZES)
  const flat = (): Float64Array =>
    Float64Array.from(nodes.flatMap(({ lifted }) => [lifted.water, ...(lifted.oil ?? nothing)]))
  const put = (x: Float64Array) => {
    let at = 0
    for (const { lifted } of nodes) {
      lifted.water = x[at++]!
      lifted.oil ??= noSizes()
      for (let k = 0; k < 2 * SIZES; k++) lifted.oil[k] = x[at++]!
    }
  }
  let [first, second] = [flat(), flat()]
  for (let k = 1; k < SWEEPS; k++) {
    sweep()
    const third = flat()
    const scale = third.reduce((most, v) => Math.max(most, v), 0)
    if (third.every((v, i) => Math.abs(v - second[i]!) <= SETTLED * scale)) return
    if (k % 3 === 2)
      put(
        third.map((v, i) => {
          const [one, two] = [second[i]! - first[i]!, v - second[i]!]
          const end = v - (two * two) / (two - one)
          return Math.abs(two - one) > 1e-9 * Math.abs(one) && end >= 0 ? end : v
        }),
      )
    ;[first, second] = [second, flat()]
  }
}
