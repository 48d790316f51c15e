/** One state of a variant, solved: pressures, flows, oil and water. */
import { airDensity, GAS_R } from '@/core/gas/air'
import { oilDensity } from '@/core/gas/oil'
import type { Network } from '@/core/network/elements'
import { solveNetwork } from '@/core/network/solve'
import { carry, type CanSpec } from '@/core/separation/carriage'
import { MIST, mistConcentration, SPLASH, splashConcentration } from '@/core/separation/source'
import type { Stage } from '@/core/separation/stages'
import { toSi } from '@/core/units/units'
import { saturationPressure } from '@/core/water/vapour'
import type { OperatingState } from '@/core/engine/states'
import type { Passage, StateResult } from './results'
import type { Build, StageSpec, Variant } from '../document/schema'
import { isBoundary, isThrough } from '../document/kinds'
import { capacityAt } from './capacity'
import { blowByIn, type EngineModel } from './engine'
import { boundaryPressure, crankcaseNode, netInflow, networkOf, nodeOfPart, topologyOf, type Topology } from './network'
import { LIMITS } from '../verdicts/limits'

const mm = (v: number) => toSi('length', v, 'mm')
const cm2 = (v: number) => toSi('area', v, 'cm2')

/** Baffles at the pick-up: the circuit's own where it brings them, else the engine's. */
export const pickUpOf = (build: Build, variant: Variant) => variant.pickUp ?? build.engine.pickUp

export function stageOf(s: StageSpec): Stage {
  switch (s.type) {
    case 'impactor':
      return { type: 'impactor', jets: s.jets, jetDiameter: mm(s.jetDiameterMm) }
    case 'cyclone':
      return { type: 'cyclone', inletWidth: mm(s.inletWidthMm), inletHeight: mm(s.inletHeightMm), turns: s.turns }
    case 'settling':
      return { type: 'settling', area: cm2(s.floorCm2) }
    case 'fibre':
      return {
        type: 'fibre',
        fibreDiameter: s.fibreUm * 1e-6,
        solidity: s.solidityPct / 100,
        thickness: mm(s.thicknessMm),
        area: cm2(s.faceCm2),
      }
  }
}

/** Share of blow-by that is burnt gas, and the share of water in that (methods 6; the first an estimate, 30-50 %). */
export const BURNT_SHARE = 0.4
export const BURNT_WATER = 0.13
/** Heat passed by the wall of a can or hose in moving air, W/(m2 K) (estimate). */
export const CAN_U = 20

/** How much colder than a warm engine's: the short trip that never warms through. */
export type Warmth = { readonly gasLess: number; readonly bonnetLess: number }
const WARM: Warmth = { gasLess: 0, bonnetLess: 0 }

/** Outside of the hoses that lead to a can's inlet, m2: gas cools in them too, and what condenses runs on into the can. Walls of 3.5 mm. */
const hoseSurface = (variant: Variant, can: string): number =>
  variant.lines.reduce(
    (sum, l) =>
      l.kind === 'hose' && ((l.to.part === can && l.to.port === 'in') || (l.from.part === can && l.from.port === 'in'))
        ? sum + Math.PI * mm(l.boreMm + 7) * mm(l.lengthMm)
        : sum,
    0,
  )

/** Water mole fraction of the surroundings' air. */
export const airWater = (build: Build, pPa: number): number =>
  Math.min(
    0.2,
    ((build.site.humidityPct / 100) * saturationPressure(toSi('temperature', build.site.ambientC, 'C'))) / pPa,
  )

