/** A strip that carries a can: how it rings. */

export type LoadedStrip = {
  /** Pa and kg/m3 */
  readonly youngs: number
  readonly density: number
  readonly thicknessM: number
  readonly widthM: number
  /** from the support to the can's middle, or between two supports, m */
  readonly freeLengthM: number
  readonly endMassKg: number
  readonly supports: 1 | 2
}

/**
 * First natural frequency in Hz, sqrt(ks/(m + c m_b))/2 pi: a cantilever with its mass at the end (3 E I/L^3, c 33/140), or held at both
 * ends with the mass in the middle (192 E I/L^3, c 13/35) (Blevins, Formulas for Natural Frequency and Mode Shape).
 *
 * @example
 * import { firstFrequency } from '@/core/bracket/vibration'
 *
 * console.log(
 *   firstFrequency({
 *     youngs: 69e9,
 *     density: 2700,
 *     thicknessM: 0.003,
 *     widthM: 0.04,
 *     freeLengthM: 0.09,
 *     endMassKg: 0.55,
 *     supports: 1,
 *   }),
 * ) // 34.09451736202405
 */
export function firstFrequency(b: LoadedStrip): number {
  const inertia = (b.widthM * b.thicknessM ** 3) / 12
  const [k, c] = b.supports === 1 ? [3, 33 / 140] : [192, 13 / 35]
  const stiffness = (k * b.youngs * inertia) / b.freeLengthM ** 3
  const own = b.density * b.widthM * b.thicknessM * b.freeLengthM
  return Math.sqrt(stiffness / (b.endMassKg + c * own)) / (2 * Math.PI)
}
