/** The chi-square distribution, as far as a fit is judged by it. */
import { normalCdf } from '../service/normal'

/**
 * Probability that a sum of squares of `degrees` standard normals exceeds `x` (Wilson & Hilferty 1931: within 3e-4, and 15 % of the tail
 * itself at one in a thousand).
 *
 * @example
 * import { chiSquareTail } from '@/core/inference/chi-square'
 *
 * console.log(chiSquareTail(3.841, 1)) // 0.047237726795515855
 */
export function chiSquareTail(x: number, degrees: number): number {
  const spread = 2 / (9 * degrees)
  return normalCdf((1 - spread - Math.cbrt(Math.max(0, x) / degrees)) / Math.sqrt(spread))
}
