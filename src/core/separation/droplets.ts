/** Oil droplets in blow-by: sizes, drag slip and how the gas carries them. */
import { meanFreePath } from '../gas/air'

/** One lognormal mode of droplets by mass. `fraction` of the oil mass; mass median diameter in m; geometric standard deviation. */
export type Mode = { readonly fraction: number; readonly mmd: number; readonly gsd: number }

/** A droplet size and the share of the oil mass that it stands for. */
export type SizeBin = { readonly d: number; readonly share: number }

/**
 * Splits a lognormal mode into `count` sizes, evenly in ln d over +-4.5 standard deviations, with shares that sum to 1.
 * 40 sizes give a separation within 0.001.
 *
 * @example
 * import { sizeBins } from '@/core/separation/droplets'
 *
 * console.log(sizeBins({ fraction: 1, mmd: 1e-6, gsd: 2 }, 3).map((b) => b.d)) // [ 1.2500000000000002e-7, 0.000001, 0.000007999999999999998 ]
 */
export function sizeBins(mode: Mode, count = 40): readonly SizeBin[] {
  const sigma = Math.log(mode.gsd)
  const bins: SizeBin[] = []
  let total = 0
  for (let i = 0; i < count; i++) {
    const z = -4.5 + (9 * (i + 0.5)) / count
    const share = Math.exp((-z * z) / 2)
    total += share
    bins.push({ d: mode.mmd * Math.exp(sigma * z), share })
  }
  return bins.map((b) => ({ d: b.d, share: b.share / total }))
}

/**
 * Cunningham's slip correction 1 + Kn (1.257 + 0.4 exp(-1.1/Kn)), Kn = 2 lambda / d (Hinds, Aerosol Technology, eq. 3.20 form).
 *
 * @example
 * import { slip } from '@/core/separation/droplets'
 *
 * console.log(slip(1e-6, 101325, 293.15)) // 1.1669430257734854
 */
export function slip(d: number, pPa: number, tK: number): number {
  return slipOn(meanFreePath(pPa, tK), d)
}

/**
 * The same at a mean free path in m, for many sizes in one gas.
 *
 * @example
 * import { slipOn } from '@/core/separation/droplets'
 *
 * console.log(slipOn(66.4e-9, 1e-6)) // 1.1669430257734854
 */
export function slipOn(meanFreePathM: number, d: number): number {
  const kn = (2 * meanFreePathM) / d
  return 1 + kn * (1.257 + 0.4 * Math.exp(-1.1 / kn))
}
