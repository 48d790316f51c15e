/** Oil and water carried through a solved network: every node mixes what flows in; cans take some out. */
import { circleArea } from '../circle'
import { weakMemo } from '../weak-memo'
import { airDensity, airViscosity, meanFreePath } from '../gas/air'
import { bendDecay } from './bend'
import { coolAndCondense } from '../water/cooling'
import { DRY_GAS_KG_PER_MOL, WATER_KG_PER_MOL } from '../water/vapour'
import { sizeBins, slipOn, type Mode, type SizeBin } from './droplets'
import { keptAgainstFlow, SOUDERS_BROWN_OPEN, SOUDERS_BROWN_PAD, stageEfficiency, type Stage } from './stages'

/** An element's flow between two nodes, kg/s, positive from `from` to `to`. */
export type Stream = { readonly id: string; readonly from: string; readonly to: string; readonly flow: number }

export type CanSpec = {
  readonly id: string
  /** its stream is the one in which gas enters by the outlet */
  readonly backwards?: boolean
  /** it is full and passes everything on */
  readonly full?: boolean
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

/** A hose by what it does to oil: its bore, the degrees of all its bends, and how far its second end lies above its first, m, where known. */
export type OilyHose = { readonly boreM: number; readonly bendDeg: number; readonly riseM?: number }

export type CarriageInput = {
  /** by stream; what is not here is straight and level */
  readonly hoses?: ReadonlyMap<string, OilyHose>
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
  /** joints that open into a space where oil is made: what runs back to them is in the engine again */
  readonly ports?: ReadonlySet<string>
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

const waterShare = (y: number) => (y * WATER_KG_PER_MOL) / (y * WATER_KG_PER_MOL + (1 - y) * DRY_GAS_KG_PER_MOL)
const moleFraction = (w: number) => w / WATER_KG_PER_MOL / (w / WATER_KG_PER_MOL + (1 - w) / DRY_GAS_KG_PER_MOL)

/**
 * What has come to a node: kg/s of gas, of water, of oil by size, mist first (no sizes where no oil has come), and of oil that runs along the
 * wall, by where it was made.
 */
type Load = { gas: number; water: number; oil: Float64Array | undefined; filmMist: number; filmSplash: number }
const noLoad = (): Load => ({ gas: 0, water: 0, oil: undefined, filmMist: 0, filmSplash: 0 })

/** A node with what leaves it. What a pump lifts to it after its turn is there in the next sweep. */
type CarriageNode = {
  readonly pressure: number
  readonly boundary: boolean
  readonly makesMist: boolean
  readonly makesSplash: boolean
  /** film that runs back to it is in the engine again */
  readonly intoEngine: boolean
  /** the can that all its gas comes from: film that runs back is caught */
  behindCan: string | undefined
  readonly here: Load
  readonly lifted: Load
  readonly leaving: OutgoingStream[]
}
/** A stream as its gas runs. */
type OutgoingStream = {
  readonly id: string
  readonly kgS: number
  readonly to: CarriageNode
  readonly uphill: boolean
  readonly can: CanSpec | undefined
  readonly hose: OilyHose | undefined
  /** how far the gas climbs in it, m; negative where it falls */
  readonly climbM: number
  /** gas enters the can by its clean side */
  readonly wrongWay: boolean
}

/** Arrays by size, kept from sweep to sweep and from state to state: to make one costs more than all that is done in it. */
type Scratch = {
  /** oil by size in a kg of the gas that leaves the node at hand */
  readonly perKg: Float64Array
  /** an array of noughts, good until the sweep after the next: what a sweep has lifted is the next one's to use */
  readonly noSizes: () => Float64Array
  readonly nextSweep: () => void
  /** sizes of a mode; a build's modes are the same objects in every state */
  readonly binsOf: (source: Source) => readonly SizeBin[]
}

function makeScratch(): Scratch {
  const sets: readonly [Float64Array[], Float64Array[]] = [[], []]
  let set = 0
  let taken = 0
  const sizesOf = weakMemo((mode: Source['mode']) => sizeBins({ ...mode, fraction: 1 }, SIZES))
  return {
    perKg: new Float64Array(2 * SIZES),
    noSizes() {
      const sizes = (sets[set as 0 | 1][taken++] ??= new Float64Array(2 * SIZES))
      for (let k = 0; k < 2 * SIZES; k++) sizes[k] = 0
      return sizes
    },
    nextSweep() {
      set = 1 - set
      taken = 0
    },
    binsOf: ({ mode }) => sizesOf(mode),
  }
}

type Out = { oil: Record<string, Oil>; water: Record<string, number>; cans: Record<string, CanResult> }
/** One call of `carry`: what it was given, what it has found, and where it works. */
type CarriageRun = {
  readonly input: CarriageInput
  readonly out: Out
  readonly scratch: Scratch
  /** share of water by mass in gas that comes out of a boundary */
  readonly freshWater: number
}

const NO_OIL: Oil = { mist: 0, splash: 0 }
type Caught = { readonly carried: number; readonly caught: number }

/** Nodes from the highest pressure down, put in one by one: for the few joints of a circuit in half the time of `toSorted`. */
function nodesOf({ pressure, boundaries, mist, splash, ports }: CarriageInput): ReadonlyMap<string, CarriageNode> {
  const order: string[] = []
  for (const id in pressure) {
    let k = order.length
    for (; k > 0 && pressure[order[k - 1]!]! < pressure[id]!; k--) order[k] = order[k - 1]!
    order[k] = id
  }
  const nodes = new Map<string, CarriageNode>()
  for (const id of order) {
    const [makesMist, makesSplash] = [mist.nodes.includes(id), splash.nodes.includes(id)]
    nodes.set(id, {
      pressure: pressure[id]!,
      boundary: boundaries.has(id),
      makesMist,
      makesSplash,
      intoEngine: makesMist || makesSplash || ports?.has(id) === true,
      behindCan: undefined,
      here: noLoad(),
      lifted: noLoad(),
      leaving: [],
    })
  }
  return nodes
}

/** What the gas does in a can: its velocity, and the share of the catch that stays. */
type Crossing = { readonly faceVelocity: number; readonly kept: number }
function crossingOf({ input }: CarriageRun, can: CanSpec, volumeFlow: number, pPa: number): Crossing {
  const faceVelocity = volumeFlow / can.faceM2
  const limit = can.packed ? SOUDERS_BROWN_PAD : SOUDERS_BROWN_OPEN
  return {
    faceVelocity,
    kept: keptAgainstFlow(faceVelocity, limit, { pPa, tK: input.gasK, oilDensity: input.oilDensity }),
  }
}

/** Share of each size that a can takes out, mist first, before some of it is torn off again. */
function captureOf({ input, scratch }: CarriageRun, can: CanSpec, volumeFlow: number, pPa: number): Float64Array {
  const carrier = { flow: volumeFlow, pPa, tK: input.gasK, oilDensity: input.oilDensity }
  const laws = can.stages.map((stage) => stageEfficiency(stage, carrier))
  const lambda = meanFreePath(pPa, input.gasK)
  const takes = scratch.noSizes()
  let k = 0
  for (const source of [input.mist, input.splash]) {
    for (const { d } of scratch.binsOf(source)) {
      const cc = slipOn(lambda, d)
      let pass = 1
      for (const law of laws) pass *= 1 - law(d, cc)
      takes[k++] = 1 - pass
    }
  }
  return takes
}

export type Carry = (input: CarriageInput) => Carriage

/**
 * Carries oil, size by size, and water down the network. Gas runs from high pressure to low, so nodes are taken from the highest down and
 * each is complete when its turn comes. Only a pump lifts gas: what it brings to a node that has had its turn is there for the next sweep,
 * and sweeps are repeated until nothing changes. Crankcase and covers hold their concentration (oil is always at hand
 * there); other nodes mix.
 *
 * @example
 * import { carry } from '@/core/separation/carriage'
 *
 * console.log(
 *   Object.keys(
 *     carry({
 *       pressure: { a: 101400, b: 101325 },
 *       streams: [],
 *       cans: [],
 *       gasK: 350,
 *       bonnetK: 320,
 *       oilDensity: 850,
 *       mist: { mode: { mmd: 1e-6, gsd: 2 }, concentration: 0, nodes: ['a'] },
 *       splash: { mode: { mmd: 1e-5, gsd: 2 }, concentration: 0, nodes: ['a'] },
 *       blowBy: { node: 'a', flow: 0.001, y: 0.1 },
 *       yAir: 0.01,
 *       boundaries: new Set(['b']),
 *     }).cans,
 *   ).length,
 * ) // 0
 */
export const carry: Carry = (input) => makeCarry()(input)

/**
 * `carry` for who asks again and again: the arrays that it works in are kept.
 *
 * @example
 * import { makeCarry } from '@/core/separation/carriage'
 *
 * console.log(
 *   Object.keys(
 *     makeCarry()({
 *       pressure: { a: 101400, b: 101325 },
 *       streams: [],
 *       cans: [],
 *       gasK: 350,
 *       bonnetK: 320,
 *       oilDensity: 850,
 *       mist: { mode: { mmd: 1e-6, gsd: 2 }, concentration: 0, nodes: ['a'] },
 *       splash: { mode: { mmd: 1e-5, gsd: 2 }, concentration: 0, nodes: ['a'] },
 *       blowBy: { node: 'a', flow: 0.001, y: 0.1 },
 *       yAir: 0.01,
 *       boundaries: new Set(['b']),
 *     }).cans,
 *   ).length,
 * ) // 0
 */
export function makeCarry(): Carry {
  const scratch = makeScratch()
  return (input) =>
    carryIn({ input, scratch, out: { oil: {}, water: {}, cans: {} }, freshWater: waterShare(input.yAir) })
}

function carryIn(run: CarriageRun): Carriage {
  const { input, scratch, out } = run
  const nodes = nodesOf(input)
  const cans = new Map(input.cans.map((c) => [c.id, c]))
  const feeds = new Set<CarriageNode>()
  let lifts = false
  for (const { id, from, to, flow } of input.streams) {
    const kgS = Math.abs(flow)
    if (kgS < TRICKLE) continue
    const [source, sink] = flow > 0 ? [nodes.get(from)!, nodes.get(to)!] : [nodes.get(to)!, nodes.get(from)!]
    const uphill = kgS > LIFTING && source.pressure < sink.pressure
    lifts ||= uphill
    const can = cans.get(id)
    const hose = input.hoses?.get(id)
    sink.behindCan = feeds.has(sink) ? undefined : can?.id
    feeds.add(sink)
    const climbM = (hose?.riseM ?? 0) * Math.sign(flow)
    const wrongWay = can !== undefined && flow < 0 !== (can.backwards === true)
    source.leaving.push({ id, kgS, to: sink, uphill, can, hose, climbM, wrongWay })
  }
  const order = [...nodes.values()]
  const crank = nodes.get(input.blowBy.node)
  const burnt = Math.max(0, input.blowBy.flow)
  const sweep = () => {
    scratch.nextSweep()
    for (const { here, lifted } of order) takeOver(here, lifted)
    if (crank) {
      crank.here.gas += burnt
      crank.here.water += burnt * waterShare(input.blowBy.y)
    }
    for (const node of order) if (node.leaving.length > 0) leave(run, node)
  }
  sweep()
  if (lifts) goRound(sweep, order, scratch)
  return out
}

/** What was lifted in the last sweep is what is there when the next begins. */
function takeOver(here: Load, lifted: Load): void {
  here.gas = lifted.gas
  here.water = lifted.water
  here.oil = lifted.oil
  here.filmMist = lifted.filmMist
  here.filmSplash = lifted.filmSplash
  lifted.gas = 0
  lifted.water = 0
  lifted.oil = undefined
  lifted.filmMist = 0
  lifted.filmSplash = 0
}

/** What a kg of gas leaving a node carries. */
type Leaving = {
  readonly pPa: number
  readonly rho: number
  readonly oily: boolean
  readonly waterPerKg: number
  /** oil along the wall, kg a kg of gas */
  readonly film: Oil
}

/** Sends on all that has come to a node, shared out by gas. */
function leave(run: CarriageRun, node: CarriageNode): void {
  const pPa = node.pressure
  const rho = airDensity(pPa, run.input.gasK)
  // shared out over what leaves, not over what came: the balance of gas is solved to a billionth, that of oil and water is exact
  let leavingKg = 0
  for (const way of node.leaving) leavingKg += way.kgS
  const oily = oilPerKg(run, node, leavingKg, rho)
  const waterPerKg = node.boundary || node.here.gas <= 0 ? run.freshWater : node.here.water / leavingKg
  const { filmMist, filmSplash } = node.here
  // film that comes to where oil is made stays there
  const stays = node.boundary || node.makesMist || node.makesSplash
  const film =
    stays || leavingKg <= 0 || filmMist + filmSplash === 0
      ? NO_OIL
      : { mist: filmMist / leavingKg, splash: filmSplash / leavingKg }
  const leaving = { pPa, rho, oily, waterPerKg, film }
  for (const way of node.leaving) send(run, node, way, leaving)
}

/** Writes the oil by size that a kg of gas leaving a node carries; false where it carries none. */
function oilPerKg(
  run: CarriageRun,
  { boundary, makesMist, makesSplash, here }: CarriageNode,
  leavingKg: number,
  rho: number,
): boolean {
  if (boundary || !(makesMist || makesSplash || here.oil)) return false
  const { perKg } = run.scratch
  const share = leavingKg > 0 ? 1 / leavingKg : 0
  for (let k = 0; k < 2 * SIZES; k++) perKg[k] = here.oil ? here.oil[k]! * share : 0
  if (makesMist) pickUp(run.scratch, run.input.mist, rho, 0)
  if (makesSplash) pickUp(run.scratch, run.input.splash, rho, SIZES)
  return true
}
/** Oil is always at hand where it is made: the gas holds what it can. */
function pickUp({ perKg, binsOf }: Scratch, source: Source, rho: number, from: number): void {
  const bins = binsOf(source)
  for (let k = 0; k < SIZES; k++) perKg[from + k] = (source.concentration / rho) * bins[k]!.share
}

/** Share of its catch that a can keeps whose gas enters by the clean side (estimate, 0.1-0.6): what its pad holds is carried off. */
const WRONG_WAY = 1 / 3

/** A stream's flow, and what a can or the bends on it take of each size and keep. */
type Taking = { readonly kgS: number; readonly takes: Float64Array | undefined; readonly kept: number }

/** Oil of one origin, the sizes from `from` on: what a stream carries and what of it is taken; the rest goes on. */
function sendOil({ perKg }: Scratch, { kgS, takes, kept }: Taking, to: Float64Array, from: number): Caught {
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

/** Share of each size that the bends of a hose take to its wall. */
function thrownOf({ input, scratch }: CarriageRun, { boreM, bendDeg }: OilyHose, flowM3S: number, pPa: number) {
  const { gasK, oilDensity } = input
  const decay = bendDecay({ boreM, flowM3S, oilDensity, viscosity: airViscosity(gasK) }) * bendDeg
  const lambda = meanFreePath(pPa, gasK)
  const takes = scratch.noSizes()
  let k = 0
  for (const source of [input.mist, input.splash])
    for (const { d } of scratch.binsOf(source)) takes[k++] = 1 - 10 ** (-decay * d * d * slipOn(lambda, d))
  return takes
}

/**
 * Gas above this drags a film of oil up a wall, m/s at 1 kg/m3; the drag goes with rho v^2 (estimate, 9-15). Below half of it all runs back, in
 * between a part.
 */
export const FILM_DRAG = 12

/** Share of a film that goes on with the gas where it has to climb, 0-1: by its velocity m/s and density kg/m3. */
function draggedOn(velocity: number, rho: number): number {
  const t = Math.min(1, Math.max(0, (2 * velocity * Math.sqrt(rho)) / FILM_DRAG - 1))
  return t * t * (3 - 2 * t)
}

/** Share of the film in a stream that goes on: all of it but where it climbs in slow gas and has a place to run back to. */
function filmOn(node: CarriageNode, { hose, climbM, kgS }: OutgoingStream, rho: number): number {
  if (!hose || !(climbM > 0) || !(hose.boreM > 0) || !(node.intoEngine || node.behindCan !== undefined)) return 1
  return draggedOn(kgS / rho / circleArea(hose.boreM), rho)
}

/** Oil that ran back into the can that a node stands behind: it is caught after all. */
function runBack({ out }: CarriageRun, { behindCan }: CarriageNode, { mist, splash }: Oil): void {
  const can = behindCan === undefined ? undefined : out.cans[behindCan]
  if (!can) return
  const caught = { mist: can.caught.mist + mist, splash: can.caught.splash + splash }
  out.cans[behindCan!] = { ...can, caught }
}

function send(
  run: CarriageRun,
  node: CarriageNode,
  way: OutgoingStream,
  { pPa, rho, oily, waterPerKg, film }: Leaving,
): void {
  const { out, scratch } = run
  const { id, kgS, can, hose } = way
  const to = way.uphill ? way.to.lifted : way.to.here
  const crossing = can && crossingOf(run, can, kgS / rho, pPa)
  // along the wall oil comes to a can as a liquid: it keeps it all
  const wet = { mist: kgS * film.mist, splash: kgS * film.splash }
  let carried: Oil = wet
  let caught: Oil = NO_OIL
  const share = can?.full ? 0 : way.wrongWay ? WRONG_WAY : 1
  if (can) caught = { mist: wet.mist * share, splash: wet.splash * share }
  const on = filmOn(node, way, rho)
  let ranBack = { mist: (wet.mist - caught.mist) * (1 - on), splash: (wet.splash - caught.splash) * (1 - on) }
  to.filmMist += wet.mist - caught.mist - ranBack.mist
  to.filmSplash += wet.splash - caught.splash - ranBack.splash
  if (oily) {
    const bent = hose && hose.bendDeg > 0 && hose.boreM > 0
    const takes = can ? captureOf(run, can, kgS / rho, pPa) : bent ? thrownOf(run, hose, kgS / rho, pPa) : undefined
    const taking = { kgS, takes, kept: (crossing?.kept ?? 1) * share }
    to.oil ??= scratch.noSizes()
    const mist = sendOil(scratch, taking, to.oil, 0)
    const splash = sendOil(scratch, taking, to.oil, SIZES)
    carried = { mist: carried.mist + mist.carried, splash: carried.splash + splash.carried }
    if (can) caught = { mist: caught.mist + mist.caught, splash: caught.splash + splash.caught }
    else {
      to.filmMist += mist.caught * on
      to.filmSplash += splash.caught * on
      ranBack = { mist: ranBack.mist + mist.caught * (1 - on), splash: ranBack.splash + splash.caught * (1 - on) }
    }
  }
  if (on < 1) runBack(run, node, ranBack)
  let waterOn = kgS * waterPerKg
  out.water[id] = waterOn
  out.oil[id] = carried
  if (can && crossing) {
    const { gasK: tK, bonnetK: aroundK } = run.input
    const dryMolS = (kgS * (1 - waterPerKg)) / DRY_GAS_KG_PER_MOL
    const moist = { dryMolS, y: moleFraction(waterPerKg), tK, pPa: way.to.pressure }
    const { outK, condensed } = coolAndCondense(moist, { ua: can.ua, aroundK })
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
function goRound(sweep: () => void, nodes: readonly CarriageNode[], { noSizes }: Scratch): void {
  // what is lifted, node by node, written over what was two sweeps ago
  const each = 3 + 2 * SIZES
  const copyLifted = (into: Float64Array): Float64Array => {
    for (const [n, { lifted }] of nodes.entries()) {
      let at = n * each
      into[at++] = lifted.water
      into[at++] = lifted.filmMist
      into[at++] = lifted.filmSplash
      if (lifted.oil) into.set(lifted.oil, at)
      else into.fill(0, at, at + 2 * SIZES)
    }
    return into
  }
  const put = (x: Float64Array) => {
    let at = 0
    for (const { lifted } of nodes) {
      lifted.water = x[at++]!
      lifted.filmMist = x[at++]!
      lifted.filmSplash = x[at++]!
      lifted.oil ??= noSizes()
      for (let k = 0; k < 2 * SIZES; k++) lifted.oil[k] = x[at++]!
    }
  }
  const buffer = (): Float64Array => new Float64Array(nodes.length * each)
  let [first, second, third] = [copyLifted(buffer()), copyLifted(buffer()), buffer()]
  for (let k = 1; k < SWEEPS; k++) {
    sweep()
    copyLifted(third)
    let scale = 0
    for (const v of third) scale = Math.max(scale, v)
    if (third.every((v, i) => Math.abs(v - second[i]!) <= SETTLED * scale)) return
    if (k % 3 === 2)
      put(
        third.map((v, i) => {
          const [one, two] = [second[i]! - first[i]!, v - second[i]!]
          const end = v - (two * two) / (two - one)
          return Math.abs(two - one) > 1e-9 * Math.abs(one) && end >= 0 ? end : v
        }),
      )
    ;[first, second, third] = [second, copyLifted(third), first]
  }
}
