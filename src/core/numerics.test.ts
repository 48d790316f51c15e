/** The small numerical tools, against closed forms. */
import { unions } from './unions'
import { weakMemo } from './weak-memo'
import { accelerator } from './fixed-point'
import { stepper } from './pulsation/integrate'
import { solveLinear } from './network/linear'
import { quantile, uniforms } from './random'

test('linear equations: a Hilbert matrix of five, whose answer is known', () => {
  const n = 5
  const a = Float64Array.from({ length: n * n }, (_, k) => 1 / (Math.floor(k / n) + (k % n) + 1))
  const x = [1, -2, 3, -4, 5]
  const b = Float64Array.from({ length: n }, (_, i) => x.reduce((s, v, j) => s + v / (i + j + 1), 0))
  expect(solveLinear(a, b, n)).toBe(true)
  x.forEach((v, i) => expect(b[i]).toBeCloseTo(v, 8))
})

test('rows are exchanged where the diagonal is empty, and a singular matrix is told', () => {
  const b = Float64Array.of(3, 7)
  expect(solveLinear(Float64Array.of(0, 1, 2, 1), b, 2)).toBe(true)
  expect([...b]).toEqual([2, 3])
  expect(solveLinear(Float64Array.of(1, 2, 2, 4), Float64Array.of(1, 1), 2)).toBe(false)
})

test('a seed decides every draw, and the draws are even', () => {
  const [a, b, c] = [uniforms(7), uniforms(7), uniforms(8)]
  const first = Array.from({ length: 100 }, () => a())
  expect(Array.from({ length: 100 }, () => b())).toEqual(first)
  expect(Array.from({ length: 100 }, () => c())).not.toEqual(first)
  const many = uniforms(1)
  const counts = Array.from({ length: 10 }, () => 0)
  for (let i = 0; i < 100_000; i++) counts[Math.floor(many() * 10)]!++
  // chi-square with nine degrees of freedom: 27.9 at one in a thousand (tables, from memory)
  expect(counts.reduce((s, n) => s + (n - 1e4) ** 2 / 1e4, 0)).toBeLessThan(27.9)
})

test('quantiles are those of the usual definition, linear between order statistics', () => {
  const sorted = [1, 2, 3, 4, 10]
  for (const [q, v] of [
    [0, 1],
    [0.25, 2],
    [0.5, 3],
    [0.9, 7.6],
    [1, 10],
  ] as const)
    expect(quantile(sorted, q)).toBeCloseTo(v, 12)
  expect(quantile([4], 0.7)).toBe(4)
})

test('Anderson finds in a few turns what repetition would take hundreds for', () => {
  // y -> A y + b with a largest eigenvalue of 0.99
  const map = (y: Float64Array) => Float64Array.of(0.99 * y[0]! + 0.01 * y[1]! + 1, 0.9 * y[1]! + 2)
  const next = accelerator(2, Float64Array.of(1, 1))
  let y: Float64Array = Float64Array.of(0, 0)
  for (let k = 0; k < 6; k++) y = next(y, map(y))
  expect(y[1]).toBeCloseTo(20, 6)
  expect(y[0]).toBeCloseTo(120, 4)
})

describe('the stiff step', () => {
  const tolerance = Float64Array.of(1e-10, 1e-10)
  test('is of second order: half the step, a quarter of the error', () => {
    const error = (n: number) => {
      const y = Float64Array.of(1, 0)
      const step = stepper(
        (_, s, f, J) => {
          f[0] = s[1]!
          f[1] = -s[0]!
          J.set([0, 1, -1, 0])
        },
        2,
        tolerance,
      )
      for (let i = 0; i < n; i++) step(i / n, 1 / n, y)
      return Math.hypot(y[0]! - Math.cos(1), y[1]! + Math.sin(1))
    }
    expect(error(20) / error(40)).toBeCloseTo(4, 0)
  })
  test('damps what is far faster than the step instead of ringing', () => {
    const y = Float64Array.of(1)
    const step = stepper(
      (t, s, f, J) => {
        f[0] = -1e6 * (s[0]! - Math.cos(t)) - Math.sin(t)
        J[0] = -1e6
      },
      1,
      Float64Array.of(1e-10),
    )
    y[0] = 5
    for (let i = 0; i < 20; i++) {
      step(i * 0.05, 0.05, y)
      if (i > 2) expect(Math.abs(y[0] - Math.cos((i + 1) * 0.05))).toBeLessThan(1e-3)
    }
  })
  test('gives up in words, not in NaN, on what has no next moment', () => {
    const y = Float64Array.of(1)
    expect(
      stepper(
        (_, s, f, J) => {
          f[0] = 1e300 * s[0]! ** 3
          J[0] = 3e300 * s[0]! ** 2
        },
        1,
        Float64Array.of(1e-9),
      )(0, 1, y),
    ).toBe(false)
  })
})

test('what was worked out of an object is not worked out of it again', () => {
  let made = 0
  const sizeOf = weakMemo((of: readonly number[]) => ({ size: of.length, nth: ++made }))
  const [one, other] = [[1], [1]]
  expect([sizeOf(one).nth, sizeOf(one).nth, sizeOf(other).nth, sizeOf(one).nth]).toEqual([1, 1, 2, 1])
})

test('sets joined in any order go under the name that was kept', () => {
  const sets = unions()
  for (const [keep, other] of [
    ['d', 'e'],
    ['c', 'd'],
    ['b', 'c'],
    ['a', 'b'],
    ['a', 'e'],
  ] as const)
    sets.join(keep, other)
  expect(['a', 'b', 'c', 'd', 'e'].map(sets.find)).toEqual(['a', 'a', 'a', 'a', 'a'])
  expect(sets.find('alone')).toBe('alone')
})
