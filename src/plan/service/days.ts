/** Days and months of the calendar, counted where no clock is ever put back. */
const DAY_MS = 24 * 3600 * 1000

/** Number of a day, by its ISO date. */
export const dayNumber = (iso: string): number => Date.parse(iso) / DAY_MS
/** ISO date of a day, by its number. */
export const dayOf = (number: number): string => new Date(number * DAY_MS).toISOString().slice(0, 10)

/** Part of a month: 0 January, and how many days of it. */
export type MonthPart = { readonly month: number; readonly days: number }

/** Months from a day on, one after another without end, the first from that day. */
export function* monthsFrom(iso: string): Generator<MonthPart, never> {
  for (let at = Date.parse(iso); ;) {
    const here = new Date(at)
    const next = Date.UTC(here.getUTCFullYear(), here.getUTCMonth() + 1, 1)
    yield { month: here.getUTCMonth(), days: (next - at) / DAY_MS }
    at = next
  }
}

/** Days of each month from a day on up to another; the month of the latter where no day lies between. */
export function daysByMonth(from: string, to: string): readonly number[] {
  const days = Array.from({ length: 12 }, () => 0)
  let left = dayNumber(to) - dayNumber(from)
  if (!(left > 0)) {
    days[new Date(to).getUTCMonth()]! += 1
    return days
  }
  for (const part of monthsFrom(from)) {
    days[part.month]! += Math.min(left, part.days)
    left -= part.days
    if (left <= 0) break
  }
  return days
}
