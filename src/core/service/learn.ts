/**
 * What the emptyings say of the model: multipliers on the oil and on the water rate, learned by Bayes' rule (Gelman et al., Bayesian Data
 * Analysis, 2). Prior: each lognormal, median 1, sigma 0.8. A volume found says ln(found/predicted), with a scatter of its own interval and
 * of what cannot be told from a wet wall; a bowl that was brim full says "at least", one that was dry "at most". A reading is never thrown
 * away, and none is exact. Where fillings tell track from road there is a multiplier for each: both of the same engine, so that either leans
 * on the other as far as its own fillings do not speak (a hierarchical model of two groups; Gelman et al., 5).
 */
import { rangeOf, type Range } from '../range'
import { normalCdf, normalQuantile } from './normal'

// looked up once: this runs tens of thousands of times
const { exp, log, sqrt, abs } = Math

export const PRIOR_SIGMA = 0.8
/** Scatter of one interval about the rate that the car keeps, standard deviation of its logarithm. */
export const ENTRY_SIGMA = 0.25
/** What cannot be told from a wet wall, m3 (estimate). */
export const WET_WALL_M3 = 4e-6

/** What was found of something, m3: so much, at least so much (brim full, overflowed, spilled), at most so much (dry, a film). */
export type Amount = { readonly found: number } | { readonly atLeast: number } | { readonly atMost: number }

/** Share of what is unknown of an engine's oil that road and track have in common: their correlation (estimate). */
export const DUTIES_ALIKE = 0.8

/** Oil and water; of the oil, what was made on track, where that is told. */
export type Pair = { readonly oil: number; readonly water: number; readonly track?: number | undefined }
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
  /** on the road, where track is told from it */
  readonly oil: Multiplier
  readonly water: Multiplier
  /** on track; undefined where fillings do not tell it from the road */
  readonly track: Multiplier | undefined
  readonly points: {
    readonly oil: Float64Array
    readonly water: Float64Array
    readonly weight: Float64Array
    /** logarithm of what track makes over what the road does */
    readonly track?: Float64Array
  }
}

/** Points across a multiplier: alone, of two of which something is known, of two of which nothing is. */
const ALONE = 161
const TOGETHER = 25
const UNKNOWN = 15
/** Points from road to track, to three standard deviations, and across the rest at each of them. */
const [DUTIES, WITHIN] = [9, 15]
/** Standard deviations to either side. */
const WIDTH = 5

const logOf = (amount: Amount, predicted: number): number =>
  log(('found' in amount ? amount.found : 'atLeast' in amount ? amount.atLeast : amount.atMost) / predicted)

/** Log-likelihood of an amount, by the logarithm of what multiplies the predicted volume. */
function likelihoodOf(amount: Amount, predicted: number, wetWallM3: number): (x: number) => number {
  const told = logOf(amount, predicted)
  if ('found' in amount) {
    const weight = -0.5 / (ENTRY_SIGMA ** 2 + (wetWallM3 / amount.found) ** 2)
    return (x) => weight * (told - x) * (told - x)
  }
  const side = 'atLeast' in amount ? -1 : 1
  return (x) => log(Math.max(1e-300, normalCdf((side * (told - x)) / ENTRY_SIGMA)))
}

const usable = (amount: Amount | undefined, predicted: number): amount is Amount =>
  amount !== undefined && predicted > 0 && Number.isFinite(logOf(amount, predicted))

type Fact = (oil: number, water: number) => number
/**
 * What each emptying says, as functions of both logarithms.
 * @param track logarithm of what track makes over what the road does
 */
