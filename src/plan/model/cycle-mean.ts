/**
 * The figures of an engine whose pistons pump its crankcase: every state followed over the turn, and shown by its means. What is breathed
 * to and fro carries oil with it, as far as it exceeds the hoses' own gas.
 */
import { circleArea } from '@/core/circle'
import { scaled, type Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import type { Element } from '@/core/network/elements'
import { airDensity } from '@/core/gas/air'
import { exchanged } from '@/core/pulsation/exchange'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { carriageIn, sourcesOf } from './carriage'
import { pulsates } from './engine'
import type { Evaluator } from './evaluator'
import { crankcaseNode } from './resolve'
import type { Figures, SolvedState, StateResult } from './results'
import { stateResultOf } from './state-result'
import { intakeOil } from './duty'
import { pulse, type Pulse } from './pulsation'
import { byWeather, waterInWeather, weatherOf, type StateWater } from './weather-water'

const gasIn = (e: Element, density: number): number =>
  e.kind === 'hose' ? density * circleArea(e.boreM) * e.lengthM : 0

type WetState = { readonly state: SolvedState; readonly water: StateWater }

/** A state as its turn makes it, with the water that its cans catch in each weather. */
function cycleMeanState(build: Build, s: SolvedState, p: Pulse, evaluator: Evaluator): WetState {
  const variant = activeVariant(build)
  const r = evaluator.resolve(variant)
  const flow: Record<string, number> = {}
  const exchange: Record<string, number> = {}
  for (const e of p.network.elements) {
    const { onwards, backwards } = p.flows[e.id]!
    flow[e.id] = onwards - backwards
    const density = airDensity((p.means[e.from]! + p.means[e.to]!) / 2, p.network.gas.T)
    exchange[e.id] = exchanged(Math.min(onwards, backwards), p.rpm / 60, gasIn(e, density))
  }
  // a hose in pieces has joints of its own, which are nobody's
  const pressure = Object.fromEntries(Object.keys(p.network.nodes).map((id) => [id, p.means[id]!]))
  const running = {
    operating: s.operating,
    network: p.network,
    solution: { pressure, flow, teeLoss: p.teeLoss, residual: s.residual, iterations: p.turns },
    blowBy: s.blowBy,
    ambientPa: p.ambientPa,
    exchange,
  }
  const plan = { build, variant, sources: evaluator.once(sourcesOf, r), carry: evaluator.carry }
  // a state that was solved has a crankcase
  const load = carriageIn(plan, running)
  const mean = stateResultOf(r, running, load, crankcaseNode(r)!)
  const gauge = (pa: number) => pa - p.ambientPa
  const cycle = { peak: gauge(p.peak), least: gauge(p.least), out: p.out, back: p.back }
  return { state: { ...s, ...mean, cycle }, water: waterInWeather(plan, running, load, weatherOf(build)) }
}

/**
 * Yields the share done. States that have no still answer, or whose turn does not repeat, say so.
 * @param figures the same build on still flow
 */
export function* cycleMeans(build: Build, figures: Figures, evaluator: Evaluator): Job<Figures> {
  if (!pulsates(build.engine)) return figures
  const states: StateResult[] = []
  const wet: { readonly id: StateId; readonly water: StateWater }[] = []
  for (const [i, s] of figures.states.entries()) {
    if (!s.solved) {
      states.push(s)
      continue
    }
    const { id, operating, blowBy } = s
    const p = yield* scaled(pulse(build, id, evaluator), i / figures.states.length, 1 / figures.states.length)
    if (!p.ok) {
      states.push({ id, operating, blowBy, solved: false, reason: p.reason, at: p.at })
      continue
    }
    const { state, water } = cycleMeanState(build, s, p.value, evaluator)
    states.push(state)
    wet.push({ id, water })
  }
  return {
    ...figures,
    states,
    waterAt: byWeather(weatherOf(build), wet),
    intakeOil: intakeOil(build, activeVariant(build), states),
  }
}
