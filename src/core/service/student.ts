/** Student's t distribution with 4 degrees of freedom, whose sums are closed: a bell with tails that a wild entry fits into. */

// looked up once: this runs tens of thousands of times
const { sqrt } = Math

/**
 * Its density.
 *
 * @example
 * import { studentDensity } from '@/core/service/student'
 *
 * console.log(studentDensity(0)) // 0.375
 */
export function studentDensity(t: number): number {
  const q = 1 + (t * t) / 4
  return 0.375 / (q * q * sqrt(q))
}

/**
 * Its cumulative probability (closed for an even number of degrees; Abramowitz & Stegun, 26.7.4). The lower tail keeps its relative
 * precision down to 1e-16.
 *
 * @example
 * import { studentCdf } from '@/core/service/student'
 *
 * console.log(studentCdf(2.776445105198)) // 0.975000000000026
 */
export function studentCdf(t: number): number {
  const sine = t / sqrt(4 + t * t)
  // (1 - sine)^2 (2 + sine) / 4 beyond t, with 1 - sine taken from the cosine where it would cancel out
  const away = t > 0 ? 4 / (4 + t * t) / (1 + sine) : 4 / (4 + t * t) / (1 - sine)
  const tail = (away * away * (3 - away)) / 4
  return t > 0 ? 1 - tail : tail
}
