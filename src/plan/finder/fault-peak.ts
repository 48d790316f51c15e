/**
 * Where a fault of a severity explains best what was read: Gauss-Newton on the solved network, with slopes that each step corrects (methods
 * 12; Broyden 1965). About the middle of all ranges a straight model is too coarse for what a gauge tells.
 */
import {
  dotProduct,
  gaussianEvidence,
  type GaussianEvidence,
  type LinearReading,
} from '@/core/inference/gaussian-evidence'
import type { Build } from '../document/schema'
import { applyEdits } from '../edit/edit'
import type { Evaluator } from '../model/evaluator'
import { recentredInputs, type Uncertain } from '../studies/uncertain'
import type { GasState } from './gas-states'
import { observableRow, type Evidence, type Observable } from './observables'
import {
  scaledGas,
  SEVERITY_SHARES,
  SEVERITY_DEVIATION,
  type FaultPoint,
  type Predictions,
  type WorkedHypothesis,
} from './predictions'

/** Rounds of Gauss-Newton at most; a step shorter than this ends it, standard deviations. */
const [ROUNDS, SETTLED] = [5, 0.2]
/** Parts of a step that are tried until one explains more. */
const STEP_PARTS = [1, 0.4, 0.12] as const
/** Times that slopes are taken anew at most; a peak that is overstated by less is reached, as a logarithm. */
const [REFINEMENTS, REACHED] = [4, 0.5]
/** Where no unknown is farther off than this, slopes are as they were, standard deviations. */
const SLOPES_HOLD_WITHIN = 0.4
/** Step by which slopes are taken, standard deviations. */
const SLOPE_STEP = 0.5
/** Farthest that an input is believed to be off, standard deviations. */
const MOST_DEVIATIONS = 3
/** An unknown that moved no reading by more than this is left straight. */
const STRONG = 0.02
/** How far off a straight model may be: a share of its spread, and so much beside. */
const [ROUGH_SHARE, ROUGH_ERROR] = [1, 0.5]

/** A search for peaks: the plan, what was read, and what each fault would show. */
export type PeakSearch = {
  /** the sound plan, and how its inputs move it */
  readonly build: Build
  readonly inputs: readonly Uncertain[]
  readonly evaluator: Evaluator
  readonly solve: (build: Build) => readonly GasState[] | undefined
  /** gas of the sound car at a place of the unknowns: the same for every fault */
  readonly soundGas: (z: Float64Array) => readonly GasState[] | undefined
  readonly predictions: Predictions
  /** what was read but for `catches`, with the row that predicts it */
  readonly read: readonly { readonly row: number; readonly e: Evidence }[]
  /** something was read before the trouble: what the sound car shows has rows too, after those of the faulty one */
  readonly withBefore: boolean
  /** what cans were found to have caught: it jumps where a flow turns, so that it is drawn, not made straight */
  readonly catches: readonly Evidence[]
}
/** A plan with a fault of a severity, and how its inputs move it; undefined where it can have none. */
type Broken = Pick<PeakSearch, 'build' | 'inputs'> | undefined
/** One severity of a fault searched for: its share of the way from least to most. */
export type FaultPeakSearch = PeakSearch & {
  readonly h: WorkedHypothesis
  readonly share: number
  /** the plan with it, a share of the way from least to most */
  readonly broken: (share: number) => Broken
}
/** A straight model: figures with all unknowns at 0, and how each goes with them. */
export type LinearModel = Pick<FaultPoint, 'middle' | 'slopes'>

/** Plans with a fault, each severity made once. */
export function plansWithFault({ inputs }: Pick<PeakSearch, 'inputs'>, h: WorkedHypothesis): FaultPeakSearch['broken'] {
  const made = new Map<number, Broken>()
  return (share) => {
    if (!made.has(share)) {
      const build = h.buildAt(share)
      made.set(share, build && { build, inputs: recentredInputs(inputs, build) })
    }
    return made.get(share)
  }
}

/** The car at one place of the unknowns. */
function carAt(broken: Broken, z: Float64Array): Build | undefined {
  if (!broken) return undefined
  const edits = broken.inputs.flatMap((input, i) => (z[i] === 0 ? [] : input.edits(z[i]!)))
  const car = applyEdits(broken.build, edits)
  return car.ok ? car.value : undefined
}
/** The same without a fault. */
export const soundCarAt = (search: Pick<PeakSearch, 'build' | 'inputs'>, z: Float64Array): Build | undefined =>
  carAt(search, z)
/** Gas of the sound car, worked out once at each place: searches for many faults begin at the same ones. */
export function soundGasAt(
  sound: Pick<PeakSearch, 'build' | 'inputs'>,
  solve: PeakSearch['solve'],
): PeakSearch['soundGas'] {
  const known = new Map<string, readonly GasState[] | undefined>()
  return (z) => {
    const key = z.join()
    if (!known.has(key)) {
      const car = soundCarAt(sound, z)
      known.set(key, car && solve(car))
    }
    return known.get(key)
  }
}

