/** Files as loggers write them: separators, decimal commas, preambles, units, times, several rates, gaps, and what is broken in them. */
import { uniforms } from '@/core/random'
import { makeRecordingReader, previewRecording, readLoggerFile, type LoggerRecording } from './read-recording'
import { toSiOf } from './si'
import { tableFormat } from './table-format'

const read = (text: string): LoggerRecording => {
  const found = readLoggerFile(text)
  if (!found.ok) throw new Error(found.reason)
  return found.value
}
const values = (r: LoggerRecording, role: string) => [...r.channels.find((c) => c.role === role)!.values]

test('comma and point, units in brackets of the head', () => {
  const r = read(
    'Time (s),Crankcase (kPa),MAP (kPa),RPM,TPS (%),Fan duty\n0,-0.2,35,800,0,12\n0.1,-0.3,36.5,820,1,13\n',
  )
  expect([...r.seconds]).toEqual([0, 0.1])
  expect(r.channels.map((c) => [c.name, c.unit, c.role])).toEqual([
    ['Crankcase', 'kPa', 'crankcase'],
    ['MAP', 'kPa', 'manifold'],
    ['RPM', '', 'rpm'],
    ['TPS', '%', 'throttle'],
    ['Fan duty', '', 'other'],
  ])
  expect(values(r, 'manifold')).toEqual([35, 36.5])
})

test('semicolons, decimal commas, a preamble, a row of units, a mark at the end of each line, CRLF', () => {
  const r = read(
    [
      'Logger 3;firmware 1.2',
      'Started;30.05.2026 14:00',
      '',
      'Zeit;Crank case;Boost;Engine speed;',
      's;mbar;bar;rpm;',
      '0,00;-2,1;-0,65;805;',
      '0,05;-2,2;0,80;6100;',
    ].join('\r\n'),
  )
  expect(values(r, 'crankcase').map((v) => v.toFixed(1))).toEqual(['-2.1', '-2.2'])
  const boost = r.channels.find((c) => c.role === 'manifold')!
  expect(boost.gauge).toBe(true)
  expect(toSiOf(boost, 101_325)(0.8)).toBeCloseTo(80_000, 6)
  expect(r.step).toBeCloseTo(0.05, 9)
})

test.each([
  ['milliseconds in whole steps', ['0', '50', '100'], [0, 0.05, 0.1]],
  ['minutes and seconds', ['0:58.5', '0:59', '1:00.25'], [0, 0.5, 1.75]],
  ['a time of day past midnight', ['23:59:59.5', '00:00:00.0', '00:00:01'], [0, 0.5, 1.5]],
  ['date and time', ['2026-05-30T14:00:00.00', '2026-05-30T14:00:00.25', '2026-05-30T14:00:01'], [0, 0.25, 1]],
  ['day first', ['30.05.2026 14:00:00', '30.05.2026 14:00:01', '30.05.2026 14:00:03'], [0, 1, 3]],
  ['seconds since 1970', ['1780150000.0', '1780150000.5', '1780150002.0'], [0, 0.5, 2]],
  ['milliseconds since 1970', ['1780150000000', '1780150000500', '1780150002000'], [0, 0.5, 2]],
])('times as %s', (_, times, seconds) => {
  const r = read(`Time\tRPM\n${times.map((t, k) => `${t}\t${800 + k}`).join('\n')}\n`)
  expect([...r.seconds].map((s) => Math.round(s * 1e6) / 1e6)).toEqual(seconds)
})

test('a time without a unit is told to count milliseconds where it does, and only there', () => {
  const reasonOf = (step: number) => {
    const found = previewRecording(`Time,RPM\n0,800\n${step},810\n${2 * step},820\n`)
    if (!found.ok) throw new Error(found.reason)
    const [time] = found.value.columns
    return [time!.role, time!.unit, time!.reason.includes('milliseconds')]
  }
  expect(reasonOf(50)).toEqual(['time', 'ms', true])
  expect(reasonOf(0.05)).toEqual(['time', '', false])
})

test('date and time of day in two columns say of what day it is', () => {
  const r = read('Date,Time,RPM\n2026-05-30,14:00:00,800\n2026-05-30,14:00:01,810\n')
  expect([r.startedAt, [...r.seconds]]).toEqual(['2026-05-30T14:00:00', [0, 1]])
})

test('several rates in one file: empty cells are no figures, rows of one time are one', () => {
  const r = read('Time,MAP,RPM\n0,35,\n0,,800\n0.1,36,\n0.2,37,\n0.2,,820\n')
  expect([r.joined, r.seconds.length, r.empty]).toEqual([2, 3, 3])
  expect(values(r, 'rpm')).toEqual([800, Number.NaN, 820])
  expect(values(r, 'manifold')).toEqual([35, 36, 37])
})

