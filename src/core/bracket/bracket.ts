/** A bent strip that carries a can: how long it is before it is bent, and how it rings. */

export type Bracket = {
  /** Pa and kg/m3 */
  readonly youngs: number
  readonly density: number
  readonly thicknessM: number
  readonly widthM: number
  /** legs measured outside, m, with one bend between each two */
  readonly legsM: readonly number[]
  readonly insideRadiusM: number
  /** turned through at each bend, degrees */
  readonly angleDeg: number
  /** where the neutral line lies in the thickness: 0.33 for a tight bend (r < 2 t) to 0.5 */
  readonly kFactor: number
  /** from the support to the can's middle, or between two supports, m */
  readonly freeLengthM: number
  readonly endMassKg: number
  readonly supports: 1 | 2
}

/**
 * Flat length in m: outside legs - 2 tan(angle/2) (r + t) + angle (r + k t) at each bend (bend allowance; Machinery's Handbook).
 * @example flatLength({ legsM: [0.06, 0.09], insideRadiusM: 0.004, thicknessM: 0.003, angleDeg: 90, kFactor: 0.4 }) // 0.1442
 */
export function flatLength(
  b: Pick<Bracket, 'legsM' | 'insideRadiusM' | 'thicknessM' | 'angleDeg' | 'kFactor'>,
): number {
  const angle = (b.angleDeg * Math.PI) / 180
  const [r, t] = [b.insideRadiusM, b.thicknessM]
  const bend = angle * (r + b.kFactor * t) - 2 * Math.tan(angle / 2) * (r + t)
  return b.legsM.reduce((sum, l) => sum + l, 0) + Math.max(0, b.legsM.length - 1) * bend
}

/**
 * First natural frequency in Hz, sqrt(ks/(m + c m_b))/2 pi: a cantilever with its mass at the end (3 E I/L^3, c 33/140), or held at both
 * ends with the mass in the middle (192 E I/L^3, c 13/35) (Blevins, Formulas for Natural Frequency and Mode Shape).
 * @example firstFrequency({ youngs: 69e9, density: 2700, thicknessM: 0.003, widthM: 0.04, freeLengthM: 0.09, endMassKg: 0.55, supports: 1 }) // 34.1
 */
export function firstFrequency(
  b: Pick<Bracket, 'youngs' | 'density' | 'thicknessM' | 'widthM' | 'freeLengthM' | 'endMassKg' | 'supports'>,
): number {
  const inertia = (b.widthM * b.thicknessM ** 3) / 12
  const [k, c] = b.supports === 1 ? [3, 33 / 140] : [192, 13 / 35]
  const stiffness = (k * b.youngs * inertia) / b.freeLengthM ** 3
  const own = b.density * b.widthM * b.thicknessM * b.freeLengthM
  return Math.sqrt(stiffness / (b.endMassKg + c * own)) / (2 * Math.PI)
}
