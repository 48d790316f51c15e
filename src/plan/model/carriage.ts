/** What the gas carries, as the document says it: pick-up, cans, wall temperatures, humidity. */
import type { OperatingState } from '@/core/engine/states'
import { oilDensity } from '@/core/gas/oil'
import type { Network } from '@/core/network/elements'
import type { Solution } from '@/core/network/solve'
import type { HoseShape } from '@/core/network/hose'
import type { OilyHose, CanSpec, Carriage, Carry, Oil, Stream } from '@/core/separation/carriage'
import { MIST, mistConcentration, SPLASH, levelFactor, splashConcentration } from '@/core/separation/source'
import { toSi } from '@/core/units/units'
import { burntWater, FUEL_FORMULAS } from '@/core/water/fuel'
import { saturationPressure } from '@/core/water/vapour'
import type { Build, Engine, PartKind, Variant } from '../document/schema'
import { isBoundary } from '../document/kinds'
import { coverPort, nodeOfPart, type Resolved } from './resolve'
import { baffleStages, coverBaffleOf } from '../catalogue/cover-baffle'
import { stagesOf } from '../catalogue/stages'

const cm2 = (v: number) => toSi('area', v, 'cm2')

/** Baffles at the pick-up: the circuit's own where it brings them, else the engine's. */
export const pickUpOf = (build: Build, variant: Variant) => variant.pickUp ?? build.engine.pickUp

/** Share of blow-by that is burnt gas (methods 6; an estimate, 30-50 %). */
export const BURNT_SHARE = 0.4
/**
 * Heat passed by the wall of a can or hose in moving air, W/(m2 K): two gas films in series (estimate, x/ 1.6; Incropera: free convection
 * of gases 2-25).
 */
export const CAN_U = 15

/** What is about the gas: outside air, C; how much colder than in a warm engine it is, K; and what its walls stand in, K. */
export type Warmth = { readonly airC: number; readonly gasLess: number; readonly bonnetK: number }

/** Walls of hoses, m (estimate). */
const WALL_M = 3.5e-3
/** Outside of the hoses that lead to a can's inlet, m2: gas cools in them too, and what condenses runs on into the can. */
export function hoseSurface(r: Resolved, can: string): number {
  const inlet = (end: { part: string; port: string }) => end.part === can && end.port === 'in'
  return r.variant.lines.reduce((sum, l) => {
    if (l.kind !== 'hose' || !(inlet(l.to) || inlet(l.from))) return sum
    const { boreM, lengthM } = r.lines.get(l.id)!.shape
    return sum + Math.PI * (boreM + 2 * WALL_M) * lengthM
  }, 0)
}

/** Water mole fraction of the surroundings' air at `pPa`, as warm as the site has it or, in another month, `airC`. */
export const airWater = ({ site }: Pick<Build, 'site'>, pPa: number, airC = site.ambientC): number =>
  Math.min(0.2, ((site.humidityPct / 100) * saturationPressure(toSi('temperature', airC, 'C'))) / pPa)

/** Water mole fraction of an engine's blow-by: its fuel's own, and that of the air in it. */
export const blowByWater = ({ fuel = 'petrol' }: Pick<Engine, 'fuel'>, yAir: number): number =>
  BURNT_SHARE * burntWater(FUEL_FORMULAS[fuel]) + yAir * (1 - BURNT_SHARE)

/** What the cans of a plan are to the carriage, and where its oil comes from; the same in every state. */
export type Sources = {
  readonly crankcase: string
  readonly covers: readonly string[]
  /** joints that hold a pressure: gas that comes out of them is fresh */
  readonly boundaries: ReadonlySet<string>
  readonly cans: readonly CanSpec[]
  readonly hoses: ReadonlyMap<string, OilyHose>
  /** joints behind the baffle and nipple of a cover: film that runs back to them is in the engine again */
  readonly ports: ReadonlySet<string>
  readonly oily: boolean
}

