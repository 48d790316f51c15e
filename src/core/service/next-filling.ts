/** What the next interval gathers, from what was learned of the multipliers and the scatter that no learning takes away. */
import { weakMemo } from '../weak-memo'
import { rangeOf, type Range } from '../range'
import { ENTRY_SIGMA, type Learned, type Pair } from './learn'
import { normalQuantile, normalTail, ROOT_2PI } from './normal'

// looked up once: this runs tens of thousands of times
const { exp, log, sqrt, abs } = Math

/** Bins that the points are gathered in before their quantiles are looked for. */
const BINS = 40
/** A point of no weight to speak of. */
const WEIGHTLESS = 1e-9
/** Standard deviations beyond which a bin lies wholly on one side. */
const FAR = 5
/**
 * Halley on a distribution: a step so short, in widths of its bells, that what it leaves is the cube of it (1e-5 of probability); steps at
 * most, each shorter than a standard deviation.
 */
const SHORT = 0.03
const QUANTILE_STEPS = 40

/** What the multipliers come to at each point, of oil and of water, and room to work in: asked for every use of every can. */
type MultiplierTables = {
  readonly oil: Float64Array
  readonly track: Float64Array
  readonly water: Float64Array
  /** room for the logarithm of all at each point, and for the bins */
  readonly logs: Float64Array
  readonly weight: Float64Array
  readonly mean: Float64Array
}
function timesAt(points: Learned['points']): MultiplierTables {
  const oil = points.oil.map(exp)
  const { track } = points
  return {
    oil,
    water: points.water.map(exp),
    track: oil.map((o, k) => (track ? o * (exp(track[k]!) - 1) : 0)),
    logs: new Float64Array(oil.length),
    weight: new Float64Array(BINS),
    mean: new Float64Array(BINS),
  }
}

export type NextFilling = (learned: Pick<Learned, 'points'>, rates: Pair, scatter?: number) => Range

/**
 * 10, 50 and 90 % points of what the next interval gathers per unit of driving, from model rates per that unit: what was learned, and the
 * interval's own scatter, which no learning takes away. Left out, a promise of one in ten is broken one time in three.
 *
 * @example
 * import { learn } from '@/core/service/learn'
 * import { nextFilling } from '@/core/service/next-filling'
 *
 * console.log(nextFilling(learn([]), { oil: 1, water: 0 }).high) // 2.945149256202657
 */
export const nextFilling: NextFilling = (learned, rates, scatter) => makeNextFilling()(learned, rates, scatter)

/**
 * `nextFilling` for who asks again and again about what was learned: what its multipliers come to is kept.
 *
 * @example
 * import { learn } from '@/core/service/learn'
 * import { makeNextFilling } from '@/core/service/next-filling'
 *
 * console.log(makeNextFilling()(learn([]), { oil: 1, water: 0 }).high) // 2.945149256202657
 */
export function makeNextFilling(): NextFilling {
  const times = weakMemo(timesAt)
  return ({ points }, rates, scatter = ENTRY_SIGMA) => fillingFrom(points, times(points), rates, scatter)
}

function fillingFrom(points: Learned['points'], at: MultiplierTables, rates: Pair, scatter: number): Range {
  if (!(rates.oil + rates.water > 0)) return { low: 0, mid: 0, high: 0 }
  const n = points.weight.length
  const track = rates.track ?? 0
  const y = at.logs
  let low = Infinity
  let high = -Infinity
  for (let k = 0; k < n; k++) {
    if (points.weight[k]! < WEIGHTLESS) continue
    const all = rates.oil * at.oil[k]! + track * at.track[k]! + rates.water * at.water[k]!
    const logarithm = log(all)
    y[k] = logarithm
    if (logarithm < low) low = logarithm
    if (logarithm > high) high = logarithm
  }
  const { weight, mean } = at
  weight.fill(0)
  mean.fill(0)
  const width = (high - low) / BINS || 1
  for (let k = 0; k < n; k++) {
    const w = points.weight[k]!
    if (w < WEIGHTLESS) continue
    const bin = Math.min(BINS - 1, Math.floor((y[k]! - low) / width))
    weight[bin]! += w
    mean[bin]! += w * y[k]!
  }
  // with no scatter asked for, the points themselves are blurred by their distance
  const sigma = Math.max(scatter, width / 2)
  let mu = 0
  let square = 0
  for (let b = 0; b < BINS; b++) {
    if (weight[b]! <= 0) continue
    mean[b]! /= weight[b]!
    mu += weight[b]! * mean[b]!
    square += weight[b]! * (mean[b]! * mean[b]! + sigma * sigma)
  }
  const sd = sqrt(Math.max(1e-12, square - mu * mu))
  const quantile = quantileOf(weight, mean, sigma)
  return rangeOf((q) => exp(quantile(q, mu + normalQuantile(q) * sd, sd)))
}

/**
 * Where a sum of bells of one width `sigma` has the share `q` below it, looked for from `near` by Halley's steps; one is never longer than
 * `most` and never leaves what is known to hold the answer.
 */
function quantileOf(weight: Float64Array, mean: Float64Array, sigma: number) {
  return (q: number, near: number, most: number): number => {
    let low = -Infinity
    let high = Infinity
    let x = near
    for (let step = 0; step < QUANTILE_STEPS; step++) {
      let below = 0
      let slope = 0
      let bend = 0
      for (let b = 0; b < BINS; b++) {
        const z = (x - mean[b]!) / sigma
        const w = weight[b]!
        if (z < -FAR || w === 0) continue
        if (z > FAR) {
          below += w
          continue
        }
        const height = exp(-0.5 * z * z)
        below += w * (z < 0 ? normalTail(-z, height) : 1 - normalTail(z, height))
        slope += w * height
        bend -= w * height * z
      }
      const off = below - q
      // in a gap that the share falls into, every point is as good
      if (abs(off) < 1e-9) return x
      if (off < 0) low = x
      else high = x
      const newton = (-off * ROOT_2PI) / slope
      // between bells that stand far apart nothing slopes
      const by =
        slope > 0 ? (sigma * newton) / Math.max(0.5, 1 + (newton * bend) / (2 * slope)) : -Math.sign(off) * most
      const to = x + Math.max(-most, Math.min(most, by))
      const inside = to > low && to < high
      if (inside && abs(by) < SHORT * sigma) return to
      x = inside ? to : (low + high) / 2
    }
    return x
  }
}
