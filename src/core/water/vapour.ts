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

/** Gas that enters, K and Pa: mol/s of dry gas, and the mole fraction of water with it. */
export type MoistGas = { readonly dryMolS: number; readonly y: number; readonly tK: number; readonly pPa: number }
/** A wall of a conductance, W/K, to surroundings, K. */
export type Wall = { readonly ua: number; readonly aroundK: number }
export type Cooled = { readonly outK: number; readonly condensed: number; readonly yOut: number }

/**
 * Moist gas along a wall of conductance U A in surroundings: m cp dT + h_fg dm = U dA (T - T_around). Above its dew
 * point it cools by the number of transfer units (Incropera, ch. 11); below, what condenses warms it, so that it cools more slowly.
 * @returns K, mol/s of water condensed, mole fraction that leaves
 * @example coolAndCondense({ dryMolS: 0.02, y: 0.035, tK: 353.15, pPa: 101325 }, { ua: 0.6, aroundK: 283.15 }).outK // 308.2
 */
export function coolAndCondense({ dryMolS, y, tK, pPa }: MoistGas, { ua, aroundK }: Wall): Cooled {
  const dryKg = dryMolS * DRY_GAS_KG_PER_MOL
  if (!(dryKg > 0)) return { outK: aroundK, condensed: 0, yOut: y }
  let t = tK
  let left = ua
  const dew = dewPoint(y, pPa)
  if (t > dew) {
    const toDew = dew > aroundK ? dryKg * GAS_CP * Math.log((t - aroundK) / (dew - aroundK)) : Infinity
    if (toDew >= ua) return { outK: aroundK + (t - aroundK) * Math.exp(-ua / (dryKg * GAS_CP)), condensed: 0, yOut: y }
    left = ua - toDew
    t = dew
  }
  const heat = (at: number) => dryKg * GAS_CP + dryMolS * WATER_KG_PER_MOL * WATER_LATENT * saturatedSlope(at, pPa)
  for (let i = 0; i < STEPS; i++) {
    const half = aroundK + (t - aroundK) * Math.exp(-left / STEPS / 2 / heat(t))
    t = aroundK + (t - aroundK) * Math.exp(-left / STEPS / heat(half))
  }
  const { molPerS, yOut } = condensedWater(dryMolS, y, t, pPa)
  return { outK: t, condensed: molPerS, yOut }
}
