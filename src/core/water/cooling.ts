/** Moist gas that cools along a wall: where it leaves, and what has condensed. */
import { condensedWater, dewPoint, DRY_GAS_KG_PER_MOL, saturatedSlope, WATER_KG_PER_MOL } from './vapour'

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
 *
 * @example
 * import { coolAndCondense } from '@/core/water/cooling'
 *
 * console.log(
 *   coolAndCondense({ dryMolS: 0.02, y: 0.035, tK: 353.15, pPa: 101325 }, { ua: 0.6, aroundK: 283.15 }).outK,
 * ) // 308.15159927435536
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
