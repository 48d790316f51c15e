/**
 * What cans catch about a peak. It jumps where a flow turns, so that it is not made straight: how likely it is, is the mean over cars that all
 * else leaves.
 */
import { dotProduct, gaussianEvidence, type LinearReading } from '@/core/inference/gaussian-evidence'
import { uniforms } from '@/core/random'
import { normalCdf, normalQuantile } from '@/core/service/normal'
import type { Build } from '../document/schema'
import { figuresOf } from '../model/figures'
import {
  faultyCarAt,
  isCatchRow,
  linearFigures,
  linearModelThrough,
  linearReadings,
  evidenceRow,
  soundCarAt,
  updatedUnknowns,
  type FaultPeakSearch,
  type LinearisedPeak,
  type LinearModel,
} from './fault-peak'
import { linearEvidence, logSumExp } from './fault-odds'
import type { Evidence } from './observables'
import { LOG_CATCH_DEVIATION, catchRates, scaledCatch, type FaultPoint, type Predictions } from './predictions'

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
export type FaultPeak = { readonly search: FaultPeakSearch; readonly place: LinearisedPeak; readonly point: FaultPoint }

/** Figures with what cans catch as given, before the car's own multiplier of oil. */
const withCaught = (search: FaultPeakSearch, { model, z }: LinearisedPeak, caught: Float64Array): Float64Array =>
  linearFigures(model, z).map((f, row) => {
    const own = isCatchRow(search, row) && row < caught.length ? caught[row]! + LOG_CATCH_DEVIATION * z.at(-2)! : f
    return Number.isFinite(own) ? own : f
  })

/**
 * What cans catch at a place of the unknowns, before the car's own multiplier of oil: rows of the faulty car, then of the sound one where cans
 * were emptied before the trouble; undefined where there is no answer.
 */
export function catchesAt(search: FaultPeakSearch, z: Float64Array): Float64Array | undefined {
  const { observables, soundCatch } = search.predictions
  const of = (car: Build | undefined) =>
    car && scaledCatch(observables, catchRates(car, figuresOf(car, search.evaluator)), soundCatch)
  const now = of(faultyCarAt(search, z))
  const before = search.catches.some((e) => e.before) ? of(soundCarAt(search, z)) : []
  return now && before && Float64Array.of(...now, ...before)
}

/** A severity of a fault, straight about a place. @param caught what cans catch there */
export function linearisedPoint(
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
 * How likely what cans were found to have caught is where so much is caught, whatever the car's own multiplier of oil, as a logarithm.
 * @param caught by rows, as `catchesAt` has it
 */
export function catchLogLikelihood(
  {
    catches,
    predictions: { observables },
  }: { catches: readonly Evidence[]; predictions: Pick<Predictions, 'observables'> },
  caught: ArrayLike<number>,
): number {
  const readings = catches.map((e): LinearReading => ({
    off: e.scaled - caught[evidenceRow(observables, e)]!,
    slopes: [LOG_CATCH_DEVIATION],
    error: e.error,
  }))
  const measured = gaussianEvidence(readings.filter((_, k) => !catches[k]!.atMost))
  return readings.reduce((log, { off, slopes, error }, k) => {
    if (!catches[k]!.atMost) return log
    const { shift, variance } = measured.predict(slopes)
    return log + Math.log(Math.max(1e-12, normalCdf((off - shift) / Math.hypot(error, Math.sqrt(variance)))))
  }, measured.log)
}

/** What cans catch with a severity of a fault: in the mean, and how likely what they were found to have caught is, as a logarithm. */
export type DrawnCatches = { readonly caught: Float64Array; readonly log: number }

/** Over cars as all else leaves them: their mean likelihood is what the straight model's own is held to; undefined where none has an answer. */
export function drawCatches({ search, place }: FaultPeak, draws: number): DrawnCatches | undefined {
  const drawn = drawnUnknowns(search, place, draws).flatMap((z) => {
    const caught = catchesAt(search, z)
    const log = caught && catchLogLikelihood(search, caught)
    return caught && log !== undefined && Number.isFinite(log) ? [{ caught, log }] : []
  })
  if (drawn.length === 0) return undefined
  return {
    caught: drawn[0]!.caught.map((_, row) => drawn.reduce((sum, d) => sum + d.caught[row]!, 0) / drawn.length),
    log: logSumExp(drawn.map((d) => d.log)) - Math.log(drawn.length),
  }
}

/** The point of a peak with its catches as likely as they were drawn. */
export function withDrawnCatches(
  { search, place, point: given }: FaultPeak,
  evidence: readonly Evidence[],
  { caught, log }: DrawnCatches,
): FaultPoint {
  const point = linearisedPoint(search, given, place, caught)
  const others = evidence.filter((e) => !search.catches.includes(e))
  const [all, without] = [evidence, others].map((of) => linearEvidence(search.predictions, of, point).log)
  return { ...point, overstatement: place.overstatement + all! - without! - log }
}
