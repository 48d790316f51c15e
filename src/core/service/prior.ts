/** What is known of a car before its log says anything, and the shape of what a log says (methods 7). */

export const PRIOR_SIGMA = 0.8
/** The same on track (estimate). */
export const TRACK_SIGMA = 1.1
/** Scatter of one interval about the rate that the car keeps: scale of Student's t in the logarithm, its median and the sigma of its own. */
export const SCATTER = { median: 0.21, sigma: 0.4 } as const
/** Probability of a change before an interval, and by how much oil and water jump together then (estimates). */
export const CHANGE = { probability: 1 / 15, sigma: 0.7 } as const
/** What cannot be told from a wet wall, m3 (estimate). */
export const WET_WALL_M3 = 4e-6
/** Share of what is unknown of an engine's oil that road and track have in common: their correlation (estimate). */
export const DUTIES_ALIKE = 0.8

/** What was found of something, m3: so much, at least so much (brim full, overflowed, spilled), at most so much (dry, a film). */
export type Amount = { readonly found: number } | { readonly atLeast: number } | { readonly atMost: number }

/** Oil and water; of the oil, what was made on track, where that is known. */
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
type Spread = Pick<Multiplier, 'mu' | 'sigma'>
/** `track` is the spread of the oil's multiplier on track alone. */
export type Prior = { readonly oil: Spread; readonly water: Spread; readonly track?: Spread }
export const BLANK: Prior = {
  oil: { mu: 0, sigma: PRIOR_SIGMA },
  water: { mu: 0, sigma: PRIOR_SIGMA },
  track: { mu: 0, sigma: TRACK_SIGMA },
}