function factsOf(entries: readonly Emptying[], wetWallM3: number, track = 0): Fact[] {
  return entries.flatMap(({ predicted: p, oil, water, all }): Fact[] => {
    const facts: Fact[] = []
    // with its track oil so much more or less, all oil of the interval is that much off the road's multiplier
    const shift = p.track && p.oil > 0 ? log(1 + (p.track / p.oil) * (exp(track) - 1)) : 0
    if (usable(oil, p.oil)) {
      const of = likelihoodOf(oil, p.oil, wetWallM3)
      facts.push((o) => of(o + shift))
    }
    if (usable(water, p.water)) {
      const of = likelihoodOf(water, p.water, wetWallM3)
      facts.push((_, w) => of(w))
    }
    const sum = p.oil + p.water
    if (usable(all, sum)) {
      const of = likelihoodOf(all, sum, wetWallM3)
      const [shareO, shareW] = [p.oil / sum, p.water / sum]
      facts.push((o, w) => of(log(shareO * exp(o + shift) + shareW * exp(w))))
    }
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
    const ow = Math.sign(s.ow) * Math.min(abs(s.ow), 0.95 * sqrt(s.oo * s.ww))
    const det = s.oo * s.ww - ow * ow
    const move = (x: number) => Math.max(-1, Math.min(1, x))
    const [dO, dW] = [move((s.go * s.ww - s.gw * ow) / det), move((s.gw * s.oo - s.go * ow) / det)]
    o += dO
    w += dW
    if (abs(dO) + abs(dW) < 1e-4) break
  }
  const { oo, ow, ww } = step(o, w)
  return { o, w, oo, ow: Math.sign(ow) * Math.min(abs(ow), 0.999 * sqrt(oo * ww)), ww }
}

/** Points over `-WIDTH..WIDTH` standard deviations along the posterior's own axes, and the logarithm of all that they stand for. */
function spreadPoints(
  density: Fact,
  prior: Prior,
  dry: boolean,
  count: number,
): { points: Learned['points']; logMass: number } {
  const at = peak(density, prior)
  // the covariance, its larger axis first
  const det = at.oo * at.ww - at.ow * at.ow
  const [voo, vww, vow] = [at.ww / det, at.oo / det, -at.ow / det]
  const angle = dry ? 0 : Math.atan2(2 * vow, voo - vww) / 2
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const along = sqrt(dry ? 1 / at.oo : voo * c * c + 2 * vow * c * s + vww * s * s)
  const across = sqrt(Math.max(1e-12, voo * s * s - 2 * vow * c * s + vww * c * c))
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
  for (let k = 0; k < total; k++) sum += weight[k] = exp(weight[k]! - most)
  for (let k = 0; k < total; k++) weight[k]! /= sum
  return { points: { oil, water, weight }, logMass: most + log(sum * along * (dry ? 1 : across)) }
}

function momentsOf(x: Float64Array, weight: Float64Array, entries: number): Multiplier {
  let mu = 0
  let square = 0
  for (let k = 0; k < x.length; k++) {
    mu += weight[k]! * x[k]!
    square += weight[k]! * x[k]! * x[k]!
  }
  return { mu, sigma: sqrt(Math.max(0, square - mu * mu)), entries }
}

/**
 * Both multipliers after these emptyings, whatever their order.
 * @param prior what was known before: nothing, or what was learned elsewhere
 * @param wetWallM3 m3 that cannot be told from a wet wall
 *
 * @example
 * import { learn } from '@/core/service/learn'
 *
 * console.log(Math.exp(learn([{ predicted: { oil: 1e-5, water: 0 }, oil: { found: 2e-5 } }]).oil.mu)) // 1.8174968477537525
 */
export function learn(entries: readonly Emptying[], prior: Prior = BLANK, wetWallM3 = WET_WALL_M3): Learned {
  const byDuty = entries.some((e) => (e.predicted.track ?? 0) > 0)
  // where no water was ever to be expected there is one multiplier fewer to learn
  const dry = entries.length > 0 && entries.every((e) => e.predicted.water <= 0)
  const within = (given: Prior, track: number, count: number) => {
    const facts = factsOf(entries, wetWallM3, track)
    const density: Fact = (o, w) => {
      let sum = -0.5 * (((o - given.oil.mu) / given.oil.sigma) ** 2 + ((w - given.water.mu) / given.water.sigma) ** 2)
      for (const fact of facts) sum += fact(o, w)
      return sum
    }
    return spreadPoints(density, given, dry, count)
  }
  const points = byDuty
    ? acrossDuties(prior, (given, track) => within(given, track, WITHIN))
    : within(prior, 0, dry ? ALONE : entries.length > 0 ? TOGETHER : UNKNOWN).points
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
  const track =
    points.track &&
    momentsOf(
      points.oil.map((o, k) => o + points.track![k]!),
      points.weight,
      told((e) => (e.predicted.track ?? 0) > 0),
    )
  return { oil, water: dry ? { ...prior.water, entries: 0 } : water, track, points }
}

/**
 * Points over what track makes beside the road. Both multipliers have the prior's spread and are correlated, so the road's, given their
 * difference d, has the mean mu - d/2 and the variance sigma^2 (1 + rho)/2 (Gelman et al., A.1).
 */
function acrossDuties(
  prior: Prior,
  within: (given: Prior, track: number) => ReturnType<typeof spreadPoints>,
): Learned['points'] {
  const { mu, sigma } = prior.oil
  const apart = sigma * sqrt(2 * (1 - DUTIES_ALIKE))
  const rows = Array.from({ length: DUTIES }, (_, k) => {
    const score = -3 + (6 * k) / (DUTIES - 1)
    const track = score * apart
    const given = { oil: { mu: mu - track / 2, sigma: sigma * sqrt((1 + DUTIES_ALIKE) / 2) }, water: prior.water }
    const { points, logMass } = within(given, track)
    return { track, points, log: logMass - (score * score) / 2 }
  })
  const most = rows.reduce((m, r) => Math.max(m, r.log), -Infinity)
  const all = rows.reduce((sum, r) => sum + exp(r.log - most), 0)
  const joined = (of: (r: (typeof rows)[number]) => Float64Array) => Float64Array.from(rows.flatMap((r) => [...of(r)]))
  return {
    oil: joined((r) => r.points.oil),
    water: joined((r) => r.points.water),
    track: joined((r) => new Float64Array(r.points.oil.length).fill(r.track)),
    weight: joined((r) => r.points.weight.map((w) => (w * exp(r.log - most)) / all)),
  }
}

/**
 * 10, 50 and 90 % points of a multiplier itself, without the scatter of any interval.
 *
 * @example
 * import { learn, multiplierRange } from '@/core/service/learn'
 *
 * console.log(multiplierRange(learn([]), 'oil').high) // 2.7877658039528743
 */
export const multiplierRange = (learned: Learned, of: 'oil' | 'water'): Range => {
  // nothing has bent it: it is the lognormal that it was
  if (learned[of].entries === 0) return rangeOf((q) => multiplierAt(learned[of], q))
  const x = learned.points[of]
  const { weight } = learned.points
  const order = [...x.keys()].toSorted((i, j) => x[i]! - x[j]!)
  return rangeOf((q) => {
    // linear between the middles of the points' weights
    let before = 0
    let [lastAt, lastX] = [0, x[order[0]!]!]
    for (const k of order) {
      const at = before + weight[k]! / 2
      if (at >= q) return exp(lastX + ((x[k]! - lastX) * (q - lastAt)) / Math.max(1e-15, at - lastAt))
      before += weight[k]!
      ;[lastAt, lastX] = [at, x[k]!]
    }
    return exp(lastX)
  })
}

/**
 * Multiplier at quantile `q`, as a lognormal of these moments.
 *
 * @example
 * import { multiplierAt } from '@/core/service/learn'
 *
 * console.log(multiplierAt({ mu: 0, sigma: 0.5 }, 0.5)) // 1
 */
export const multiplierAt = (m: Pick<Multiplier, 'mu' | 'sigma'>, q: number): number =>
  exp(m.mu + m.sigma * normalQuantile(q))
