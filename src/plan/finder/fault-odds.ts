/** Odds of every fault by all that is known, and what each would show. */
import { gaussianEvidence, type GaussianEvidence, type LinearReading } from '@/core/inference/gaussian-evidence'
import { informationOf } from '@/core/inference/information'
import { normalQuantile } from '@/core/service/normal'
import type { Range } from '@/core/range'
import { fromScale, observableRow, type Evidence, type Observable } from './observables'
import type { FaultPoint, Predictions, WorkedHypothesis } from './predictions'
import { chanceSeen, type SymptomId } from './symptoms'

/** A symptom that was looked for: seen, or not. */
export type TickedSymptom = { readonly id: SymptomId; readonly seen: boolean }
/** What looking at a part showed: how likely that is with each fault. */
export type FaultFinding = { readonly chanceWith: (hypothesis: WorkedHypothesis) => number }

/** One severity of a fault, weighed. */
export type WeighedPoint = {
  readonly point: FaultPoint
  /** share of this fault's own odds */
  readonly weight: number
  readonly evidence: GaussianEvidence
}
export type WeighedHypothesis = {
  readonly hypothesis: WorkedHypothesis
  /** 0 to 1, of all together */
  readonly share: number
  readonly points: readonly WeighedPoint[]
}

/** The severity of a fault that is likeliest by all that is known. */
export const likeliestPoint = ({ points }: Pick<WeighedHypothesis, 'points'>): WeighedPoint =>
  points.reduce((a, b) => (b.weight > a.weight ? b : a))

/** A reading that is far off is misread once in so many times: then it says little. */
const MISREAD = 0.01
const MISREAD_ERROR = 1.5

/** Part of a figure's spread that is not straight (estimate, from simulated cars). */
const BENT = 0.3

function readingsOf(
  { observables }: Pick<Predictions, 'observables'>,
  evidence: readonly Evidence[],
  point: FaultPoint,
  sound: FaultPoint,
): readonly LinearReading[] {
  return evidence.flatMap((e): LinearReading[] => {
    const k = observableRow(observables, e.observable)
    const of: Pick<FaultPoint, 'middle' | 'slopes' | 'open'> = e.before ? (point.before ?? sound) : point
    if (k < 0 || !Number.isFinite(of.middle[k]!)) return []
    const slopes = of.slopes[k]!
    // what is not straight in how a figure goes with the car is an error of its own: over all that is open where it was made straight
    const open = of.open?.[k] ?? Math.hypot(...slopes)
    const error = Math.hypot(e.error, BENT * open)
    // how severe a fault is says nothing of what was read before it
    return [{ off: e.scaled - of.middle[k]!, slopes: e.before ? withoutLast(slopes) : slopes, error }]
  })
}
const withoutLast = (slopes: Float64Array): Float64Array => {
  const own = slopes.slice()
  own[own.length - 1] = 0
  return own
}

/** What the straight model of one severity of a fault makes of what was read. */
export const linearEvidence = (
  predictions: Predictions,
  evidence: readonly Evidence[],
  point: FaultPoint,
): GaussianEvidence => gaussianEvidence(readingsOf(predictions, evidence, point, predictions.hypotheses[0]!.points[0]!))

/** Logarithms of how likely is what was read, and what was seen, with one severity of a fault. */
function likelihoodOf(
  predictions: Predictions,
  evidence: readonly Evidence[],
  symptoms: readonly TickedSymptom[],
  point: FaultPoint,
): { readonly read: number; readonly seen: number; readonly evidence: GaussianEvidence } {
  const sound = predictions.hypotheses[0]!.points[0]!
  const readings = readingsOf(predictions, evidence, point, sound)
  const straight = gaussianEvidence(readings)
  // now and then one is misread: no reading alone rules a fault out for good
  const wide = gaussianEvidence(readings.map((r) => ({ ...r, error: r.error + MISREAD_ERROR })))
  const read =
    readings.length === 0
      ? 0
      : logSumExp([Math.log(1 - MISREAD) + straight.log - (point.overstatement ?? 0), Math.log(MISREAD) + wide.log])
  const seen = symptoms.reduce((sum, symptom) => {
    const chance = chanceSeen(symptom.id, point.figures, sound.figures)
    return chance === undefined ? sum : sum + Math.log(symptom.seen ? chance : 1 - chance)
  }, 0)
  return { read, seen, evidence: straight }
}

/** Logarithm of the sum of what these are logarithms of. */
export function logSumExp(logs: readonly number[]): number {
  const most = Math.max(...logs)
  return most === -Infinity ? most : most + Math.log(logs.reduce((sum, x) => sum + Math.exp(x - most), 0))
}

