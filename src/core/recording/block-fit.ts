/**
 * Unknowns fitted to a long series of measurements whose errors hang together over seconds: robust least squares (Huber, Robust
 * Statistics, 7) by Gauss-Newton with a normal prior on each, and intervals by drawing whole blocks of the series anew (Künsch, Annals
 * of Statistics 17, 1989; each draw with a prior of its own, so that what the series does not say stays as wide as it was).
 */
import { uniforms, quantile } from '../random'
import { normalQuantile } from '../service/normal'
import { HUBER, huberWeight, robustDeviation, solveSymmetric } from './robust'

const { abs, max, min } = Math

/** What the unknowns make of each sample, and its slopes by each of them; undefined where there is no answer. */
export type SeriesModel = (unknowns: readonly number[]) => Float64Array | undefined

export type BlockFit = {
  /** likely, and the 10 and 90 % points */
  readonly unknowns: readonly { readonly value: number; readonly low: number; readonly high: number }[]
  /** measured less fitted */
  readonly residuals: Float64Array
  /** robust standard deviation of a sample */
  readonly scale: number
  /** slopes by each unknown, a row an unknown */
  readonly slopes: readonly Float64Array[]
  /** how much one sample counts beside the next ones, 0-1 */
  readonly independent: number
}

const MOST_STEPS = 25
/** A step that explains the series no better than this, in natural units, is the last. */
const SETTLED = 0.02
const DAMPING = [0, 0.3, 3, 30, 300, 3000] as const
const DRAWS = 400
/** Standard deviations that a sample counts as off by for which a model has no answer. */
const NO_ANSWER = 100
/** Steps of differences, in standard deviations of the prior. */
const DIFFERENCE = 0.03

const zeros = (n: number): number[] => Array.from({ length: n }, () => 0)

/** Solves a symmetric positive system; few unknowns. */
function solve(a: readonly (readonly number[])[], b: readonly number[]): Float64Array {
  const x = new Float64Array(b.length)
  solveSymmetric(a.flat(), b, x)
  return x
}

/** Sums of each block: slopes by slopes and slopes by residuals, both weighed. */
type BlockSums = {
  readonly square: readonly number[][]
  /** the same with what counts in full alone: how the sums really bend */
  readonly curved: readonly number[][]
  readonly right: readonly number[]
  readonly mean: number
  readonly count: number
}
function sumsOf(
  residuals: Float64Array,
  slopes: readonly Float64Array[],
  scale: number,
  [from, end]: readonly [number, number],
): BlockSums {
  const n = slopes.length
  const square = Array.from({ length: n }, () => zeros(n))
  const curved = Array.from({ length: n }, () => zeros(n))
  const right = zeros(n)
  let [sum, count] = [0, 0]
  for (let k = from; k < end; k++) {
    const r = residuals[k]!
    if (!Number.isFinite(r)) continue
    const weight = huberWeight(r, scale) / (scale * scale)
    for (let i = 0; i < n; i++) {
      const s = slopes[i]![k]!
      right[i]! += weight * s * r
      for (let j = 0; j <= i; j++) {
        square[i]![j]! += weight * s * slopes[j]![k]!
        if (abs(r) < HUBER * scale) curved[i]![j]! += (s * slopes[j]![k]!) / (scale * scale)
      }
    }
    sum += max(-HUBER * scale, min(HUBER * scale, r))
    count++
  }
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      square[i]![j] = square[j]![i]!
      curved[i]![j] = curved[j]![i]!
    }
  return { square, curved, right, mean: count > 0 ? sum / count : 0, count }
}

/** Share of a sample's weight that is its own: by how far the means of blocks stray beside what they would if samples were apart. */
function independence(blocks: readonly BlockSums[], scale: number): number {
  const whole = blocks.filter((b) => b.count > 1)
  if (whole.length < 4) return 1
  const of = whole.reduce((s, b) => s + b.count * b.mean * b.mean, 0) / whole.length
  return min(1, max(1e-3, (scale * scale) / max(of, 1e-300)))
}

