/** A logger's file, read piece by piece: rows in time, a column a channel, and everything that was not read, counted. */
import Papa from 'papaparse'
import { fail, ok, type Result } from '@/core/result'
import { guessRoles, type ColumnMeaning } from './columns'
import { cellsOf, tableFormat, type TableFormat } from './table-format'
import { isPlainTime, makeTimeReader, startOf, timeUnitOf, type TimeReader } from './time-column'

export type LoggerChannel = ColumnMeaning & {
  /** in the file's own unit; NaN where a row has none */
  readonly values: Float32Array
}
/** What a channel is, without its figures. */
export const meaningOf = ({ name, unit, role, gauge, reason }: ColumnMeaning): ColumnMeaning => ({
  name,
  unit,
  role,
  gauge,
  reason,
})
export type UnreadRow = { readonly line: number; readonly says: string }
export type LoggerRecording = {
  /** seconds from the first row, rising */
  readonly seconds: Float64Array
  /** all but time and date */
  readonly channels: readonly LoggerChannel[]
  /** where the file says of what day it is: date and time */
  readonly startedAt: string | undefined
  readonly bad: { readonly count: number; readonly first: readonly UnreadRow[] }
  /** cells that hold no figure, in rows that were read */
  readonly empty: number
  /** rows of one time, joined */
  readonly joined: number
  /** the last line was cut off in the middle */
  readonly cutOff: boolean
  /** stretches without rows, s */
  readonly gaps: readonly { readonly from: number; readonly to: number }[]
  /** likely time from row to row, s */
  readonly step: number
}

/** Bad rows that are listed one by one. */
const MOST_UNREAD_NAMED = 5
/** A stretch without rows is a gap from so many steps on, and from so long, s. */
const [GAP_STEPS, LEAST_GAP] = [8, 0.5]
/** Rows that are looked at before all are read. */
const LOOKED_AT = 200
/** Rows a second of a file without times. */
const ROWS_A_SECOND = 10
export const MOST_ROWS = 4_000_000

export type FilePreview = {
  readonly format: TableFormat
  /** the first rows as they stand */
  readonly rows: readonly (readonly string[])[]
  readonly columns: readonly ColumnMeaning[]
}

const figureOf = (cell: string, decimalComma: boolean): number => {
  if (cell === '') return Number.NaN
  return Number(decimalComma ? cell.replace(',', '.') : cell)
}

/** What a file is taken for, from its beginning (64 kB are enough). */
export function previewRecording(beginning: string): Result<FilePreview> {
  const text = beginning.replace(/^\uFEFF/, '')
  const format = tableFormat(text)
  if (!format.ok) return format
  const { separator, decimalComma, skip, heads, units } = format.value
  const lines = text.split(/\r\n|\n|\r/).slice(skip, skip + LOOKED_AT)
  const rows = lines.map((l) => cellsOf(l, separator)).filter((cells) => cells.length >= heads.length)
  const samples = heads.map((name, k) => ({
    name,
    unit: units[k]!,
    values: rows.map((r) => figureOf(r[k]!, decimalComma)),
  }))
  const columns = guessRoles(samples).map((c, k): ColumnMeaning => {
    const cell = rows[0]?.[k] ?? ''
    if (c.role !== 'time' || c.unit !== '' || !isPlainTime(cell)) return c
    const unit = timeUnitOf(samples[k]!.values)
    return unit === 'ms'
      ? { ...c, unit, reason: `${c.reason}; its steps are whole and large, so it counts milliseconds` }
      : c
  })
  return ok({ format: format.value, rows: rows.slice(0, 12), columns })
}

/** Room that grows as rows come. */
class Rows {
  count = 0
  seconds = new Float64Array(1024)
  channels: Float32Array[]
  constructor(width: number) {
    this.channels = Array.from({ length: width }, () => new Float32Array(1024))
  }
  add(at: number): number {
    if (this.count === this.seconds.length) {
      const wider = <T extends Float64Array | Float32Array>(old: T): T => {
        const room = new (old.constructor as new (n: number) => T)(2 * old.length)
        room.set(old)
        return room
      }
      this.seconds = wider(this.seconds)
      this.channels = this.channels.map(wider)
    }
    this.seconds[this.count] = at
    return this.count++
  }
}

