import type { Point3 } from '../drain/profile'
import { uniforms } from '../random'
import { distanceOfWay, distanceToBox, heightAt, mayComeWithin } from './distance'

const cube = { middle: [0, 0, 0], half: [1, 1, 1] } as const

test('a point to a cube: face, edge, corner and inside, by Pythagoras', () => {
  expect(distanceToBox([3, 0, 0], cube)).toBe(2)
  expect(distanceToBox([2, 2, 0], cube)).toBeCloseTo(Math.SQRT2, 12)
  expect(distanceToBox([2, 2, 2], cube)).toBeCloseTo(Math.sqrt(3), 12)
  expect(distanceToBox([0.2, -0.9, 0.5], cube)).toBe(0)
})

test('a straight run past a cube comes no nearer than its closest point, and one through it touches', () => {
  const past = distanceOfWay(
    [
      [-5, 1.3, 0],
      [5, 1.3, 0],
    ],
    cube,
  )
  expect(past.least).toBeCloseTo(0.3, 6)
  expect(
    distanceOfWay(
      [
        [-5, 0, 0],
        [5, 0, 0],
      ],
      cube,
    ).least,
  ).toBe(0)
  expect(distanceOfWay([], cube)).toEqual({ least: Infinity, at: undefined })
})

test('a surface goes through its points and stays between them', () => {
  const known = [
    [0, 0, 0.1],
    [1, 0, 0.2],
    [0, 1, 0.3],
  ] as const
  for (const [x, y, z] of known) expect(heightAt(known, x, y)).toBe(z)
  const between = heightAt(known, 0.4, 0.3)!
  expect(between).toBeGreaterThan(0.1)
  expect(between).toBeLessThan(0.3)
  expect(heightAt([], 0, 0)).toBeUndefined()
})

test('a lying round body is the upright one with its axes exchanged', () => {
  // half sizes: 0.3 along, 0.1 thick (by hand)
  const points: [number, number, number][] = [
    [0.9, 0.2, -0.1],
    [0.1, 0.5, 0.4],
    [-0.4, -0.05, 0.02],
    [0.2, 0.05, 0.05],
  ]
  for (const [x, y, z] of points) {
    const upright = distanceToBox([y, z, x], { middle: [0, 0, 0], half: [0.1, 0.1, 0.3], round: true })
    expect(distanceToBox([x, y, z], { middle: [0, 0, 0], half: [0.3, 9, 0.1], round: true, along: 0 })).toBeCloseTo(
      upright,
      12,
    )
    expect(distanceToBox([y, x, z], { middle: [0, 0, 0], half: [9, 0.3, 0.1], round: true, along: 1 })).toBeCloseTo(
      upright,
      12,
    )
  }
})

const BODIES = [{}, { round: true }, { round: true, along: 0 }, { round: true, along: 1 }] as const
test('a way that comes within a distance is never passed over, and most of those that stay away are', () => {
  const next = uniforms(7)
  const point = (): Point3 => [4 * next() - 2, 4 * next() - 2, 4 * next() - 2]
  let [away, passedOver] = [0, 0]
  for (let k = 0; k < 2000; k++) {
    const points = [point(), point(), point()].slice(0, 1 + (k % 3))
    const box = { middle: point(), half: [0.4, 0.1, 0.2] as const, ...BODIES[k % BODIES.length] }
    const isNear = distanceOfWay(points, box).least < 0.3
    if (isNear) expect(mayComeWithin(0.3, points, box)).toBe(true)
    else {
      away++
      if (!mayComeWithin(0.3, points, box)) passedOver++
    }
  }
  expect(passedOver).toBeGreaterThan(away / 2)
})
