/**
 * What the emptyings say of the model: multipliers on the oil and on the water rate, learned by Bayes' rule (Gelman et al., Bayesian Data
 * Analysis, 2). Prior: each lognormal, median 1, sigma 0.8. A volume found says ln(found/predicted), with a scatter of its own interval and
 * of what cannot be told from a wet wall; a bowl that was brim full says "at least", one that was dry "at most". A reading is never thrown
 * away, and none is exact.
 */
import { normalCdf } from './normal'

export const PRIOR_SIGMA = 0.8
/** Scatter of one interval about the rate that the car keeps, standard deviation of its logarithm. */
export const ENTRY_SIGMA = 0.25
/** What cannot be told from a wet wall, m3 (estimate). */
export const WET_WALL_M3 = 4e-6

/** What was found of something, m3: so much, at least so much (brim full, overflowed, spilled), at most so much (dry, a film). */
export type Amount = { readonly found: number } | { readonly atLeast: number } | { readonly atMost: number }

export type Pair = { readonly oil: number; readonly water: number }
/** One emptying: what the model would have gathered, m3, and what was found, oil and water told apart or together. */
export type Emptying = {
  readonly predicted: Pair
  readonly oil?: Amount
  readonly water?: Amount
  readonly all?: Amount
}

/** A multiplier as a lognormal: median exp(mu), spread sigma of its logarithm; and how many emptyings it was learned from. */
export type Multiplier = { readonly mu: number; readonly sigma: number; readonly entries: number }
export type Prior = { readonly oil: Pick<Multiplier, 'mu' | 'sigma'>; readonly water: Pick<Multiplier, 'mu' | 'sigma'> }
export const BLANK: Prior = { oil: { mu: 0, sigma: PRIOR_SIGMA }, water: { mu: 0, sigma: PRIOR_SIGMA } }

/** Both multipliers as points with weights that sum to 1: their logarithms, together, since a volume not told apart ties them. */
export type Learned = {
  readonly oil: Multiplier
  readonly water: Multiplier
  readonly points: {
    readonly oil: Float64Array
    readonly water: Float64Array
    readonly weight: Float64Array
  }
}

/** Points across a multiplier: alone, of two of which something is known, of two of which nothing is. */
const ALONE = 161
const TOGETHER = 33
const UNKNOWN = 15
/** Standard deviations to either side. */
const WIDTH = 5

const logOf = (amount: Amount, predicted: number): number =>
  Math.log(('found' in amount ? amount.found : 'atLeast' in amount ? amount.atLeast : amount.atMost) / predicted)

/** Log-likelihood of an amount where `x` is the logarithm of what multiplies the predicted volume. */
function logLikelihood(amount: Amount, predicted: number, x: number, wetWallM3: number): number {
  if ('found' in amount) {
    const sigma = Math.hypot(ENTRY_SIGMA, wetWallM3 / amount.found)
    return -0.5 * ((logOf(amount, predicted) - x) / sigma) ** 2
  }
  const z = (logOf(amount, predicted) - x) / ENTRY_SIGMA
  return Math.log(Math.max(1e-300, 'atLeast' in amount ? 1 - normalCdf(z) : normalCdf(z)))
}

const usable = (amount: Amount | undefined, predicted: number): amount is Amount =>
  amount !== undefined && predicted > 0 && Number.isFinite(logOf(amount, predicted))

type Fact = (oil: number, water: number) => number
/** What each emptying says, as functions of both logarithms. */
function factsOf(entries: readonly Emptying[], wetWallM3: number): Fact[] {
  return entries.flatMap(({ predicted: p, oil, water, all }): Fact[] => {
    const facts: Fact[] = []
    if (usable(oil, p.oil)) facts.push((o) => logLikelihood(oil, p.oil, o, wetWallM3))
    if (usable(water, p.water)) facts.push((_, w) => logLikelihood(water, p.water, w, wetWallM3))
    const sum = p.oil + p.water
    if (usable(all, sum))
      facts.push((o, w) =>
        logLikelihood(all, sum, Math.log((p.oil * Math.exp(o) + p.water * Math.exp(w)) / sum), wetWallM3),
      )
    return facts
  })
}

