/**
 * Predictions made straight anew where each fault explains best what was read, then Laplace around that peak (methods 12). What a can catches
 * jumps where a flow turns: how likely that is, is the mean over cars that all else leaves.
 */
import { dotProduct, gaussianEvidence } from '@/core/inference/gaussian-evidence'
import type { Job } from '@/core/job'
import { uniforms } from '@/core/random'
import { normalQuantile } from '@/core/service/normal'
import type { Build } from '../document/schema'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { uncertainInputs } from '../studies/uncertain'
import {
  plansWithFault,
  faultyCarAt,
  isCatchRow,
  linearReadings,
  updatedUnknowns,
  findFaultPeak,
  refineFaultPeak,
  roughLogEvidence,
  linearModelOf,
  linearFigures,
  linearModelThrough,
  unitVector,
  type FaultPeakSearch,
  type LinearisedPeak,
  type LinearModel,
  type PeakSearch,
} from './fault-peak'
import { logSumExp, linearEvidence, weigh } from './fault-odds'
import { gasSolver } from './gas-states'
import { observableRow, type Evidence } from './observables'
import {
  LOG_CATCH_DEVIATION,
  catchRates,
  scaledCatch,
  type FaultPoint,
  type Predictions,
  type WorkedHypothesis,
} from './predictions'

/** Cars of each fault over which the likelihood of a catch is taken, over all its severities. */
const DRAWS = 12
/** A peak that even by its straight model lies so far below the highest keeps the slopes by which it was found, as a logarithm. */
const HOPELESS = 10
/** Faults with less of the odds, with what cans caught or without, are worked out at one severity alone. */
const [LEAST_SHARE, LEAST_WITHOUT_CATCH] = [0.01, 0.003]
/** Others are worked out at all severities that are within this of the likeliest, as logarithms. */
const LESS_LIKELY = 1.5

/** What a straight model of all rows says of the faulty car, or of the sound one, with what is still open of it. */
function rowsOf(
  { middle, slopes }: LinearModel,
  [from, to]: readonly [number, number],
  openOf: (row: Float64Array) => number,
) {
  const own = slopes.slice(from, to)
  return { middle: middle.slice(from, to), slopes: own, open: Float64Array.from(own, openOf) }
}

/** A severity of a fault, its peak, and the point made straight there. */
type FaultPeak = { readonly search: FaultPeakSearch; readonly place: LinearisedPeak; readonly point: FaultPoint }

/** Figures with what the cans of the faulty car catch as given, before its own multiplier of oil. */
const withCaught = (search: FaultPeakSearch, { model, z }: LinearisedPeak, caught: Float64Array): Float64Array =>
  linearFigures(model, z).map((f, row) => {
    const own = isCatchRow(search, row) && row < caught.length ? caught[row]! + LOG_CATCH_DEVIATION * z.at(-2)! : f
    return Number.isFinite(own) ? own : f
  })

/** What the cans of the faulty car catch at a place of the unknowns, before its own multiplier of oil; undefined where it has no answer. */
function caughtAt(search: FaultPeakSearch, z: Float64Array): Float64Array | undefined {
  const { observables, soundCatch } = search.predictions
  const car = faultyCarAt(search, z)
  return car && scaledCatch(observables, catchRates(car, figuresOf(car, search.evaluator)), soundCatch)
}

/** A severity of a fault, straight about a place. @param caught what cans catch there */
function pointAt(
  search: FaultPeakSearch,
  given: FaultPoint,
  place: LinearisedPeak,
  caught: Float64Array = new Float64Array(0),
): FaultPoint {
  const count = search.predictions.observables.length
  const model = linearModelThrough(place.model.slopes, place.z, withCaught(search, place, caught))
  const evidence = gaussianEvidence(linearReadings(search, model))
  const openOf = (row: Float64Array) => Math.sqrt(evidence.predict(row).variance)
  const before = search.withBefore ? { before: rowsOf(model, [count, 2 * count], openOf) } : {}
  return { ...given, ...rowsOf(model, [0, count], openOf), ...before, overstatement: place.overstatement }
}

/** Cars with the fault as all but the catches leaves them, drawn from the straight model (Matheron's rule). */
function drawnUnknowns(search: FaultPeakSearch, { model }: LinearisedPeak, count: number): readonly Float64Array[] {
  const uniform = uniforms(Math.round(1000 * search.share))
  const normal = () => normalQuantile(uniform())
  const readings = linearReadings(search, model)
  return Array.from({ length: count }, () => {
    const drawn = Float64Array.from({ length: search.predictions.unknowns }, normal)
    const left = gaussianEvidence(
      readings.map((r) => ({ ...r, off: r.off - dotProduct(r.slopes, drawn) - r.error * normal() })),
    )
    return updatedUnknowns(left, drawn)
  })
}

/**
 * The same point with what cans catch drawn: the mean likelihood of the catches over cars as all else leaves them, which is what the straight
 * model's own is held to.
 */
