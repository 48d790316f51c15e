/** The water that a fuel makes as it burns. */

/** Atoms of a mean molecule of fuel. */
export type FuelFormula = { readonly carbon: number; readonly hydrogen: number; readonly oxygen: number }

/** Nitrogen to a mole of oxygen in air. */
const NITROGEN = 3.76

/**
 * Moles of water in a mole of gas burnt at stoichiometry: C_c H_h O_o + s (O2 + 3.76 N2), s = c + h/4 - o/2, gives c CO2, h/2 H2O and
 * 3.76 s N2 (Heywood, Internal Combustion Engine Fundamentals, 3.2).
 *
 * @example
 * import { burntWater } from '@/core/water/fuel'
 *
 * console.log(burntWater({ carbon: 8, hydrogen: 15, oxygen: 0 })) // 0.12567024128686327
 */
export function burntWater({ carbon, hydrogen, oxygen }: FuelFormula): number {
  const air = carbon + hydrogen / 4 - oxygen / 2
  const water = hydrogen / 2
  return water / (carbon + water + NITROGEN * air)
}

export type Fuel = 'petrol' | 'e85' | 'ethanol' | 'methanol'
/** Petrol as C8H15; E85 as 85 % of ethanol by volume, 789 kg/m3 and 46.1 g/mol against 745 and 111.2. */
export const FUEL_FORMULAS: Readonly<Record<Fuel, FuelFormula>> = {
  petrol: { carbon: 8, hydrogen: 15, oxygen: 0 },
  e85: { carbon: 2.388, hydrogen: 6.582, oxygen: 0.9354 },
  ethanol: { carbon: 2, hydrogen: 6, oxygen: 1 },
  methanol: { carbon: 1, hydrogen: 4, oxygen: 1 },
}