/** Degrees of all bends and bent ends of a hose. */
const turnedBy = ({ bends = [], mitres = [] }: HoseShape): number =>
  bends.reduce((sum, b) => sum + b.angleDeg, 0) + mitres.reduce((sum, a) => sum + a, 0)

/** Plates under covers' outlets: they catch as a can does, and what they catch is in the engine still. */
const plated = (r: Resolved): readonly CanSpec[] =>
  [...r.topology.baffled].flatMap(([id, at]) => {
    const baffle = coverBaffleOf(coverPort(r, at).port)
    return baffle ? [{ id, stages: baffleStages(baffle), faceM2: WIDE_OPEN, packed: false, ua: 0 }] : []
  })
/** A cover is so wide that no gas of an engine tears off what hangs on its walls, m2. */
const WIDE_OPEN = 1

/** Where oil gets into the gas of a plan: the pick-ups of its covers, crankcase and tank. */
export function sourcesOf(r: Resolved): Sources {
  const spaces = (kind: PartKind) => r.variant.parts.filter((p) => p.kind === kind).map((p) => nodeOfPart(r, p) ?? p.id)
  return {
    crankcase: spaces('crankcase')[0] ?? '',
    // an oil tank is a pick-up of its own: what the scavenge pump whips up leaves by its vent
    covers: [...spaces('cover'), ...spaces('tank')],
    boundaries: new Set(r.variant.parts.flatMap((p) => (isBoundary(p.kind) ? (nodeOfPart(r, p) ?? p.id) : []))),
    oily: true,
    hoses: new Map(
      [...r.lines].map(([id, { shape, riseM }]) => [id, { boreM: shape.boreM, bendDeg: turnedBy(shape), riseM }]),
    ),
    ports: new Set([...r.topology.baffled.keys()].map((port) => r.topology.nodeOf.get(port)!)),
    cans: [
      ...plated(r),
      ...r.variant.parts.flatMap((p) =>
        p.kind === 'can'
          ? [
              {
                id: p.id,
                stages: stagesOf(p),
                // clogged media leave the gas less of the section
                faceM2: cm2(p.faceCm2) / (p.packed ? (p.fouling ?? 1) : 1),
                packed: p.packed,
                full: p.stuck === 'full',
                ua: CAN_U * (cm2(p.surfaceCm2) + hoseSurface(r, p.id)),
              },
            ]
          : [],
      ),
    ],
  }
}

/** A plan whose gas carries: who carries it, and where its oil comes from. */
export type CarryingPlan = {
  readonly build: Build
  readonly variant: Variant
  readonly sources: Sources
  readonly carry: Carry
}

/** A state that is solved: what the carriage needs of it. */
export type SolvedRun = {
  readonly operating: OperatingState
  readonly network: Network
  readonly solution: Solution
  readonly blowBy: number
  readonly ambientPa: number
  /** gas that changes ends with the pistons, besides the flow of the solution, kg/s each way by element */
  readonly exchange?: Readonly<Record<string, number>>
}

/** Oil and water through a solved state of a warm engine. */
export const carriageIn = (of: CarryingPlan, s: SolvedRun): Carriage =>
  carriageAt(of, s, { airC: of.build.site.ambientC, gasLess: 0, bonnetK: s.operating.bonnetK })

/** Water caught by each can of a solved state, kg/s, in other weather or by a colder engine. */
export function waterCaughtIn(of: CarryingPlan, s: SolvedRun, warmth: Warmth): Record<string, number> {
  // where no oil is made none is carried: water is all that is asked for
  return waterByCan(carriageAt({ ...of, sources: { ...of.sources, oily: false } }, s, warmth))
}

/** Water that each can of a carriage catches, kg/s. */
export const waterByCan = ({ cans }: Carriage): Record<string, number> =>
  Object.fromEntries(Object.entries(cans).map(([id, can]) => [id, can.waterCaught]))