function withDrawnCatch(
  { search, place, point: given }: FaultPeak,
  evidence: readonly Evidence[],
  draws: number,
): FaultPoint {
  const { observables, unknowns } = search.predictions
  const oil = gaussianEvidence(linearReadings(search, place.model)).predict(unitVector(unknowns, unknowns - 2))
  const drawn = drawnUnknowns(search, place, draws).flatMap((z) => {
    const caught = caughtAt(search, z)
    if (!caught) return []
    const { log } = gaussianEvidence(
      search.catches.map((e) => ({
        off: e.scaled - caught[observableRow(observables, e.observable)]! - LOG_CATCH_DEVIATION * oil.shift,
        slopes: [LOG_CATCH_DEVIATION * Math.sqrt(oil.variance)],
        error: e.error,
      })),
    )
    return Number.isFinite(log) ? [{ caught, log }] : []
  })
  if (drawn.length === 0) return given
  const log = logSumExp(drawn.map((d) => d.log)) - Math.log(drawn.length)
  const mean = drawn[0]!.caught.map((_, row) => drawn.reduce((sum, d) => sum + d.caught[row]!, 0) / drawn.length)
  const point = pointAt(search, given, place, mean)
  const others = evidence.filter((e) => !search.catches.includes(e))
  const [all, without] = [evidence, others].map((of) => linearEvidence(search.predictions, of, point).log)
  return { ...point, overstatement: place.overstatement + all! - without! - log }
}

/**
 * The predictions, straight about where each fault explains best what was read; where nothing was read since the trouble is there, as they
 * are. Yields the share done.
 */
export function* relinearised(build: Build, predictions: Predictions, evidence: readonly Evidence[]): Job<Predictions> {
  const { observables } = predictions
  const known = evidence.filter((e) => observableRow(observables, e.observable) >= 0)
  if (known.every((e) => e.before)) return predictions
  const catches = known.filter((e) => !e.before && e.observable.kind === 'catch')
  const others = known.filter((e) => !catches.includes(e))
  const evaluator = makeEvaluator()
  const search: PeakSearch = {
    build,
    inputs: uncertainInputs(build),
    evaluator,
    solve: gasSolver(evaluator),
    predictions,
    catches,
    read: others.map((e) => ({
      row: observableRow(observables, e.observable) + (e.before ? observables.length : 0),
      e,
    })),
    withBefore: others.some((e) => e.before),
  }
  const peaks = new Map<FaultPoint, FaultPeak>()
  const soFar = (): Predictions => ({
    ...predictions,
    hypotheses: predictions.hypotheses.map((h) => ({
      ...h,
      points: h.points.map((p) => peaks.get(p)?.point ?? p),
    })),
  })
  const ranked = predictions.hypotheses.map((h) => ({
    h,
    points: h.points
      .map((point) => ({ point, log: roughLogEvidence(search, point) }))
      .toSorted((a, b) => b.log - a.log),
  }))
  const keepPeak = (own: FaultPeakSearch, given: FaultPoint, place: LinearisedPeak) => {
    // what a can catches takes as long as all gas, and tells nothing of which fault it is while none was emptied
    const point = pointAt(own, given, place, catches.length > 0 ? caughtAt(own, place.z) : undefined)
    const peak = { search: own, place, point }
    peaks.set(given, peak)
    return peak
  }
  const searchOf = (h: WorkedHypothesis, { share }: FaultPoint): FaultPeakSearch => ({
    ...search,
    h,
    share,
    broken: plansWithFault(search, h),
  })
  const find = (own: FaultPeakSearch, point: FaultPoint) => findFaultPeak(own, linearModelOf(own, point))
  for (const [k, { h, points }] of ranked.entries()) {
    const { point } = points[0]!
    const own = searchOf(h, point)
    keepPeak(own, point, find(own, point))
    yield (0.4 * (k + 1)) / ranked.length
  }
  const highest = Math.max(...Array.from(peaks.values(), ({ place }) => -place.misfit / 2))
  const refine = (own: FaultPeakSearch, place: LinearisedPeak) =>
    place.overstatement - place.misfit / 2 < highest - HOPELESS ? place : refineFaultPeak(own, place)
  for (const [k, { points }] of ranked.entries()) {
    const { point } = points[0]!
    const { search: own, place } = peaks.get(point)!
    const refined = refine(own, place)
    if (refined !== place) keepPeak(own, point, refined)
    yield 0.4 + (0.2 * (k + 1)) / ranked.length
  }
  // what a catch is far off by at the peak, it need not be by over all cars
  const worthMore = [
    ...weigh(soFar(), evidence, []).filter((w) => w.share >= LEAST_SHARE),
    ...(catches.length === 0 ? [] : weigh(soFar(), others, []).filter((w) => w.share >= LEAST_WITHOUT_CATCH)),
  ]
  const likely = new Set(worthMore.map((w) => w.hypothesis.id))
  for (const [k, { h, points }] of ranked.entries()) {
    const tried = likely.has(h.id) ? points.filter(({ log }) => log >= points[0]!.log - LESS_LIKELY) : []
    for (const { point } of tried) {
      const own = searchOf(h, point)
      const peak = peaks.get(point) ?? keepPeak(own, point, refine(own, find(own, point)))
      const whole =
        catches.length > 0
          ? withDrawnCatch(peak, evidence, Math.ceil(DRAWS / tried.length))
          : pointAt(peak.search, point, peak.place, caughtAt(peak.search, peak.place.z))
      peaks.set(point, { ...peak, point: whole })
    }
    yield 0.6 + (0.4 * (k + 1)) / ranked.length
  }
  return soFar()
}
