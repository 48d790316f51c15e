/** A leak test as the area of a hole: how fast a crankcase that was blown up loses its pressure. */
import { airDensity } from '@/core/gas/air'
import { toSi } from '@/core/units/units'
import type { Build } from '../document/schema'
import { crankcaseCc, engineModel } from '../model/engine'

/** Discharge of a small sharp hole. */
const CD = 0.62
/** More than twice what the rings pass, and a hole of this besides, is a leak outside them, m2. */
const BESIDES = 1e-6

export type LeakTest = {
  /** m2 of all that it leaks by, and diameter of one hole that would, m */
  readonly areaM2: number
  readonly holeM: number
  /** what ring gaps alone pass, m2 */
  readonly ringsM2: number
  readonly good: boolean
}

/**
 * Air of `volumeM3` flows out by a sharp hole below choking: d(dp)/dt = -(p/V) Cd A sqrt(2 dp/rho), so sqrt(dp) falls evenly with time.
 * @param fromPa gauge at the start, above @param toPa after `seconds`; both 0 to 20 kPa, where dp is small beside the surroundings
 *
 * @example
 * import { leakArea } from '@/plan/fit/leak'
 *
 * console.log(
 *   leakArea({ volumeM3: 6e-3, fromPa: 2000, toPa: 1000, seconds: 30, ambientPa: 101325, temperatureK: 293.15 }),
 * ) // 6.471360408468308e-8
 */
export function leakArea(t: {
  readonly volumeM3: number
  readonly fromPa: number
  readonly toPa: number
  readonly seconds: number
  readonly ambientPa: number
  readonly temperatureK: number
}): number {
  const density = airDensity(t.ambientPa, t.temperatureK)
  const fall = Math.sqrt(t.fromPa) - Math.sqrt(Math.max(0, t.toPa))
  return (2 * fall * t.volumeM3) / (CD * t.ambientPa * Math.sqrt(2 / density) * t.seconds)
}

/** The test of a build's cold crankcase, judged against what its rings pass by themselves. */
export function leakTest(build: Build, fromPa: number, toPa: number, seconds: number): LeakTest {
  const { amb, leakM2, facts } = engineModel(build)
  const areaM2 = leakArea({
    volumeM3: toSi('volume', crankcaseCc(build.engine), 'cc'),
    fromPa,
    toPa,
    seconds,
    ambientPa: amb.pressurePa,
    temperatureK: amb.temperatureK,
  })
  const ringsM2 = leakM2 * facts.cylinders
  return { areaM2, holeM: Math.sqrt((4 * areaM2) / Math.PI), ringsM2, good: areaM2 <= 2 * ringsM2 + BESIDES }
}

/** How the note of a leak test begins. */
const LEAK_TEST = 'Leak test: '

/** What a leak test's entry in the log says: the judgement, whole. */
export const leakNote = (says: string): string => LEAK_TEST + says

/** What the last leak test with a plan on the engine said, and on which day; undefined before one. */
export function lastLeakTest(build: Build, plan: string): { readonly says: string; readonly date: string } | undefined {
  const entry = build.log.findLast(
    (e) => (e.plan ?? build.variants[0]!.id) === plan && e.kind === 'checked' && e.note?.startsWith(LEAK_TEST),
  )
  return entry && { says: entry.note!.slice(LEAK_TEST.length), date: entry.date }
}
