/** Air and blow-by gas as an ideal gas. */

export const GAS_R = 287.05 // J/(kg K)
export const GAS_GAMMA = 1.4
export const STANDARD_PRESSURE = 101325 // Pa
export const STANDARD_TEMPERATURE = 293.15 // K, the 20 C of a standard litre
export const GRAVITY = 9.80665 // m/s2

/**
 * Dynamic viscosity of air in Pa s at temperature `tK` (K), Sutherland's law: mu0 (T/T0)^1.5 (T0+S)/(T+S).
 * mu0 1.716e-5 Pa s at T0 273.15 K, S 110.4 K. Within 2 % from 170 to 1 900 K (White, Viscous Fluid Flow).
 * Outside that range it extrapolates.
 *
 * @example
 * import { airViscosity } from '@/core/gas/air'
 *
 * console.log(airViscosity(353.15)) // 0.00002087275107359649
 */
export function airViscosity(tK: number): number {
  const times = tK / 273.15
  return (1.716e-5 * times * Math.sqrt(times) * (273.15 + 110.4)) / (tK + 110.4)
}

/**
 * Density in kg/m3 at pressure `pPa` (Pa absolute) and `tK` (K): p / (R T).
 *
 * @example
 * import { airDensity } from '@/core/gas/air'
 *
 * console.log(airDensity(101325, 293.15)) // 1.2041183163746156
 */
export function airDensity(pPa: number, tK: number): number {
  return pPa / (GAS_R * tK)
}

/** Mass of one standard litre (101.325 kPa, 20 C) in kg. */
export const KG_PER_STANDARD_LITRE = airDensity(STANDARD_PRESSURE, STANDARD_TEMPERATURE) / 1000

/**
 * Mean free path in m at `pPa` and `tK`: 66.4 nm at 101.325 kPa, 20 C, scaled by (T/T0)(p0/p)(1+S/T0)/(1+S/T)
 * (Hinds, Aerosol Technology; Willeke's temperature form with S 110.4 K).
 *
 * @example
 * import { meanFreePath } from '@/core/gas/air'
 *
 * console.log(meanFreePath(101325, 293.15)) // 6.64e-8
 */
export function meanFreePath(pPa: number, tK: number): number {
  return (66.4e-9 * (STANDARD_PRESSURE / pPa) * (tK / 293.15) * (1 + 110.4 / 293.15)) / (1 + 110.4 / tK)
}

/**
 * International Standard Atmosphere pressure in Pa at `altitudeM` metres: p0 (1 - 2.25577e-5 h)^5.25588 (ISO 2533).
 * Valid -500 to 11 000 m; clamped outside.
 *
 * @example
 * import { atmosphericPressure } from '@/core/gas/air'
 *
 * console.log(atmosphericPressure(1500)) // 84555.99052357135
 */
export function atmosphericPressure(altitudeM: number): number {
  const h = Math.min(11000, Math.max(-500, altitudeM))
  return STANDARD_PRESSURE * (1 - 2.25577e-5 * h) ** 5.25588
}
