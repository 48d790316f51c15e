/**
 * Predictions made straight anew where each fault explains best what was read, then Laplace around that peak (methods 12). What a can catches
 * jumps where a flow turns: how likely that is, is the mean over cars that all else leaves.
 */
import { scaled, type Job } from '@/core/job'
import type { Build } from '../document/schema'
import { makeEvaluator } from '../model/evaluator'
import { uncertainInputs } from '../studies/uncertain'
import {
  catchesAt,
  drawCatches,
  linearisedPoint,
  withDrawnCatches,
  type DrawnCatches,
  type FaultPeak,
} from './drawn-catches'
import {
  findFaultPeak,
  isReached,
  linearModelOf,
  middleOf,
  plansWithFault,
  refineFaultPeak,
  roughLogEvidence,
  evidenceRow,
  soundGasAt,
  type FaultPeakSearch,
  type LinearisedPeak,
  type LinearModel,
  type PeakSearch,
} from './fault-peak'
import { weighAsComputed, type WeighedHypothesis } from './fault-odds'
import { gasSolver } from './gas-states'
import { observableRow, type Evidence } from './observables'
import type { FaultPoint, Predictions, WorkedHypothesis } from './predictions'

/** A peak so far below the highest is not searched further, as a logarithm. */
const HOPELESS = 10
/** Rounds in which a search begins anew where the best of others ended; of those so many, so far apart, standard deviations. */
const [START_ROUNDS, STARTS, APART] = [2, 3, 1]
/** A misfit so little above the least needs no other start: a sum of squares. */
const FITS_WELL = 3
/** How far off one unknown of the sound car is where a search for it may begin, standard deviations. */
const ONE_OFF = [-2, 2] as const
/**
 * A severity whose peak lies so far below that of its fault's first, or so far below the best of all, keeps the slopes by which it was found;
 * as logarithms.
 */
const [LESS_LIKELY, FAR_BELOW] = [3, 4]
/** Rounds in which what only seems likely is worked out. */
const SEEMING_ROUNDS = 4
/** Cars of each fault over which the likelihood of a catch is taken, over all its severities, and of one of these at least. */
const [DRAWS, LEAST_DRAWS] = [12, 2]
/** Catches are drawn of faults with so much of the odds, or with so much without what cans caught; of severities with so much of their fault's. */
const [LEAST_SHARE, LEAST_WITHOUT_CATCH, LEAST_WEIGHT] = [0.01, 0.003, 0.03]

/** Where the best searches ended, apart from each other, and the least misfit of them. */
function bestStarts(places: readonly LinearisedPeak[]) {
  const sorted = places.toSorted((a, b) => a.misfit - b.misfit)
  const starts: Float64Array[] = []
  for (const { z } of sorted) {
    const isNew = starts.every((s) => Math.hypot(...s.map((x, i) => x - z[i]!)) > APART)
    if (isNew && starts.length < STARTS) starts.push(z)
  }
  return { starts, least: sorted[0]!.misfit }
}

/** Peaks of all faults as far as they are worked out. */
type Peaks = {
  readonly of: (point: FaultPoint) => FaultPeak | undefined
  readonly set: (point: FaultPoint, peak: FaultPeak) => void
  /** the predictions with what is worked out */
  readonly predictions: () => Predictions
}
function makePeaks(predictions: Predictions): Peaks {
  const peaks = new Map<FaultPoint, FaultPeak>()
  return {
    of: (point) => peaks.get(point),
    set: (point, peak) => peaks.set(point, peak),
    predictions: () => ({
      ...predictions,
      hypotheses: predictions.hypotheses.map((h) => ({
        ...h,
        points: h.points.map((p) => peaks.get(p)?.point ?? p),
      })),
    }),
  }
}

/** A fault, its severities with the likeliest at a first look first, and the search for the peak of each. */
type RankedFault = {
  readonly h: WorkedHypothesis
  readonly points: readonly FaultPoint[]
  readonly searchOf: (point: FaultPoint) => FaultPeakSearch
}
function rankedFaults(search: PeakSearch): readonly RankedFault[] {
  return search.predictions.hypotheses.map((h) => {
    const broken = plansWithFault(search, h)
    const rough = new Map(h.points.map((p) => [p, roughLogEvidence(search, p)]))
    return {
      h,
      points: h.points.toSorted((a, b) => rough.get(b)! - rough.get(a)!),
      searchOf: ({ share }) => ({ ...search, h, share, broken }),
    }
  })
}

const leastMisfit = (places: readonly LinearisedPeak[]): LinearisedPeak =>
  places.reduce((a, b) => (b.misfit < a.misfit ? b : a))

/** How low the misfit would be where the straight model has its own peak. */
const promisedMisfit = ({ misfit, overstatement }: LinearisedPeak): number => misfit - 2 * overstatement

/** The best of several ends of a search, each refined where it promises no more than so much of a misfit. */
const refinedOf = (
  search: FaultPeakSearch,
  ends: readonly LinearisedPeak[],
  most: number,
  about?: Float64Array,
): LinearisedPeak =>
  leastMisfit(ends.map((place) => (promisedMisfit(place) < most ? refineFaultPeak(search, place, about) : place)))