export type FitOptions = {
  readonly sigmas: readonly number[]
  readonly blocks: readonly (readonly [from: number, end: number])[]
  readonly leastScale: number
  /** standard deviation of each unknown that no length of series takes away: what the model itself is believed to; none without */
  readonly modelErrors?: readonly number[]
  readonly seed: number
  /** where to begin; at 0 without one */
  readonly start?: readonly number[]
}

/**
 * Fits unknowns, each a normal about 0 of `sigma` before, to a series.
 * @param measured a figure a sample; NaN where there is none
 * @param blocks indexes from and to (not included) of stretches whose errors hang together, ten or more
 * @param leastScale error of a sample that is always assumed, in the unit of `measured`
 * @returns undefined where the model has no answer at the start or there is nothing to fit
 *
 * @example
 * import { fitBlocks } from '@/core/recording/block-fit'
 *
 * const measured = Float64Array.from({ length: 100 }, (_, k) => 3 + (k % 2) / 10)
 * const blocks = Array.from({ length: 10 }, (_, b) => [10 * b, 10 * b + 10] as const)
 * const fit = fitBlocks((x) => new Float64Array(100).fill(x[0]), measured, { sigmas: [10], blocks, leastScale: 0.01, seed: 1 })
 * console.log(fit.unknowns[0].value.toFixed(2)) // '3.05'
 */
export function fitBlocks(model: SeriesModel, measured: Float64Array, options: FitOptions): BlockFit | undefined {
  const { sigmas, blocks, leastScale } = options
  const off = (at: readonly number[]) => model(at)?.map((p, k) => measured[k]! - p)
  let at: readonly number[] = options.start ?? sigmas.map(() => 0)
  let residuals = off(at)
  if (!residuals || !residuals.some(Number.isFinite)) return undefined
  let slopes: Float64Array[] = []
  let scale = max(leastScale, robustDeviation(residuals))
  let [independent, near] = [1, false]
  let sums: BlockSums[] = []
  const there = Array.from(measured, Number.isFinite)
  const cost = (r: Float64Array, where: readonly number[]) => {
    const c = HUBER * scale
    let sum = 0
    for (let k = 0; k < r.length; k++) {
      if (!there[k]) continue
      // what the model has no answer for is as far off as can be
      const x = Number.isFinite(r[k]!) ? abs(r[k]!) : NO_ANSWER * scale
      sum += x < c ? (x * x) / 2 : c * (x - c / 2)
    }
    return (independent * sum) / (scale * scale) + where.reduce((all, x, i) => all + (x / sigmas[i]!) ** 2 / 2, 0)
  }
  for (let step = 0; step <= MOST_STEPS; step++) {
    const here = residuals
    const steep = sigmas.map((sigma, i) => {
      const moved = at.map((x, j) => (i === j ? x + DIFFERENCE * sigma : x))
      return off(moved)?.map((r, k) => (here[k]! - r) / (DIFFERENCE * sigma))
    })
    if (steep.some((s) => s === undefined)) return undefined
    slopes = (steep as Float64Array[]).map((s) => s.map((x) => (Number.isFinite(x) ? x : 0)))
    scale = max(leastScale, robustDeviation(residuals))
    sums = blocks.map((b) => sumsOf(residuals!, slopes, scale, b))
    // far from the peak what is left hangs together because the fit is off: only there does it say how samples do
    if (near) independent = independence(sums, scale)
    if (step === MOST_STEPS) break
    const { square, right } = joined(
      sums,
      sums.map(() => 1),
      independent,
      sigmas,
    )
    const down = right.map((r, i) => r - at[i]! / sigmas[i]! ** 2)
    const before = cost(residuals, at)
    let to = at
    let gained = 0
    // shorter and steeper where the straight step gains nothing (Levenberg and Marquardt)
    for (const damping of DAMPING) {
      const way = solve(
        square.map((row, i) => row.map((x, j) => (i === j ? x * (1 + damping) : x))),
        down,
      )
      const tried = at.map((x, i) => x + way[i]!)
      const then = off(tried)
      const cheaper = then?.some(Number.isFinite) ? before - cost(then, tried) : -1
      if (!then || cheaper < 0) continue
      gained = cheaper
      to = tried
      residuals = then
      break
    }
    at = to
    if (gained > SETTLED) continue
    if (near) break
    near = true
  }
  const unknowns = intervalsOf(at, sums, independent, options)
  return { unknowns, residuals, scale, slopes, independent }
}

