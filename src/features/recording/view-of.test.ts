import { extentsOf, moved, sampleAt, zoomed } from './view-of'

const seconds = Float64Array.from({ length: 1001 }, (_, k) => k / 10)
const whole = { from: 0, to: 100 }

test('a window zooms about the place under the hand and stays inside', () => {
  expect(zoomed({ from: 0, to: 100 }, whole, 0.5, 25)).toEqual({ from: 12.5, to: 62.5 })
  expect(zoomed({ from: 90, to: 100 }, whole, 4, 95)).toEqual({ from: 60, to: 100 })
  expect(zoomed({ from: 10, to: 12 }, whole, 0.1, 11)).toEqual({ from: 10, to: 12 })
  expect(moved({ from: 10, to: 30 }, whole, -50)).toEqual({ from: 0, to: 20 })
  expect(moved({ from: 10, to: 30 }, whole, 500)).toEqual({ from: 80, to: 100 })
})

test('samples are found by time', () => {
  expect([sampleAt(seconds, -1), sampleAt(seconds, 0.25), sampleAt(seconds, 1e9)]).toEqual([0, 3, 1001])
})

test('a single peak is in the picture at any width, and an empty place draws nothing', () => {
  const values = Float32Array.from(seconds, (_, k) => (k === 503 ? 99 : k > 700 && k < 800 ? Number.NaN : 1))
  for (const columns of [10, 300, 1200]) {
    const extents = extentsOf({ seconds }, values, whole, columns)
    expect(Math.max(...extents.map((e) => e.high))).toBe(99)
    if (columns > 10) expect(extents.filter((e) => e.x > 0.71 && e.x < 0.79)).toEqual([])
  }
  const near = extentsOf({ seconds }, values, { from: 50, to: 51 }, 100)
  expect(near.every((e) => e.low >= 1 && e.x > 0 && e.x < 1)).toBe(true)
})