function gapsIn(seconds: Float64Array): Pick<LoggerRecording, 'gaps' | 'step'> {
  const n = seconds.length
  // the middle of up to some thousand steps, evenly taken
  const stride = Math.max(1, Math.floor(n / 4000))
  const steps: number[] = []
  for (let k = 1; k < n; k += stride) steps.push(seconds[k]! - seconds[k - 1]!)
  const step = steps.toSorted((a, b) => a - b)[steps.length >> 1] ?? 0
  const least = Math.max(LEAST_GAP, GAP_STEPS * step)
  const gaps: { from: number; to: number }[] = []
  for (let k = 1; k < n; k++)
    if (seconds[k]! - seconds[k - 1]! > least) gaps.push({ from: seconds[k - 1]!, to: seconds[k]! })
  return { gaps, step }
}

export type RecordingReader = {
  /** the next piece of the file's text, of any length */
  readonly push: (text: string) => void
  readonly end: () => Result<LoggerRecording>
}

/**
 * Reads a file as `format` and `columns` say.
 *
 * @example
 * import { makeRecordingReader, previewRecording } from '@/plan/recordings/read-recording'
 *
 * const file = 'Time,RPM\n0,800\n0.1,810\n0.2,820\n'
 * const { format, columns } = previewRecording(file).value
 * const reader = makeRecordingReader(format, columns)
 * reader.push(file)
 * console.log(reader.end().value.channels[0].values[2]) // 820
 */
export function makeRecordingReader(format: TableFormat, columns: readonly ColumnMeaning[]): RecordingReader {
  const { separator, decimalComma, skip, heads } = format
  const timeAt = columns.findIndex((c) => c.role === 'time')
  const dateAt = columns.findIndex((c) => c.role === 'date')
  const kept = columns.flatMap((c, k) => (c.role === 'time' || c.role === 'date' ? [] : [k]))
  const rows = new Rows(kept.length)
  const unread: UnreadRow[] = []
  let [line, bad, empty, joined, rest, begun, cutOff] = [0, 0, 0, 0, '', false, false]
  let timeOf: TimeReader | undefined
  let full = false

  const refuse = (says: string) => {
    bad++
    if (unread.length < MOST_UNREAD_NAMED) unread.push({ line, says })
  }
  function secondsOf(cells: readonly string[]): number {
    if (timeAt < 0) return (rows.count + bad) / ROWS_A_SECOND
    timeOf ??= makeTimeReader(columns[timeAt]!, cells[timeAt]!)
    return timeOf(cells[timeAt]!, dateAt < 0 ? '' : cells[dateAt]!)
  }
  function take(cells: string[]): void {
    line++
    if (line <= skip) return
    if (cells.length === 1 && cells[0]!.trim() === '') return
    // a mark at the end of a line makes one cell more
    const over = cells.length - heads.length
    if (over < 0 || (over > 0 && cells.slice(heads.length).some((c) => c.trim() !== '')))
      return refuse(`has ${cells.length} cells, the head has ${heads.length}`)
    for (let k = 0; k < heads.length; k++) cells[k] = cells[k]!.trim()
    const at = secondsOf(cells)
    if (!Number.isFinite(at)) return refuse(`“${cells[timeAt]!.slice(0, 20)}” is no time`)
    const last = rows.count > 0 ? rows.seconds[rows.count - 1]! : -Infinity
    if (at < last) return refuse('its time lies before that of the row above')
    if (rows.count >= MOST_ROWS) {
      full = true
      return refuse(`it is past the ${MOST_ROWS / 1e6} million rows that are read`)
    }
    const same = at === last
    const row = same ? rows.count - 1 : rows.add(at)
    if (same) joined++
    for (let c = 0; c < kept.length; c++) {
      const cell = cells[kept[c]!]!
      const value = figureOf(cell, decimalComma)
      if (Number.isNaN(value)) {
        if (!same) {
          empty++
          rows.channels[c]![row] = Number.NaN
        }
      } else rows.channels[c]![row] = value
    }
  }
  function takeText(text: string): void {
    if (text === '' || full) return
    const { data } = Papa.parse<string[]>(text, { delimiter: separator })
    for (const cells of data) take(cells)
  }
  return {
    push(text) {
      const all = rest + (begun ? text : text.replace(/^\uFEFF/, ''))
      begun = true
      const end = Math.max(all.lastIndexOf('\n'), all.lastIndexOf('\r'))
      // a line's end may come in two pieces
      const cut = all[end] === '\r' && end === all.length - 1 ? Math.max(all.lastIndexOf('\n'), -1) : end
      rest = all.slice(cut + 1)
      takeText(all.slice(0, Math.max(0, cut)))
    },
    end() {
      if (rest.trim() !== '') {
        const before = bad
        takeText(rest)
        cutOff = bad > before
      }
      if (rows.count < 2)
        return fail(
          bad > 0
            ? `No two rows of it could be read. Line ${unread[0]!.line}: ${unread[0]!.says}.`
            : 'There are fewer than two rows of figures in it.',
        )
      const first = rows.seconds[0]!
      const seconds = rows.seconds.slice(0, rows.count)
      for (let k = 0; k < seconds.length; k++) seconds[k]! -= first
      return ok({
        seconds,
        channels: kept.map((k, c) => ({ ...columns[k]!, values: rows.channels[c]!.slice(0, rows.count) })),
        startedAt: startOf(first),
        bad: { count: bad, first: unread },
        empty,
        joined,
        cutOff,
        ...gapsIn(seconds),
      })
    },
  }
}

