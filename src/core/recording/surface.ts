/** A figure over engine speed and manifold pressure, read between its points. */

/** Even or uneven points along both, rising; a figure at each, by row of manifold pressure, then column of speed. */
export type Surface = {
  readonly rpm: readonly number[]
  readonly manifoldPa: readonly number[]
  readonly values: Float64Array
}

/** Where a place lies among rising points: the one before it and the share of the way to the next; held at the ends. */
function placeIn(points: readonly number[], at: number): readonly [index: number, share: number] {
  const last = points.length - 2
  // points are near to even: a guess, then a step or two
  const [first, end] = [points[0]!, points[points.length - 1]!]
  let k = Math.max(0, Math.min(last, Math.floor(((at - first) / (end - first)) * (points.length - 1))))
  while (k > 0 && at < points[k]!) k--
  while (k < last && at > points[k + 1]!) k++
  const share = (at - points[k]!) / (points[k + 1]! - points[k]!)
  return [k, Math.max(0, Math.min(1, share))]
}

/**
 * Bilinear between the four points about it; outside, as at the edge. NaN where a corner that counts has no figure, or the place is none.
 *
 * @example
 * import { surfaceAt } from '@/core/recording/surface'
 *
 * const plane = { rpm: [0, 1000], manifoldPa: [0, 1e5], values: Float64Array.of(0, 10, 100, 110) }
 * console.log(surfaceAt(plane, 500, 5e4)) // 55
 */
export function surfaceAt({ rpm, manifoldPa, values }: Surface, speed: number, pressure: number): number {
  if (!Number.isFinite(speed) || !Number.isFinite(pressure)) return Number.NaN
  const width = rpm.length
  const [i, x] = placeIn(rpm, speed)
  const [j, y] = placeIn(manifoldPa, pressure)
  let [sum, all] = [0, 0]
  for (const [row, v] of [
    [j, 1 - y],
    [j + 1, y],
  ] as const)
    for (const [column, u] of [
      [i, 1 - x],
      [i + 1, x],
    ] as const) {
      if (u * v === 0) continue
      const value = values[row * width + column]!
      if (Number.isNaN(value)) return Number.NaN
      sum += u * v * value
      all += u * v
    }
  return sum / all
}

/**
 * What follows a quantity with a time constant, exactly for one that is held from sample to sample; it starts settled.
 * @param tauS time constant, s, 0 or more
 *
 * @example
 * import { lagged } from '@/core/recording/surface'
 *
 * console.log(lagged(Float64Array.of(0, 1), Float64Array.of(0, 1), 1)[1]) // 0.6321205588285577
 */
export function lagged(seconds: Float64Array, values: Float64Array, tauS: number): Float64Array {
  if (tauS <= 0) return values.slice()
  const out = new Float64Array(values.length)
  let now = Number.NaN
  for (let k = 0; k < values.length; k++) {
    const to = values[k]!
    if (Number.isNaN(to)) {
      out[k] = Number.NaN
      continue
    }
    now = Number.isNaN(now) ? to : to + (now - to) * Math.exp(-(seconds[k]! - seconds[k - 1]!) / tauS)
    out[k] = now
  }
  return out
}