function carriageOf(
  build: Build,
  variant: Variant,
  topology: Topology,
  network: Network,
  state: OperatingState,
  amb: { pressurePa: number },
  pressure: Readonly<Record<string, number>>,
  flow: Readonly<Record<string, number>>,
  blowBy: number,
  warmth: Warmth,
) {
  const spaces = (kind: string) =>
    variant.parts.filter((p) => p.kind === kind).map((p) => nodeOfPart(topology, p) ?? p.id)
  const crankcase = spaces('crankcase')[0]!
  const covers = spaces('cover')
  const cans: CanSpec[] = variant.parts.flatMap((p) =>
    p.kind === 'can'
      ? [
          {
            id: p.id,
            stages: p.stages.map(stageOf),
            faceM2: cm2(p.faceCm2),
            packed: p.packed,
            ua: CAN_U * (cm2(p.surfaceCm2) + hoseSurface(variant, p.id)),
          },
        ]
      : [],
  )
  const yAir = airWater(build, amb.pressurePa)
  const bonnetK = state.bonnetK - warmth.bonnetLess
  return carry({
    pressure,
    cans,
    yAir,
    streams: network.elements.map((e) => ({ id: e.id, from: e.from, to: e.to, flow: flow[e.id] ?? 0 })),
    gasK: Math.max(bonnetK, state.gasK - warmth.gasLess),
    bonnetK,
    oilDensity: oilDensity(state.oilK),
    mist: { mode: MIST, concentration: mistConcentration(state.load), nodes: [crankcase] },
    splash: {
      mode: SPLASH[pickUpOf(build, variant)],
      concentration: splashConcentration(pickUpOf(build, variant), state.rpm),
      nodes: covers.length > 0 ? covers : [crankcase],
    },
    blowBy: { node: crankcase, flow: blowBy, y: BURNT_SHARE * BURNT_WATER + yAir * (1 - BURNT_SHARE) },
    boundaries: new Set(
      Object.entries(network.nodes)
        .filter(([, n]) => n.p !== undefined)
        .map(([id]) => id),
    ),
  })
}

/** Solves `state`. With `cold`, water caught in each can by an engine that never warms through comes along, kg/s. */
export function solveState(
  build: Build,
  variant: Variant,
  topology: Topology,
  engine: EngineModel,
  state: OperatingState,
  cold?: Warmth,
): { result: StateResult; coldWater: Readonly<Record<string, number>> } {
  const blowBy = blowByIn(engine, state)
  const base = { id: state.id, operating: state, blowBy }
  const crankcase = variant.parts.find((p) => p.kind === 'crankcase')
  if (!crankcase || !Number.isFinite(blowBy))
    return {
      result: { ...base, solved: false, reason: 'There is no crankcase with a blow-by to solve for.', at: undefined },
      coldWater: {},
    }
  const network = networkOf(variant, topology, state, engine.amb, blowBy)
  const solved = solveNetwork(network)
  if (!solved.ok)
    return { result: { ...base, solved: false, reason: named(solved.reason, variant), at: solved.at }, coldWater: {} }
  const { pressure, flow, residual, iterations } = solved.value
  const p0 = engine.amb.pressurePa
  const load = carriageOf(build, variant, topology, network, state, engine.amb, pressure, flow, blowBy, WARM)

  const passages: Record<string, Passage> = {}
  const into: Record<string, { gas: number; oil: { mist: number; splash: number } }> = {}
  for (const part of variant.parts)
    if (boundaryPressure(part, state, engine.amb) !== undefined) into[part.id] = { gas: 0, oil: { mist: 0, splash: 0 } }
  const boundaryAt = new Map(
    Object.keys(into).map((id) => [
      topology.nodeOf.get(`${id}.${variant.parts.find((p) => p.id === id)?.ports[0]?.id ?? ''}`) ?? id,
      id,
    ]),
  )
  for (const e of network.elements) {
    const m = flow[e.id]!
    const p1 = pressure[e.from]!
    const p2 = pressure[e.to]!
    const oil = load.oil[e.id] ?? { mist: 0, splash: 0 }
    const rho = (p1 + p2) / 2 / (GAS_R * state.gasK)
    const bore = e.kind === 'hose' ? e.boreM : 0
    passages[e.id] = {
      flow: m,
      gaugeFrom: p1 - p0,
      gaugeTo: p2 - p0,
      velocity: bore > 0 ? Math.abs(m) / ((rho * Math.PI * bore * bore) / 4) : 0,
      oil,
      water: load.water[e.id] ?? 0,
    }
    const caught = load.cans[e.id]?.caught
    for (const [node, gas] of [
      [e.to, m],
      [e.from, -m],
    ] as const) {
      const boundary = boundaryAt.get(node)
      if (boundary === undefined) continue
      const sum = into[boundary]!
      sum.gas += gas
      if (gas > 0) {
        sum.oil.mist += oil.mist - (caught?.mist ?? 0)
        sum.oil.splash += oil.splash - (caught?.splash ?? 0)
      }
    }
  }
  const gauge: Record<string, number> = {}
  for (const [id, p] of Object.entries(pressure)) gauge[id] = p - p0
  for (const [port, node] of topology.nodeOf) if (pressure[node] !== undefined) gauge[port] = pressure[node] - p0
  for (const part of variant.parts)
    if (!isThrough(part.kind) && part.ports[0]) {
      const g = gauge[`${part.id}.${part.ports[0].id}`]
      if (g !== undefined) gauge[part.id] = g
    }
  const coldWater: Record<string, number> = {}
  if (cold) {
    const chilled = carriageOf(build, variant, topology, network, state, engine.amb, pressure, flow, blowBy, cold)
    for (const [id, c] of Object.entries(chilled.cans)) coldWater[id] = c.waterCaught
  }
  return {
    result: {
      ...base,
      solved: true,
      crankcaseGauge: gauge[crankcase.id]!,
      gauge,
      passages,
      cans: load.cans,
      into,
      residual,
      iterations,
    },
    coldWater,
  }
}

