/**
 * The open line protocol of a logger (docs/logger.md): text lines with a number each, so that what was sent twice counts once and what was
 * lost is known.
 */
import { fail, ok, type Result } from '@/core/result'
import { guessRoles, type ColumnMeaning } from './columns'
import type { LoggerRecording } from './read-recording'

/** First word of every message, and the version of the protocol. */
export const LINE_PROTOCOL = 'ivent-logger 1'
/** What a message says that it is; no form of a page elsewhere can send it. */
export const LINES_TYPE = 'application/x-ivent-lines'
/** Columns at most, letters of a run's name and of a column's, and letters of a line. */
const [MOST_COLUMNS, MOST_NAME, MOST_LINE] = [32, 40, 1000]

/** A run of a logger, from its start to its end, and what it sends. */
export type LoggerHead = {
  /** other than that of every run before it */
  readonly run: string
  /** heads as in a file, units in brackets: `manifold[kPa abs]` */
  readonly columns: readonly string[]
}
export type LoggerLine = {
  /** one more than that of the line before it */
  readonly number: number
  /** from the start of the run */
  readonly seconds: number
  /** as many as there are columns, in their units; NaN where there is no reading */
  readonly values: readonly number[]
}

/**
 * The two lines with which every message begins.
 *
 * @example
 * import { headLines } from '@/plan/recordings/line-protocol'
 *
 * console.log(headLines({ run: 'a1', columns: ['crankcase[kPa]', 'rpm'] })[1]) // 'columns crankcase[kPa], rpm'
 */
export const headLines = ({ run, columns }: LoggerHead): readonly [string, string] => [
  `${LINE_PROTOCOL} ${run}`,
  `columns ${columns.join(', ')}`,
]

/**
 * What the first two lines of a message say; fails with what is wrong with them.
 *
 * @example
 * import { parseHead } from '@/plan/recordings/line-protocol'
 *
 * console.log(parseHead('no head', 'rpm').ok) // false
 */
export function parseHead(first: string, second: string): Result<LoggerHead> {
  const run = first.startsWith(`${LINE_PROTOCOL} `) ? first.slice(LINE_PROTOCOL.length).trim() : ''
  if (!/^[\w.:-]+$/.test(run) || run.length > MOST_NAME)
    return fail(
      `The first line must be “${LINE_PROTOCOL} RUN”, RUN being a name of up to ${MOST_NAME} letters, digits, - or _.`,
    )
  const columns = second.startsWith('columns ')
    ? second
        .slice('columns '.length)
        .split(',')
        .map((c) => c.trim())
    : []
  if (columns.length === 0 || columns.length > MOST_COLUMNS || columns.some((c) => c === '' || c.length > MOST_NAME))
    return fail(
      `The second line must be “columns NAME[UNIT], NAME[UNIT], …”, up to ${MOST_COLUMNS} names of up to ${MOST_NAME} letters.`,
    )
  return ok({ run, columns })
}

/**
 * A line of figures: its number, seconds, a figure a column or `-`. Undefined where it is none.
 *
 * @example
 * import { parseLine } from '@/plan/recordings/line-protocol'
 *
 * console.log(parseLine('12 0.55 -0.41 -', 2).values) // [ -0.41, NaN ]
 */
export function parseLine(text: string, columns: number): LoggerLine | undefined {
  if (text.length > MOST_LINE) return undefined
  const cells = text.trim().split(/\s+/)
  if (cells.length !== columns + 2) return undefined
  const [number, seconds] = [Number(cells[0]), Number(cells[1])]
  const values = cells.slice(2).map((c) => (c === '-' ? Number.NaN : Number(c)))
  const isSound =
    /^\d+$/.test(cells[0]!) &&
    Number.isSafeInteger(number) &&
    number > 0 &&
    Number.isFinite(seconds) &&
    values.every((v, k) => cells[k + 2] === '-' || Number.isFinite(v))
  return isSound ? { number, seconds, values } : undefined
}

/** A line of figures as it is sent. */
export const loggerLineText = ({ number, seconds, values }: LoggerLine, digits = 3): string =>
  [number, seconds.toFixed(3), ...values.map((v) => (Number.isFinite(v) ? v.toFixed(digits) : '-'))].join(' ')

/** What the columns of a run are, found as those of a file are: from their heads, units and first figures. */
export function runColumns({ columns }: LoggerHead, lines: readonly LoggerLine[]): readonly ColumnMeaning[] {
  return guessRoles(
    columns.map((c, k) => {
      const [, name = c, unit = ''] = /^([^[]*)\[([^\]]*)\]$/.exec(c) ?? []
      return { name: name.trim(), unit, values: lines.slice(0, 200).map((l) => l.values[k]!) }
    }),
  )
}

/** Lines that were lost on their way, and those that could not be read. */
export type LostLines = { readonly missing: number; readonly unread: number }

/**
 * A run as a recording, as if it had been read from a file; lines rise in number and time. Fails where there are fewer than two.
 *
 * @example
 * import { recordingOfRun } from '@/plan/recordings/line-protocol'
 *
 * const lines = [1, 2, 3].map((n) => ({ number: n, seconds: n / 10, values: [-0.4] }))
 * const recorded = recordingOfRun({ run: 'a', columns: ['crankcase[kPa]'] }, lines, { missing: 0, unread: 0 })
 * console.log(recorded.value.seconds.length) // 3
 */
export function recordingOfRun(
  head: LoggerHead,
  lines: readonly LoggerLine[],
  lost: LostLines,
): Result<LoggerRecording> {
  const rising = lines.filter((l, k) => k === 0 || l.seconds > lines[k - 1]!.seconds)
  if (rising.length < 2) return fail('There are fewer than two lines of it.')
  const first = rising[0]!.seconds
  const seconds = Float64Array.from(rising, (l) => l.seconds - first)
  const steps = Array.from(seconds.subarray(1), (t, k) => t - seconds[k]!).toSorted((a, b) => a - b)
  const step = steps[steps.length >> 1]!
  const gaps = Array.from(seconds.subarray(1), (to, k) => ({ from: seconds[k]!, to })).filter(
    ({ from, to }) => to - from > Math.max(0.5, 8 * step),
  )
  const channels = runColumns(head, rising).map((c, k) => ({
    ...c,
    values: Float32Array.from(rising, (l) => l.values[k]!),
  }))
  const says = `${lost.missing} lines did not come, ${lost.unread} could not be read`
  return ok({
    seconds,
    channels,
    startedAt: undefined,
    bad:
      lost.missing + lost.unread === 0
        ? { count: 0, first: [] }
        : { count: lost.missing + lost.unread, first: [{ line: 1, says }] },
    empty: channels.reduce((sum, c) => sum + c.values.filter(Number.isNaN).length, 0),
    joined: rising.length - lines.length === 0 ? 0 : lines.length - rising.length,
    cutOff: false,
    gaps,
    step,
  })
}
