/** A strip that is bent into a bracket: how long it is before. */

export type BentStrip = {
  readonly thicknessM: number
  /** legs measured outside, m, with one bend between each two */
  readonly legsM: readonly number[]
  readonly insideRadiusM: number
  /** turned through at each bend, degrees */
  readonly angleDeg: number
  /** where the neutral line lies in the thickness: 0.33 for a tight bend (r < 2 t) to 0.5 */
  readonly kFactor: number
}

/**
 * Flat length in m: outside legs - 2 tan(angle/2) (r + t) + angle (r + k t) at each bend (bend allowance; Machinery's Handbook).
 *
 * @example
 * import { flatLength } from '@/core/bracket/bending'
 *
 * console.log(
 *   flatLength({ legsM: [0.06, 0.09], insideRadiusM: 0.004, thicknessM: 0.003, angleDeg: 90, kFactor: 0.4 }),
 * ) // 0.14416814089933347
 */
export function flatLength(b: BentStrip): number {
  const angle = (b.angleDeg * Math.PI) / 180
  const [r, t] = [b.insideRadiusM, b.thicknessM]
  const bend = angle * (r + b.kFactor * t) - 2 * Math.tan(angle / 2) * (r + t)
  return b.legsM.reduce((sum, l) => sum + l, 0) + Math.max(0, b.legsM.length - 1) * bend
}
