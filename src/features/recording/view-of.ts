/** The part of a recording that is shown, and what of it is drawn in each column of the picture. */
import type { DrawnRecording } from './recording-job'

/** Seconds at the left and the right edge. */
export type TimeWindow = { readonly from: number; readonly to: number }

/** A recording is never drawn closer than this, s. */
const CLOSEST_S = 2

/** A window zoomed by a factor about a time, kept inside the recording. */
export function zoomed({ from, to }: TimeWindow, whole: TimeWindow, factor: number, about: number): TimeWindow {
  const length = Math.min(whole.to - whole.from, Math.max(CLOSEST_S, (to - from) * factor))
  const share = (about - from) / (to - from)
  return moved({ from: about - share * length, to: about + (1 - share) * length }, whole, 0)
}

/** A window moved by so many seconds, kept inside the recording. */
export function moved({ from, to }: TimeWindow, whole: TimeWindow, by: number): TimeWindow {
  const length = Math.min(to - from, whole.to - whole.from)
  const start = Math.max(whole.from, Math.min(whole.to - length, from + by))
  return { from: start, to: start + length }
}

/** Index of the first sample at or after a time. */
export function sampleAt(seconds: Float64Array, t: number): number {
  let [low, high] = [0, seconds.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (seconds[middle]! < t) low = middle + 1
    else high = middle
  }
  return low
}

/** Lowest and highest of a series in one column of the picture. */
export type ColumnExtent = { readonly x: number; readonly low: number; readonly high: number }

/** The least and the greatest of a series in each of `columns` equal parts of the window: no peak is lost. */
export function extentsOf(
  { seconds }: Pick<DrawnRecording, 'seconds'>,
  values: ArrayLike<number>,
  { from, to }: TimeWindow,
  columns: number,
): readonly ColumnExtent[] {
  const extents: ColumnExtent[] = []
  let k = Math.max(0, sampleAt(seconds, from) - 1)
  for (let column = 0; column < columns; column++) {
    const end = from + ((to - from) * (column + 1)) / columns
    let [low, high] = [Infinity, -Infinity]
    for (; k < seconds.length && seconds[k]! <= end; k++) {
      const v = values[k]!
      if (Number.isNaN(v)) continue
      low = Math.min(low, v)
      high = Math.max(high, v)
    }
    if (low <= high) extents.push({ x: (column + 0.5) / columns, low, high })
  }
  return extents
}
