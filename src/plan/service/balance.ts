/** Oil that was added against oil that the cans have caught. */
import type { Build } from '../document/schema'

export type OilBalance = {
  /** since the first can was fitted, m3 */
  readonly addedM3: number
  readonly caughtM3: number
  readonly metres: number
}

/**
 * Undefined until both something was added and a can was fitted.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { oilBalance } from '@/plan/service/balance'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(oilBalance(build)) // undefined
 */
export function oilBalance(build: Build): OilBalance | undefined {
  const first = build.log.find((e) => e.kind === 'fitted')
  if (!first) return undefined
  const since = build.log.filter((e) => e.odometerKm >= first.odometerKm)
  const sum = (kind: 'emptied' | 'oil-added') =>
    since.reduce((s, e) => s + (e.kind === kind ? Math.max(0, (e.ml ?? 0) - (e.waterMl ?? 0)) : 0), 0) * 1e-6
  const addedM3 = sum('oil-added')
  if (addedM3 === 0) return undefined
  return {
    addedM3,
    caughtM3: sum('emptied'),
    metres: (Math.max(...since.map((e) => e.odometerKm)) - first.odometerKm) * 1000,
  }
}
