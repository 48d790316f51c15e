/** What a gauge at the crankcase should read once all is fitted. */
import type { Range } from '@/core/service/fill'
import type { StateResult } from '../model/results'
import type { StateRange } from './ranges'

/** How far the mean of a turn may be off, four in five, in proportion: gas index and breather's inertia are not drawn (estimate). */
const TURN_SHARE = 0.35

/**
 * The band of four in five: as drawn on still flow; where the pistons pump, about the mean of the turn, no narrower than still flow is known.
 * @param s the state as analysed @param drawn the same state's ranges
 */
export function expectedIn(s: StateResult | undefined, drawn: StateRange): Range {
  if (!s?.solved || !s.cycle) return drawn.crankcase
  const { low, high } = drawn.crankcase
  const half = Math.max(TURN_SHARE * Math.abs(s.crankcaseGauge), (high - low) / 2)
  return { low: s.crankcaseGauge - half, mid: s.crankcaseGauge, high: s.crankcaseGauge + half }
}
