/** How well past forecasts did: each filling against the band that would have been predicted before it. */
import { learn } from '@/core/service/learn'
import type { Emptying, Prior } from '@/core/service/prior'
import type { Evaluator } from '../model/evaluator'
import type { CanForecast, ForecastCheck } from '../model/results'

/** Fillings that are learned from: the last so many. */
export const MOST_LEARNED = 40
/** Forecasts that are looked back on: the last so many: each asks for all that was learned before it. */
const MOST = 12

/** Fillings in order, each with the band predicted by those before it; what was only seen to be full or dry is left out. */
export function calibrationOf(
  said: readonly Emptying[],
  prior: Prior,
  history: CanForecast['history'],
  { nextFilling }: Evaluator,
): readonly ForecastCheck[] {
  const first = Math.max(1, said.length - MOST)
  return said.flatMap((e, i): ForecastCheck[] => {
    const h = history[i]
    const measured = e.all ?? e.oil
    if (i < first || !h || !measured || !('found' in measured)) return []
    const before = said.slice(Math.max(0, i - MOST_LEARNED), i)
    const band = nextFilling(learn(before, prior), e.predicted)
    const found = h.found.oil + h.found.water
    return [{ id: h.id, date: h.date, found, band, inside: found >= band.low && found <= band.high }]
  })
}
