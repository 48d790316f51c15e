/** Weighted values against figures worked out by hand and against the same values laid out one by one. */
import { correlation, spreadOf, weighted, weightedRange } from './statistics'

const values = Float64Array.from({ length: 1000 }, (_, k) => ((k * 7919) % 1000) + 1)

test('the quantiles of even weights are the values at their places, those of uneven ones too', () => {
  const even = new Float64Array(1000).fill(1e-3)
  expect(weightedRange(values, even)).toEqual({ low: 100, mid: 500, high: 900 })
  // the hair that one weighs more takes the other way through, to the same values
  const uneven = even.with(0, 1.001e-3)
  expect(weightedRange(values, uneven)).toEqual({ low: 100, mid: 500, high: 900 })
  // a weight of three is three of the same
  expect(weightedRange([1, 2, 3], [1, 3, 1])).toEqual(weightedRange([1, 2, 2, 2, 3], [1, 1, 1, 1, 1]))
  // what has no answer or no weight does not count
  expect(weightedRange([Number.NaN, 5, 9, 7], [1, 1, 0, 1])).toEqual({ low: 5, mid: 5, high: 7 })
  expect(weightedRange([], [])).toEqual({ low: 0, mid: 0, high: 0 })
})

test('spread and correlation leave out what has no answer', () => {
  const a = Float64Array.of(1, 2, 3, 4, Number.NaN)
  const w = Float64Array.of(0.2, 0.2, 0.2, 0.2, 0.2)
  const known = weighted(a, w)
  expect(known.all).toBeCloseTo(0.8, 12)
  expect(spreadOf(known)).toBeCloseTo(Math.sqrt(1.25), 12)
  expect(correlation(known, Float64Array.of(2, 4, 6, 8, 1e9))).toBeCloseTo(1, 12)
  expect(correlation(known, Float64Array.of(4, 3, 2, 1, 0))).toBeCloseTo(-1, 12)
  // Anscombe's first quartet, Am. Stat. 27, 1973 (from memory): r = 0.816
  const x = Float64Array.of(10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5)
  const y = Float64Array.of(8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68)
  expect(correlation(weighted(x, new Float64Array(11).fill(1)), y)).toBeCloseTo(0.816, 3)
  expect(correlation(known, new Float64Array(5).fill(3))).toBeCloseTo(0, 6)
})