/** The same with the fault searched for, its severity about `share`. */
export function faultyCarAt({ h, share, broken }: FaultPeakSearch, z: Float64Array): Build | undefined {
  const width = h.fault?.extent ? 1 / SEVERITY_SHARES.length : 0
  return carAt(broken(Math.max(0, Math.min(1, share + z.at(-1)! * SEVERITY_DEVIATION * width))), z)
}

/** The row of what was read: those of the faulty car first, then those of the sound one. */
export const evidenceRow = (observables: readonly Observable[], { observable, before }: Evidence): number =>
  observableRow(observables, observable) + (before ? observables.length : 0)

/** Whether a row is of what a can catches: that is left to the straight model here. */
export const isCatchRow = ({ predictions: { observables } }: PeakSearch, row: number) =>
  observables[row % observables.length]!.kind === 'catch'

/** Figures of all rows at a place of the unknowns, by the straight model. */
export const linearFigures = ({ middle, slopes }: LinearModel, z: Float64Array): Float64Array =>
  middle.map((m, row) => m + dotProduct(slopes[row]!, z))

/** Figures of all rows as solved. */
function solvedFigures(search: FaultPeakSearch, model: LinearModel, z: Float64Array) {
  const { observables } = search.predictions
  const scaledOf = (gas: readonly GasState[] | undefined) => gas && scaledGas(observables, gas)
  const car = faultyCarAt(search, z)
  const now = scaledOf(car && search.solve(car))
  const before = search.withBefore ? scaledOf(search.soundGas(z)) : new Float64Array(0)
  if (!now || !before) return undefined
  const rough = linearFigures(model, z)
  return Float64Array.from([...now, ...before], (f, row) => (isCatchRow(search, row) ? rough[row]! : f))
}

/** The straight model with these slopes, through figures at a place of the unknowns. */
export const linearModelThrough = (
  slopes: LinearModel['slopes'],
  z: Float64Array,
  figures: Float64Array,
): LinearModel => ({
  slopes,
  middle: figures.map((f, row) => f - dotProduct(slopes[row]!, z)),
})

/** Slopes that agree with what a step has shown (Broyden 1965). */
function correctedSlopes({ slopes }: LinearModel, step: Float64Array, shown: Float64Array): LinearModel['slopes'] {
  const length = dotProduct(step, step)
  return slopes.map((own, row) => {
    const miss = (shown[row]! - dotProduct(own, step)) / length
    return Number.isFinite(miss) ? own.map((s, i) => s + miss * step[i]!) : own
  })
}

/** Slopes as solved about a place of the unknowns. */
function solvedSlopes(search: FaultPeakSearch, { model, z }: SolvedPlace): LinearModel['slopes'] {
  const here = linearFigures(model, z)
  const columns = Array.from(z, (at, i): Float64Array => {
    const moves = model.slopes.some((own, row) => !isCatchRow(search, row) && Math.abs(own[i]!) > STRONG)
    const by = at > 0 ? -SLOPE_STEP : SLOPE_STEP
    const beside = z.slice()
    beside[i] = at + by
    const moved = moves ? solvedFigures(search, model, beside) : undefined
    return here.map((f, row) => {
      const slope = moved ? (moved[row]! - f) / by : Number.NaN
      return Number.isFinite(slope) ? slope : model.slopes[row]![i]!
    })
  })
  return Array.from(here, (_, row) => Float64Array.from(columns, (c) => c[row]!))
}

/** What was read, as the straight model has it. */
export const linearReadings = ({ read }: PeakSearch, { middle, slopes }: LinearModel): readonly LinearReading[] =>
  read.flatMap(({ row, e }) =>
    Number.isFinite(middle[row]!) ? [{ off: e.scaled - middle[row]!, slopes: slopes[row]!, error: e.error }] : [],
  )

/** One unknown by itself, of so many. */
function unitVector(unknowns: number, i: number): Float64Array {
  const one = new Float64Array(unknowns)
  one[i] = 1
  return one
}

/** A place of the unknowns moved by what readings say of them, none farther than is believed. */
export const updatedUnknowns = ({ predict }: GaussianEvidence, from: Float64Array): Float64Array =>
  from.map((z, i) =>
    Math.max(-MOST_DEVIATIONS, Math.min(MOST_DEVIATIONS, z + predict(unitVector(from.length, i)).shift)),
  )

/** Where the unknowns are likeliest, by a straight model. */
const likeliestUnknowns = (search: PeakSearch, model: LinearModel): Float64Array =>
  updatedUnknowns(gaussianEvidence(linearReadings(search, model)), middleOf(search))

/** How unlikely figures and unknowns are: a sum of squares, of standard deviations. */
const misfitOf = ({ read }: PeakSearch, figures: Float64Array, z: Float64Array): number =>
  read.reduce(
    (sum, { row, e }) => {
      const off = (e.scaled - figures[row]!) / e.error
      return Number.isFinite(off) ? sum + off * off : sum
    },
    dotProduct(z, z),
  )

/** A place of the unknowns, the straight model about it, and how unlikely both they and what was read are there. */
export type LinearisedPeak = {
  readonly model: LinearModel
  readonly z: Float64Array
  readonly misfit: number
  /** logarithm by which the straight model believes in more than is there: it would go on to where the solved network explains less */
  readonly overstatement: number
}

