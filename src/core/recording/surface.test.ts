/** A figure between uneven points against plain interpolation along either axis, looked up from the first point on. */
import { uniforms } from '../random'
import { surfaceAt, type Surface } from './surface'

/** Straight between the points about a place; at the ends as there. */
function between(points: readonly number[], values: readonly number[], at: number): number {
  if (at <= points[0]!) return values[0]!
  const k = points.findIndex((p) => p > at)
  if (k < 0) return values.at(-1)!
  return values[k - 1]! + ((values[k]! - values[k - 1]!) * (at - points[k - 1]!)) / (points[k]! - points[k - 1]!)
}

const RPM = [700, 800, 900, 5200, 5300, 6000]
const MANIFOLD = [2e4, 9.5e4, 9.8e4, 1e5, 2e5]
const bySpeed = [3, 1, 4, 1, 5, 9]
const byPressure = [2, 7, 1, 8, 3]
// of a product, what is straight along both is the product of what is straight along each
const surface: Surface = {
  rpm: RPM,
  manifoldPa: MANIFOLD,
  values: Float64Array.from(MANIFOLD.flatMap((_, j) => RPM.map((_rpm, i) => bySpeed[i]! * byPressure[j]!))),
}

test('between points far from even, at them and beyond their ends', () => {
  const uniform = uniforms(4)
  const speeds = [...RPM, 0, 9000, ...Array.from({ length: 60 }, () => 600 + 5600 * uniform())]
  const pressures = [...MANIFOLD, 0, 3e5, ...Array.from({ length: 60 }, () => 1e4 + 2e5 * uniform())]
  for (const speed of speeds)
    for (const pressure of pressures)
      expect(surfaceAt(surface, speed, pressure)).toBeCloseTo(
        between(RPM, bySpeed, speed) * between(MANIFOLD, byPressure, pressure),
        9,
      )
})

test('a corner without a figure speaks for the cells about it alone', () => {
  const values = surface.values.slice()
  values[1 * RPM.length + 2] = Number.NaN
  const holed = { ...surface, values }
  expect(surfaceAt(holed, 850, 9e4)).toBeNaN()
  expect(surfaceAt(holed, 800, 9e4)).toBeCloseTo(surfaceAt(surface, 800, 9e4), 12)
  expect(surfaceAt(holed, 5250, 9e4)).toBeCloseTo(surfaceAt(surface, 5250, 9e4), 12)
})
