/** The states of a plan, solved: pressures, flows, oil and water. */
import { keptFor } from '@/core/kept'
import { airDensity, GAS_R } from '@/core/gas/air'
import type { OperatingState, StateId } from '@/core/engine/states'
import type { Element, Network } from '@/core/network/elements'
import { solutionOf, solveNetwork, type Solution } from '@/core/network/solve'
import { solverFor, type Solver } from '@/core/network/solver'
import type { Carriage, Oil } from '@/core/separation/carriage'
import { isBoundary } from '../document/kinds'
import type { Build, Variant } from '../document/schema'
import { LIMITS } from './limits'
import { carriageIn, sourcesOf, waterCaughtIn, type Running, type Warmth } from './carriage'
import { blowByIn, type EngineModel } from './engine'
import { netInflow, networkOf } from './network'
import { crankcaseNode, nodeOfPart, resolve, type Resolved, type Topology } from './resolve'
import { LET_GO, type GasResult, type Passage, type SolvedState, type StateResult } from './results'

const COLD: Warmth = { gasLess: 40, bonnetLess: 15 }
const NO_OIL = { mist: 0, splash: 0 }

export type SolvedStates = {
  readonly states: readonly StateResult[]
  /** water caught by each can of an engine that never warms through, kg/s; none where the build makes no short trips */
  readonly coldWater: Readonly<Partial<Record<StateId, Readonly<Record<string, number>>>>>
}

/** Every state of a plan, one after another on one solver, since only gas, borders and blow-by differ between them. */
export function solveStates(build: Build, variant: Variant, engine: EngineModel): SolvedStates {
  const r = resolve(variant)
  const node = crankcaseNode(r)
  const sources = sourcesOf(r)
  const cold = build.duty.hours.shortCold > 0
  const states: StateResult[] = []
  const coldWater: Partial<Record<StateId, Record<string, number>>> = {}
  let solver: Solver | undefined
  for (const operating of engine.states) {
    const { id } = operating
    const blowBy = blowByIn(engine, operating)
    const base = { id, operating, blowBy }
    if (node === undefined || !Number.isFinite(blowBy)) {
      states.push({
        ...base,
        solved: false,
        reason: 'There is no crankcase with a blow-by to solve for.',
        at: undefined,
      })
      continue
    }
    const network = networkOf(r, operating, engine.amb, blowBy)
    const made = solverFor(network, solver)
    if (!made.ok) {
      states.push({ ...base, solved: false, reason: named(made.reason, variant), at: made.at })
      continue
    }
    solver = made.value
    const balance = solver.solve()
    if (balance.ok) {
      const solution = solutionOf(network, solver, balance.value)
      const gauge = solution.pressure[node]! - engine.amb.pressurePa
      if (gauge > LIMITS.sealsLetGo) {
        states.push({ ...base, solved: false, reason: LET_GO, at: 'crankcase' })
        continue
      }
      const running: Running = { operating, network, solution, blowBy, ambientPa: engine.amb.pressurePa }
      states.push(tell(r, engine, running, carriageIn(build, variant, sources, running), node))
      if (cold) coldWater[id] = waterCaughtIn(build, variant, sources, running, COLD)
    } else states.push({ ...base, solved: false, reason: named(balance.reason, variant), at: balance.at })
  }
  return { states, coldWater }
}

/** What passes an element at its ends' pressures, Pa absolute: kg/s, Pa gauge, and m/s where it is a hose. */
export function passing(e: Element, flow: number, p1: number, p2: number, gasK: number, p0: number) {
  const density = (p1 + p2) / 2 / (GAS_R * gasK)
  const bore = e.kind === 'hose' ? e.boreM : 0
  const velocity = bore > 0 ? Math.abs(flow) / ((density * Math.PI * bore * bore) / 4) : 0
  return { flow, gaugeFrom: p1 - p0, gaugeTo: p2 - p0, velocity }
}

/** Ports and parts with the joint that they stand on, where it has another name: a list, since every state of every change is told by it. */
const namesOf = keptFor((t: Topology) => [...t.nodeOf, ...t.jointOf].filter(([id, joint]) => id !== joint))

