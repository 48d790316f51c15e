/** Peaks and draws about them, against closed forms of normals. */
import { uniforms } from '../random'
import { normalQuantile } from '../service/normal'
import { weightedRange } from '../statistics'
import { chiSquareTail } from './chi-square'
import { findPeak, proposalAbout, weightsOf, type Residuals } from './laplace'

test('chi-square tails agree with tables (Abramowitz & Stegun, table 26.8, from memory)', () => {
  for (const [x, degrees, p] of [
    [3.841, 1, 0.05],
    [5.991, 2, 0.05],
    [11.07, 5, 0.05],
    [18.31, 10, 0.05],
    [6.635, 1, 0.01],
    [10.83, 1, 0.001],
    [16.27, 3, 0.001],
  ] as const)
    expect(Math.abs(chiSquareTail(x, degrees) / p - 1)).toBeLessThan(0.2)
  expect(chiSquareTail(0, 1)).toBeGreaterThan(0.94)
  expect(chiSquareTail(1, 1)).toBeCloseTo(0.3173, 1)
})

test('a straight model: the peak is the conjugate mean, and chi-square what the marginal has it', () => {
  // y = 2 z0 - z1 read as 3 with an error of 0.5: mean J^T (J J^T + e^2)^-1 y (Gelman et al., 14)
  const of: Residuals = (z) => Float64Array.of((2 * z[0]! - z[1]! - 3) / 0.5)
  const peak = findPeak(of, new Float64Array(2))!
  const gain = 3 / (5 + 0.25)
  expect([...peak.at]).toEqual([expect.closeTo(2 * gain, 6), expect.closeTo(-gain, 6)])
  expect(peak.misfit).toBeCloseTo(9 / 5.25, 6)
})

test('a bent model is found from where the first step overshoots, and one without an answer beyond stays within', () => {
  const bent: Residuals = (z) => Float64Array.of((Math.exp(2 * z[0]!) - 7) / 0.1, (z[1]! ** 3 + z[1]! - 2) / 0.1)
  const peak = findPeak(bent, new Float64Array(2))!
  expect(peak.at[0]).toBeCloseTo(Math.log(7) / 2, 2)
  expect(peak.at[1]).toBeCloseTo(1, 1)
  const walled: Residuals = (z) => (z[0]! > 1 ? undefined : Float64Array.of((z[0]! - 5) / 0.1))
  const near = findPeak(walled, new Float64Array(1))!
  expect(near.at[0]).toBeGreaterThan(0.8)
  expect(near.at[0]).toBeLessThanOrEqual(1)
  expect(findPeak(() => undefined, new Float64Array(1))).toBeUndefined()
})

test('weighted draws about the peak have the posterior’s quantiles, also of what no reading speaks of', () => {
  const of: Residuals = (z) => Float64Array.of((2 * z[0]! - z[1]! - 3) / 0.5)
  const propose = proposalAbout(findPeak(of, new Float64Array(3))!)
  const draw = uniforms(7)
  const n = 20_000
  const values = [0, 1, 2].map(() => new Float64Array(n))
  const log = new Float64Array(n)
  for (let k = 0; k < n; k++) {
    const { z, logDensity } = propose(Float64Array.from({ length: 3 }, () => normalQuantile(draw())))
    for (let i = 0; i < 3; i++) values[i]![k] = z[i]!
    log[k] = -z.reduce((sum, v) => sum + v * v, 0) / 2 - of(z)![0]! ** 2 / 2 - logDensity
  }
  const weight = weightsOf(log)
  // weights are nearly even: none counts for ten
  expect(Math.max(...weight) * n).toBeLessThan(10)
  const first = weightedRange(values[0]!, weight)
  const sigma = Math.sqrt(1 - 4 / 5.25)
  expect(first.mid).toBeCloseTo((2 * 3) / 5.25, 1)
  expect((first.high - first.low) / 2 / 1.2816 / sigma).toBeCloseTo(1, 1)
  const free = weightedRange(values[2]!, weight)
  expect(Math.abs(free.mid)).toBeLessThan(0.04)
  expect((free.high - free.low) / 2 / 1.2816).toBeCloseTo(1, 1)
})

test('weights sum to one, what has no answer counts nothing, and none stands for nearly all', () => {
  const even = weightsOf(Float64Array.of(3, 3, -Infinity, 3))
  expect([...even]).toEqual([1 / 3, 1 / 3, 0, 1 / 3])
  const starved = weightsOf(Float64Array.from({ length: 100 }, (_, k) => (k === 0 ? 0 : -20)))
  expect(starved.reduce((sum, w) => sum + w, 0)).toBeCloseTo(1, 12)
  expect([...weightsOf(Float64Array.of(-Infinity, -Infinity))]).toEqual([0.5, 0.5])
})

test('slopes are taken toward the middle, where an answer is surer, and from the other side where there is none', () => {
  const asked: number[] = []
  // an answer below 1 alone
  const of: Residuals = ([z]) => {
    asked.push(z!)
    return z! <= 1 ? Float64Array.of(4 * (z! - 0.8)) : undefined
  }
  expect(findPeak(of, Float64Array.of(1))!.at[0]).toBeCloseTo(12.8 / 17, 4)
  expect(asked.slice(0, 2)).toEqual([1, 0.9])
  asked.length = 0
  expect(findPeak(of, Float64Array.of(-1))!.at[0]).toBeCloseTo(12.8 / 17, 4)
  expect(asked.slice(0, 2)).toEqual([-1, -0.9])
  // none toward the middle: the slope is that of the side that has one
  const fromAbove: Residuals = ([z]) => (z! >= 1 ? Float64Array.of(4 * (z! - 1.5)) : undefined)
  expect(findPeak(fromAbove, Float64Array.of(1))!.at[0]).toBeCloseTo(24 / 17, 4)
})

test('where neither side of a place has an answer there is no slope to go by', () => {
  expect(findPeak(([z]) => (z === 0 ? Float64Array.of(1) : undefined), new Float64Array(1))).toBeUndefined()
  expect(findPeak(() => undefined, new Float64Array(1))).toBeUndefined()
})

test('measurements may be written into one array again and again', () => {
  const own = new Float64Array(2)
  const off = (z: Float64Array) => [3 * z[0]! + z[0]! ** 2 - 2, z[1]! - z[0]! - 1]
  const again: Residuals = (z) => {
    own.set(off(z))
    return own
  }
  const anew: Residuals = (z) => Float64Array.from(off(z))
  const start = Float64Array.of(1, -1)
  expect(findPeak(again, start)).toEqual(findPeak(anew, start))
})
