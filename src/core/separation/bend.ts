/** What a bend throws to its wall. */
import { circleArea } from '../circle'
import { slipOn } from './droplets'

/** Gas through a bend: its bore m, actual flow m3/s, oil's density kg/m3, the gas's viscosity Pa s and mean free path m. */
export type BendGas = {
  readonly boreM: number
  readonly flowM3S: number
  readonly oilDensity: number
  readonly viscosity: number
  readonly meanFreePathM: number
}

/**
 * Power of ten that penetration falls by for a droplet whose d^2 Cc is one m2, a degree of bend: 0.963 Stk/90, Stk = rho d^2 U Cc/(9 mu D)
 * (Pui, Romay-Novas & Liu, Aerosol Science and Technology 7, 1987; turbulent flow, Re above some 4 000, below it an estimate).
 *
 * @example
 * import { bendDecay } from '@/core/separation/bend'
 *
 * const gas = { boreM: 0.0159, flowM3S: 0.0025, oilDensity: 830, viscosity: 2e-5, meanFreePathM: 66.4e-9 }
 * console.log(bendDecay(gas)) // 39070423.5503803
 */
export function bendDecay({ boreM, flowM3S, oilDensity, viscosity }: Omit<BendGas, 'meanFreePathM'>): number {
  const velocity = flowM3S / circleArea(boreM)
  return (0.963 * oilDensity * velocity) / (9 * viscosity * boreM) / 90
}

/**
 * Share of droplets of `d` m that a bend of `angleDeg` degrees takes to its wall, 0-1.
 *
 * @example
 * import { bendDeposition } from '@/core/separation/bend'
 *
 * const gas = { boreM: 0.0159, flowM3S: 0.0025, oilDensity: 830, viscosity: 2e-5, meanFreePathM: 66.4e-9 }
 * console.log(bendDeposition(gas, 90, 8e-6)) // 0.41080573215760197
 */
export const bendDeposition = (gas: BendGas, angleDeg: number, d: number): number =>
  1 - 10 ** (-bendDecay(gas) * angleDeg * d * d * slipOn(gas.meanFreePathM, d))
