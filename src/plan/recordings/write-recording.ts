/** Rows of a drive as loggers write them: one of a few ways, so that what reads them is tried on all; and a recording as plain CSV. */
import Papa from 'papaparse'
import type { LoggerRecording } from './read-recording'

/** How a file is written. */
export type WritingStyle = {
  readonly separator: ',' | ';' | '\t'
  readonly decimalComma: boolean
  /** lines above the heads */
  readonly preamble: readonly string[]
  /** units in a row of their own; else in brackets behind each head */
  readonly unitRow: boolean
  /** the crankcase over nothing; else over the surroundings */
  readonly absolute: boolean
  readonly time: 's' | 'ms' | 'clock'
}
export const WRITING_STYLES: readonly WritingStyle[] = [
  { separator: ',', decimalComma: false, preamble: [], unitRow: false, absolute: false, time: 's' },
  {
    separator: ';',
    decimalComma: true,
    preamble: ['Logger 2', 'Channels: 5'],
    unitRow: true,
    absolute: false,
    time: 'clock',
  },
  { separator: '\t', decimalComma: false, preamble: ['# drive'], unitRow: true, absolute: true, time: 'ms' },
]

/** What is written: seconds, rpm, Pa absolute, share of 1, Pa gauge; NaN where there is none. */
export type WrittenDrive = {
  readonly seconds: ArrayLike<number>
  readonly rpm: ArrayLike<number>
  readonly manifoldPa: ArrayLike<number>
  readonly throttle: ArrayLike<number>
  readonly crankcase: ArrayLike<number>
}

const two = (x: number) => String(x).padStart(2, '0')
const clockText = (t: number) =>
  `${Math.floor(t / 3600)}:${two(Math.floor(t / 60) % 60)}:${(t % 60).toFixed(2).padStart(5, '0')}`

/** The lines of a file, one after another, without their ends. @param ambientPa pressure outside */
export function* recordingLines(drive: WrittenDrive, style: WritingStyle, ambientPa: number): Generator<string> {
  const { separator, decimalComma, unitRow, absolute, time } = style
  const figure = (x: number, digits: number) => {
    if (!Number.isFinite(x)) return ''
    const text = x.toFixed(digits)
    return decimalComma ? text.replace('.', ',') : text
  }
  const columns = [
    ['Time', time === 'clock' ? '' : time],
    ['Crankcase pressure', 'kPa'],
    ['MAP', 'kPa'],
    ['RPM', 'rpm'],
    ['Throttle', '%'],
  ] as const
  yield* style.preamble
  yield columns.map(([name, unit]) => (unitRow || unit === '' ? name : `${name} (${unit})`)).join(separator)
  if (unitRow) yield columns.map(([, unit]) => unit).join(separator)
  for (let k = 0; k < drive.seconds.length; k++) {
    const t = drive.seconds[k]!
    const at = time === 's' ? figure(t, 3) : time === 'ms' ? String(Math.round(1000 * t)) : clockText(t)
    yield [
      time === 'clock' && decimalComma ? at.replace('.', ',') : at,
      figure((drive.crankcase[k]! + (absolute ? ambientPa : 0)) / 1000, 3),
      figure(drive.manifoldPa[k]! / 1000, 1),
      figure(drive.rpm[k]!, 0),
      figure(100 * drive.throttle[k]!, 1),
    ].join(separator)
  }
}

/**
 * A recording as CSV with its own heads and units; what a row has no figure for is empty.
 *
 * @example
 * import { readLoggerFile } from '@/plan/recordings/read-recording'
 * import { recordingCsv } from '@/plan/recordings/write-recording'
 *
 * const { value } = readLoggerFile('Time,RPM\n0,800\n1,900\n')
 * console.log(recordingCsv(value).split('\r\n')[1]) // '0,800'
 */
export function recordingCsv({ seconds, channels }: LoggerRecording): string {
  const heads = ['Time (s)', ...channels.map(({ name, unit }) => (unit === '' ? name : `${name} (${unit})`))]
  const rows = Array.from(seconds, (t, k) => [
    Number(t.toFixed(4)),
    ...channels.map((c) => (Number.isFinite(c.values[k]!) ? Number(c.values[k]!.toPrecision(7)) : '')),
  ])
  return Papa.unparse({ fields: heads, data: rows })
}
