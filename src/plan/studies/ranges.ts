/** How far the answers may be off, since inputs are estimated: everything worked out again for a thousand draws of them. */
import type { Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import { normalQuantile } from '@/core/service/normal'
import type { Range } from '@/core/service/fill'
import { NEAR } from '@/core/network/newton'
import { makeSolver, type Solver } from '@/core/network/solver'
import { uniforms } from '@/core/random'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { blowByIn, engineModel, type EngineModel } from '../model/engine'
import { networkOf } from '../model/network'
import { crankcaseNode, resolve, type Resolved } from '../model/resolve'
import { fits, readingsOf, weigh, weightedRange, type Reading } from './readings'
import { uncertainInputs, type Uncertain } from './uncertain'

export type Share = {
  readonly id: string
  readonly name: string
  readonly measure: string
  readonly range: string
  /** part of the spread that this input makes, 0-1 */
  readonly share: number
}
export type StateRange = {
  readonly id: StateId
  /** gauge, Pa: the 10, 50 and 90 % points */
  readonly crankcase: Range
  readonly blowBy: Range
  /** chance that the crankcase stands above the surroundings */
  readonly above: number
  /** inputs by how much of the crankcase's spread they make, most first */
  readonly shares: readonly Share[]
}
/** An input that the readings have moved or narrowed. */
export type Told = {
  readonly id: string
  readonly name: string
  /** the figure itself in its unit; or, where `relative`, a factor on what was assumed (no unit) or so much more of its unit */
  readonly unit: string | undefined
  readonly relative: boolean
  readonly before: Range
  readonly after: Range
}
export type FromReadings = {
  readonly readings: readonly Reading[]
  /** false: no draw of the estimates explains them all, so they narrow nothing */
  readonly fits: boolean
  readonly strange: readonly Reading[]
  /** what they have moved most, first */
  readonly told: readonly Told[]
}
export type Ranges = {
  readonly states: readonly StateRange[]
  readonly draws: number
  /** draws that had no answer, of draws x states */
  readonly failed: number
  /** what the log's readings of the crankcase have narrowed */
  readonly read: FromReadings | undefined
}

export const DRAWS = 1000
const SEED = 20_260_701
/** Draws between two reports of progress. */
const STEP = 20

/** A build with some of its inputs moved, resolved. */
type Moved = { readonly model: EngineModel; readonly r: Resolved }
function movedBy(build: Build, inputs: readonly Uncertain[], z: (input: number) => number): Moved | undefined {
  const moved = applyEdits(
    build,
    inputs.flatMap((input, i) => (z(i) === 0 ? [] : input.edits(z(i)))),
  )
  return moved.ok ? { model: engineModel(moved.value), r: resolve(activeVariant(moved.value)) } : undefined
}

/** One state's solver, kept from draw to draw: only what a draw moves is made anew. */
type StateSolver = {
  /** pressures by joint; undefined where there is no answer */
  readonly solve: (m: Moved, start?: ArrayLike<number>) => Float64Array | undefined
  readonly crankcase: () => number
}

function stateSolver(k: number, node: string): StateSolver {
  let solver: Solver | undefined
  return {
    solve({ model, r }, start) {
      const state = model.states[k]!
      const network = networkOf(r, state, model.amb, blowByIn(model, state))
      const kept = solver?.retune(network)
      if (!kept) {
        const made = makeSolver(network, undefined, NEAR)
        solver = made.ok ? made.value : undefined
      }
      const balance = solver?.solve(kept ? start : undefined)
      return balance?.ok ? balance.value.p : undefined
    },
    crankcase: () => solver?.index.get(node) ?? 0,
  }
}

/**
 * Where the pressures of a draw are to be looked for: the plan's own, and what each input moved alone by one standard deviation either way
 * made of them, as a parabola each. Newton then has a step or two to go instead of five.
 */
function predictor(build: Build, inputs: readonly Uncertain[], nominal: Moved, solver: StateSolver) {
  const base = solver.solve(nominal)?.slice()
  if (!base) return undefined
  const slopes = inputs.map((_, i) => {
    const at = (z: number) => {
      const m = movedBy(build, inputs, (n) => (n === i ? z : 0))
      return (m && solver.solve(m, base)?.slice()) ?? base
    }
    const [up, down] = [at(1), at(-1)]
    return {
      straight: base.map((_p, k) => (up[k]! - down[k]!) / 2),
      bent: base.map((p, k) => (up[k]! + down[k]!) / 2 - p),
    }
  })
  const start = new Float64Array(base.length)
  return (z: (input: number) => number): Float64Array => {
    start.set(base)
    slopes.forEach(({ straight, bent }, i) => {
      const by = z(i)
      for (let k = 0; k < start.length; k++) start[k]! += (straight[k]! + bent[k]! * by) * by
    })
    for (let k = 0; k < start.length; k++) start[k] = Math.max(start[k]!, base[k]! / 2)
    return start
  }
}

/**
 * Seeded Monte Carlo over the estimated inputs, all states; a draw is a list of edits. Yields the share done, so that a worker can report
 * and be stopped. An input's share is its squared correlation with the crankcase pressure: what knowing it would take from the variance.
 */
export function* ranges(build: Build, draws = DRAWS): Job<Ranges> {
  const inputs = uncertainInputs(build)
  const base = engineModel(build)
  const nominal: Moved = { model: base, r: resolve(activeVariant(build)) }
  const node = crankcaseNode(nominal.r)
  if (node === undefined) return { states: [], draws: 0, failed: 0, read: undefined }
  const solvers = base.states.map((_, k) => stateSolver(k, node))
  const starts = solvers.map((s) => predictor(build, inputs, nominal, s))
  const draw = uniforms(SEED)
  const z = inputs.map(() => new Float64Array(draws))
  const gauge = base.states.map(() => new Float64Array(draws).fill(Number.NaN))
  const flow = base.states.map(() => new Float64Array(draws))
  let failed = 0
  for (let k = 0; k < draws; k++) {
    // +-3 standard deviations: a seat twice its size is another seat
    for (const scores of z) scores[k] = Math.max(-3, Math.min(3, normalQuantile(draw())))
    const score = (i: number) => z[i]![k]!
    const m = movedBy(build, inputs, score)
    solvers.forEach((solver, i) => {
      const p = m && solver.solve(m, starts[i]?.(score))
      if (!m || !p) failed++
      else gauge[i]![k] = p[solver.crankcase()]! - m.model.amb.pressurePa
      flow[i]![k] = m ? blowByIn(m.model, m.model.states[i]!) : 0
    })
    if (k % STEP === STEP - 1) yield (k + 1) / draws
  }
  const readings = readingsOf(build)
  const weighed = weigh(readings, (id) => gauge[base.states.findIndex((state) => state.id === id)], draws)
  const told = weighed !== undefined && fits(weighed)
  const weight = told ? weighed.weight : new Float64Array(draws).fill(1 / draws)
  return {
    draws,
    failed,
    read: weighed && {
      readings,
      fits: told,
      strange: weighed.strange,
      told: told ? toldBy(inputs, z, weight) : [],
    },
    states: base.states.map((s, i) => {
      const values = gauge[i]!
      const shares = inputs.map(({ id, name, measure, range }, n) => ({
        id,
        name,
        measure,
        range,
        share: correlation(z[n]!, values, weight) ** 2,
      }))
      return {
        id: s.id,
        crankcase: weightedRange(values, weight),
        blowBy: weightedRange(flow[i]!, weight),
        above: values.reduce((sum, v, k) => sum + (v > 0 ? weight[k]! : 0), 0) / known(values, weight),
        shares: shares.toSorted((x, y) => y.share - x.share),
      }
    }),
  }
}

/** Weight of the draws that have an answer. */
const known = (values: Float64Array, weight: Float64Array): number =>
  Math.max(
    1e-12,
    values.reduce((sum, v, k) => sum + (Number.isNaN(v) ? 0 : weight[k]!), 0),
  )

/** Inputs that readings have moved by a third of a standard deviation or narrowed by a fifth, the most telling first. */
function toldBy(inputs: readonly Uncertain[], z: readonly Float64Array[], weight: Float64Array): Told[] {
  return inputs
    .map((input, n) => {
      const scores = z[n]!
      const mean = scores.reduce((sum, v, k) => sum + weight[k]! * v, 0)
      const sd = Math.sqrt(scores.reduce((sum, v, k) => sum + weight[k]! * (v - mean) ** 2, 0))
      const { step, from } = input
      const base = from?.value ?? 1
      const figure = (score: number) => ('times' in step ? base * step.times ** score : step.plus * score)
      const range = (r: Range): Range => ({ low: figure(r.low), mid: figure(r.mid), high: figure(r.high) })
      return {
        much: Math.max(Math.abs(mean), 1.6 * (1 - sd)),
        told: {
          id: input.id,
          name: input.name,
          unit: from?.unit ?? ('times' in step ? undefined : step.unit),
          relative: from === undefined,
          before: range({ low: -1.2816, mid: 0, high: 1.2816 }),
          after: range(weightedRange(scores, weight)),
        },
      }
    })
    .filter((t) => t.much > 0.33)
    .toSorted((a, b) => b.much - a.much)
    .map((t) => t.told)
}

/** Pearson's correlation of weighted pairs; 0 where one of them does not move. Pairs without an answer are left out. */
function correlation(a: Float64Array, b: Float64Array, weight: Float64Array): number {
  const mean = (v: Float64Array) =>
    v.reduce((s, x, k) => s + (Number.isNaN(b[k]!) ? 0 : weight[k]! * x), 0) / known(b, weight)
  const [ma, mb] = [mean(a), mean(b)]
  let [ab, aa, bb] = [0, 0, 0]
  for (let i = 0; i < a.length; i++) {
    if (Number.isNaN(b[i]!)) continue
    ab += weight[i]! * (a[i]! - ma) * (b[i]! - mb)
    aa += weight[i]! * (a[i]! - ma) ** 2
    bb += weight[i]! * (b[i]! - mb) ** 2
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0
}
