/** How much oil blow-by picks up in the engine, and in what sizes. All estimates, range x/ 3: the log calibrates them. */

export type PickUp = 'unbaffled' | 'baffled' | 'multipass'

/** Mist, by condensation and the rings: mass median 0.9 um, GSD 1.9. */
export const MIST = { mmd: 0.9e-6, gsd: 1.9 } as const
/** Splash at the cover's pick-up: finer behind better baffles. */
export const SPLASH: Readonly<
  Record<PickUp, { readonly mmd: number; readonly gsd: number; readonly at6000: number; readonly cornering: number }>
> = {
  unbaffled: { mmd: 15e-6, gsd: 2.2, at6000: 6e-3, cornering: 1 },
  baffled: { mmd: 10e-6, gsd: 2.1, at6000: 1e-3, cornering: 0.3 },
  multipass: { mmd: 8e-6, gsd: 2, at6000: 0.3e-3, cornering: 0.1 },
}

/**
 * Mist in kg per m3 of crankcase gas: 0.15 g/m3 at light load to 0.6 at full.
 *
 * @example
 * import { mistConcentration } from '@/core/separation/source'
 *
 * console.log(mistConcentration(0.5)) // 0.000375
 */
export function mistConcentration(load: number): number {
  return (0.15 + 0.45 * Math.min(1, Math.max(0, load))) * 1e-3
}

/**
 * Splash in kg per m3 at the pick-up, growing with (rpm/6000)^2.
 *
 * @example
 * import { splashConcentration } from '@/core/separation/source'
 *
 * console.log(splashConcentration('baffled', 6000)) // 0.001
 */
export function splashConcentration(pickUp: PickUp, rpm: number): number {
  return SPLASH[pickUp].at6000 * (rpm / 6000) ** 2
}

/**
 * What sustained cornering or braking does to splash: `onUnbaffled` times at an open pick-up, far less behind baffles.
 *
 * @example
 * import { corneringFactor } from '@/core/separation/source'
 *
 * console.log(corneringFactor('baffled', 6)) // 2.5
 */
export function corneringFactor(pickUp: PickUp, onUnbaffled: number): number {
  return 1 + (onUnbaffled - 1) * SPLASH[pickUp].cornering
}

/**
 * What the oil level does to splash: twice as much with a tenth of the sump too much, half with a tenth too little, which is about four
 * notches on a dipstick (estimates).
 * @param over share of the sump above the full mark; negative below it
 *
 * @example
 * import { levelFactor } from '@/core/separation/source'
 *
 * console.log(levelFactor(0.1)) // 2
 */
export const levelFactor = (over: number): number => 2 ** (over / 0.1)