/** Slopes by the car's unknowns as they are about one severity's peak, for another severity of the same fault. */
const slopesOfPeak = (own: LinearModel, { model }: LinearisedPeak): LinearModel => ({
  middle: own.middle,
  slopes: own.slopes.map((row, k) => {
    const slopes = model.slopes[k]!.slice()
    slopes[slopes.length - 1] = row.at(-1)!
    return slopes
  }),
})

/** Where the unknowns are likeliest by what was read of the sound car alone, with the search begun at the best of places one unknown off. */
function soundPeak({ points, searchOf }: RankedFault): Float64Array {
  const search = searchOf(points[0]!)
  const before = { ...search, read: search.read.filter(({ e }) => e.before) }
  const beside = search.inputs.flatMap((_, i) =>
    ONE_OFF.map((off) => {
      const z = middleOf(search)
      z[i] = off
      return z
    }),
  )
  return findFaultPeak(before, linearModelOf(before, points[0]!), [middleOf(search), ...beside]).z
}

/**
 * Where searches for each fault's first severity end: from the middle of all ranges or where the sound car was, then from where those of other
 * faults did. Yields the share done.
 */
function* firstEnds(search: PeakSearch, faults: readonly RankedFault[]): Job<readonly (readonly LinearisedPeak[])[]> {
  const begin = ({ points, searchOf }: RankedFault, starts?: readonly Float64Array[]): LinearisedPeak => {
    const own = searchOf(points[0]!)
    return findFaultPeak(own, linearModelOf(own, points[0]!), starts)
  }
  const [sound] = faults
  const known = search.withBefore && sound ? [middleOf(search), soundPeak(sound)] : undefined
  const ends: LinearisedPeak[][] = []
  for (const [k, fault] of faults.entries()) {
    ends.push([begin(fault, known)])
    yield (0.6 * (k + 1)) / faults.length
  }
  for (let round = 0; round < START_ROUNDS; round++) {
    const { starts, least } = bestStarts(ends.map(leastMisfit))
    for (const [k, fault] of faults.entries()) {
      const { misfit } = leastMisfit(ends[k]!)
      if (misfit <= least + FITS_WELL) continue
      const again = begin(fault, starts)
      if (again.misfit < misfit) ends[k]!.push(again)
      yield 0.6 + (0.4 * (round + (k + 1) / faults.length)) / START_ROUNDS
    }
  }
  return ends
}

/**
 * Peaks of a fault's other severities, each searched for from its neighbour's.
 * @param first peak of the fault's first severity @param best the best of all faults
 */
function otherSeverities(
  { points: [given, ...others], searchOf }: RankedFault,
  first: LinearisedPeak,
  best: LinearisedPeak,
): readonly (readonly [FaultPoint, LinearisedPeak])[] {
  const most = Math.min(first.misfit + 2 * LESS_LIKELY, best.misfit + 2 * FAR_BELOW)
  const apart = (a: FaultPoint, b: FaultPoint) => Math.abs(a.share - b.share)
  /** with whether its slopes are of its own severity */
  const worked = [{ point: given!, place: first, ownSlopes: true }]
  for (const point of others.toSorted((a, b) => apart(a, given!) - apart(b, given!))) {
    const own = searchOf(point)
    const straight = linearModelOf(own, point)
    const beside = worked.reduce((a, b) => (apart(b.point, point) < apart(a.point, point) ? b : a))
    const near = findFaultPeak(own, slopesOfPeak(straight, beside.place), [beside.place.z, best.z])
    const ends = [refinedOf(own, [near], most, beside.ownSlopes ? beside.place.z : undefined)]
    // a search that goes out from another severity may end short of the peak
    if (!isReached(near) || near.misfit > first.misfit + FITS_WELL)
      ends.push(refinedOf(own, [findFaultPeak(own, straight)], most))
    const place = leastMisfit(ends)
    worked.push({ point, place, ownSlopes: place !== near })
  }
  return worked.slice(1).map(({ point, place }) => [point, place])
}

