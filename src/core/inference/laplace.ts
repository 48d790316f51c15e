/**
 * What measurements say of unknowns that were standard normals: the peak of the posterior by Gauss-Newton, and draws about it (Laplace's
 * approximation as a proposal: Gelman et al., Bayesian Data Analysis, 13.3 and 10.4; MacKay, Information Theory, 27).
 */

const { abs, sqrt, max, min } = Math

/**
 * What each measurement is off by at a point, in its own standard deviations; undefined where there is no answer. The same array may come
 * back each time.
 */
export type Residuals = (z: Float64Array) => Float64Array | undefined

export type Peak = {
  readonly at: Float64Array
  /** what each measurement is still off by there */
  readonly residuals: Float64Array
  /** slopes of the residuals, a row a measurement */
  readonly slopes: readonly Float64Array[]
  /** squares of the unknowns and of the residuals, summed: chi-square of as many degrees as there are measurements */
  readonly misfit: number
}

/** Step of the differences, in standard deviations of an unknown: wider than what a solver leaves open. */
const DIFFERENCE = 0.1
const MOST_STEPS = 25
const MOST_HALVINGS = 8
/** A step below this, in standard deviations, ends it; so does one that gains less than this. */
const SETTLED = 2e-3
const NO_GAIN = 1e-3

const squares = (x: Float64Array): number => x.reduce((sum, v) => sum + v * v, 0)

/** Lower triangle L of L L^T = I + sum of rows^T rows (Cholesky; it is never singular). */
function factorOf(rows: readonly Float64Array[], n: number): readonly Float64Array[] {
  const lower = Array.from({ length: n }, (_, i) => new Float64Array(i + 1))
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = i === j ? 1 : 0
      for (const row of rows) sum += row[i]! * row[j]!
      for (let k = 0; k < j; k++) sum -= lower[i]![k]! * lower[j]![k]!
      lower[i]![j] = i === j ? sqrt(max(1e-12, sum)) : sum / lower[j]![j]!
    }
  return lower
}

/** Solves L^T x = b in place. */
function solveUpper(lower: readonly Float64Array[], b: Float64Array): Float64Array {
  for (let i = b.length - 1; i >= 0; i--) {
    for (let k = i + 1; k < b.length; k++) b[i]! -= lower[k]![i]! * b[k]!
    b[i]! /= lower[i]![i]!
  }
  return b
}
/** Solves L x = b in place. */
function solveLower(lower: readonly Float64Array[], b: Float64Array): Float64Array {
  for (let i = 0; i < b.length; i++) {
    for (let k = 0; k < i; k++) b[i]! -= lower[i]![k]! * b[k]!
    b[i]! /= lower[i]![i]!
  }
  return b
}

/** Slopes of the residuals by differences; undefined where a neighbour has no answer on either side. */
function slopesAt(of: Residuals, z: Float64Array, here: Float64Array): readonly Float64Array[] | undefined {
  const rows = Array.from(here, () => new Float64Array(z.length))
  const moved = z.slice()
  for (let i = 0; i < z.length; i++) {
    // toward the middle, where an answer is surer
    const step = z[i]! > 0 ? -DIFFERENCE : DIFFERENCE
    let used = step
    moved[i] = z[i]! + step
    let there = of(moved)
    if (!there) {
      used = -step
      moved[i] = z[i]! - step
      there = of(moved)
    }
    if (!there) return undefined
    for (let r = 0; r < here.length; r++) rows[r]![i] = (there[r]! - here[r]!) / used
    moved[i] = z[i]!
  }
  return rows
}

/**
 * The peak of the posterior of `count` unknowns, each a standard normal before. Undefined where there is no answer to start from, or none to
 * go by.
 *
 * @example
 * import { findPeak } from '@/core/inference/laplace'
 *
 * // a reading of z with an error of one standard deviation, two off
 * console.log(findPeak((z) => Float64Array.of(z[0] - 2), new Float64Array(1)).misfit) // 2
 */
export function findPeak(of: Residuals, start: Float64Array): Peak | undefined {
  const first = of(start)
  if (!first) return undefined
  let z = start.slice()
  let residuals = first.slice()
  let misfit = squares(z) + squares(residuals)
  let slopes = slopesAt(of, z, residuals)
  for (let step = 0; step < MOST_STEPS && slopes; step++) {
    const lower = factorOf(slopes, z.length)
    const down = Float64Array.from(z, (v, i) => -v - slopes!.reduce((sum, row, r) => sum + row[i]! * residuals[r]!, 0))
    const way = solveUpper(lower, solveLower(lower, down))
    let gain = 0
    let share = 1
    for (let half = 0; half < MOST_HALVINGS; half++, share /= 2) {
      const to = z.map((v, i) => v + share * way[i]!)
      const there = of(to)
      const then = there ? squares(to) + squares(there) : Infinity
      if (then >= misfit) continue
      gain = misfit - then
      z = to
      residuals = there!.slice()
      misfit = then
      break
    }
    if (gain > 0) slopes = slopesAt(of, z, residuals)
    if (gain < NO_GAIN || share * way.reduce((most, v) => max(most, abs(v)), 0) < SETTLED) break
  }
  return slopes && { at: z, residuals, slopes, misfit }
}

/** A draw about the peak: the point, and the logarithm of its density but for a constant. */
export type Proposal = (normals: Float64Array) => { readonly z: Float64Array; readonly logDensity: number }

/** How much wider than Laplace's normal draws are where measurements speak: weights then never starve. */
const WIDER = 1.4

/**
 * Draws about a peak, from standard normals: what measurements leave of the unknowns, where they are nearly straight; weights put the rest
 * right.
 *
 * @example
 * import { findPeak, proposalAbout } from '@/core/inference/laplace'
 *
 * const peak = findPeak((z) => Float64Array.of(z[0] - 2), new Float64Array(1))
 * console.log(proposalAbout(peak)(new Float64Array(1)).z[0]) // 1
 */
export function proposalAbout({ at, slopes }: Peak): Proposal {
  const narrower = 1 / sqrt(WIDER)
  const lower = factorOf(
    slopes.map((row) => row.map((v) => v * narrower)),
    at.length,
  )
  return (normals) => {
    const off = solveUpper(lower, normals.slice())
    return { z: at.map((v, i) => v + off[i]!), logDensity: -squares(normals) / 2 }
  }
}

/**
 * Weights of draws, that sum to 1, from the logarithms of what each deserves over how often it was drawn; -Infinity counts nothing.
 *
 * @example
 * import { weightsOf } from '@/core/inference/laplace'
 *
 * console.log(weightsOf(Float64Array.of(0, 0, -Infinity))) // Float64Array(3) [ 0.5, 0.5, 0 ]
 */
export function weightsOf(log: Float64Array): Float64Array {
  const most = log.reduce((m, v) => max(m, v), -Infinity)
  if (most === -Infinity) return log.map(() => 1 / log.length)
  // none counts for more than the mean times the root of their number (truncated importance sampling, Ionides 2008)
  const raw = log.map((v) => Math.exp(v - most))
  const cap = (raw.reduce((sum, v) => sum + v, 0) / log.length) * sqrt(log.length)
  const weight = raw.map((v) => min(v, cap))
  const all = weight.reduce((sum, v) => sum + v, 0)
  return weight.map((v) => v / all)
}
