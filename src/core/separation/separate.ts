/** Oil through a row of stages. */
import { sizeBins, type Mode } from './droplets'
import { stageEfficiency, type Carrier, type Stage } from './stages'

/**
 * Share of the oil mass still carried after each stage, and the share caught in all.
 * Each size goes through each stage on its own; the shares are then summed over the modes (fractions need not sum to 1; they are weighted).
 * @param sizes sizes per mode; 40 is within 0.001
 *
 * @example
 * import { separate } from '@/core/separation/separate'
 *
 * console.log(
 *   separate([{ fraction: 1, mmd: 1e-5, gsd: 2 }], [{ type: 'settling', area: 0.003 }], {
 *     flow: 5e-4,
 *     pPa: 101325,
 *     tK: 343.15,
 *     oilDensity: 850,
 *   }).captured,
 * ) // 0.03265162759872631
 */
export function separate(
  modes: readonly Mode[],
  stages: readonly Stage[],
  carrier: Carrier,
  sizes = 40,
): { readonly penetrationAfter: readonly number[]; readonly captured: number } {
  const total = modes.reduce((s, m) => s + m.fraction, 0)
  const after = stages.map(() => 0)
  const laws = stages.map((s) => stageEfficiency(s, carrier))
  for (const mode of modes) {
    for (const bin of sizeBins(mode, sizes)) {
      let left = (bin.share * mode.fraction) / total
      laws.forEach((efficiency, i) => {
        left *= 1 - efficiency(bin.d)
        after[i]! += left
      })
    }
  }
  const last = after[after.length - 1] ?? 1
  return { penetrationAfter: after, captured: 1 - last }
}
