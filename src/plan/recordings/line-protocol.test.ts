/** Lines of a logger: written and read back, refused where they are none, and a run of them as a recording. */
import { runColumns, headLines, loggerLineText, parseHead, parseLine, recordingOfRun } from './line-protocol'

const head = { run: 'drive-1', columns: ['crankcase[kPa]', 'manifold[kPa abs]', 'rpm', 'throttle[%]'] }

test('what is written is read back', () => {
  const [first, second] = headLines(head)
  expect(parseHead(first, second)).toEqual({ ok: true, value: head })
  const line = { number: 7, seconds: 0.35, values: [-0.41, 35.2, 830, Number.NaN] }
  expect(parseLine(loggerLineText(line), 4)).toEqual(line)
})

test.each([
  ['ivent-logger 2 a', 'columns rpm', 'first line'],
  ['ivent-logger 1', 'columns rpm', 'first line'],
  ['ivent-logger 1 a b', 'columns rpm', 'first line'],
  ['ivent-logger 1 a', 'rpm', 'second line'],
  ['ivent-logger 1 a', 'columns ', 'second line'],
  ['ivent-logger 1 a', 'columns rpm,, map', 'second line'],
])('a head “%s”, “%s” is refused by its %s', (first, second, says) => {
  const read = parseHead(first, second)
  expect(read.ok ? '' : read.reason).toContain(says)
})

test.each([
  '',
  '1 0',
  '1 0 1 2 3',
  'x 0 1 2',
  '1.5 0 1 2',
  '0 0 1 2',
  '-1 0 1 2',
  '1 - 1 2',
  '1 0 1 x',
  '1 0 1 Infinity',
])('“%s” is no line of two columns', (text) => {
  expect(parseLine(text, 2)).toBeUndefined()
})

test('columns are told as those of a file are', () => {
  const lines = [{ number: 1, seconds: 0, values: [-0.4, 35, 830, 4] }]
  expect(runColumns(head, lines).map((c) => [c.role, c.unit, c.gauge])).toEqual([
    ['crankcase', 'kPa', true],
    ['manifold', 'kPa abs', false],
    ['rpm', '', false],
    ['throttle', '%', false],
  ])
})

test('a run is a recording: gaps told, what did not come counted, times that stand still left out', () => {
  const lines = [0, 0.1, 0.2, 0.2, 3, 3.1].map((seconds, k) => ({
    number: k + 1,
    seconds: seconds + 5,
    values: [-0.4, 35, 830, 4],
  }))
  const recorded = recordingOfRun(head, lines, { missing: 12, unread: 1 })
  if (!recorded.ok) throw new Error(recorded.reason)
  const { seconds, gaps, bad, joined, channels, cutOff } = recorded.value
  expect(cutOff).toBe(false)
  expect(Array.from(seconds, (t) => Number(t.toFixed(3)))).toEqual([0, 0.1, 0.2, 3, 3.1])
  expect(gaps.map((g) => [g.from.toFixed(1), g.to.toFixed(1)])).toEqual([['0.2', '3.0']])
  expect([bad.count, joined, channels.length]).toEqual([13, 1, 4])
  expect(recordingOfRun(head, lines.slice(0, 1), { missing: 0, unread: 0 }).ok).toBe(false)
})