type Arrived = { gas: number; oil: { mist: number; splash: number } }
/** What an element brings to a boundary; nothing where it ends at none. */
function arrive(at: Arrived | undefined, gas: number, oil: Oil, caught: Oil, breathes: boolean): void {
  if (!at) return
  at.gas += gas
  if (gas <= 0 && !breathes) return
  at.oil.mist += oil.mist - caught.mist
  at.oil.splash += oil.splash - caught.splash
}

/** A solution by the names of lines and parts, as gauge pressures. */
function tell(r: Resolved, engine: EngineModel, s: Running, load: Carriage, crankcase: string): SolvedState {
  const { operating, blowBy, network, solution } = s
  const { pressure, flow, teeLoss, residual, iterations } = solution
  const p0 = engine.amb.pressurePa
  const into: Record<string, Arrived> = {}
  const boundaryAt = new Map<string, string>()
  for (const part of r.variant.parts) {
    if (!isBoundary(part.kind)) continue
    into[part.id] = { gas: 0, oil: { mist: 0, splash: 0 } }
    boundaryAt.set(nodeOfPart(r, part) ?? part.id, part.id)
  }
  const passages: Record<string, Passage> = {}
  for (const e of network.elements) {
    const m = flow[e.id]!
    const oil = load.oil[e.id] ?? NO_OIL
    const { gaugeFrom, gaugeTo, velocity } = passing(e, m, pressure[e.from]!, pressure[e.to]!, s.operating.gasK, p0)
    // written out: it is told of everything in every state of every change
    passages[e.id] = {
      flow: m,
      gaugeFrom,
      gaugeTo,
      velocity,
      teeLoss: teeLoss[e.id],
      oil,
      water: load.water[e.id] ?? 0,
    }
    const caught = load.cans[e.id]?.caught ?? NO_OIL
    // gas that is breathed to and fro carries oil out whichever way the mean runs
    const breathes = (s.exchange?.[e.id] ?? 0) > 0
    arrive(into[boundaryAt.get(e.to) ?? ''], m, oil, caught, breathes)
    arrive(into[boundaryAt.get(e.from) ?? ''], -m, oil, caught, breathes)
  }
  const gauge: Record<string, number> = {}
  for (const id in pressure) gauge[id] = pressure[id]! - p0
  for (const [id, joint] of namesOf(r.topology)) {
    const p = pressure[joint]
    if (p !== undefined) gauge[id] = p - p0
  }
  return {
    id: operating.id,
    operating,
    blowBy,
    solved: true,
    crankcaseGauge: pressure[crankcase]! - p0,
    gauge,
    passages,
    cans: load.cans,
    into,
    residual,
    iterations,
  }
}

/** A state told again from flows and pressures that are its means over a turn, with what is breathed to and fro. */
export function tellTurned(build: Build, engine: EngineModel, r: Resolved, running: Running): SolvedState | undefined {
  const node = crankcaseNode(r)
  const load = carriageIn(build, r.variant, sourcesOf(r), running)
  return node === undefined ? undefined : tell(r, engine, running, load, node)
}

/** The gas alone in one state, for trying out what a change would do: no oil, no water, a third of the time. */
export function solveGas(variant: Variant, engine: EngineModel, state: OperatingState): GasResult | undefined {
  const r = resolve(variant)
  const crankcase = crankcaseNode(r)
  if (crankcase === undefined) return undefined
  const network = networkOf(r, state, engine.amb, blowByIn(engine, state))
  const solved = solveNetwork(network)
  if (!solved.ok || solved.value.pressure[crankcase]! - engine.amb.pressurePa > LIMITS.sealsLetGo) return undefined
  return gasResult(r, network, solved.value, state, engine.amb.pressurePa, crankcase)
}

function gasResult(
  r: Resolved,
  network: Network,
  { flow, pressure }: Solution,
  operating: OperatingState,
  ambientPa: number,
  crankcase: string,
): GasResult {
  const into: Record<string, { gas: number }> = {}
  for (const part of r.variant.parts) {
    const node = isBoundary(part.kind) ? nodeOfPart(r, part) : undefined
    if (node !== undefined) into[part.id] = { gas: netInflow(network, flow, new Set([node])) }
  }
  return { operating, crankcaseGauge: pressure[crankcase]! - ambientPa, flow, into }
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
