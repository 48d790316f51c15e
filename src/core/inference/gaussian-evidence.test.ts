/** Evidence of a straight model against the textbook's formula for one and two readings, and its own limits. */
import { gaussianEvidence } from './gaussian-evidence'

/** Density of a normal. */
const logNormal = (x: number, variance: number) => -0.5 * (Math.log(2 * Math.PI * variance) + (x * x) / variance)

test('one reading: a normal with the variances of model and instrument together', () => {
  expect(gaussianEvidence([{ off: 1.5, slopes: [2, 1], error: 0.5 }]).log).toBeCloseTo(logNormal(1.5, 5.25), 12)
})

test('two readings: the second’s density given the first (p(a, b) = p(a) p(b | a))', () => {
  const [a, b] = [
    { off: 1, slopes: [1, 0.5], error: 0.3 },
    { off: -0.4, slopes: [0.2, -1], error: 0.6 },
  ]
  const first = gaussianEvidence([a!])
  const then = first.predict(b!.slopes)
  const both = gaussianEvidence([a!, b!])
  expect(both.log).toBeCloseTo(first.log + logNormal(b!.off - then.shift, then.variance + 0.36), 12)
})

test('nothing measured: as before; measured over and over: known', () => {
  expect(gaussianEvidence([]).predict([3, 4])).toEqual({ shift: 0, variance: 25 })
  const often = gaussianEvidence(Array.from({ length: 400 }, () => ({ off: 0.7, slopes: [1], error: 0.1 })))
  expect(often.predict([1]).shift).toBeCloseTo(0.7, 4)
  expect(often.predict([1]).variance).toBeCloseTo(0.01 / 400, 7)
})