type ComputedHypothesis = Omit<WeighedHypothesis, 'share'> & {
  /** logarithms: odds beforehand, how likely is what was read, and what was seen */
  readonly prior: number
  readonly read: number
  readonly seen: number
}
/** A fault's severities count together, so that one that can explain anything gains nothing (methods 12; MacKay, Information Theory, 28). */
const computedOf = (
  predictions: Predictions,
  evidence: readonly Evidence[],
  symptoms: readonly TickedSymptom[],
): readonly ComputedHypothesis[] =>
  predictions.hypotheses.map((hypothesis) => {
    const points = hypothesis.points.map((point) => {
      const { read, seen, evidence: straight } = likelihoodOf(predictions, evidence, symptoms, point)
      return { point, evidence: straight, seen, log: read + seen }
    })
    const all = logSumExp(points.map((p) => p.log))
    const seen = logSumExp(points.map((p) => p.seen))
    return {
      hypothesis,
      prior: Math.log(hypothesis.odds),
      read: all - seen,
      seen: seen - Math.log(points.length),
      points: points.map(({ point, evidence: straight, log }) => ({
        point,
        evidence: straight,
        weight: Math.exp(log - all),
      })),
    }
  })

/** Shares of all by the logarithm of each, likeliest first. */
function shared(
  all: readonly ComputedHypothesis[],
  logOf: (of: ComputedHypothesis) => number,
): readonly WeighedHypothesis[] {
  const logs = all.map(logOf)
  const total = logSumExp(logs)
  return all
    .map(({ hypothesis, points }, k) => ({ hypothesis, points, share: Math.exp(logs[k]! - total) }))
    .toSorted((a, b) => b.share - a.share)
}

/** All that may be wrong by what was read, as if every fault were computed rightly. */
export const weighAsComputed = (
  predictions: Predictions,
  evidence: readonly Evidence[],
): readonly WeighedHypothesis[] => shared(computedOf(predictions, evidence, []), ({ prior, read }) => prior + read)

/** Once in so many cases what a fault makes of the readings is computed wrongly: the search missed its peak (estimate, from simulated cars). */
const COMPUTED_WRONGLY = 0.02

/** All that may be wrong, likeliest first. */
export function weighHypotheses(
  predictions: Predictions,
  evidence: readonly Evidence[],
  symptoms: readonly TickedSymptom[],
  findings: readonly FaultFinding[] = [],
): readonly WeighedHypothesis[] {
  const computed = computedOf(predictions, evidence, symptoms)
  // what is computed wrongly says as much of the readings as all faults together
  const ofAll = logSumExp(computed.map((c) => c.prior + c.read)) - logSumExp(computed.map((c) => c.prior))
  return shared(computed, ({ hypothesis, prior, read, seen }) => {
    const found = findings.reduce((sum, f) => sum + Math.log(f.chanceWith(hypothesis)), 0)
    const mixed = logSumExp([Math.log(1 - COMPUTED_WRONGLY) + read, Math.log(COMPUTED_WRONGLY) + ofAll])
    return prior + mixed + seen + found
  })
}

type Normal = { readonly weight: number; readonly mean: number; readonly deviation: number }
/** What a fault predicts of an observable by all that is known, on its scale; empty where it has none. */
export function predictedNormals(
  predictions: Predictions,
  { points }: WeighedHypothesis,
  o: Observable,
): readonly Normal[] {
  const k = observableRow(predictions.observables, o)
  return points.flatMap(({ point, weight, evidence }) => {
    if (k < 0 || !Number.isFinite(point.middle[k]!)) return []
    const { shift, variance } = evidence.predict(point.slopes[k]!)
    return [{ weight, mean: point.middle[k]! + shift, deviation: Math.sqrt(variance) }]
  })
}
/** The same before anything was read. */
export const predictedBefore = (
  predictions: Predictions,
  { points }: WorkedHypothesis,
  o: Observable,
): readonly Normal[] => {
  const none = gaussianEvidence([])
  const alike = points.map((point) => ({ point, weight: 1 / points.length, evidence: none }))
  return predictedNormals(predictions, { hypothesis: {} as WorkedHypothesis, share: 0, points: alike }, o)
}

const QUANTILES = [0.1, 0.5, 0.9] as const
const POINTS_EACH = 40
const NORMALS = Array.from({ length: POINTS_EACH }, (_, i) => normalQuantile((i + 0.5) / POINTS_EACH))

