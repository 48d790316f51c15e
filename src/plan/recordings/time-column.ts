/** Times as loggers write them, in seconds from the first row on. */
import { LOGGER_UNITS } from './roles'
import { unitKey, type ColumnMeaning } from './columns'

/** Reads the cells of a row's time columns as seconds; NaN where they are none. Seconds count from anywhere. */
export type TimeReader = (time: string, date: string) => number

const DAY_S = 86_400
const CLOCK = /^(?:(\d+):)?(\d+):(\d\d(?:[.,]\d+)?)$/
/** Counts of seconds and of milliseconds since 1970 are larger than this. */
const [EPOCH_S, EPOCH_MS] = [3e8, 1e11]

/** h:mm:ss, m:ss, as seconds of the day or of the run. */
function clock(text: string): number {
  const [, hours = 0, minutes, seconds] = CLOCK.exec(text) ?? []
  if (minutes === undefined || seconds === undefined) return Number.NaN
  return 3600 * Number(hours) + 60 * Number(minutes) + Number(seconds.replace(',', '.'))
}
/** 2026-05-30, 30.5.2026 or 5/30/2026 with a time of day, or without. */
function calendar(text: string): number {
  const [day, ...rest] = text.trim().split(/[T ]+/)
  const parts = (day ?? '').split(/[-./]/).map(Number)
  if (parts.length !== 3 || parts.some((p) => !Number.isInteger(p))) return Number.NaN
  const [a, b, c] = parts as [number, number, number]
  const [year, month, date] = /\./.test(day!) ? [c, b, a] : /\//.test(day!) ? [c, a, b] : [a, b, c]
  const at = Date.UTC(year < 100 ? 2000 + year : year, month - 1, date) / 1000
  const time = (rest[0] ?? '').replace(/Z$|[+-]\d\d:?\d\d$/, '')
  return time === '' ? at : at + clock(time)
}

/** In which unit times come that say none: whole steps of 5 and more are milliseconds. */
export function timeUnitOf(values: readonly number[]): 's' | 'ms' {
  const there = values.filter(Number.isFinite)
  const steps = there.slice(1).map((v, k) => v - there[k]!)
  const middle = steps.toSorted((a, b) => a - b)[steps.length >> 1] ?? 0
  return there.every((v) => v % 1 === 0) && middle >= 5 ? 'ms' : 's'
}

/** Whether a time column holds figures; else times of a day or of a calendar. */
export const isPlainTime = (cell: string): boolean => cell !== '' && Number.isFinite(Number(cell.replace(',', '.')))

/** How the times of a file are read. A clock that passes midnight goes on. */
export function makeTimeReader(time: ColumnMeaning, first: string): TimeReader {
  if (isPlainTime(first)) {
    const value = Number(first.replace(',', '.'))
    const epoch = value > EPOCH_MS ? 1e-3 : value > EPOCH_S ? 1 : undefined
    const factor = epoch ?? LOGGER_UNITS.time[unitKey(time.unit)] ?? 1
    return (cell) => (cell === '' ? Number.NaN : Number(cell.replace(',', '.')) * factor)
  }
  if (CLOCK.test(first)) {
    let [days, last] = [0, 0]
    return (cell, date) => {
      const at = clock(cell)
      if (date !== '') return calendar(date) + at
      if (at < last - DAY_S / 2) days++
      if (Number.isFinite(at)) last = at
      return at + days * DAY_S
    }
  }
  return (cell, date) => (date === '' ? calendar(cell) : calendar(`${date} ${cell}`))
}

/** What a file's first time says of the day, as an ISO date and time; undefined where it counts from its own start. */
export const startOf = (seconds: number): string | undefined =>
  seconds > EPOCH_S && seconds < 1e11 ? new Date(seconds * 1000).toISOString().slice(0, 19) : undefined
