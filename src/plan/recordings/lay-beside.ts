/** Recordings of two loggers on one drive as one: the second's channels read at the first's times. */
import type { Alignment } from '@/core/recording/alignment'
import type { LoggerChannel, LoggerRecording } from './read-recording'

/** A figure is held or joined over no more than this, s. */
const MOST_APART_S = 1.2

/** A channel at other times, straight between its readings; NaN where they are too far apart. */
function readAt(seconds: Float64Array, values: Float32Array, times: Float64Array): Float32Array {
  const there = [...seconds.keys()].filter((k) => Number.isFinite(values[k]!))
  const out = new Float32Array(times.length).fill(Number.NaN)
  let k = 0
  for (let i = 0; i < times.length; i++) {
    const t = times[i]!
    while (k + 1 < there.length && seconds[there[k + 1]!]! <= t) k++
    const [a, b] = [there[k], there[k + 1]]
    if (a === undefined || seconds[a]! > t) continue
    if (b === undefined) {
      if (t - seconds[a]! <= MOST_APART_S) out[i] = values[a]!
      continue
    }
    const gap = seconds[b]! - seconds[a]!
    if (gap > MOST_APART_S) {
      if (t - seconds[a]! <= MOST_APART_S / 2) out[i] = values[a]!
    } else out[i] = values[a]! + ((values[b]! - values[a]!) * (t - seconds[a]!)) / gap
  }
  return out
}

/**
 * The second laid beside the first as they lie to each other. What both have stays as the first has it; the second's own is kept as a
 * channel that plays no part.
 *
 * @example
 * import { layBeside } from '@/plan/recordings/lay-beside'
 * import { readLoggerFile } from '@/plan/recordings/read-recording'
 *
 * const engine = readLoggerFile('Time,RPM\n0,800\n1,900\n').value
 * const sensor = readLoggerFile('Time,Crankcase (kPa)\n0,-0.4\n1,-0.5\n').value
 * console.log(layBeside(engine, sensor, { shift: 0, skew: 0 }).channels.map((c) => c.role)) // [ 'rpm', 'crankcase' ]
 */
export function layBeside(
  first: LoggerRecording,
  second: LoggerRecording,
  { shift, skew }: Pick<Alignment, 'shift' | 'skew'>,
): LoggerRecording {
  // t1 = t2 + shift + skew t2
  const times = first.seconds.map((t) => (t - shift) / (1 + skew))
  const has = new Set(first.channels.map((c) => c.role))
  const beside = second.channels.map((c): LoggerChannel => {
    const values = readAt(second.seconds, c.values, times)
    if (c.role === 'other' || !has.has(c.role)) return { ...c, values }
    return { ...c, values, name: `${c.name} (2)`, role: 'other', reason: 'the first recording has it' }
  })
  return {
    ...first,
    channels: [...first.channels, ...beside],
    bad: { count: first.bad.count + second.bad.count, first: [...first.bad.first, ...second.bad.first].slice(0, 5) },
    empty: first.empty + second.empty,
    joined: first.joined + second.joined,
    cutOff: first.cutOff || second.cutOff,
  }
}

/**
 * The stretch of a recording between two times, beginning at 0.
 *
 * @example
 * import { readLoggerFile } from '@/plan/recordings/read-recording'
 * import { trimmed } from '@/plan/recordings/lay-beside'
 *
 * const recorded = readLoggerFile('Time,RPM\n0,800\n1,900\n2,950\n3,900\n').value
 * console.log([...trimmed(recorded, 1, 2).seconds]) // [ 0, 1 ]
 */
export function trimmed(recorded: LoggerRecording, from: number, to: number): LoggerRecording {
  const { seconds, channels, gaps } = recorded
  const kept = [...seconds.keys()].filter((k) => seconds[k]! >= from && seconds[k]! <= to)
  const [start, end] = [kept[0] ?? 0, (kept.at(-1) ?? -1) + 1]
  const first = seconds[start] ?? 0
  return {
    ...recorded,
    seconds: seconds.slice(start, end).map((t) => t - first),
    channels: channels.map((c) => ({ ...c, values: c.values.slice(start, end) })),
    gaps: gaps.filter((g) => g.from >= from && g.to <= to).map((g) => ({ from: g.from - first, to: g.to - first })),
  }
}
