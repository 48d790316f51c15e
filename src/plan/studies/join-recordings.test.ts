/** Two loggers on one drive: laid over each other at the time that they were parted by, and not where they are of two drives. */
import { engineModel } from '../model/engine'
import { driveOf } from '../recordings/drive'
import { layBeside, trimmed } from '../recordings/lay-beside'
import type { LoggerRecording } from '../recordings/read-recording'
import { readLoggerFile } from '../recordings/read-recording'
import { recordingLines, WRITING_STYLES } from '../recordings/write-recording'
import { newBuild } from '../schools/new-build'
import { joinRecordings } from './join-recordings'
import { simulateDrive, type DriveKind } from './simulated-drive'

const build = newBuild({ name: 'x', engineClass: 'i4-turbo', use: 'street', ambientC: 15, units: 'metric' })
const { facts, amb } = engineModel(build)

function recorded(kind: DriveKind, seed: number, seconds: number): LoggerRecording {
  const drive = simulateDrive(build, { kind, seed, seconds })
  const read = readLoggerFile([...recordingLines(drive, WRITING_STYLES[0]!, amb.pressurePa)].join('\n'))
  if (!read.ok) throw new Error(read.reason)
  return read.value
}
const only = (r: LoggerRecording, ...roles: readonly string[]): LoggerRecording => ({
  ...r,
  channels: r.channels.filter((c) => roles.includes(c.role)),
})
/** The same drive on a clock that starts later and goes otherwise. */
const onClock = (r: LoggerRecording, starts: number, gains: number): LoggerRecording => {
  const cut = trimmed(r, starts, r.seconds.at(-1)!)
  return { ...cut, seconds: cut.seconds.map((t) => t * (1 + gains)) }
}

test.each<[string, readonly [number, number], readonly string[], readonly string[]]>([
  ['a speed that both have', [12.4, 0], ['rpm', 'manifold'], ['rpm', 'crankcase']],
  ['the crankcase that is predicted', [21, 0], ['rpm', 'manifold', 'throttle'], ['crankcase']],
  ['clocks that part by one in five hundred', [12.4, 0.002], ['rpm', 'manifold'], ['crankcase']],
])('laid over each other by %s', (_, [starts, gains], engineHas, sensorHas) => {
  const drive = recorded('street', 3, 300)
  const joined = joinRecordings(build, only(drive, ...engineHas), onClock(only(drive, ...sensorHas), starts, gains))
  if (!joined.ok) throw new Error(joined.reason)
  const { shift, skew, recorded: both } = joined.value
  expect(Math.abs(shift - starts)).toBeLessThan(0.25)
  expect(Math.abs(skew - (1 / (1 + gains) - 1))).toBeLessThan(5e-4)
  const whole = driveOf(both, facts, amb)
  if (!whole.ok) throw new Error(whole.reason)
  // where the sensor ran, its readings stand beside the engine's at their time
  const was = driveOf(drive, facts, amb)
  if (!was.ok) throw new Error(was.reason)
  const off = [...drive.seconds.keys()]
    .filter((k) => drive.seconds[k]! > starts + 1)
    .map((k) => Math.abs(whole.value.crankcase[k]! - was.value.crankcase[k]!))
    .filter(Number.isFinite)
    .toSorted((a, b) => a - b)
  expect(off.length).toBeGreaterThan(0.9 * (300 - starts) * 20)
  expect(off[off.length >> 1]).toBeLessThan(60)
})

test('two drives are not taken for one, and what is missing is named', () => {
  const [a, b] = [recorded('street', 3, 120), recorded('motorway', 8, 120)]
  const apart = joinRecordings(build, only(a, 'rpm', 'manifold'), only(b, 'crankcase'))
  expect(apart.ok ? '' : apart.reason).toContain('not of the same drive')
  const lacking = joinRecordings(build, only(a, 'throttle'), only(a, 'crankcase'))
  expect(lacking.ok ? '' : lacking.reason).toContain('speed and manifold')
})

test('what both have stays as the first has it; a time without the second’s readings stays empty', () => {
  const drive = recorded('street', 3, 60)
  const both = layBeside(only(drive, 'rpm'), onClock(only(drive, 'rpm', 'crankcase'), 20, 0), { shift: 20, skew: 0 })
  expect(both.channels.map((c) => c.role)).toEqual(
    ['rpm', 'crankcase', 'other'].toSorted((x, y) => (x === 'rpm' ? -1 : y === 'rpm' ? 1 : x < y ? -1 : 1)),
  )
  const crankcase = both.channels.find((c) => c.role === 'crankcase')!
  expect(crankcase.values.slice(0, 300).every(Number.isNaN)).toBe(true)
  expect(crankcase.values.slice(500).filter(Number.isNaN).length).toBeLessThan(20)
})
