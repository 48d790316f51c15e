/** Oil and water carried through a solved network: every node mixes what flows in; cans take some out. */
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

const made = new WeakMap<Source['mode'], readonly SizeBin[]>()
/** Sizes of a mode; a build's modes are the same objects in every state. */
function binsOf({ mode }: Source): readonly SizeBin[] {
  const known = made.get(mode)
  if (known) return known
  const bins = sizeBins({ ...mode, fraction: 1 }, SIZES)
  made.set(mode, bins)
  return bins
}
const waterShare = (y: number) => (y * WATER_KG_PER_MOL) / (y * WATER_KG_PER_MOL + (1 - y) * DRY_GAS_KG_PER_MOL)
const moleFraction = (w: number) => w / WATER_KG_PER_MOL / (w / WATER_KG_PER_MOL + (1 - w) / DRY_GAS_KG_PER_MOL)

/** Oil by size in a kg of the gas that leaves the node at hand. */
const perKg = new Float64Array(2 * SIZES)

/** What has come to a node: kg/s of gas, of water, and of oil by size, mist first; no sizes where no oil has come. */
type Load = { gas: number; water: number; oil: Float64Array | undefined }
const emptyLoad = (): Load => ({ gas: 0, water: 0, oil: undefined })

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

/** Nodes from the highest pressure down. */
function downhill(pressure: CarriageInput['pressure']): readonly string[] {
  const order: string[] = []
  const heights: number[] = []
  // put in one by one: for the few joints of a circuit in half the time of `toSorted`
  for (const id in pressure) {
    const height = pressure[id]!
    let k = order.length
    for (; k > 0 && heights[k - 1]! < height; k--) {
      order[k] = order[k - 1]!
      heights[k] = heights[k - 1]!
    }
    order[k] = id
    heights[k] = height
  }
  return order
}

/** What the gas does in a can: its velocity, and the share of the catch that stays. */
type Crossing = { readonly faceVelocity: number; readonly kept: number }
function crossingOf(can: CanSpec, volumeFlow: number, pPa: number, input: CarriageInput): Crossing {
  const faceVelocity = volumeFlow / can.faceM2
  const limit = can.packed ? SOUDERS_BROWN_PAD : SOUDERS_BROWN_OPEN
  return { faceVelocity, kept: keptAgainstFlow(faceVelocity, limit, pPa, input.gasK, input.oilDensity) }
}

