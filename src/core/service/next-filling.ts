/** What the next interval gathers, from what was learned of the multipliers and the scatter that no learning takes away. */
import { weakMemo } from '../weak-memo'
import { rangeOf, type Range } from '../range'
import type { Learned } from './learn'
import type { PosteriorPoints } from './posterior'
import type { Pair } from './prior'
import { studentCdf, studentDensity } from './student'

// looked up once: this runs tens of thousands of times
const { exp, log, abs, min, max, floor } = Math

/** Bins that the points of one scatter are gathered in before their quantiles are looked for. */
const BINS = 48
/** Newton on a distribution: as near in probability, and steps at most; one is never longer than the widest scatter. */
const NEAR_ENOUGH = 1e-7
const QUANTILE_STEPS = 60

/** What the multipliers come to at each point, of oil and of water, and room to work in: asked for every use of every can. */
type MultiplierTables = {
  readonly oil: Float64Array
  readonly track: Float64Array
  readonly water: Float64Array
  /** room for the logarithm of all at each point, and for the bins of each scatter */
  readonly logs: Float64Array
  readonly weight: Float64Array
  readonly mean: Float64Array
}
function timesAt(points: PosteriorPoints): MultiplierTables {
  const oil = points.oil.map(exp)
  const { track } = points
  return {
    oil,
    water: points.water.map(exp),
    track: oil.map((o, k) => (track ? o * (exp(track[k]!) - 1) : 0)),
    logs: new Float64Array(oil.length),
    weight: new Float64Array(BINS * points.scatter.length),
    mean: new Float64Array(BINS * points.scatter.length),
  }
}

export type NextFilling = (learned: Pick<Learned, 'points'>, rates: Pair) => Range

/**
 * 10, 50 and 90 % points of what the next interval gathers per unit of driving, from model rates per that unit: what was learned, and the
 * interval's own scatter, which no learning takes away. Left out, a promise of one in ten is broken one time in three.
 *
 * @example
 * import { learn } from '@/core/service/learn'
 * import { nextFilling } from '@/core/service/next-filling'
 *
 * console.log(nextFilling(learn([]), { oil: 1, water: 0 }).high) // 3.0159813082896596
 */
export const nextFilling: NextFilling = (learned, rates) => makeNextFilling()(learned, rates)

/**
 * `nextFilling` for who asks again and again about what was learned: what its multipliers come to is kept.
 *
 * @example
 * import { learn } from '@/core/service/learn'
 * import { makeNextFilling } from '@/core/service/next-filling'
 *
 * console.log(makeNextFilling()(learn([]), { oil: 1, water: 0 }).high) // 3.0159813082896596
 */
export function makeNextFilling(): NextFilling {
  const times = weakMemo(timesAt)
  return ({ points }, rates) => fillingFrom(points, times(points), rates)
}

function fillingFrom(points: PosteriorPoints, at: MultiplierTables, rates: Pair): Range {
  if (!(rates.oil + rates.water > 0)) return { low: 0, mid: 0, high: 0 }
  const track = rates.track ?? 0
  const y = at.logs
  const n = y.length
  let low = Infinity
  let high = -Infinity
  for (let k = 0; k < n; k++) {
    const logarithm = log(rates.oil * at.oil[k]! + track * at.track[k]! + rates.water * at.water[k]!)
    y[k] = logarithm
    low = min(low, logarithm)
    high = max(high, logarithm)
  }
  const mu = gatherInBins(points, at, low, (high - low) / BINS || 1)
  const quantile = quantileOf(at, points.scatter)
  return rangeOf((q) => exp(quantile(q, mu)))
}

/** Fills the bins with the points of each scatter; returns the mean of all. */
function gatherInBins(
  { weight: given, scatter }: PosteriorPoints,
  { logs, weight, mean }: MultiplierTables,
  low: number,
  width: number,
): number {
  const each = scatter.length
  weight.fill(0)
  mean.fill(0)
  let mu = 0
  for (let k = 0; k < logs.length; k++) {
    const bin = min(BINS - 1, floor((logs[k]! - low) / width)) * each
    for (let s = 0; s < each; s++) {
      const w = given[k * each + s]!
      weight[bin + s]! += w
      mean[bin + s]! += w * logs[k]!
      mu += w * logs[k]!
    }
  }
  for (let b = 0; b < weight.length; b++) if (weight[b]! > 0) mean[b]! /= weight[b]!
  return mu
}

/** Where a sum of Student bells, each as wide as its scatter, has the share `q` below it: Newton from `near`, kept between what is known. */
function quantileOf({ weight, mean }: MultiplierTables, scatter: Float64Array) {
  const each = scatter.length
  const widest = scatter.reduce((m, s) => max(m, s), 0)
  return (q: number, near: number): number => {
    let low = -Infinity
    let high = Infinity
    let x = near
    for (let step = 0; step < QUANTILE_STEPS; step++) {
      let below = 0
      let slope = 0
      for (let b = 0; b < weight.length; b++) {
        const w = weight[b]!
        if (w === 0) continue
        const s = scatter[b % each]!
        const z = (x - mean[b]!) / s
        below += w * studentCdf(z)
        slope += (w * studentDensity(z)) / s
      }
      const off = below - q
      if (abs(off) < NEAR_ENOUGH) return x
      if (off < 0) low = x
      else high = x
      const to = x - max(-2 * widest, min(2 * widest, off / slope))
      x = to > low && to < high ? to : (low + high) / 2
    }
    return x
  }
}