/** Finds the peak of each fault at each severity that may count. Yields the share done. */
function* findPeaks(search: PeakSearch, others: readonly Evidence[], peaks: Peaks): Job<void> {
  const faults = rankedFaults(search)
  const keep = (own: FaultPeakSearch, given: FaultPoint, place: LinearisedPeak) =>
    peaks.set(given, { search: own, place, point: linearisedPoint(own, given, place) })
  const ends = yield* scaled(firstEnds(search, faults), 0, 0.5)
  const best = leastMisfit(ends.flat())
  const most = best.misfit + 2 * HOPELESS
  for (const [k, fault] of faults.entries()) {
    const own = fault.searchOf(fault.points[0]!)
    const first = refinedOf(own, ends[k]!, most)
    keep(own, fault.points[0]!, first)
    if (promisedMisfit(first) < most)
      for (const [point, place] of otherSeverities(fault, first, best)) keep(fault.searchOf(point), point, place)
    yield 0.5 + (0.4 * (k + 1)) / faults.length
  }
  // straight about the middle of all ranges, a severity may seem likelier than it is
  for (let round = 0; round < SEEMING_ROUNDS; round++) {
    const weighed = weighAsComputed(peaks.predictions(), others)
    const seeming = faults.flatMap((fault, k) => {
      const { share, points } = weighed.find((w) => w.hypothesis.id === fault.h.id)!
      return fault.h.points
        .filter((p, i) => !peaks.of(p) && share * points[i]!.weight > LEAST_WITHOUT_CATCH)
        .map((point) => ({ point, own: fault.searchOf(point), starts: [leastMisfit(ends[k]!).z, best.z] }))
    })
    if (seeming.length === 0) break
    for (const { point, own, starts } of seeming) {
      const straight = linearModelOf(own, point)
      const found = [findFaultPeak(own, straight), findFaultPeak(own, straight, starts)]
      keep(own, point, refinedOf(own, found, best.misfit + 2 * FAR_BELOW))
      yield 0.9 + (0.1 * round) / SEEMING_ROUNDS
    }
  }
}

/** Puts what cans catch to the peaks that count. Yields the share done. */
function* putCatches({ catches, predictions }: PeakSearch, evidence: readonly Evidence[], peaks: Peaks): Job<void> {
  const others = evidence.filter((e) => !catches.includes(e))
  // what a catch is far off by at the peak, it need not be by over all cars: odds without it say what counts
  const withoutCatch = weighAsComputed(peaks.predictions(), others)
  const workedOf = ({ hypothesis, points }: WeighedHypothesis) =>
    predictions.hypotheses
      .find((h) => h.id === hypothesis.id)!
      .points.flatMap((point, k) => {
        const peak = peaks.of(point)
        return peak ? [{ point, peak, weight: points[k]!.weight }] : []
      })
      .toSorted((a, b) => b.weight - a.weight)
  const put = (weighed: WeighedHypothesis): void => {
    const worked = workedOf(weighed)
    const counted = worked.filter(({ weight }) => weight >= LEAST_WEIGHT)
    const sum = counted.reduce((all, { weight }) => all + weight, 0)
    let likeliest: DrawnCatches | undefined
    for (const { point, peak, weight } of worked) {
      const draws = weight >= LEAST_WEIGHT ? Math.max(LEAST_DRAWS, Math.round((DRAWS * weight) / sum)) : 0
      // a severity that hardly counts is taken to catch as the likeliest does
      const drawn = (draws > 0 ? drawCatches(peak, draws) : undefined) ?? likeliest
      likeliest ??= drawn
      if (drawn) peaks.set(point, { ...peak, point: withDrawnCatches(peak, evidence, drawn) })
    }
  }
  if (catches.length === 0) {
    for (const weighed of withoutCatch.filter(({ share }) => share >= LEAST_SHARE))
      for (const { point, peak, weight } of workedOf(weighed))
        if (weight >= LEAST_WEIGHT)
          peaks.set(point, {
            ...peak,
            point: linearisedPoint(peak.search, point, peak.place, catchesAt(peak.search, peak.place.z)),
          })
    return
  }
  const isPut = new Set<string>()
  for (let round = 0; round < SEEMING_ROUNDS; round++) {
    const seeming = weighAsComputed(peaks.predictions(), evidence)
    const counts = withoutCatch.filter(
      ({ hypothesis: { id }, share }) =>
        !isPut.has(id) &&
        (share >= LEAST_WITHOUT_CATCH || seeming.find((w) => w.hypothesis.id === id)!.share >= LEAST_SHARE),
    )
    if (counts.length === 0) break
    for (const [k, weighed] of counts.entries()) {
      put(weighed)
      isPut.add(weighed.hypothesis.id)
      yield (k + 1) / counts.length
    }
  }
}

/**
 * The predictions, straight about where each fault explains best what was read; where nothing was read since the trouble is there, as they
 * are. Yields the share done.
 */
export function* relinearised(build: Build, predictions: Predictions, evidence: readonly Evidence[]): Job<Predictions> {
  const { observables } = predictions
  const known = evidence.filter((e) => observableRow(observables, e.observable) >= 0)
  if (known.every((e) => e.before)) return predictions
  const catches = known.filter((e) => e.observable.kind === 'catch')
  const others = known.filter((e) => !catches.includes(e))
  const evaluator = makeEvaluator()
  const sound = { build, inputs: uncertainInputs(build) }
  const search: PeakSearch = {
    ...sound,
    evaluator,
    solve: gasSolver(evaluator),
    // a solver of its own goes on from where it ended
    soundGas: soundGasAt(sound, gasSolver(evaluator)),
    predictions,
    catches,
    read: others.map((e) => ({ row: evidenceRow(observables, e), e })),
    withBefore: others.some((e) => e.before),
  }
  const peaks = makePeaks(predictions)
  yield* scaled(findPeaks(search, others, peaks), 0, 0.6)
  yield* scaled(putCatches(search, known, peaks), 0.6, 0.4)
  return peaks.predictions()
}
