/**
 * What the emptyings say of the model: multipliers on the oil and on the water rate, learned by Bayes' rule (Gelman et al., Bayesian Data
 * Analysis, 2), with how far intervals scatter, and whether something has changed. A reading is never thrown away, and none is exact.
 *
 * Prior: each multiplier lognormal, median 1, sigma 0.8; the scatter of an interval lognormal, median 0.21, sigma 0.4; before each interval but
 * the first, with probability 1/15, oil and water jump together by a normal of 0.7 in the logarithm, at most once (after Adams & MacKay
 * 2007). A volume found says ln(found/predicted), by Student's t with 4 degrees and the scale of that scatter and of what cannot be told
 * from a wet wall; a bowl that was brim full says "at least", one that was dry "at most".
 *
 * Where fillings tell track from road there is a multiplier for each: both of the same engine, so that either leans on the other as far as
 * its own fillings do not speak (a hierarchical model of two groups; Gelman et al., 5).
 */
import { posteriorOf, type Posterior, type PosteriorPoints } from './posterior'
import { BLANK, DUTIES_ALIKE, WET_WALL_M3, type Amount, type Emptying, type Multiplier, type Prior } from './prior'

const { exp, log, sqrt, max } = Math

/** What the emptyings say; points with weights that sum to 1 stand for what is known of the multipliers together. */
export type Learned = {
  /** on the road, where track is known apart from it */
  readonly oil: Multiplier
  readonly water: Multiplier
  /** on track; undefined where fillings do not tell it from the road */
  readonly track: Multiplier | undefined
  /** geometric mean of the scatter of an interval, as the scale of Student's t in the logarithm */
  readonly scatter: number
  /** probability that something changed before each emptying, and that it was a rise */
  readonly changes: readonly { readonly any: number; readonly rise: number }[]
  /** how rarely an interval strays as far from the rest as each emptying did, 0-1 */
  readonly rarity: readonly number[]
  readonly points: PosteriorPoints
}

/** Points from road to track, to these standard deviations either way. */
const DUTY_POINTS = 9
const DUTY_WIDTH = 2.6

function momentsOf(x: Float64Array, weight: Float64Array, entries: number): Multiplier {
  const each = weight.length / x.length
  let mu = 0
  let square = 0
  for (let k = 0; k < weight.length; k++) {
    const at = x[Math.floor(k / each)]!
    mu += weight[k]! * at
    square += weight[k]! * at * at
  }
  return { mu, sigma: sqrt(max(0, square - mu * mu)), entries }
}

/** The same posterior with its points weighed by their share of the whole. */
function weighted(posteriors: readonly Posterior[], tracks: readonly number[] | undefined): Posterior {
  const most = posteriors.reduce((m, p) => max(m, p.logMass), -Infinity)
  const all = posteriors.reduce((sum, p) => sum + exp(p.logMass - most), 0)
  const shares = posteriors.map((p) => exp(p.logMass - most) / all)
  const mixed = (of: (p: Posterior) => number) => posteriors.reduce((sum, p, k) => sum + shares[k]! * of(p), 0)
  const joined = (of: (p: Posterior, k: number) => Float64Array) =>
    Float64Array.from(posteriors.flatMap((p, k) => [...of(p, k)]))
  return {
    logMass: most + log(all),
    meanLogScatter: mixed((p) => p.meanLogScatter),
    changes: posteriors[0]!.changes.map((_, i) => ({
      any: mixed((p) => p.changes[i]!.any),
      rise: mixed((p) => p.changes[i]!.rise),
    })),
    rarity: posteriors[0]!.rarity.map((_, i) => mixed((p) => p.rarity[i]!)),
    points: {
      oil: joined((p) => p.points.oil),
      water: joined((p) => p.points.water),
      weight: joined((p, k) => p.points.weight.map((w) => w * shares[k]!)),
      scatter: posteriors[0]!.points.scatter,
      ...(tracks ? { track: joined((p, k) => new Float64Array(p.points.oil.length).fill(tracks[k]!)) } : {}),
    },
  }
}

/**
 * Over what track makes beside the road. With the spreads of both and their correlation, the road's multiplier given their difference d is
 * normal again (Gelman et al., A.1).
 */
function acrossDuties(entries: readonly Emptying[], prior: Prior, wetWallM3: number): Posterior {
  const [road, hard] = [prior.oil, prior.track ?? prior.oil]
  const common = DUTIES_ALIKE * road.sigma * hard.sigma
  const variance = road.sigma ** 2 + hard.sigma ** 2 - 2 * common
  const slope = (common - road.sigma ** 2) / variance
  const sigma = sqrt(road.sigma ** 2 - slope * slope * variance)
  const scores = Array.from({ length: DUTY_POINTS }, (_, k) => -DUTY_WIDTH + (2 * DUTY_WIDTH * k) / (DUTY_POINTS - 1))
  const apart = scores.map((score) => score * sqrt(variance))
  const posteriors = apart.map((d, k) => {
    const given = { oil: { mu: road.mu + slope * d, sigma }, water: prior.water }
    const at = posteriorOf(entries, given, { wetWallM3, track: hard.mu - road.mu + d })
    return { ...at, logMass: at.logMass - scores[k]! ** 2 / 2 }
  })
  return weighted(
    posteriors,
    apart.map((d) => hard.mu - road.mu + d),
  )
}

const measures = (amount: Amount | undefined, predicted: number): boolean => amount !== undefined && predicted > 0

/**
 * Both multipliers after these emptyings, oldest first; without a change their order would not matter.
 * @param prior what was known before: nothing, or what was learned elsewhere
 * @param wetWallM3 m3 that cannot be told from a wet wall
 *
 * @example
 * import { learn } from '@/core/service/learn'
 *
 * console.log(Math.exp(learn([{ predicted: { oil: 1e-5, water: 0 }, oil: { found: 2e-5 } }]).oil.mu)) // 1.764670067784927
 */
export function learn(entries: readonly Emptying[], prior: Prior = BLANK, wetWallM3 = WET_WALL_M3): Learned {
  const byDuty = entries.some((e) => (e.predicted.track ?? 0) > 0)
  const { points, meanLogScatter, changes, rarity } = byDuty
    ? acrossDuties(entries, prior, wetWallM3)
    : posteriorOf(entries, prior, { wetWallM3 })
  const count = (of: (e: Emptying) => boolean) => entries.filter(of).length
  return {
    oil: momentsOf(
      points.oil,
      points.weight,
      count((e) => measures(e.oil ?? e.all, e.predicted.oil)),
    ),
    water: momentsOf(
      points.water,
      points.weight,
      count((e) => measures(e.water ?? e.all, e.predicted.water)),
    ),
    track:
      points.track &&
      momentsOf(
        points.oil.map((o, k) => o + points.track![k]!),
        points.weight,
        count((e) => (e.predicted.track ?? 0) > 0),
      ),
    scatter: exp(meanLogScatter),
    changes,
    rarity,
    points,
  }
}
