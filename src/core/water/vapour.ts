/** Water vapour in blow-by: what gas can hold, and what it lets go as it cools. */

const ZERO_C = 273.15
const [BUCK_PA, BUCK_A, BUCK_B, BUCK_C] = [611.21, 18.678, 234.5, 257.14]
/** Buck's exponent at `t` C, and its slope, 1/K. */
const exponent = (t: number): number => ((BUCK_A - t / BUCK_B) * t) / (BUCK_C + t)
const exponentSlope = (t: number): number =>
  ((BUCK_A - t / BUCK_B) * BUCK_C) / (BUCK_C + t) ** 2 - t / (BUCK_B * (BUCK_C + t))

/**
 * Saturation pressure of water in Pa at `tK`, over liquid water, Buck (1981): 611.21 exp((18.678 - T/234.5) T/(257.14 + T)), T in C.
 * Within 0.1 % of tables from -20 to 50 C, 0.5 % to 100 C.
 *
 * @example
 * import { saturationPressure } from '@/core/water/vapour'
 *
 * console.log(saturationPressure(293.15)) // 2338.339978450019
 */
export function saturationPressure(tK: number): number {
  return BUCK_PA * Math.exp(exponent(tK - ZERO_C))
}

/**
 * Dew point in K of gas at `pPa` whose water mole fraction is `y` (0 < y < 1), by Newton on Buck's relation. Dry gas gives 0 K.
 *
 * @example
 * import { dewPoint } from '@/core/water/vapour'
 *
 * console.log(dewPoint(0.035, 101325)) // 300.05348866304416
 */
export function dewPoint(y: number, pPa: number): number {
  if (!(y > 0)) return 0
  const target = Math.log((y * pPa) / BUCK_PA)
  let t = 300
  for (let i = 0; i < 60; i++) {
    const off = exponent(t - ZERO_C) - target
    const next = Math.min(420, Math.max(180, t - off / exponentSlope(t - ZERO_C)))
    if (Math.abs(next - t) < 1e-9) return next
    t = next
  }
  return t
}

/** Moles of water to a mole of dry gas that can hold no more. */
function saturatedRatio(tK: number, pPa: number): number {
  const ps = saturationPressure(tK)
  return ps < pPa ? ps / (pPa - ps) : Infinity
}
/**
 * How that grows with temperature, 1/K.
 *
 * @example
 * import { saturatedSlope } from '@/core/water/vapour'
 *
 * console.log(saturatedSlope(293.15, 101325)) // 0.001497726213658235
 */
export function saturatedSlope(tK: number, pPa: number): number {
  const ps = saturationPressure(tK)
  return ps < pPa ? (ps * exponentSlope(tK - ZERO_C) * pPa) / (pPa - ps) ** 2 : Infinity
}

/**
 * Water condensed in mol/s from `dryFlow` mol/s of dry gas that enters with water mole fraction `y` and leaves at `tOutK`, `pPa`:
 * dry moles times the fall in molar ratio, none when the gas leaves above its dew point.
 *
 * @example
 * import { condensedWater } from '@/core/water/vapour'
 *
 * console.log(condensedWater(0.02, 0.035, 283.15, 101325).molPerS * 0.018015) // 0.000008648188733053365
 */
export function condensedWater(
  dryFlow: number,
  y: number,
  tOutK: number,
  pPa: number,
): { readonly molPerS: number; readonly yOut: number } {
  const ratioIn = y / (1 - y)
  const ratioOut = Math.min(ratioIn, saturatedRatio(tOutK, pPa))
  return { molPerS: Math.max(0, dryFlow * (ratioIn - ratioOut)), yOut: ratioOut / (1 + ratioOut) }
}

export const WATER_KG_PER_MOL = 0.018015
export const DRY_GAS_KG_PER_MOL = 0.028965
