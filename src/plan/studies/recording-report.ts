/** A recording laid beside what its plan predicts: state by state, and where it leaves the band. */
import { STATE_IDS, type StateId } from '@/core/engine/states'
import { scaled, type Job } from '@/core/job'
import { quantile } from '@/core/random'
import { spellsOf } from '@/core/recording/driving-state'
import type { Range } from '@/core/range'
import type { Build } from '../document/schema'
import { eachSeries, type Drive } from '../recordings/drive'
import { driveBand, predictedOver, type DriveBand } from './drive-map'
import { fitRecording, type RecordingFit } from './recording-fit'

/** What is predicted of each sample, and its band, Pa gauge. */
export type PredictedBand = { readonly middle: Float64Array; readonly low: Float64Array; readonly high: Float64Array }

/** A state as it was driven, and its crankcase, Pa gauge: 10, 50 and 90 % of what was read, likely what was predicted. */
export type DrivenState = {
  readonly id: StateId
  readonly seconds: number
  readonly rpm: number
  readonly manifoldPa: number
  readonly measured: Range
  readonly predicted: Range
}
/** A stretch outside the band: when, in which state, by how much at the worst, Pa (above is positive). */
export type OutOfBand = {
  readonly from: number
  readonly to: number
  readonly state: StateId | undefined
  readonly worst: {
    readonly at: number
    readonly measured: number
    readonly predicted: number
    readonly beyond: number
  }
}
export type RecordingReport = {
  readonly states: readonly DrivenState[]
  /** worst first */
  readonly places: readonly OutOfBand[]
  readonly fit: RecordingFit | undefined
  /** where something changed on the way: its states before and after that */
  readonly sides: { readonly before: readonly DrivenState[]; readonly after: readonly DrivenState[] } | undefined
}

/** Stretches shorter than this are noise, and those nearer to each other than this are one, s. */
const [LEAST_S, JOINED_S] = [0.5, 2]
const MOST_PLACES = 40

/** What a band makes of each sample of a drive. */
function predictedBand({ middle, low, high }: DriveBand, drive: Drive): PredictedBand {
  const mid = predictedOver(middle, drive)
  const off = (surface: typeof low) => predictedOver(surface, drive).map((d, k) => mid[k]! + d)
  return { middle: mid, low: off(low), high: off(high) }
}

/** Each state that a drive was in. */
function drivenStates(drive: Drive, predicted: PredictedBand): readonly DrivenState[] {
  const { seconds, rpm, manifoldPa, crankcase, states } = drive
  return STATE_IDS.flatMap((id, s): DrivenState[] => {
    const at = [...states.keys()].filter((k) => states[k] === s)
    const held = at.reduce((sum, k) => sum + Math.min(2, (seconds[k + 1] ?? seconds[k]!) - seconds[k]!), 0)
    const of = (x: ArrayLike<number>) =>
      at
        .map((k) => x[k]!)
        .filter(Number.isFinite)
        .toSorted((a, b) => a - b)
    const [read, mid, low, high] = [of(crankcase), of(predicted.middle), of(predicted.low), of(predicted.high)]
    if (read.length === 0 || mid.length === 0) return []
    const range = (low_: number, mid_: number, high_: number): Range => ({ low: low_, mid: mid_, high: high_ })
    return [
      {
        id,
        seconds: held,
        rpm: quantile(of(rpm), 0.5),
        manifoldPa: quantile(of(manifoldPa), 0.5),
        measured: range(quantile(read, 0.1), quantile(read, 0.5), quantile(read, 0.9)),
        predicted: range(quantile(low, 0.5), quantile(mid, 0.5), quantile(high, 0.5)),
      },
    ]
  })
}

/** Time over which readings are taken together before they are judged, s. */
const TOGETHER_S = 0.6

/** Mean of the readings about each sample, and how many they are; NaN where there are none. */
function smoothed(seconds: Float64Array, values: ArrayLike<number>): { mean: Float64Array; count: Float64Array } {
  const [mean, count] = [new Float64Array(seconds.length), new Float64Array(seconds.length)]
  let [from, end, sum, n] = [0, 0, 0, 0]
  const add = (k: number, sign: 1 | -1) => {
    if (!Number.isFinite(values[k]!)) return
    sum += sign * values[k]!
    n += sign
  }
  for (let k = 0; k < seconds.length; k++) {
    while (end < seconds.length && seconds[end]! <= seconds[k]! + TOGETHER_S / 2) add(end++, 1)
    while (seconds[from]! < seconds[k]! - TOGETHER_S / 2) add(from++, -1)
    mean[k] = n > 0 ? sum / n : Number.NaN
    count[k] = n
  }
  return { mean, count }
}

