/** What was read, in words and beside what would be shown. */
import { unitFormatter } from '../document/words'
import { isWithinPredicted, evidenceFoundText } from './fault-reason'
import { readingEvidence } from './observables'

const found = readingEvidence({ kind: 'catch', can: 'can' }, 0.3, 0.075)
const dry = { ...found, atMost: true } as const

test('a can that was as good as dry agrees with a fault by which it catches so much or less', () => {
  const [less, about, more] = [
    { low: 0.02, mid: 0.1, high: 0.2 },
    { low: 0.2, mid: 0.3, high: 0.4 },
    { low: 0.5, mid: 1, high: 2 },
  ]
  expect([less, about, more].map((range) => isWithinPredicted(found, range))).toEqual([false, true, false])
  expect([less, about, more].map((range) => isWithinPredicted(dry, range))).toEqual([true, true, false])
  expect(isWithinPredicted(dry, undefined)).toBe(false)
})

test('and is said to have caught so much at most', () => {
  const say = unitFormatter({ system: 'metric', pressure: 'kPa', flow: 'l/min' })
  expect(evidenceFoundText(say, dry)).toBe(`at most ${evidenceFoundText(say, found)}`)
})
