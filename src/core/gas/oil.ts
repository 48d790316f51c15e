/** Engine oil as a liquid. */

/**
 * Oil density in kg/m3 at `tK`: 850 at 70 C, falling 0.65 per K.
 *
 * @example
 * import { oilDensity } from '@/core/gas/oil'
 *
 * console.log(oilDensity(343.15)) // 850
 */
export function oilDensity(tK: number): number {
  return 850 - 0.65 * (tK - 343.15)
}

/**
 * Kinematic viscosity in m2/s at `tK` by ASTM D341 in its short form, log10 log10(nu + 0.7) = A - B log10 T (nu in mm2/s),
 * from the grade's 40 C and 100 C values in mm2/s. Meant for 2 to 2e7 mm2/s.
 *
 * @example
 * import { oilViscosity } from '@/core/gas/oil'
 *
 * console.log(oilViscosity(363.15, 65, 11)) // 0.000013750904984501836
 */
export function oilViscosity(tK: number, nu40: number, nu100: number): number {
  const w = (nu: number) => Math.log10(Math.log10(nu + 0.7))
  const t1 = Math.log10(313.15)
  const b = (w(nu40) - w(nu100)) / (Math.log10(373.15) - t1)
  return (10 ** (10 ** (w(nu40) - b * (Math.log10(tK) - t1))) - 0.7) * 1e-6
}

/** Oil and water are given in volumes as they are poured out, at 20 C: kg/m3. */
export const OIL_POURED = oilDensity(293.15)
export const WATER_POURED = 998