/** Peak of the posterior and its curvature there, by Newton on differences: where to put the points. */
function peak(density: Fact, prior: Prior): { o: number; w: number; oo: number; ow: number; ww: number } {
  let [o, w] = [prior.oil.mu, prior.water.mu]
  const h = 1e-3
  const step = (a: number, b: number) => {
    const at = density(a, b)
    const [right, left, up, down] = [density(a + h, b), density(a - h, b), density(a, b + h), density(a, b - h)]
    const cross =
      (density(a + h, b + h) - density(a + h, b - h) - density(a - h, b + h) + density(a - h, b - h)) / (4 * h * h)
    return {
      go: (right - left) / (2 * h),
      gw: (up - down) / (2 * h),
      // never flatter than the prior, which keeps the step bounded where a censored reading bends the other way
      oo: Math.max(prior.oil.sigma ** -2, -(right - 2 * at + left) / (h * h)),
      ww: Math.max(prior.water.sigma ** -2, -(up - 2 * at + down) / (h * h)),
      ow: -cross,
    }
  }
  for (let i = 0; i < 40; i++) {
    const s = step(o, w)
    const ow = Math.sign(s.ow) * Math.min(Math.abs(s.ow), 0.95 * Math.sqrt(s.oo * s.ww))
    const det = s.oo * s.ww - ow * ow
    const move = (x: number) => Math.max(-1, Math.min(1, x))
    const [dO, dW] = [move((s.go * s.ww - s.gw * ow) / det), move((s.gw * s.oo - s.go * ow) / det)]
    o += dO
    w += dW
    if (Math.abs(dO) + Math.abs(dW) < 1e-4) break
  }
  const { oo, ow, ww } = step(o, w)
  return { o, w, oo, ow: Math.sign(ow) * Math.min(Math.abs(ow), 0.999 * Math.sqrt(oo * ww)), ww }
}

/** Points over `-WIDTH..WIDTH` standard deviations along the posterior's own axes. */
function spreadPoints(density: Fact, prior: Prior, dry: boolean, count: number): Learned['points'] {
  const at = peak(density, prior)
  // the covariance, its larger axis first
  const det = at.oo * at.ww - at.ow * at.ow
  const [voo, vww, vow] = [at.ww / det, at.oo / det, -at.ow / det]
  const angle = dry ? 0 : Math.atan2(2 * vow, voo - vww) / 2
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const along = Math.sqrt(dry ? 1 / at.oo : voo * c * c + 2 * vow * c * s + vww * s * s)
  const across = Math.sqrt(Math.max(1e-12, voo * s * s - 2 * vow * c * s + vww * c * c))
  const rows = dry ? 1 : count
  const score = (i: number, n: number) => (n === 1 ? 0 : -WIDTH + (2 * WIDTH * i) / (n - 1))
  const total = count * rows
  const [oil, water, weight] = [new Float64Array(total), new Float64Array(total), new Float64Array(total)]
  let most = -Infinity
  for (let i = 0, k = 0; i < count; i++) {
    for (let j = 0; j < rows; j++, k++) {
      const [a, b] = [along * score(i, count), across * score(j, rows)]
      oil[k] = at.o + c * a - s * b
      water[k] = at.w + s * a + c * b
      weight[k] = density(oil[k]!, water[k]!)
      if (weight[k]! > most) most = weight[k]!
    }
  }
  let sum = 0
  for (let k = 0; k < total; k++) sum += weight[k] = Math.exp(weight[k]! - most)
  for (let k = 0; k < total; k++) weight[k]! /= sum
  return { oil, water, weight }
}

function momentsOf(x: Float64Array, weight: Float64Array, entries: number): Multiplier {
  let mu = 0
  let square = 0
  for (let k = 0; k < x.length; k++) {
    mu += weight[k]! * x[k]!
    square += weight[k]! * x[k]! * x[k]!
  }
  return { mu, sigma: Math.sqrt(Math.max(0, square - mu * mu)), entries }
}

/**
 * Both multipliers after these emptyings, whatever their order.
 * @param prior what was known before: nothing, or what was learned elsewhere
 * @param wetWallM3 m3 that cannot be told from a wet wall
 * @example Math.exp(learn([{ predicted: { oil: 1e-5, water: 0 }, oil: { found: 2e-5 } }]).oil.mu) // 1.83
 */
export function learn(entries: readonly Emptying[], prior: Prior = BLANK, wetWallM3 = WET_WALL_M3): Learned {
  const facts = factsOf(entries, wetWallM3)
  const density: Fact = (o, w) => {
    let sum = -0.5 * (((o - prior.oil.mu) / prior.oil.sigma) ** 2 + ((w - prior.water.mu) / prior.water.sigma) ** 2)
    for (const fact of facts) sum += fact(o, w)
    return sum
  }
  // where no water was ever to be expected there is one multiplier to learn
  const dry = entries.length > 0 && entries.every((e) => e.predicted.water <= 0)
  const points = spreadPoints(density, prior, dry, dry ? ALONE : facts.length > 0 ? TOGETHER : UNKNOWN)
  const told = (of: (e: Emptying) => boolean) => entries.filter(of).length
  const oil = momentsOf(
    points.oil,
    points.weight,
    told((e) => usable(e.oil ?? e.all, e.predicted.oil)),
  )
  const water = momentsOf(
    points.water,
    points.weight,
    told((e) => usable(e.water ?? e.all, e.predicted.water)),
  )
  return { oil, water: dry ? { ...prior.water, entries: 0 } : water, points }
}

