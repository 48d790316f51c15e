/** A track day before it starts: after which session to empty each can, and how full it is along the way. */
import type { CanForecast } from '../model/results'

export type SessionFill = {
  readonly session: number
  /** share of the bowl that it holds after it: likely, and in a heavy case of ten */
  readonly likely: number
  readonly heavy: number
}
export type TrackDay = {
  readonly fills: readonly SessionFill[]
  /**
   * empty after this session, so that it does not run over in the next in nine cases of ten; 0: before the first;
   * undefined: it lasts the day
   */
  readonly emptyAfter: number | undefined
}

/** @param planned sessions of twenty minutes still to come */
export function trackDay(can: CanForecast, planned: number): TrackDay {
  const share = (m3: number) => m3 / can.bowlM3
  const per = { likely: can.bowlM3 / can.sessions.mid, heavy: can.bowlM3 / can.sessions.low }
  const rate = (v: number) => (Number.isFinite(v) ? v : 0)
  const fills = Array.from({ length: planned }, (_, i): SessionFill => ({
    session: i + 1,
    likely: share(can.now.mid + (i + 1) * rate(per.likely)),
    heavy: share(can.now.high + (i + 1) * rate(per.heavy)),
  }))
  const over = fills.findIndex((f) => f.heavy >= 1)
  return { fills, emptyAfter: over < 0 ? undefined : over }
}