/** 10, 50 and 90 % points of what a fault predicts, as read: Pa, shares of 1, ratios; undefined where it has none. */
export function predictedRange(o: Observable, normals: readonly Normal[], error: number): Range | undefined {
  if (normals.length === 0) return undefined
  const drawn = normals
    .flatMap(({ weight, mean, deviation }) =>
      NORMALS.map((z) => ({ x: mean + z * Math.hypot(deviation, error), weight: weight / POINTS_EACH })),
    )
    .toSorted((a, b) => a.x - b.x)
  const all = drawn.reduce((sum, d) => sum + d.weight, 0)
  const [low, mid, high] = QUANTILES.map((q) => {
    let sum = 0
    return fromScale(o, (drawn.find((d) => (sum += d.weight) >= q * all) ?? drawn.at(-1)!).x)
  })
  return { low: low!, mid: mid!, high: high! }
}

const GRID = 240
/** How likely each place of an even grid is under each of some faults, with an instrument's error; undefined where one has no figure. */
export function densities(all: readonly (readonly Normal[])[], error: number): readonly Float64Array[] | undefined {
  if (all.some((normals) => normals.length === 0)) return undefined
  const reach = all
    .flat()
    .filter((n) => n.weight > 1e-4)
    .map((n) => ({ mean: n.mean, wide: Math.hypot(n.deviation, error) }))
  const low = Math.min(...reach.map((r) => r.mean - 4 * r.wide))
  const high = Math.max(...reach.map((r) => r.mean + 4 * r.wide))
  return all.map((normals) => {
    const row = new Float64Array(GRID)
    for (const { weight, mean, deviation } of normals) {
      // no narrower than the grid shows
      const wide = Math.max(Math.hypot(deviation, error), (high - low) / GRID)
      for (let i = 0; i < GRID; i++) {
        const z = (low + ((i + 0.5) * (high - low)) / GRID - mean) / wide
        row[i]! += (weight / wide) * Math.exp((-z * z) / 2)
      }
    }
    return row
  })
}

/** An instrument's usual error on the scale of an observable. */
export const USUAL_ERROR: Readonly<Record<Observable['kind'], number>> = {
  crankcase: 0.09,
  blowBy: 0.06,
  trim: 0.02,
  catch: 0.25,
}

/** Below this no reading is worth a word on which of two it is, bits. */
const TOLD_APART = 0.1

/**
 * Faults that no reading of a running engine tells apart: each is in one set; a set of one is left out. Only taking a part out, or looking,
 * tells those of a set apart. What is too slight to show is in one set with "nothing is wrong".
 * @param weighed those that are worth a word @param offered what can be read; all that the plan has, unless an instrument is missing
 */
export function faultSets(
  predictions: Predictions,
  weighed: readonly WeighedHypothesis[],
  offered: readonly Observable[] = predictions.observables,
): readonly (readonly string[])[] {
  const faults = weighed
  const rows = offered.map((o) => ({
    o,
    normals: faults.map((w) => predictedNormals(predictions, w, o)),
  }))
  const apart = (a: number, b: number): boolean =>
    rows.some(({ o, normals }) => {
      const pair = densities([normals[a]!, normals[b]!], USUAL_ERROR[o.kind])
      return pair !== undefined && informationOf([1, 1], pair) >= TOLD_APART
    })
  const sets: number[][] = []
  for (const k of faults.keys()) {
    const joined = sets.find((set) => set.every((member) => !apart(member, k)))
    if (joined) joined.push(k)
    else sets.push([k])
  }
  return sets.filter((set) => set.length > 1).map((set) => set.map((k) => faults[k]!.hypothesis.id))
}

/**
 * Faults, each with those that no reading tells from it, in the order of their odds together: what is offered as one answer.
 * @param weighed likeliest first @param sets as `faultSets` has them
 *
 * @example
 * import { rankedSets } from '@/plan/finder/fault-odds'
 *
 * const weighed = [['a', 0.4], ['b', 0.35], ['c', 0.25]].map(([id, share]) => ({ hypothesis: { id }, share }))
 * console.log(rankedSets(weighed, [['b', 'c']])) // [ [ 'b', 'c' ], [ 'a' ] ]
 */
export function rankedSets(
  weighed: readonly { readonly hypothesis: { readonly id: string }; readonly share: number }[],
  sets: readonly (readonly string[])[],
): readonly (readonly string[])[] {
  const shares = new Map(weighed.map(({ hypothesis: { id }, share }) => [id, share]))
  const together = (set: readonly string[]) => set.reduce((sum, id) => sum + (shares.get(id) ?? 0), 0)
  const alone = weighed.map(({ hypothesis: { id } }) => id).filter((id) => !sets.some((set) => set.includes(id)))
  return [...sets, ...alone.map((id) => [id])].toSorted((a, b) => together(b) - together(a))
}
