/** Oil and water carried through a solved network: every node mixes what flows in; cans take some out. */
import { airDensity } from '../gas/air'
import { condensedWater, DRY_GAS_KG_PER_MOL, outletTemperature, WATER_KG_PER_MOL } from '../water/vapour'
import { sizeBins, type Mode } from './droplets'
import { keptAgainstFlow, SOUDERS_BROWN_OPEN, SOUDERS_BROWN_PAD, stageEfficiency, type Stage } from './stages'

/** An element's flow between two nodes, kg/s, positive from `from` to `to`. */
export type Stream = { readonly id: string; readonly from: string; readonly to: string; readonly flow: number }

export type CanSpec = {
  readonly id: string
  readonly stages: readonly Stage[]
  readonly faceM2: number
  readonly packed: boolean
  /** W/K to the surroundings */ readonly ua: number
}

export type CarriageInput = {
  readonly pressure: Readonly<Record<string, number>>
  readonly streams: readonly Stream[]
  readonly cans: readonly CanSpec[]
  readonly gasK: number
  readonly bonnetK: number
  readonly oilDensity: number
  /** mist is made in the crankcase, splash where a cover's gas is taken off; kg of oil per m3 of gas there */
  readonly mist: {
    readonly mode: Omit<Mode, 'fraction'>
    readonly concentration: number
    readonly nodes: readonly string[]
  }
  readonly splash: {
    readonly mode: Omit<Mode, 'fraction'>
    readonly concentration: number
    readonly nodes: readonly string[]
  }
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
  /** oil kg/s carried by each stream, and its concentration as kg per kg of gas */
  readonly oil: Readonly<Record<string, Oil>>
  /** water vapour kg/s */
  readonly water: Readonly<Record<string, number>>
  readonly cans: Readonly<Record<string, CanResult>>
}

const SIZES = 16
/** Sweeps where a pump sends gas round: a loop that returns nine tenths of it is within 1 % after these. */
const SWEEPS = 40

/**
 * Carries oil, size by size, and water down the network. Gas runs from high pressure to low, so nodes are taken from the highest down and
 * each is complete when its turn comes. Only a pump lifts gas: what it brings to a node that has had its turn is there for the next sweep,
 * and sweeps are repeated until what goes round no longer matters. Crankcase and covers hold their concentration (oil is always at hand
 * there); other nodes mix.
 */
export function carry(input: CarriageInput): Carriage {
  const bins = {
    mist: sizeBins({ ...input.mist.mode, fraction: 1 }, SIZES),
    splash: sizeBins({ ...input.splash.mode, fraction: 1 }, SIZES),
  }
  const order = Object.keys(input.pressure).toSorted((a, b) => input.pressure[b]! - input.pressure[a]!)
  const leaving = new Map<string, Stream[]>()
  for (const s of input.streams) {
    if (s.flow === 0) continue
    const from = s.flow > 0 ? s.from : s.to
    leaving.set(from, [...(leaving.get(from) ?? []), s])
  }
  const cans = new Map(input.cans.map((c) => [c.id, c]))
  type Load = { gas: number; mist: Float64Array; splash: Float64Array; water: number }
  const empty = (): Load => ({ gas: 0, mist: new Float64Array(SIZES), splash: new Float64Array(SIZES), water: 0 })
  let loads = new Map<string, Load>()
  let lifted = new Map<string, Load>()
  const within = (map: Map<string, Load>, id: string): Load => {
    let l = map.get(id)
    if (!l) {
      l = empty()
      map.set(id, l)
    }
    return l
  }
  const loadOf = (id: string): Load => within(loads, id)
  const uphill = (s: Stream) =>
    Math.abs(s.flow) > 1e-9 && (input.pressure[s.from]! - input.pressure[s.to]!) * s.flow < 0
  const sweeps = input.streams.some(uphill) ? SWEEPS : 1
  const waterShare = (y: number) => (y * WATER_KG_PER_MOL) / (y * WATER_KG_PER_MOL + (1 - y) * DRY_GAS_KG_PER_MOL)
  const yOf = (w: number) => w / WATER_KG_PER_MOL / (w / WATER_KG_PER_MOL + (1 - w) / DRY_GAS_KG_PER_MOL)
  const oil: Record<string, Oil> = {}
  const water: Record<string, number> = {}
  const results: Record<string, CanResult> = {}
  const airWater = waterShare(input.yAir)

  const begin = () => {
    loads = lifted
    lifted = new Map()
    const crank = loadOf(input.blowBy.node)
    crank.gas += Math.max(0, input.blowBy.flow)
    crank.water += Math.max(0, input.blowBy.flow) * waterShare(input.blowBy.y)
  }
  const visit = (id: string) => {
    const here = loadOf(id)
    const boundary = input.boundaries.has(id)
    const rho = airDensity(input.pressure[id]!, input.gasK)
    const perKg = (kind: 'mist' | 'splash', k: number) => {
      if (boundary) return 0
      if (input[kind].nodes.includes(id)) return (input[kind].concentration / rho) * bins[kind][k]!.share
      return here.gas > 0 ? here[kind][k]! / here.gas : 0
    }
    const waterPerKg = boundary || here.gas <= 0 ? airWater : here.water / here.gas
    for (const s of leaving.get(id) ?? []) {
      const m = Math.abs(s.flow)
      const to = within(uphill(s) ? lifted : loads, s.flow > 0 ? s.to : s.from)
      to.gas += m
      const carried = { mist: 0, splash: 0 }
      let waterOn = m * waterPerKg
      water[s.id] = waterOn
      const can = cans.get(s.id)
      const q = m / rho
      const carrier = { flow: q, pPa: input.pressure[id]!, tK: input.gasK, oilDensity: input.oilDensity }
      const laws = can?.stages.map((stage) => stageEfficiency(stage, carrier)) ?? []
      const faceVelocity = can ? q / can.faceM2 : 0
      const kept = can
        ? keptAgainstFlow(
            faceVelocity,
            can.packed ? SOUDERS_BROWN_PAD : SOUDERS_BROWN_OPEN,
            carrier.pPa,
            carrier.tK,
            input.oilDensity,
          )
        : 0
      const caught = { mist: 0, splash: 0 }
      for (const kind of ['mist', 'splash'] as const) {
        for (let k = 0; k < SIZES; k++) {
          const into = m * perKg(kind, k)
          if (into === 0) continue
          carried[kind] += into
          let pass = 1
          for (const law of laws) pass *= 1 - law(bins[kind][k]!.d)
          const stays = into * (1 - pass) * kept
          caught[kind] += stays
          to[kind][k]! += into - stays
        }
      }
      oil[s.id] = carried
      if (can) {
        const outK = outletTemperature(input.gasK, input.bonnetK, can.ua, m)
        const w = waterPerKg
        const dry = (m * (1 - w)) / DRY_GAS_KG_PER_MOL
        const pOut = input.pressure[s.flow > 0 ? s.to : s.from]!
        const condensed = condensedWater(dry, yOf(w), outK, pOut).molPerS * WATER_KG_PER_MOL
        waterOn -= condensed
        results[s.id] = { oilIn: carried, caught, waterCaught: condensed, outK, faceVelocity, kept }
      }
      to.water += waterOn
    }
  }
  for (let k = 0; k < sweeps; k++) {
    begin()
    order.forEach(visit)
  }
  return { oil, water, cans: results }
}
