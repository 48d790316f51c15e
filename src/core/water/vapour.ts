/** Water vapour in blow-by, and how much of it a cool can condenses. */

/**
 * Saturation pressure of water in Pa at `tK`, over liquid water, Buck (1981): 611.21 exp((18.678 - T/234.5) T/(257.14 + T)), T in C.
 * Within 0.1 % of tables from -20 to 50 C, 0.5 % to 100 C.
 * @example saturationPressure(293.15) // 2338
 */
export function saturationPressure(tK: number): number {
  const t = tK - 273.15
  return 611.21 * Math.exp(((18.678 - t / 234.5) * t) / (257.14 + t))
}

/**
 * Dew point in K of gas at `pPa` whose water mole fraction is `y` (0 < y < 1), by Newton on Buck's relation. Dry gas gives 0 K.
 * @example dewPoint(0.035, 101325) // 300.05
 */
export function dewPoint(y: number, pPa: number): number {
  if (!(y > 0)) return 0
  const target = Math.log(y * pPa)
  let t = 300
  for (let i = 0; i < 60; i++) {
    const f = Math.log(saturationPressure(t)) - target
    const slope = (Math.log(saturationPressure(t + 0.01)) - Math.log(saturationPressure(t - 0.01))) / 0.02
    const next = Math.min(420, Math.max(180, t - f / slope))
    if (Math.abs(next - t) < 1e-9) return next
    t = next
  }
  return t
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
  const ps = saturationPressure(tOutK)
  const ratioSat = ps < pPa ? ps / (pPa - ps) : Infinity
  const ratioOut = Math.min(ratioIn, ratioSat)
  return { molPerS: Math.max(0, dryFlow * (ratioIn - ratioOut)), yOut: ratioOut / (1 + ratioOut) }
}

export const WATER_KG_PER_MOL = 0.018015
export const DRY_GAS_KG_PER_MOL = 0.028965

/**
 * Gas temperature in K on leaving a vessel with wall conductance `ua` (W/K) in surroundings at `tAroundK`:
 * T = Ta + (Tin - Ta) exp(-UA/(m cp)), number of transfer units with the surroundings unchanging (Incropera, ch. 11).
 * No flow: it takes the surroundings' temperature.
 * @example outletTemperature(353.15, 293.15, 0.6, 0.0005) // 311.4
 */
export function outletTemperature(tInK: number, tAroundK: number, ua: number, massFlow: number): number {
  if (!(massFlow > 0)) return tAroundK
  return tAroundK + (tInK - tAroundK) * Math.exp(-ua / (massFlow * 1006))
}
