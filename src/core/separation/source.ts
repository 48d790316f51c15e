/** How much oil blow-by picks up in the engine, and in what sizes. All estimates, range x/ 3: the log calibrates them. */

export type PickUp = 'unbaffled' | 'baffled' | 'multipass'

/** Mist, by condensation and the rings: mass median 0.9 um, GSD 1.9. */
export const MIST = { mmd: 0.9e-6, gsd: 1.9 } as const
/** How hard it is cornered and braked, sustained. */
export type Cornering = 'road' | 'mountain' | 'track' | 'slicks'
/**
 * Splash at the cover's pick-up at 6 000 rpm, kg/m3: finer behind better baffles, which sustained cornering floods as well (estimates, x/ 3,
 * on track x/ 4).
 */
export const SPLASH: Readonly<
  Record<PickUp, { readonly mmd: number; readonly gsd: number; readonly at6000: Readonly<Record<Cornering, number>> }>
> = {
  unbaffled: { mmd: 15e-6, gsd: 2.2, at6000: { road: 6e-3, mountain: 12e-3, track: 36e-3, slicks: 60e-3 } },
  baffled: { mmd: 10e-6, gsd: 2.1, at6000: { road: 1e-3, mountain: 1.6e-3, track: 15e-3, slicks: 30e-3 } },
  multipass: { mmd: 8e-6, gsd: 2, at6000: { road: 0.3e-3, mountain: 0.35e-3, track: 3e-3, slicks: 6e-3 } },
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
 * Splash on the road in kg per m3 at the pick-up, growing with (rpm/6000)^2.
 *
 * @example
 * import { splashConcentration } from '@/core/separation/source'
 *
 * console.log(splashConcentration('baffled', 6000)) // 0.001
 */
export function splashConcentration(pickUp: PickUp, rpm: number): number {
  return SPLASH[pickUp].at6000.road * (rpm / 6000) ** 2
}

/**
 * What sustained cornering or braking does to splash, over that on the road.
 *
 * @example
 * import { corneringFactor } from '@/core/separation/source'
 *
 * console.log(corneringFactor('baffled', 'track')) // 15
 */
export const corneringFactor = (pickUp: PickUp, cornering: Cornering): number =>
  SPLASH[pickUp].at6000[cornering] / SPLASH[pickUp].at6000.road

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