/** Stretches in which a drive leaves its band, worst first. @param noisePa what a sample strays by on its own */
function outOfBand(drive: Drive, { middle, low, high }: PredictedBand, noisePa: number): readonly OutOfBand[] {
  const { seconds, states, crankcase } = drive
  const over = smoothed(
    seconds,
    crankcase.map((p, k) => p - high[k]!),
  )
  const under = smoothed(
    seconds,
    crankcase.map((p, k) => p - low[k]!),
  )
  // above the band, below it, or 0 in it and where either is not known
  const off = Float64Array.from(over.mean, (above, k) => {
    const strays = (3 * noisePa) / Math.sqrt(Math.max(1, over.count[k]!))
    const below = under.mean[k]!
    return above > strays ? above - strays : below < -strays ? below + strays : 0
  })
  const outside = Int8Array.from(off, (x) => (Math.abs(x) > 0 ? 1 : 0))
  const stretches = spellsOf(outside).filter((s) => s.state === 1)
  const joined: { from: number; end: number }[] = []
  for (const { from, end } of stretches) {
    const last = joined.at(-1)
    if (last && seconds[from]! - seconds[last.end - 1]! < JOINED_S) last.end = end
    else joined.push({ from, end })
  }
  return joined
    .filter(({ from, end }) => seconds[end - 1]! - seconds[from]! >= LEAST_S)
    .map((stretch): OutOfBand => {
      const { end } = stretch
      // readings taken together begin it a moment early: its own first reading that is outside does
      let { from } = stretch
      while (from + 1 < end && crankcase[from]! >= low[from]! && crankcase[from]! <= high[from]!) from++
      let at = from
      for (let k = from; k < end; k++) if (Math.abs(off[k]!) > Math.abs(off[at]!)) at = k
      return {
        from: seconds[from]!,
        to: seconds[end - 1]!,
        state: STATE_IDS[states[at]!],
        worst: { at: seconds[at]!, measured: crankcase[at]!, predicted: middle[at]!, beyond: off[at]! },
      }
    })
    .toSorted((a, b) => Math.abs(b.worst.beyond) - Math.abs(a.worst.beyond))
    .slice(0, MOST_PLACES)
}

/** The states of a drive beside what a plan predicts of them. Yields the share done. */
export function* driveStates(build: Build, drive: Drive): Job<readonly DrivenState[]> {
  return drivenStates(drive, predictedBand(yield* driveBand(build), drive))
}

/** What the sensor shows too much by the fit, Pa; 0 where that is not determined. */
function offsetOf({ figures, explained }: RecordingFit): number {
  const offset = figures.find((f) => f.id === 'offset')
  return explained && offset?.determined ? offset.now.mid : 0
}
/** The band as a sensor with an offset shows it. */
const moved = ({ middle, low, high }: PredictedBand, by: number): PredictedBand => ({
  middle: middle.map((p) => p + by),
  low: low.map((p) => p + by),
  high: high.map((p) => p + by),
})

/** All that a recording says of a build's active plan, and what its sensor should have shown at each sample: with the offset that it was found to have. */
export function* reportRecording(
  build: Build,
  drive: Drive,
): Job<{ readonly report: RecordingReport; readonly predicted: PredictedBand }> {
  const band = yield* scaled(driveBand(build), 0, 0.4)
  const fit = yield* scaled(fitRecording(build, drive), 0.4, 0.6)
  const predicted = moved(predictedBand(band, drive), fit ? offsetOf(fit) : 0)
  const places = outOfBand(drive, predicted, fit?.noise ?? 0)
  const change = fit?.change
  const cut = change && drive.seconds.findIndex((t) => t >= change.at)
  const side = (from: number, end: number): readonly DrivenState[] => {
    const part = <T extends { slice: (a: number, b: number) => T }>(series: T) => series.slice(from, end)
    return drivenStates(
      eachSeries(drive, (s) => part(s as never) as typeof s),
      {
        middle: part(predicted.middle),
        low: part(predicted.low),
        high: part(predicted.high),
      },
    )
  }
  const sides = cut === undefined ? undefined : { before: side(0, cut), after: side(cut, drive.seconds.length) }
  return { report: { states: drivenStates(drive, predicted), places, fit, sides }, predicted }
}