const reversedHose = ({ riseM, ...hose }: OilyHose): OilyHose => ({
  ...hose,
  riseM: riseM === undefined ? undefined : -riseM,
})

/** The way back of an element in which gas runs both ways. */
const back = (id: string) => `${id}<`

/** Streams of a solution; of an element that breathes, one each way. */
function streamsOf({ network, solution, exchange }: SolvedRun): Stream[] {
  const { flow } = solution
  if (!exchange) return network.elements.map(({ id, from, to }) => ({ id, from, to, flow: flow[id] ?? 0 }))
  return network.elements.flatMap((e) => {
    const net = flow[e.id] ?? 0
    const swing = exchange[e.id] ?? 0
    if (swing <= 0) return [{ id: e.id, from: e.from, to: e.to, flow: net }]
    return [
      { id: e.id, from: e.from, to: e.to, flow: Math.max(0, net) + swing },
      { id: back(e.id), from: e.to, to: e.from, flow: Math.max(0, -net) + swing },
    ]
  })
}

const both = (a: Oil, b: Oil | undefined): Oil => (b ? { mist: a.mist + b.mist, splash: a.splash + b.splash } : a)

/** What went both ways by element again. */
function joined(load: Carriage, { exchange, solution }: SolvedRun): Carriage {
  if (!exchange) return load
  // along the way that most of it goes
  const netWater = (id: string) => {
    const net = load.water[id]! - (load.water[back(id)] ?? 0)
    return (solution.flow[id] ?? 0) < 0 ? -net : net
  }
  const ids = Object.keys(load.oil).filter((id) => !id.endsWith('<'))
  return {
    oil: Object.fromEntries(ids.map((id) => [id, both(load.oil[id]!, load.oil[back(id)])])),
    water: Object.fromEntries(ids.map((id) => [id, netWater(id)])),
    cans: Object.fromEntries(
      Object.entries(load.cans).flatMap(([id, can]) => {
        if (id.endsWith('<')) return []
        const other = load.cans[back(id)]
        if (!other) return [[id, can]]
        return [
          [
            id,
            {
              ...can,
              oilIn: both(can.oilIn, other.oilIn),
              caught: both(can.caught, other.caught),
              waterCaught: can.waterCaught + other.waterCaught,
            },
          ],
        ]
      }),
    ),
  }
}

function carriageAt({ build, variant, sources, carry }: CarryingPlan, s: SolvedRun, warmth: Warmth): Carriage {
  const { operating, solution, blowBy, ambientPa, exchange } = s
  const { crankcase, covers, boundaries, cans, hoses, oily, ports } = sources
  const pickUp = pickUpOf(build, variant)
  const yAir = airWater(build, ambientPa, warmth.airC)
  const { bonnetK } = warmth
  const load = carry({
    pressure: solution.pressure,
    cans: exchange ? cans.flatMap((can) => [can, { ...can, id: back(can.id), backwards: true }]) : cans,
    hoses: exchange
      ? new Map([...hoses].flatMap(([id, h]) => [[id, h] as const, [back(id), reversedHose(h)] as const]))
      : hoses,
    yAir,
    streams: streamsOf(s),
    gasK: Math.max(bonnetK, operating.gasK - warmth.gasLess),
    bonnetK,
    oilDensity: oilDensity(operating.oilK),
    mist: { mode: MIST, concentration: mistConcentration(operating.load), nodes: oily ? [crankcase] : [] },
    splash: {
      mode: SPLASH[pickUp],
      concentration: splashConcentration(pickUp, operating.rpm) * levelFactor((build.engine.oilLevelPct ?? 0) / 100),
      nodes: !oily ? [] : covers.length > 0 ? covers : [crankcase],
    },
    blowBy: { node: crankcase, flow: blowBy, y: blowByWater(build.engine, yAir) },
    boundaries,
    ports,
  })
  return joined(load, s)
}