/** The gas alone, for trying out what a change would do: no oil, no water, a third of the time. */
export type GasResult = {
  readonly operating: OperatingState
  readonly crankcaseGauge: number
  /** kg/s through each line and part */ readonly flow: Readonly<Record<string, number>>
  /** kg/s into each boundary part */ readonly into: Readonly<Record<string, { readonly gas: number }>>
}

export function solveGas(variant: Variant, engine: EngineModel, state: OperatingState): GasResult | undefined {
  const topology = topologyOf(variant)
  const crankcase = crankcaseNode(variant, topology)
  if (crankcase === undefined) return undefined
  const network = networkOf(variant, topology, state, engine.amb, blowByIn(engine, state))
  const solved = solveNetwork(network)
  if (!solved.ok) return undefined
  const { flow, pressure } = solved.value
  const into: Record<string, { gas: number }> = {}
  for (const part of variant.parts) {
    if (!isBoundary(part.kind)) continue
    const node = nodeOfPart(topology, part)
    if (node !== undefined) into[part.id] = { gas: netInflow(network, flow, new Set([node])) }
  }
  return { operating: state, crankcaseGauge: pressure[crankcase]! - engine.amb.pressurePa, flow, into }
}

/** The core speaks of ids; a person knows names. */
function named(reason: string, variant: Variant): string {
  let text = reason
  for (const p of [...variant.parts, ...variant.lines].toSorted((a, b) => b.id.length - a.id.length))
    text = text.replace(new RegExp(`(^|\\s)${p.id.replaceAll(/[^\w-]/g, '')}(?=[\\s.:,])`), `$1${p.name}`)
  return text
}

/** Mean density of gas in a state at a gauge pressure, for screens that show actual volumes. */
export const gasDensity = (state: OperatingState, gaugePa: number, ambientPa: number): number =>
  airDensity(ambientPa + gaugePa, state.gasK)

/** What the circuit would carry in a state with the crankcase at the highest pressure that seals bear for long, kg/s. */
export function stateCapacity(
  variant: Variant,
  topology: Topology,
  engine: EngineModel,
  state: OperatingState,
): number | undefined {
  const node = crankcaseNode(variant, topology)
  return node === undefined
    ? undefined
    : capacityAt(networkOf(variant, topology, state, engine.amb, 0), node, engine.amb.pressurePa + LIMITS.crankcaseHigh)
}