/** Share of each size that a can takes out, mist first, before some of it is torn off again. */
function captureOf(
  can: CanSpec,
  modes: readonly (readonly SizeBin[])[],
  volumeFlow: number,
  pPa: number,
  input: CarriageInput,
): Float64Array {
  const carrier = { flow: volumeFlow, pPa, tK: input.gasK, oilDensity: input.oilDensity }
  const laws = can.stages.map((stage) => stageEfficiency(stage, carrier))
  const lambda = meanFreePath(pPa, input.gasK)
  const takes = noSizes()
  let k = 0
  for (const sizes of modes) {
    for (const { d } of sizes) {
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
  const { pressure, gasK } = input
  const modes = [binsOf(input.mist), binsOf(input.splash)] as const
  const [mistBins, splashBins] = modes
  const order = downhill(pressure)
  const leaving = new Map<string, Stream[]>()
  let lifts = false
  const uphill = (s: Stream) => Math.abs(s.flow) > LIFTING && (pressure[s.from]! - pressure[s.to]!) * s.flow < 0
  for (const s of input.streams) {
    if (Math.abs(s.flow) < TRICKLE) continue
    lifts ||= uphill(s)
    const from = s.flow > 0 ? s.from : s.to
    const list = leaving.get(from)
    if (list) list.push(s)
    else leaving.set(from, [s])
  }
  const cans = new Map(input.cans.map((c) => [c.id, c]))
  let loads = new Map<string, Load>()
  let lifted = new Map<string, Load>()
  const within = (map: Map<string, Load>, id: string): Load => {
    let l = map.get(id)
    if (!l) {
      l = emptyLoad()
      map.set(id, l)
    }
    return l
  }
  const oil: Record<string, Oil> = {}
  const water: Record<string, number> = {}
  const results: Record<string, CanResult> = {}
  const airWater = waterShare(input.yAir)
  const begin = () => {
    nextSweep()
    loads = lifted
    lifted = new Map()
    const crank = within(loads, input.blowBy.node)
    crank.gas += Math.max(0, input.blowBy.flow)
    crank.water += Math.max(0, input.blowBy.flow) * waterShare(input.blowBy.y)
  }

  /** kg of oil by size that a kg of gas leaving a node carries, good until the next node; undefined where it carries none */
  function oilPerKg(id: string, here: Load, leavingKg: number, rho: number): Float64Array | undefined {
    if (input.boundaries.has(id)) return undefined
    const mist = input.mist.nodes.includes(id)
    const splash = input.splash.nodes.includes(id)
    if (!mist && !splash && !here.oil) return undefined
    if (here.oil && leavingKg > 0) for (let k = 0; k < 2 * SIZES; k++) perKg[k] = here.oil[k]! / leavingKg
    else perKg.fill(0)
    if (mist) for (let k = 0; k < SIZES; k++) perKg[k] = (input.mist.concentration / rho) * mistBins[k]!.share
    if (splash)
      for (let k = 0; k < SIZES; k++) perKg[SIZES + k] = (input.splash.concentration / rho) * splashBins[k]!.share
    return perKg
  }

  /** Oil of one origin, the sizes from `from` on: what a stream carries and what of it the can keeps; the rest goes on. */
  function sendOil(
    m: number,
    oilOf: Float64Array,
    takes: Float64Array | undefined,
    kept: number,
    to: Float64Array,
    from: number,
  ): Caught {
    let carried = 0
    let caught = 0
    for (let k = from; k < from + SIZES; k++) {
      const into = m * oilOf[k]!
      const stays = takes ? into * takes[k]! * kept : 0
      carried += into
      caught += stays
      to[k]! += into - stays
    }
    return { carried, caught }
  }

  function send(s: Stream, id: string, rho: number, oilOf: Float64Array | undefined, waterPerKg: number): void {
    const m = Math.abs(s.flow)
    const to = within(lifts && uphill(s) ? lifted : loads, s.flow > 0 ? s.to : s.from)
    const can = cans.get(s.id)
    const crossing = can && crossingOf(can, m / rho, pressure[id]!, input)
    let carried: Oil = NO_OIL
    let caught: Oil = NO_OIL
    if (oilOf) {
      const takes = can && captureOf(can, modes, m / rho, pressure[id]!, input)
      const kept = crossing?.kept ?? 1
      to.oil ??= noSizes()
      const mist = sendOil(m, oilOf, takes, kept, to.oil, 0)
      const splash = sendOil(m, oilOf, takes, kept, to.oil, SIZES)
      carried = { mist: mist.carried, splash: splash.carried }
      caught = { mist: mist.caught, splash: splash.caught }
    }
    let waterOn = m * waterPerKg
    water[s.id] = waterOn
    oil[s.id] = carried
    if (can && crossing) {
      const dry = (m * (1 - waterPerKg)) / DRY_GAS_KG_PER_MOL
      const pOut = pressure[s.flow > 0 ? s.to : s.from]!
      const { outK, condensed } = coolAndCondense(dry, moleFraction(waterPerKg), gasK, input.bonnetK, can.ua, pOut)
      const waterCaught = condensed * WATER_KG_PER_MOL
      waterOn -= waterCaught
      const { faceVelocity, kept } = crossing
      results[s.id] = { oilIn: carried, caught, waterCaught, outK, faceVelocity, kept }
    }
    to.gas += m
    to.water += waterOn
  }

  const visit = (id: string) => {
    const streams = leaving.get(id)
    if (!streams) return
    const here = within(loads, id)
    const rho = airDensity(pressure[id]!, gasK)
    // shared out over what leaves, not over what came: the balance of gas is solved to a billionth, that of oil and water is exact
    let leavingKg = 0
    for (const s of streams) leavingKg += Math.abs(s.flow)
    const oilOf = oilPerKg(id, here, leavingKg, rho)
    const waterPerKg = input.boundaries.has(id) || here.gas <= 0 ? airWater : here.water / leavingKg
    for (const s of streams) send(s, id, rho, oilOf, waterPerKg)
  }
  const sweep = () => {
    begin()
    order.forEach(visit)
  }
  sweep()
  if (lifts) goRound(sweep, () => lifted)
  return { oil, water, cans: results }
}

/**
 * What goes round is what comes round: sweeps until nothing changes. What a loop returns is nearly a share of what it was given, so every
 * third sweep goes straight to where such a series ends (Aitken), however much the loop returns.
 */
function goRound(sweep: () => void, liftedNow: () => Map<string, Load>): void {
  const flat = (): Float64Array =>
    Float64Array.from([...liftedNow().values()].flatMap((l) => [l.water, ...(l.oil ?? noSizes())]))
  const put = (x: Float64Array) => {
    let at = 0
    for (const l of liftedNow().values()) {
      l.water = x[at++]!
      l.oil ??= noSizes()
      for (let k = 0; k < 2 * SIZES; k++) l.oil[k] = x[at++]!
    }
  }
  let [first, second] = [flat(), flat()]
  for (let k = 1; k < SWEEPS; k++) {
    sweep()
    const third = flat()
    const scale = third.reduce((most, v) => Math.max(most, v), 0)
    if (third.length === second.length && third.every((v, i) => Math.abs(v - second[i]!) <= SETTLED * scale)) return
    if (k % 3 === 2 && third.length === first.length)
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