/** A file as it was read, and what it was taken for from its beginning. */
export type ReadFile = { readonly preview: FilePreview; readonly recorded: LoggerRecording }
export type FileReading = {
  /** the next piece of the file's text, of any length; false where it is none that can be read, and no more is wanted */
  readonly push: (text: string) => boolean
  readonly end: () => Result<ReadFile>
}

/** Letters of a file from which its format is found. */
const BEGINNING = 65_536

/**
 * Reads a file of which nothing is known, piece by piece.
 * @param known what its columns are, where that was put right by hand or a file of the same head was; else found from its beginning
 *
 * @example
 * import { startReading } from '@/plan/recordings/read-recording'
 *
 * const reading = startReading()
 * reading.push('Time,RPM\n0,800\n0.1,')
 * reading.push('810\n')
 * console.log(reading.end().value.recorded.channels[0].values[1]) // 810
 */
export function startReading(known?: (preview: FilePreview) => readonly ColumnMeaning[] | undefined): FileReading {
  let beginning = ''
  let preview: Result<FilePreview> | undefined
  let reader: RecordingReader | undefined
  const begin = () => {
    const read = previewRecording(beginning.slice(0, BEGINNING))
    preview = read
    if (!read.ok) return
    const columns = known?.(read.value) ?? read.value.columns
    preview = ok({ ...read.value, columns })
    reader = makeRecordingReader(read.value.format, columns)
    reader.push(beginning)
  }
  return {
    push(text) {
      if (preview) reader?.push(text)
      else {
        beginning += text
        if (beginning.length >= BEGINNING) begin()
      }
      return preview?.ok !== false
    },
    end() {
      if (!preview) begin()
      if (!preview?.ok) return preview!
      const recorded = reader!.end()
      return recorded.ok ? ok({ preview: preview.value, recorded: recorded.value }) : recorded
    },
  }
}

/** A whole text at once. */
export function readLoggerFile(text: string): Result<LoggerRecording> {
  const reading = startReading()
  const PIECE = 1_000_000
  for (let at = 0; at < text.length; at += PIECE) reading.push(text.slice(at, at + PIECE))
  const read = reading.end()
  return read.ok ? ok(read.value.recorded) : read
}