test('what is broken is counted with its line and its reason, and the rest is read', () => {
  const r = read('Time,MAP,RPM\n0,35,800\n0.1,36\nx,36,810\n0.2,err,820\n0.1,30,800\n0.3,38,830\n60,39,840\n60.1,4')
  expect(r.bad).toEqual({
    count: 4,
    first: [
      { line: 3, says: 'has 2 cells, the head has 3' },
      { line: 4, says: '“x” is no time' },
      { line: 6, says: 'its time lies before that of the row above' },
      { line: 9, says: 'has 2 cells, the head has 3' },
    ],
  })
  expect([r.cutOff, r.empty, r.seconds.length]).toEqual([true, 1, 4])
  expect(r.gaps).toEqual([{ from: 0.3, to: 60 }])
})

test('pressures over nothing and over the surroundings are told apart, and why is said', () => {
  const columns = (text: string) => {
    const found = previewRecording(text)
    if (!found.ok) throw new Error(found.reason)
    return found.value.columns
  }
  const [, crankcase, map] = columns('t,CCP,MAP\n0,100.9,35\n1,101.1,34\n')
  expect([crankcase!.gauge, map!.gauge]).toEqual([false, false])
  expect(crankcase!.reason).toContain('stands about the pressure outside')
  expect(toSiOf(crankcase!, 101_325)(101.125)).toBeCloseTo(-200, 6)
  const [, vacuum] = columns('t,MAP (inHg),RPM\n0,-18,800\n1,-18.5,805\n')
  expect(vacuum!.gauge).toBe(true)
  expect(toSiOf(vacuum!, 101_325)(-18)).toBeCloseTo(-18 * 3386.389, 6)
})

test('an engine speed without a name is known by its figures; a column is given away once', () => {
  const found = previewRecording('t,Column A,MAP 1,MAP 2\n0,800,35,36\n1,6200,200,201\n')
  expect(found.ok && found.value.columns.map((c) => c.role)).toEqual(['time', 'rpm', 'manifold', 'other'])
})

test('in pieces of any length as in one', () => {
  const text = `\uFEFFTime;MAP (kPa);RPM\r\n${Array.from({ length: 500 }, (_, k) => `${k / 10};${35 + (k % 7)};${800 + k}`).join('\r\n')}\r\n`
  const whole = read(text)
  const preview = previewRecording(text)
  if (!preview.ok) throw new Error(preview.reason)
  for (const length of [1, 7, 64, 1000]) {
    const reader = makeRecordingReader(preview.value.format, preview.value.columns)
    for (let at = 0; at < text.length; at += length) reader.push(text.slice(at, at + length))
    const inPieces = reader.end()
    expect(inPieces.ok && inPieces.value).toEqual(whole)
  }
})

test('what is no recording is refused in words', () => {
  for (const text of ['', 'hello', '{"a":1}', 'a,b,c\nx,y,z\n', '\u0000\u0001\u0002', 'Time,RPM\n0,800'])
    expect(readLoggerFile(text)).toMatchObject({ ok: false, reason: expect.stringMatching(/\.$/) as string })
  for (const text of ['', 'hello', '{"a":1}', 'a,b,c\nx,y,z\n']) expect(tableFormat(text).ok).toBe(false)
})

test('a thousand spoilt files: no crash, no hang, no figure from nowhere', () => {
  const uniform = uniforms(35)
  const sound = `Time;Crankcase (kPa);MAP (kPa);RPM\n${Array.from({ length: 200 }, (_, k) => `${k / 20};${-0.2 - k / 1000};${35 + (k % 30)};${800 + 10 * k}`).join('\n')}\n`
  const at = (text: string) => Math.floor(uniform() * text.length)
  const spoils: ((text: string) => string)[] = [
    (t) => t.slice(0, at(t)),
    (t) => t.slice(at(t)),
    (t) => t.slice(0, at(t)) + String.fromCodePoint(Math.floor(uniform() * 0x3000)) + t.slice(at(t)),
    (t) => t.replaceAll(';', uniform() < 0.5 ? ',' : '\t'),
    (t) => t.replaceAll('.', ','),
    (t) => {
      const k = at(t)
      return t.slice(0, k) + '"' + t.slice(k)
    },
    (t) =>
      t
        .split('\n')
        .toSorted(() => uniform() - 0.5)
        .join('\n'),
    (t) => t.replaceAll(/\d/g, (d) => (uniform() < 0.05 ? 'x' : d)),
    (t) => t.replaceAll('\n', '\r'),
    (t) => t + t,
  ]
  let [slowest, readable] = [0, 0]
  for (let n = 0; n < 1000; n++) {
    let text = sound
    for (let k = 0; k < 1 + (n % 3); k++) text = spoils[Math.floor(uniform() * spoils.length)]!(text)
    const start = performance.now()
    const found = readLoggerFile(text)
    slowest = Math.max(slowest, performance.now() - start)
    if (!found.ok) {
      expect(found.reason.length).toBeGreaterThan(10)
      continue
    }
    readable++
    const { seconds, channels, bad } = found.value
    for (const c of channels) expect(c.values).toHaveLength(seconds.length)
    expect(seconds.findIndex((time, k) => k > 0 && !(time > seconds[k - 1]!))).toBe(-1)
    expect(bad.first.length).toBe(Math.min(5, bad.count))
  }
  expect(readable).toBeGreaterThan(300)
  expect(slowest).toBeLessThan(2000)
})
