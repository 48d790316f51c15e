/** Lines of loggers as they come in: twice counts once, what is lost is counted, a new run takes the place of the old. */
import { forgetRun, linesOf, takeLines } from './logger-runs'

const BUILD = 'b1'
afterEach(() => forgetRun(BUILD))
const message = (run: string, numbers: readonly number[]) =>
  ['ivent-logger 1 ' + run, 'columns crankcase[kPa]', ...numbers.map((n) => `${n} ${n / 10} -0.4`)].join('\n')
/** What is answered some time after the lines have come. */
const next = (text: string, now = 0) => {
  takeLines(BUILD, text, now)
  const taken = takeLines(BUILD, text, now + 5000)
  if (!taken.ok) throw new Error(taken.reason)
  return taken.value
}

test('what was sent twice counts once, and what did not come is counted', () => {
  expect(next(message('a', [1, 2, 3]))).toBe(4)
  // the answer was lost: it sends them again, with more
  expect(next(message('a', [1, 2, 3, 4, 5]))).toBe(6)
  expect(next(message('a', [9, 10]))).toBe(11)
  const held = linesOf(BUILD, undefined, 0)!
  expect(held.lines.map((l) => Number(l.split(' ')[0]))).toEqual([1, 2, 3, 4, 5, 9, 10])
  expect([held.missing, held.unread, held.last]).toEqual([3, 0, 10])
})

test('who has some is given what came since; of another run all', () => {
  next(message('a', [1, 2, 3, 4]))
  expect(linesOf(BUILD, 'a', 3)!.lines).toEqual(['4 0.4 -0.4'])
  expect(linesOf(BUILD, 'a', 4)!.lines).toEqual([])
  expect(linesOf(BUILD, 'older', 3)!.lines).toHaveLength(4)
  expect(linesOf('no build', 'a', 0)).toBeUndefined()
})

test('a line is kept by its logger until who looks on has had time to read it', () => {
  const answer = (numbers: readonly number[], now: number) => takeLines(BUILD, message('a', numbers), now)
  expect(answer([1, 2, 3], 0)).toEqual({ ok: true, value: 1 })
  expect(answer([1, 2, 3, 4], 1000)).toEqual({ ok: true, value: 1 })
  expect(answer([1, 2, 3, 4, 5], 3200)).toEqual({ ok: true, value: 4 })
  expect(answer([4, 5], 9000)).toEqual({ ok: true, value: 6 })
  expect(linesOf(BUILD, undefined, 0)!.lines).toHaveLength(5)
})

test('a logger that starts anew begins a new run; one that is joined late misses nothing', () => {
  next(message('a', [1, 2]))
  expect(next(message('b', [40, 41]))).toBe(42)
  const held = linesOf(BUILD, 'a', 2)!
  expect([held.head.run, held.missing, held.lines.length]).toEqual(['b', 0, 2])
  // two loggers at once would take each other's place over and over: the older is told
  expect(takeLines(BUILD, message('a', [3]))).toMatchObject({ ok: false })
  expect(linesOf(BUILD, undefined, 0)!.head.run).toBe('b')
})

test('a spoilt line is counted, a spoilt message refused whole', () => {
  expect(next(`${message('a', [1, 2])}\n3 0.3 -0.`.replace('2 0.2', '2 0.2x'))).toBe(4)
  expect(linesOf(BUILD, undefined, 0)).toMatchObject({ unread: 1, last: 3 })
  for (const wrong of ['', 'GET /', 'ivent-logger 1 a', `${message('a', [])}\nnonsense`])
    expect(takeLines(BUILD, wrong).ok).toBe(false)
})
