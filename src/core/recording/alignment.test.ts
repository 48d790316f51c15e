/** Shift and skew of two records of one drive whose clocks are known to differ. */
import { uniforms } from '../random'
import { align } from './alignment'
import type { TimedSeries } from './alignment'

const uniform = uniforms(5)
const EVERY_S = 4
const levels = Array.from({ length: 400 }, uniform)
/** Goes from one drawn level to the next every few seconds: it never repeats itself. */
function drive(t: number): number {
  const k = Math.floor(t / EVERY_S)
  return levels[k]! + (levels[k + 1]! - levels[k]!) * (t / EVERY_S - k)
}
/** So many seconds of it, ten a second, on a clock that is `late` and runs `fast` times as fast. */
const record = (seconds: number, from = 0, late = 0, fast = 1): TimedSeries => {
  const of = Float64Array.from({ length: 10 * seconds }, (_, k) => from + k / 10)
  return { seconds: of.map((t) => late + fast * t), values: of.map(drive) }
}

test.each([0, 7.3, -12.4])('a clock that is %d s late is found to a twentieth of a second', (late) => {
  const found = align(record(200), record(200, 0, late))!
  expect(Math.abs(found.shift + late)).toBeLessThanOrEqual(0.05)
  // over three minutes in a row two clocks are told to differ by no more than a step
  expect(Math.abs(found.skew)).toBeLessThan(0.0005)
  expect(found.match).toBeGreaterThan(0.98)
})

test('a record that begins later and is shorter is found within the other', () => {
  const found = align(record(300), record(80, 140, 31))!
  expect(Math.abs(found.shift + 31)).toBeLessThanOrEqual(0.05)
})

test('the clock of a long record that runs a thousandth fast is found as such', () => {
  const { shift, skew } = align(record(1200), record(1200, 0, 4, 1.001))!
  // what the second has at 704.7 s happened 700 s into the first
  expect(Math.abs(704.7 + shift + skew * (704.7 - 4) - 700)).toBeLessThan(0.1)
  // steps of a twentieth of a second at either end
  expect(Math.abs(skew + 0.001)).toBeLessThan(0.0001)
})

test('records of nothing, or with too little in common, have no shift', () => {
  const none: TimedSeries = { seconds: new Float64Array(0), values: new Float64Array(0) }
  expect(align(none, record(100))).toBeUndefined()
  expect(align(record(100), none)).toBeUndefined()
  expect(align(record(100), record(1))).toBeUndefined()
  const still = { ...record(100), values: new Float64Array(1000).fill(3) }
  expect(align(record(100), still)).toBeUndefined()
})

test('a clock that is hours off does not hide how it runs', () => {
  const { shift, skew } = align(record(1200), record(1200, 0, 10_000, 1.001))!
  expect(Math.abs(skew + 0.001)).toBeLessThan(0.0001)
  expect(Math.abs(10_700.7 + shift + skew * (10_700.7 - 10_000) - 700)).toBeLessThan(0.1)
})

test('what a record lacks for a while counts neither for nor against a shift', () => {
  const { seconds, values } = record(100)
  const kept = [...seconds.keys()].filter((k) => seconds[k]! < 40 || seconds[k]! > 70)
  const holed = {
    seconds: Float64Array.from(kept, (k) => seconds[k]!),
    values: Float64Array.from(kept, (k) => values[k]!),
  }
  const found = align(holed, record(100, 0, 5))!
  expect(Math.abs(found.shift + 5)).toBeLessThanOrEqual(0.05)
  expect(found.match).toBeGreaterThan(0.98)
})
