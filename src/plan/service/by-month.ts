/** What the cans gave, month by month: oil and water apart. */
import type { CanForecast, DutyRates } from '../model/results'

export type MonthFound = DutyRates & {
  /** 2026-05 */
  readonly month: string
}

/** The twelve months up to that of `today`, m3 found in all cans in each. */
export function foundByMonth(cans: readonly Pick<CanForecast, 'history'>[], today: string): readonly MonthFound[] {
  const [year, month] = today.split('-').map(Number) as [number, number]
  return Array.from({ length: 12 }, (_, i) => {
    const at = year * 12 + (month - 1) - 11 + i
    const name = `${Math.floor(at / 12)}-${String((at % 12) + 1).padStart(2, '0')}`
    const found = cans.flatMap((c) => c.history.filter((h) => h.date.startsWith(name)).map((h) => h.found))
    return {
      month: name,
      oil: found.reduce((sum, f) => sum + f.oil, 0),
      water: found.reduce((sum, f) => sum + f.water, 0),
    }
  })
}
