/** How much gas a reversing flow really exchanges along a hose. */

/**
 * Gas exchanged each way along a hose in which flow turns round with the crank, kg/s: of what is breathed back only that which exceeds the
 * hose's own gas has been at its other end; the rest comes back as it went. Plug flow: the dead space of breathing (Bohr, 1891).
 * @param backwards kg/s against the mean flow, averaged over the turn, 0 and up
 * @param turns of the crank a second @param gasKg gas that the hose holds, kg; 0 for a valve or a can's own passage
 * @returns kg/s, 0 to `backwards`
 *
 * @example
 * import { exchanged } from '@/core/pulsation/exchange'
 *
 * console.log(exchanged(2e-3, 50, 1e-5)) // 0.0015
 */
export function exchanged(backwards: number, turns: number, gasKg: number): number {
  if (!(backwards > 0) || !(turns > 0)) return 0
  return Math.max(0, backwards - gasKg * turns)
}