export type Range = { readonly low: number; readonly mid: number; readonly high: number }
const range = (at: (q: number) => number): Range => ({ low: at(0.1), mid: at(0.5), high: at(0.9) })

/** Bins that the points are gathered in before their quantiles are looked for. */
const BINS = 160

/**
 * 10, 50 and 90 % points of what the next interval gathers per unit of driving, from model rates per that unit: what was learned, and the
 * interval's own scatter, which no learning takes away. Left out, a promise of one in ten is broken one time in three.
 * @example nextFilling(learn([]), { oil: 1, water: 0 }).high // 2.93
 */
export function nextFilling({ points }: Pick<Learned, 'points'>, rates: Pair, scatter = ENTRY_SIGMA): Range {
  if (!(rates.oil + rates.water > 0)) return { low: 0, mid: 0, high: 0 }
  const n = points.weight.length
  const y = new Float64Array(n)
  const spread = new Float64Array(n)
  let [low, high] = [Infinity, -Infinity]
  for (let k = 0; k < n; k++) {
    const oil = rates.oil * Math.exp(points.oil[k]!)
    const all = oil + rates.water * Math.exp(points.water[k]!)
    // each of the two scatters on its own: together the less, the more evenly they share
    const share = oil / all
    y[k] = Math.log(all)
    spread[k] = scatter * Math.hypot(share, 1 - share)
    if (points.weight[k]! < 1e-9) continue
    low = Math.min(low, y[k]!)
    high = Math.max(high, y[k]!)
  }
  const [weight, mean, sigma] = [new Float64Array(BINS), new Float64Array(BINS), new Float64Array(BINS)]
  const width = (high - low) / BINS || 1
  for (let k = 0; k < n; k++) {
    const w = points.weight[k]!
    if (w < 1e-9) continue
    const bin = Math.min(BINS - 1, Math.floor((y[k]! - low) / width))
    weight[bin]! += w
    mean[bin]! += w * y[k]!
    sigma[bin]! += w * spread[k]!
  }
  const filled = [...weight.keys()].filter((b) => weight[b]! > 0)
  const below = (x: number) => {
    let sum = 0
    for (const b of filled) {
      const w = weight[b]!
      const s = Math.max(sigma[b]! / w, width / 2)
      sum += w * normalCdf((x - mean[b]! / w) / s)
    }
    return sum
  }
  return range((q) => Math.exp(bisect(below, q, low - 5 * scatter - width, high + 5 * scatter + width)))
}

/** Where a rising function crosses `q`: the false position rule, kept between its bounds (Illinois). */
function bisect(f: (x: number) => number, q: number, low: number, high: number): number {
  let [a, b] = [low, high]
  let [fa, fb] = [-q, 1 - q]
  for (let i = 0; i < 60 && b - a > 1e-5; i++) {
    const x = i % 3 === 2 ? (a + b) / 2 : a - (fa * (b - a)) / (fb - fa)
    const fx = f(x) - q
    if (Math.abs(fx) < 1e-6) return x
    if (fx < 0) [a, fa] = [x, fx]
    else [b, fb] = [x, fx]
  }
  return (a + b) / 2
}

/**
 * 10, 50 and 90 % points of a multiplier itself, without the scatter of any interval.
 * @example multiplierRange(learn([]), 'oil').high // 2.79
 */
export const multiplierRange = (learned: Pick<Learned, 'points'>, of: 'oil' | 'water'): Range => {
  const x = learned.points[of]
  const { weight } = learned.points
  const order = [...x.keys()].toSorted((i, j) => x[i]! - x[j]!)
  return range((q) => {
    // linear between the middles of the points' weights
    let before = 0
    let [lastAt, lastX] = [0, x[order[0]!]!]
    for (const k of order) {
      const at = before + weight[k]! / 2
      if (at >= q) return Math.exp(lastX + ((x[k]! - lastX) * (q - lastAt)) / Math.max(1e-15, at - lastAt))
      before += weight[k]!
      ;[lastAt, lastX] = [at, x[k]!]
    }
    return Math.exp(lastX)
  })
}
