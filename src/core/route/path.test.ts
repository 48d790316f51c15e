/** The way of a hose through its points: what is no bend stays as it is, what has no room is cut short. */
import type { Point3 } from '../drain/profile'
import { pathOf, roundedWay } from './path'

const along = (way: readonly Point3[]) =>
  way.slice(1).reduce((sum, p, i) => sum + Math.hypot(...p.map((v, k) => v - way[i]![k]!)), 0)

test('a point on a straight line is kept and is no bend; a radius of nothing leaves every corner', () => {
  const straight: readonly Point3[] = [
    [0, 0, 0],
    [0.4, 0, 0],
    [1, 0, 0],
  ]
  expect(roundedWay(straight, 0.1)).toEqual(straight)
  const corner: readonly Point3[] = [
    [0, 0, 0],
    [0.4, 0, 0],
    [0.4, 0.3, 0],
  ]
  expect(roundedWay(corner, 0)).toEqual(corner)
  const path = pathOf(straight, 0.1)
  expect(path.ok && path.value).toEqual({ lengthM: 1, bendsDeg: [0] })
})

test('arcs are as long as the closed form through two bends out of one plane', () => {
  const way: readonly Point3[] = [
    [0, 0, 0],
    [0.3, 0, 0],
    [0.3, 0.3, 0],
    [0.3, 0.3, 0.3],
  ]
  const path = pathOf(way, 0.08)
  if (!path.ok) throw new Error(path.reason)
  expect(path.value.lengthM).toBeCloseTo(0.9 - 4 * 0.08 + Math.PI * 0.08, 9)
  expect(path.value.bendsDeg).toEqual([90, 90])
  expect(along(roundedWay(way, 0.08))).toBeCloseTo(path.value.lengthM, 2)
})

test('corners without room are cut as far as their runs allow; the exact way refuses them by number', () => {
  const tight: readonly Point3[] = [
    [0, 0, 0],
    [0.05, 0, 0],
    [0.05, 0.05, 0],
    [0.1, 0.05, 0],
  ]
  const cut = roundedWay(tight, 0.5)
  expect(along(cut)).toBeLessThan(0.15)
  for (const p of cut) {
    expect(p[0]).toBeGreaterThanOrEqual(-1e-9)
    expect(p[0]).toBeLessThanOrEqual(0.1 + 1e-9)
  }
  const refused = pathOf(tight, 0.5)
  expect(refused.ok ? '' : refused.reason).toMatch(/run after point 1 .* 500 mm/)
  const back = pathOf(
    [
      [0, 0, 0],
      [1, 0, 0],
      [0.5, 0, 0],
    ],
    0.1,
  )
  expect(back.ok ? '' : back.reason).toMatch(/waypoint 1/)
})