/** One on the way there. */
type SolvedPlace = Omit<LinearisedPeak, 'overstatement'>

/** A step to where the straight model has the peak, or so far of it as explains more; undefined where none does. */
function stepped(search: FaultPeakSearch, { model, z, misfit }: SolvedPlace): SolvedPlace | undefined {
  const to = likeliestUnknowns(search, model)
  for (const part of STEP_PARTS) {
    const step = to.map((t, i) => part * (t - z[i]!))
    const next = z.map((at, i) => at + step[i]!)
    const figures = solvedFigures(search, model, next)
    const then = figures && misfitOf(search, figures, next)
    if (!figures || then === undefined || then > misfit) continue
    const was = linearFigures(model, z)
    const shown = figures.map((f, row) => f - was[row]!)
    return { model: linearModelThrough(correctedSlopes(model, step, shown), next, figures), z: next, misfit: then }
  }
  return undefined
}

/** How far a straight model's own peak is above the place, as a logarithm: 0 where the search for the peak has come to an end. */
function withOverstatement(search: FaultPeakSearch, place: SolvedPlace): LinearisedPeak {
  const peak = likeliestUnknowns(search, place.model)
  const least = misfitOf(search, linearFigures(place.model, peak), peak)
  return { ...place, overstatement: Math.max(0, (place.misfit - least) / 2) }
}

/** Whether a search came to the peak: the straight model has its own hardly above. */
export const isReached = ({ overstatement }: LinearisedPeak): boolean => overstatement < REACHED

/**
 * A peak with slopes as solved about it, and a step from there, again until the straight model has its own peak there too; as it is where no
 * unknown is far from where the slopes are of.
 * @param about that place; the middle of all ranges, unless another is given
 */
export function refineFaultPeak(
  search: FaultPeakSearch,
  found: LinearisedPeak,
  about: Float64Array = middleOf(search),
): LinearisedPeak {
  // how severe the fault is has slopes of its own in each part of its range
  if (found.z.every((x, i) => i === found.z.length - 1 || Math.abs(x - about[i]!) <= SLOPES_HOLD_WITHIN)) return found
  let peak = found
  for (let round = 0; round < REFINEMENTS; round++) {
    const figures = linearFigures(peak.model, peak.z)
    const about = { ...peak, model: linearModelThrough(solvedSlopes(search, peak), peak.z, figures) }
    const next = stepped(search, about)
    peak = withOverstatement(search, next ?? about)
    if (!next || isReached(peak)) break
  }
  return peak
}

/** A place of the unknowns as solved, with the slopes of a straight model; undefined where it has no answer. */
function solvedPlace(search: FaultPeakSearch, model: LinearModel, z: Float64Array): SolvedPlace | undefined {
  if (z.every((x) => x === 0)) return middlePlace(search, model)
  const figures = solvedFigures(search, model, z)
  return figures && { model: linearModelThrough(model.slopes, z, figures), z, misfit: misfitOf(search, figures, z) }
}

/** All unknowns in the middle of their ranges. */
export const middleOf = ({ predictions }: PeakSearch): Float64Array => new Float64Array(predictions.unknowns)

/** The straight model there. */
const middlePlace = (search: FaultPeakSearch, model: LinearModel): SolvedPlace => {
  const z = middleOf(search)
  return { model, z, misfit: misfitOf(search, model.middle, z) }
}

/**
 * The place of the unknowns where a fault of a severity explains best what was read, by slopes that each step corrects.
 * @param starts where the search may begin: it does at the likeliest of them; the middle of all ranges, unless others are given
 */
export function findFaultPeak(
  search: FaultPeakSearch,
  model: LinearModel,
  starts?: readonly Float64Array[],
): LinearisedPeak {
  const middle = middlePlace(search, model)
  const begun = (starts ?? []).flatMap((z) => solvedPlace(search, model, z) ?? [])
  let place = begun.reduce((a, b) => (b.misfit < a.misfit ? b : a), begun[0] ?? middle)
  for (let round = 0; round < ROUNDS; round++) {
    const next = stepped(search, place)
    if (!next) break
    const moved = Math.max(...next.z.map((z, i) => Math.abs(z - place.z[i]!)))
    place = next
    if (moved < SETTLED) break
  }
  return withOverstatement(search, place)
}

/** The straight model of a severity of a fault as it was given, of all rows. */
export function linearModelOf({ predictions, withBefore }: PeakSearch, { middle, slopes }: FaultPoint): LinearModel {
  if (!withBefore) return { middle, slopes }
  const sound = predictions.hypotheses[0]!.points[0]!
  return { middle: Float64Array.of(...middle, ...sound.middle), slopes: [...slopes, ...sound.slopes] }
}

/** How likely what was read is, as a logarithm, where a straight model may be far off. */
export function roughLogEvidence(search: PeakSearch, point: FaultPoint): number {
  const readings = linearReadings(search, linearModelOf(search, point)).map((r) => ({
    ...r,
    error: r.error + ROUGH_SHARE * Math.hypot(...Array.from(r.slopes)) + ROUGH_ERROR,
  }))
  return gaussianEvidence(readings).log
}
