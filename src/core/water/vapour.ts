/** Water vapour in blow-by, and how much of it a cool can condenses. */

const ZERO_C = 273.15
const [BUCK_PA, BUCK_A, BUCK_B, BUCK_C] = [611.21, 18.678, 234.5, 257.14]
/** Buck's exponent at `t` C, and its slope, 1/K. */
const exponent = (t: number): number => ((BUCK_A - t / BUCK_B) * t) / (BUCK_C + t)
const exponentSlope = (t: number): number =>
  ((BUCK_A - t / BUCK_B) * BUCK_C) / (BUCK_C + t) ** 2 - t / (BUCK_B * (BUCK_C + t))

/**
 * Saturation pressure of water in Pa at `tK`, over liquid water, Buck (1981): 611.21 exp((18.678 - T/234.5) T/(257.14 + T)), T in C.
 * Within 0.1 % of tables from -20 to 50 C, 0.5 % to 100 C.
 * @example saturationPressure(293.15) // 2338
 */
export function saturationPressure(tK: number): number {
  return BUCK_PA * Math.exp(exponent(tK - ZERO_C))
}

/**
 * Dew point in K of gas at `pPa` whose water mole fraction is `y` (0 < y < 1), by Newton on Buck's relation. Dry gas gives 0 K.
 * @example dewPoint(0.035, 101325) // 300.05
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
/** How that grows with temperature, 1/K. */
function saturatedSlope(tK: number, pPa: number): number {
  const ps = saturationPressure(tK)
  return ps < pPa ? (ps * exponentSlope(tK - ZERO_C) * pPa) / (pPa - ps) ** 2 : Infinity
}

/**
 * Water condensed in mol/s from `dryFlow` mol/s of dry gas that enters with water mole fraction `y` and leaves at `tOutK`, `pPa`:
 * dry moles times the fall in molar ratio, none when the gas leaves above its dew point.
 * @example condensedWater(0.02, 0.035, 283.15, 101325).molPerS * 0.018015 // 8.65e-6
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

/** Heat of dry gas, J/(kg K), and of condensing water near 25 C, J/kg. */
const GAS_CP = 1006
const WATER_LATENT = 2.44e6
/** Steps along the wall; gas that condenses cools in a curve. */
const STEPS = 24

export type Cooled = { readonly outK: number; readonly condensed: number; readonly yOut: number }

/**
 * Moist gas along a wall of conductance `ua` (W/K) in surroundings at `tAroundK`: m cp dT + h_fg dm = U dA (T - T_around). Above its dew
 * point it cools by the number of transfer units (Incropera, ch. 11); below, what condenses warms it, so that it cools more slowly.
 * @param dryFlow mol/s of dry gas @param y water mole fraction that enters @returns K, mol/s of water condensed, mole fraction that leaves
 * @example coolAndCondense(0.02, 0.035, 353.15, 283.15, 0.6, 101325).outK // 308.2
 */
export function coolAndCondense(
  dryFlow: number,
  y: number,
  tInK: number,
  tAroundK: number,
  ua: number,
  pPa: number,
): Cooled {
  const dryKg = dryFlow * DRY_GAS_KG_PER_MOL
  if (!(dryKg > 0)) return { outK: tAroundK, condensed: 0, yOut: y }
  let t = tInK
  let left = ua
  const dew = dewPoint(y, pPa)
  if (t > dew) {
    const toDew = dew > tAroundK ? dryKg * GAS_CP * Math.log((t - tAroundK) / (dew - tAroundK)) : Infinity
    if (toDew >= ua)
      return { outK: tAroundK + (t - tAroundK) * Math.exp(-ua / (dryKg * GAS_CP)), condensed: 0, yOut: y }
    left = ua - toDew
    t = dew
  }
  const heat = (tK: number) => dryKg * GAS_CP + dryFlow * WATER_KG_PER_MOL * WATER_LATENT * saturatedSlope(tK, pPa)
  for (let i = 0; i < STEPS; i++) {
    const half = tAroundK + (t - tAroundK) * Math.exp(-left / STEPS / 2 / heat(t))
    t = tAroundK + (t - tAroundK) * Math.exp(-left / STEPS / heat(half))
  }
  const { molPerS, yOut } = condensedWater(dryFlow, y, t, pPa)
  return { outK: t, condensed: molPerS, yOut }
}
