/** How far the answers may be off, since inputs are estimated: everything worked out again for a thousand draws of them. */
import type { Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import { normalQuantile } from '@/core/service/normal'
import type { Range } from '@/core/service/fill'
import { STUDY_TOLERANCE } from '@/core/network/newton'
import type { Element, Network } from '@/core/network/elements'
import { solverFor, type Solver } from '@/core/network/solver'
import { weightsOf } from '@/core/inference/laplace'
import { uniforms } from '@/core/random'
import { correlation, spreadOf, weighted, weightedRange, type Weighted } from '@/core/statistics'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { pulsates, type EngineModel } from '../model/engine'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { adoptLearned } from '../model/learned'
import { crankcaseNode, type Resolved } from '../model/resolve'
import { passing } from '../model/state-result'
import { warmStarter, type Solved } from './warm-start'
import { faultBehind } from './reading-fault'
import { fitReadings } from './reading-fit'
import { gaugeError, readingsOf, shownIn, type Reading, type ReadableState } from '../service/readings'
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
export type LearnedInput = {
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
  /** false: no car like this one gives them but once in a thousand, so they narrow nothing */
  readonly fits: boolean
  readonly strange: readonly Reading[]
  /** what they have moved most, first */
  readonly learnedInputs: readonly LearnedInput[]
  /** edits that put what they have moved into the plan; none where they fit nothing */
  readonly adopt: readonly Edit[]
  /** the single failure of a sound car that explains them as well as an odd engine does; undefined where none does */
  readonly fault: string | undefined
}
/** The state whose crankcase, read next, would narrow the bands of all states most. */
export type NextReading = { readonly state: StateId; readonly expected: Range }
export type Ranges = {
  readonly states: readonly StateRange[]
  readonly draws: number
  /** draws that had no answer, of draws x states */
  readonly failed: number
  /** what the log's readings have narrowed */
  readonly read: FromReadings | undefined
  readonly next: NextReading | undefined
}

export const DRAWS = 1000
const SEED = 20_260_701
/** Draws, apart from those that count, by which it is chosen how the others are guessed. */
const TRIALS = 3
/** Draws between two reports of progress. */
const STEP = 20

/** A standard deviation drawn, of three at most: a seat twice its size is another seat. */
const bounded = (score: number): number => Math.max(-3, Math.min(3, score))
const scoreOf = (share: number): number => bounded(normalQuantile(share))

/** A build with some of its inputs moved, resolved. */
type MovedBuild = { readonly model: EngineModel; readonly blowBy: readonly number[]; readonly r: Resolved }
function movedBy(
  build: Build,
  inputs: readonly Uncertain[],
  scores: Float64Array,
  { engineModel, blowByIn, resolve }: Evaluator,
): MovedBuild | undefined {
  const edits: Edit[] = []
  inputs.forEach((input, i) => {
    const by = scores[i]!
    if (by !== 0) edits.push(...input.edits(by))
  })
  const moved = applyEdits(build, edits)
  if (!moved.ok) return undefined
  const model = engineModel(moved.value)
  return { model, blowBy: model.states.map((state) => blowByIn(model, state)), r: resolve(activeVariant(moved.value)) }
}

/** One state's solver, kept from draw to draw: only what a draw moves is made anew. */
type StateSolver = {
  /**
   * the solver's own pressures; undefined where there is no answer
   * @param start where to look, from pressures of which the held ones are this draw's
   */
  readonly solve: (m: MovedBuild, start: (p: Float64Array) => ArrayLike<number> | undefined) => Solved | undefined
  readonly crankcase: () => number
  /** the last answer, as far as a reading made of an element needs it */
  readonly shown: (m: MovedBuild, of: string | undefined) => ReadableState
}

function stateSolver(k: number, node: string, { networkOf, solverCache }: Evaluator): StateSolver {
  let solver: Solver | undefined
  let network: Network | undefined
  return {
    solve({ model, blowBy, r }, start) {
      network = networkOf(r, model.states[k]!, model.amb, blowBy[k]!)
      const made = solverFor(network, solver, { aim: STUDY_TOLERANCE, cache: solverCache })
      const kept = made.ok && made.value === solver
      solver = made.ok ? made.value : undefined
      const balance = solver?.solve(kept ? start(solver.pressures()) : undefined)
      return solver && balance?.ok ? { p: balance.value.p, free: solver.free, ends: solver.ends } : undefined
    },
    crankcase: () => solver?.index.get(node) ?? 0,
    shown({ model, blowBy }, of) {
      const state = model.states[k]!
      const p0 = model.amb.pressurePa
      const p = solver!.pressures()
      const gauge = (id: string) => p[solver!.index.get(id)!]!
      const n = of === undefined ? -1 : network!.elements.findIndex((x) => x.id === of)
      const e = network!.elements[n]
      const at = (x: Element, flow: number) => ({ flow, p1: gauge(x.from), p2: gauge(x.to), gasK: state.gasK })
      return {
        crankcaseGauge: gauge(node) - p0,
        blowBy: blowBy[k]!,
        passages: e ? { [e.id]: passing(e, at(e, solver!.flow(n)), p0) } : {},
      }
    },
  }
}

/**
 * Seeded Monte Carlo over the estimated inputs, all states; a draw is a list of edits. Yields the share done, so that a worker can report
 * and be stopped. An input's share is its squared correlation with the crankcase pressure: what knowing it would take from the variance.
 *
 * @example
 * import { finish } from '@/core/job'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { ranges } from '@/plan/studies/ranges'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const { states } = finish(ranges(build, 50))
 * console.log(states[0].crankcase.mid) // -32.43021109981055
 */
export function* ranges(build: Build, draws = DRAWS): Job<Ranges> {
  const inputs = uncertainInputs(build)
  const evaluator = makeEvaluator()
  const base = evaluator.engineModel(build)
  const node = crankcaseNode(evaluator.resolve(activeVariant(build)))
  if (node === undefined) return { states: [], draws: 0, failed: 0, read: undefined, next: undefined }
  const solvers = base.states.map((_, k) => stateSolver(k, node, evaluator))
  let near: readonly (Solved | undefined)[] | undefined
  const apart = uniforms(SEED + 1)
  const trials = Array.from({ length: TRIALS }, () => Float64Array.from(inputs, () => scoreOf(apart())))
  const guess = warmStarter(inputs.length, trials, (scores) => {
    const m = movedBy(build, inputs, scores, evaluator)
    const solved = solvers.map((solver, i) => {
      const at = m && solver.solve(m, () => near?.[i]?.p)
      return at && { ...at, p: at.p.slice() }
    })
    near ??= solved
    return solved
  })
  // draws are of still flow: where the pistons pump, a gauge reads the mean of a turn, which they do not know
  const readings = readingsOf(build).filter((r) => r.quantity === 'blowBy' || !pulsates(build.engine))
  const readAt = base.states.map((s) => readings.filter((r) => r.state === s.id))
  const shown = (scores: Float64Array): Float64Array | undefined => {
    const m = movedBy(build, inputs, scores.map(bounded), evaluator)
    if (!m) return undefined
    const figures = new Map<Reading, number>()
    for (const [i, solver] of solvers.entries()) {
      if (readAt[i]!.length === 0) continue
      if (!solver.solve(m, (p) => guess(i, scores, p))) return undefined
      for (const r of readAt[i]!) figures.set(r, shownIn(solver.shown(m, r.at), r))
    }
    return Float64Array.from(readings, (r) => figures.get(r)!)
  }
  const fit = readings.length > 0 ? fitReadings(readings, shown, inputs.length) : undefined
  const proposal = fit?.fits ? fit.proposal : undefined
  const draw = uniforms(SEED)
  const z = inputs.map(() => new Float64Array(draws))
  const normals = new Float64Array(inputs.length)
  const gauge = base.states.map(() => new Float64Array(draws).fill(Number.NaN))
  const flow = base.states.map(() => new Float64Array(draws))
  const logWeight = new Float64Array(draws)
  let failed = 0
  for (let k = 0; k < draws; k++) {
    for (let i = 0; i < normals.length; i++) normals[i] = proposal ? normalQuantile(draw()) : scoreOf(draw())
    const drawn = proposal?.(normals)
    const scores = drawn ? drawn.z.map(bounded) : normals
    const m = movedBy(build, inputs, scores, evaluator)
    let likely = drawn ? -drawn.logDensity : 0
    z.forEach((values, i) => {
      values[k] = scores[i]!
      if (drawn) likely -= drawn.z[i]! ** 2 / 2
    })
    solvers.forEach((solver, i) => {
      const at = m && solver.solve(m, (p) => guess(i, scores, p))
      flow[i]![k] = m?.blowBy[i] ?? 0
      if (!m || !at) {
        failed++
        if (drawn && readAt[i]!.length > 0) likely = -Infinity
        return
      }
      gauge[i]![k] = at.p[solver.crankcase()]! - m.model.amb.pressurePa
      if (drawn)
        for (const r of readAt[i]!) {
          if (!fit!.compared.includes(r)) continue
          const off = (shownIn(solver.shown(m, r.at), r) - r.value) / r.error
          likely -= Number.isNaN(off) ? Infinity : (off * off) / 2
        }
    })
    logWeight[k] = likely
    if (k % STEP === STEP - 1) yield (k + 1) / draws
  }
  const weight = proposal ? weightsOf(logWeight) : new Float64Array(draws).fill(1 / draws)
  const consistent = proposal !== undefined
  const known = gauge.map((values) => weighted(values, weight))
  const states = base.states.map((s, i): StateRange => {
    const values = gauge[i]!
    const shares = inputs.map(({ id, name, measure, range }, n) => ({
      id,
      name,
      measure,
      range,
      share: correlation(known[i]!, z[n]!) ** 2,
    }))
    return {
      id: s.id,
      crankcase: weightedRange(values, weight),
      blowBy: weightedRange(flow[i]!, weight),
      above: values.reduce((sum, v, k) => sum + (v > 0 ? weight[k]! : 0), 0) / known[i]!.all,
      shares: shares.toSorted((x, y) => y.share - x.share),
    }
  })
  const moved = consistent ? movedInputs(inputs, z, weight) : []
  return {
    draws,
    failed,
    states,
    read: fit && {
      readings: fit.compared,
      fits: fit.fits,
      strange: fit.strange,
      learnedInputs: moved.map((m) => m.learned),
      adopt: adoptLearned(
        build,
        moved.flatMap(({ input, mean }) => input.edits(mean)),
      ),
      fault: faultBehind(build, fit, evaluator),
    },
    // where the pistons pump no reading of the crankcase can be compared with still draws
    next: pulsates(build.engine)
      ? undefined
      : nextReading(
          states.filter((s) => !consistent || readings.every((r) => r.state !== s.id || r.quantity !== 'crankcase')),
          new Map(states.map((s, i) => [s.id, { values: gauge[i]!, known: known[i]! }])),
        ),
  }
}

/**
 * What to read next: a reading takes from every other state's variance the square of their correlation, less by the gauge's own error.
 * Undefined where no reading would narrow anything.
 */
function nextReading(
  unread: readonly StateRange[],
  drawn: ReadonlyMap<StateId, { readonly values: Float64Array; readonly known: Weighted }>,
): NextReading | undefined {
  let best: { gain: number; state: StateRange } | undefined
  for (const state of unread) {
    const { known } = drawn.get(state.id)!
    const knownShare = known.variance / (known.variance + gaugeError(state.crankcase.mid) ** 2)
    let gain = 0
    for (const other of drawn.values()) {
      const share = correlation(known, other.values) ** 2
      gain += (share > 0 ? share * knownShare : 0) * Math.min(1, spreadOf(other.known) / WORTH_KNOWING)
    }
    if (!best || gain > best.gain) best = { gain, state }
  }
  return best && best.gain > 0.1 ? { state: best.state.id, expected: best.state.crankcase } : undefined
}
/** A crankcase that is known to this, Pa one standard deviation, is known well enough. */
const WORTH_KNOWING = 200

/** Inputs that readings have moved by a third of a standard deviation or narrowed by a fifth, the most telling first. */
function movedInputs(inputs: readonly Uncertain[], z: readonly Float64Array[], weight: Float64Array) {
  return inputs
    .map((input, n) => {
      const scores = z[n]!
      const mean = scores.reduce((sum, v, k) => sum + weight[k]! * v, 0)
      return { input, scores, mean, much: Math.max(Math.abs(mean), 1.6 * (1 - spreadOf(weighted(scores, weight)))) }
    })
    .filter((t) => t.much > 0.33)
    .toSorted((a, b) => b.much - a.much)
    .map(({ input, scores, mean }) => ({ input, mean, learned: learnedInputOf(input, weightedRange(scores, weight)) }))
}

/** An input as a person reads it, before and after, from standard deviations of it. */
function learnedInputOf(input: Uncertain, scores: Range): LearnedInput {
  const { step, from } = input
  const base = from?.value ?? 1
  const figure = (score: number) => ('times' in step ? base * step.times ** score : step.plus * score)
  const range = (r: Range): Range => ({ low: figure(r.low), mid: figure(r.mid), high: figure(r.high) })
  return {
    id: input.id,
    name: input.name,
    unit: from?.unit ?? ('times' in step ? undefined : step.unit),
    relative: from === undefined,
    before: range({ low: -1.2816, mid: 0, high: 1.2816 }),
    after: range(scores),
  }
}
