/** What a can has caught, interval by interval: by road and track, and against the gas that passed. */
import { airDensity } from '@/core/gas/air'
import { OIL_POURED } from '@/core/gas/oil'
import { TRACK_SESSION_HOURS } from '@/core/service/rates'
import type { Build } from '../document/schema'
import type { CanForecast, StateResult } from '../model/results'
import { hourly, perMetre, TRACK_KM_PER_SESSION } from '../model/duty'

export type FillInterval = {
  readonly id: string
  readonly date: string
  readonly metres: number
  /** m3; oil by where it was made, split as the model with what was learned has it */
  readonly road: number
  readonly track: number
  readonly water: number
  /** oil to be expected with what has been learned, m3 */
  readonly expected: number
  /** blow-by of the interval by the model, m3 at 20 C and 101.325 kPa */
  readonly gas: number
  /** what was noted since the one before: oil added, another can fitted, a step up */
  readonly events: readonly string[]
}

/** Blow-by a metre of road, a session on track: m3 of standard gas. Undefined where a state has no answer. */
function gasRates(build: Build, states: readonly StateResult[]): { road: number; session: number } | undefined {
  const standard = OIL_POURED / airDensity(101_325, 293.15)
  const of = (a: Parameters<typeof hourly>[2]) =>
    hourly(build, states, a, { oilOf: (s) => ({ mist: s.blowBy, splash: 0 }), waterOf: () => 0 })
  const road = perMetre(build, of, ['track'])
  const track = of('track')
  return road && track && { road: road.oil * standard, session: track.oil * standard * TRACK_SESSION_HOURS }
}

/** The intervals of a can's log, oldest first. */
export function intervalsOf(build: Build, states: readonly StateResult[], can: CanForecast): readonly FillInterval[] {
  const gas = gasRates(build, states)
  const road = Math.exp(can.multiplier.mu)
  const hard = Math.exp((can.trackMultiplier ?? can.multiplier).mu)
  const session = can.perSession.oil
  return can.history.map((h, i): FillInterval => {
    const trackOil = h.predicted.track ?? 0
    const [onRoad, onTrack] = [(h.predicted.oil - trackOil) * road, trackOil * hard]
    const expected = onRoad + onTrack
    const share = expected > 0 ? onTrack / expected : 0
    const sessions = session > 0 ? trackOil / session : 0
    const metres = Math.max(0, h.metres - sessions * TRACK_KM_PER_SESSION * 1000)
    const from = can.history[i - 1]?.date ?? ''
    const added = build.log.filter((e) => e.kind === 'oil-added' && e.date > from && e.date <= h.date).length
    return {
      id: h.id,
      date: h.date,
      metres: h.metres,
      road: h.found.oil * (1 - share),
      track: h.found.oil * share,
      water: h.found.water,
      expected,
      gas: gas ? gas.road * metres + gas.session * sessions : 0,
      events: [
        ...(added > 0 ? ['oil added'] : []),
        ...(h.ofFault ? ['with a fault, not counted'] : []),
        ...(can.changed?.since === h.date ? [can.changed.rise ? 'more since' : 'less since'] : []),
      ],
    }
  })
}