/** Intervals about a peak: blocks drawn anew, each draw with a prior of its own. */
function intervalsOf(
  at: readonly number[],
  sums: readonly BlockSums[],
  independent: number,
  { sigmas, seed, modelErrors }: Pick<FitOptions, 'sigmas' | 'seed' | 'modelErrors'>,
): BlockFit['unknowns'] {
  const once = sums.map(() => 1)
  const bent = sums.map((b) => ({ ...b, square: b.curved }))
  const whole = joined(bent, once, independent, sigmas)
  const corrected = bent.map((b) => ({ ...b, right: leftOut(b, whole.square, independent) }))
  // of few blocks some strays are the fit's own doing
  const few = Math.sqrt(sums.length / max(1, sums.length - 2 * at.length))
  const uniform = uniforms(seed)
  const centre = joined(corrected, once, independent, sigmas).right
  const draws = Array.from({ length: DRAWS }, () => {
    const times = sums.map(() => 0)
    for (let b = 0; b < sums.length; b++) times[Math.floor(uniform() * sums.length)]!++
    const { right } = joined(corrected, times, independent, sigmas)
    const prior = sigmas.map((sigma) => normalQuantile(uniform()) * sigma)
    // the series as it is has its peak where it is: a draw moves it by how it differs
    const way = solve(
      whole.square,
      right.map((r, i) => few * (r - centre[i]!) + prior[i]! / sigmas[i]! ** 2),
    )
    return at.map((x, i) => x + way[i]! + (modelErrors?.[i] ?? 0) * normalQuantile(uniform()))
  })
  return at.map((value, i) => {
    const sorted = draws.map((d) => d[i]!).toSorted((a, b) => a - b)
    return { value, low: quantile(sorted, 0.1), high: quantile(sorted, 0.9) }
  })
}

/**
 * What a block says of the unknowns as the others alone would have it: a block that pulls hard hides how far it strays (Bell & McCaffrey,
 * Survey Methodology 28, 2002).
 */
function leftOut(
  { square, right }: BlockSums,
  whole: readonly (readonly number[])[],
  share: number,
): readonly number[] {
  // (I - A_b H^-1)^-1 g = H (H - A_b)^-1 g
  const rest = whole.map((row, i) => row.map((x, j) => x - share * square[i]![j]!))
  const x = solve(rest, right)
  return whole.map((row) => row.reduce((sum, a, j) => sum + a * x[j]!, 0))
}

/** All blocks together, each so many times, with the prior's own weight. */
function joined(blocks: readonly BlockSums[], times: readonly number[], share: number, sigmas: readonly number[]) {
  const square = sigmas.map((sigma, i) => sigmas.map((_, j) => (i === j ? 1 / sigma ** 2 : 0)))
  const right = sigmas.map(() => 0)
  for (const [b, block] of blocks.entries()) {
    const weight = share * times[b]!
    if (weight === 0) continue
    for (let i = 0; i < sigmas.length; i++) {
      right[i]! += weight * block.right[i]!
      for (let j = 0; j < sigmas.length; j++) square[i]![j]! += weight * block.square[i]![j]!
    }
  }
  return { square, right }
}
