import { FILM_DRAG } from '@/core/separation/carriage'
import type { UnitFormatter } from '../document/words'
import type { SolvedState } from './results'

/** Where judgement turns. Estimates of the trade unless a source stands beside; pressures in Pa gauge. */
export const LIMITS = {
  /**
   * crankcase: good down to -5 kPa, a warning above 0 (as near as a gauge tells), a fault above +2 kPa or below -8
   * kPa on standard lip seals
   */
  crankcaseHigh: 2000,
  crankcaseWarm: 50,
  crankcaseLow: -5000,
  crankcaseTooLow: -8000,
  /** lip seals let air in long before: below this no figure is shown */
  crankcaseLeast: -20_000,
  /** blow-by does not fall with back pressure, so above this no law holds: seals let go */
  sealsLetGo: 50_000,
  /** more than this on a can or plain hose is more than a hand-tightened lid and a push-on hose should see */
  canPressure: 5000,
  /** share of idle air that may pass the throttle by before idle control and trims feel it */
  idleBypassWatch: 0.15,
  idleBypass: 0.3,
  /** share of engine air that leaks into the manifold unmetered: a code, and a stop */
  leak: 0.01,
  leakStop: 0.05,
  /** above this, at 1 kg/m3, gas drags the wall film along instead of letting it drain back, m/s; and by how much more it must be mended */
  wetVelocity: FILM_DRAG,
  wetVelocityFix: 2,
  /** a sealed crankcase that the pistons swing by more than this either way is worth a one-way valve */
  pulsation: 3000,
  /** a column of oil in a return that a bay's height rarely overcomes, m */
  drainColumn: 0.3,
  /** oil to the intake at full load that matters on a direct-injected or charged engine, kg/h */
  intakeOilFix: 0.02,
} as const

/**
 * A crankcase gauge pressure as it is shown: below what seals hold there is no figure.
 *
 * @example
 * import { unitFormatter } from '@/plan/document/words'
 * import { crankcaseText } from '@/plan/model/limits'
 *
 * const say = unitFormatter({ system: 'metric', pressure: 'kPa', flow: 'l/min' })
 * console.log([crankcaseText(say, -2500), crankcaseText(say, -90_000)]) // [ '−2.5 kPa', 'below −20 kPa' ]
 */
export const crankcaseText = (say: Pick<UnitFormatter, 'signed'>, gauge: number): string =>
  gauge < LIMITS.crankcaseLeast ? `below ${say.signed(LIMITS.crankcaseLeast)}` : say.signed(gauge)

/** How a crankcase gauge pressure is judged; one place for marks, switches and verdicts. */
export function judgeCrankcase(gauge: number): 'stop' | 'watch' | 'ok' {
  if (gauge > LIMITS.crankcaseHigh || gauge < LIMITS.crankcaseTooLow) return 'stop'
  if (gauge > LIMITS.crankcaseWarm || gauge < LIMITS.crankcaseLow) return 'watch'
  return 'ok'
}

/**
 * The same of a solved state. Where the pistons swing the crankcase through more than that at every turn, seals are made for it and the
 * mean says little of them: suction is then watched and no more (common practice, no source).
 *
 * @example
 * import { figuresOf } from '@/plan/model/figures'
 * import { judgeState } from '@/plan/model/limits'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const idle = figuresOf(build).states.find((s) => s.id === 'idle')
 * console.log(judgeState(idle)) // 'ok'
 */
export function judgeState(s: SolvedState): 'stop' | 'watch' | 'ok' {
  const judged = judgeCrankcase(s.crankcaseGauge)
  return judged === 'stop' && s.cycle && s.crankcaseGauge < 0 ? 'watch' : judged
}
