/** A found way keeps clear, bends no tighter than it may and, for a drain, falls: over random bays. */
import { array, assert, boolean, constant, constantFrom, double, property, record, tuple } from 'fast-check'
import type { Point3 } from '../drain/profile'
import { finish } from '../job'
import { distanceBetween, distanceOfCylinder, distanceOfWay, distanceOfWays, distanceToBox } from './distance'
import { findWay } from './find'
import { GRID_STEP, gridOver } from './grid'
import { blockerAlong, hoseRoomOf, roomFrom, type RoutingBay } from './room'
import { clocking, pathOf, roundedWay, turnBetween } from './path'

/** Calls `see` every two millimetres of a way. */
function walkAlong(points: readonly Point3[], see: (p: Point3) => void): void {
  for (const [i, q] of points.slice(1).entries()) {
    const p = points[i]!
    const n = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]) / 0.002))
    for (let k = 0; k <= n; k++) see([0, 1, 2].map((j) => p[j]! + ((q[j]! - p[j]!) * k) / n) as unknown as Point3)
  }
}

test('the least distance of a way to a box is that of its nearest point, leaving out what lies at a free end', () => {
  const box = { middle: [0.5, 0.3, 0], half: [0.05, 0.1, 0.1], round: true } as const
  const way: Point3[] = [
    [0, 0, 0],
    [0.5, 0.1, 0.02],
    [1, 0, 0.3],
  ]
  let least = Infinity
  walkAlong(way, (p) => {
    least = Math.min(least, distanceToBox(p, box))
  })
  expect(distanceOfWay(way, box).least).toBeCloseTo(least, 3)
  // the corner is the nearest point; left out, the nearest is at the edge of what is left out (by hand)
  let beyond = Infinity
  walkAlong(way, (p) => {
    if (Math.hypot(p[0] - 0.5, p[1] - 0.1, p[2] - 0.02) >= 0.045) beyond = Math.min(beyond, distanceToBox(p, box))
  })
  expect(distanceOfWay(way, box, [[0.5, 0.1, 0.02]]).least).toBeCloseTo(beyond, 3)
  expect(beyond).toBeGreaterThan(least)
})

test('an end that was not measured, or two in one place, are refused with a reason', () => {
  const empty: RoutingBay = { boxes: [], ceiling: () => undefined }
  const asked = (from: Point3, to: Point3, radiusM = 0.1) =>
    finish(findWay(empty, { from, to, radiusM, falls: false })).ok
  expect(asked([0, 0, 0], [1, 0, 0])).toBe(true)
  expect([
    asked([Number.NaN, 0, 0], [1, 0, 0]),
    asked([0, 0, 0], [1, Infinity, 0]),
    asked([0, 0, 0], [1, 0, 0], Number.NaN),
    asked([0, 0, 0], [0, 0, 0]),
  ]).toEqual([false, false, false, false])
})

test('the cell of a place stands within half a step of it', () => {
  const empty: RoutingBay = { boxes: [], ceiling: () => undefined }
  const [from, to]: Point3[] = [
    [0.1, 0.2, 0.3],
    [0.9, -0.4, 0.5],
  ]
  const grid = gridOver(empty, { from: from!, to: to!, radiusM: 0.1, falls: false })
  for (const p of [from!, to!, [0.47, 0.03, 0.41] as const])
    grid.at(grid.index(p)).forEach((x, k) => expect(Math.abs(x - p[k]!)).toBeLessThanOrEqual(GRID_STEP / 2 + 1e-12))
})

test('a way that ends too near to a body is blocked by it, and not where its own end stands on it', () => {
  const box = { middle: [0.5, 0, 0], half: [0.1, 0.1, 0.1], round: false } as const
  const bay: RoutingBay = { boxes: [{ name: 'the battery', box, keepM: 0.01 }], ceiling: () => undefined }
  const blocked = (from: Point3, to: Point3, ends: { from: Point3; to: Point3 }) =>
    blockerAlong(hoseRoomOf(bay, ends), [from, to], 0)
  const far = { from: [0, 0, 0], to: [0, 0, 1] } as { from: Point3; to: Point3 }
  expect(blocked([0.3, 0, 0], [0.38, 0, 0], far)).toBeUndefined()
  // only its last point lies within what is to be kept
  expect(blocked([0.3, 0, 0], [0.393, 0, 0], far)).toBe(0)
  // it begins on the body: that is free within reach of the end, and nowhere else
  const on = { from: [0.4, 0, 0], to: [0, 0, 1] } as { from: Point3; to: Point3 }
  expect(blocked([0.4, 0, 0], [0.3, 0, 0], on)).toBeUndefined()
  expect(blocked([0.5, 0.105, 0], [0.5, 0.3, 0], on)).toBe(0)
})

const unit = double({ min: 0, max: 1, noNaN: true })
const box = record({
  name: constant('Box'),
  keepM: double({ min: 0.01, max: 0.04, noNaN: true }),
  box: record({
    middle: tuple(unit, unit, unit).map(([x, y, z]): Point3 => [x * 0.8, y * 0.8, z * 0.5]),
    half: tuple(unit, unit, unit).map(([x, y, z]): Point3 => [0.02 + x * 0.08, 0.02 + y * 0.08, 0.02 + z * 0.08]),
    round: boolean(),
  }),
})
const [FROM, TO, R]: readonly [Point3, Point3, number] = [[0.02, 0.02, 0.5], [0.78, 0.78, 0.03], 0.09]

test('a found way never enters what it keeps from, keeps its radius and its fall', () => {
  let found = 0
  assert(
    property(array(box, { maxLength: 10 }), boolean(), (boxes, falls) => {
      const bay: RoutingBay = { boxes, ceiling: () => 0.62 }
      const r = finish(findWay(bay, { from: FROM, to: TO, radiusM: R, falls }))
      if (!r.ok) {
        expect(r.reason).toMatch(/\.$/)
        return
      }
      found++
      const way = [FROM, ...r.value, TO]
      expect(pathOf(way, R).ok).toBe(true)
      if (falls) for (let i = 1; i < way.length; i++) expect(way[i]![2]).toBeLessThan(way[i - 1]![2])
      const tooNear: Point3[] = []
      walkAlong(roundedWay(way, R), (p) => {
        // at the ends the hose stands in the parts that it belongs to
        if (distanceBetween(p, FROM) < 0.05 || distanceBetween(p, TO) < 0.05) return
        if (!(p[2] <= 0.62) || !boxes.every((b) => distanceToBox(p, b.box) > b.keepM - 1e-9)) tooNear.push(p)
      })
      expect(tooNear).toEqual([])
    }),
    { numRuns: 25, seed: 11 },
  )
  expect(found).toBeGreaterThan(12)
})

test('room round a point is what the nearest of all bodies leaves, each looked at by itself', () => {
  const body = record({ keepM: unit, box: record({ middle: tuple(unit, unit, unit), half: tuple(unit, unit, unit) }) })
  const shape = constantFrom(
    {},
    { round: true },
    { round: true, along: 0 as const },
    { round: true, along: 1 as const },
  )
  assert(
    property(
      array(tuple(body, shape), { minLength: 1, maxLength: 8 }),
      tuple(unit, unit, unit),
      (bodies, [x, y, z]) => {
        const boxes = bodies.map(([b, s]) => ({ name: 'a body', keepM: 0.1 * b.keepM, box: { ...b.box, ...s } }))
        const at: Point3 = [3 * x - 1, 3 * y - 1, 3 * z - 1]
        const far = { from: [9, 9, 9] as Point3, to: [9, 9, 8] as Point3 }
        const least = Math.min(...boxes.map((b) => distanceToBox(at, b.box) - b.keepM))
        expect(roomFrom(hoseRoomOf({ boxes, ceiling: () => undefined }, far), at).m).toBe(least)
      },
    ),
    { numRuns: 400, seed: 5 },
  )
})

test.each([
  ['its start', FROM],
  ['its goal', TO],
])('what shuts in %s is named, and not what stands about in the open', (_, end) => {
  const engine = { name: 'Engine', keepM: 0.02, box: { middle: [0.4, 0.4, 0.3], half: [0.1, 0.1, 0.3] } } as const
  // six sides round it, nearer than a hose may come
  const sides = [0, 1, 2].flatMap((k) =>
    [-0.12, 0.12].map((off) => ({
      name: 'Tray',
      keepM: 0.03,
      box: {
        middle: end.map((v, j) => (j === k ? v + off : v)) as unknown as Point3,
        half: [0, 1, 2].map((j) => (j === k ? 0.01 : 0.13)) as unknown as Point3,
      },
    })),
  )
  const bay = { boxes: [engine, ...sides], ceiling: () => undefined }
  const shut = finish(findWay(bay, { from: FROM, to: TO, radiusM: R, falls: false }))
  expect(shut.ok ? '' : shut.reason).toBe('There is no way with this clearance: Tray stands in it.')
})

test('where there is none it says what stands in the way; a drain is not led uphill', () => {
  const wall = { name: 'Firewall', keepM: 0.02, box: { middle: [0.4, 0.4, 0.3], half: [0.02, 3, 3] } as const }
  const shut = finish(
    findWay({ boxes: [wall], ceiling: () => undefined }, { from: FROM, to: TO, radiusM: R, falls: false }),
  )
  expect(shut.ok ? '' : shut.reason).toMatch(/Firewall/)
  const up = finish(findWay({ boxes: [], ceiling: () => undefined }, { from: TO, to: FROM, radiusM: R, falls: true }))
  expect(up.ok ? '' : up.reason).toMatch(/cannot fall/)
})

/** A body across the straight line between two ends, and no bonnet. */
const ACROSS: { readonly from: Point3; readonly to: Point3; readonly bay: RoutingBay } = {
  from: [0, 0, 0.3],
  to: [1.2, 0, 0.3],
  bay: {
    boxes: [{ name: 'the engine', keepM: 0.02, box: { middle: [0.6, 0, 0.3], half: [0.12, 0.25, 0.6] } }],
    ceiling: () => undefined,
  },
}

test.each([
  ['a tight bend', 0.06, 1.03],
  ['a wider one, whose arcs push its corners outwards', 0.32, 1.04],
  ['one for which a run between two corners is too short: one corner is left', 0.5, 1.1],
])('round a body across the straight line: %s, not much longer than a taut string', (_, radiusM, most) => {
  const { from, to } = ACROSS
  const found = finish(findWay(ACROSS.bay, { from, to, radiusM, falls: false }))
  if (!found.ok) throw new Error(found.reason)
  const way = [from, ...found.value, to]
  expect(pathOf(way, radiusM).ok).toBe(true)
  walkAlong(roundedWay(way, radiusM), (p) => {
    expect(distanceToBox(p, ACROSS.bay.boxes[0]!.box)).toBeGreaterThan(0.02 - 1e-9)
  })
  const length = way.slice(1).reduce((sum, p, i) => sum + Math.hypot(...p.map((x, k) => x - way[i]![k]!)), 0)
  // a string round the two corners that are kept from, by hand
  const taut = 2 * Math.hypot(0.6 - 0.14, 0.27) + 0.28
  expect(length / taut).toBeGreaterThan(1)
  expect(length / taut).toBeLessThan(most)
})

test('bends too wide for the room are named, with what is met', () => {
  const { from, to } = ACROSS
  const none = finish(findWay(ACROSS.bay, { from, to, radiusM: 0.8, falls: false }))
  expect(none.ok ? '' : none.reason).toMatch(/not for its bends of 800 mm.*the engine/)
})

test('a can beside, under and over a body, and one that it stands in', () => {
  const can = { floor: [0, 0, 0.1], radiusM: 0.04, heightM: 0.14 } as const
  const to = (middle: Point3, round = false) => distanceOfCylinder(can, { middle, half: [0.02, 0.02, 0.02], round })
  expect(to([0.16, 0, 0.15])).toBeCloseTo(0.1, 12)
  expect(to([0, 0, 0.36])).toBeCloseTo(0.1, 12)
  expect(to([0, 0, 0])).toBeCloseTo(0.08, 12)
  expect(to([0.09, 0, 0.3])).toBeCloseTo(Math.hypot(0.03, 0.04), 12)
  // a round body is nearer by its corner that is not there
  expect(to([0.1, 0.1, 0.15])).toBeCloseTo(Math.hypot(0.08, 0.08) - 0.04, 12)
  expect(to([0.1, 0.1, 0.15], true)).toBeCloseTo(Math.hypot(0.1, 0.1) - 0.02 - 0.04, 12)
  expect(to([0.03, 0, 0.15])).toBe(0)
})

test('arcs: the rounded way of a right angle is as long as its closed form, and stands off the corner by r (sqrt 2 - 1)', () => {
  const corner: Point3 = [0.5, 0, 0]
  const arc = roundedWay([[0, 0, 0], corner, [0.5, 0.5, 0]], 0.1)
  const length = arc.reduce((s, p, i) => s + (i === 0 ? 0 : Math.hypot(...p.map((v, k) => v - arc[i - 1]![k]!))), 0)
  expect(length).toBeCloseTo(1 - 0.2 + (Math.PI / 2) * 0.1, 3)
  const nearest = Math.min(...arc.map((p) => Math.hypot(...p.map((v, k) => v - corner[k]!))))
  expect(nearest).toBeCloseTo(0.1 * (Math.SQRT2 - 1), 3)
})

test('clocking by closed form: planes at right angles, alike, and carried round a bend without twist', () => {
  const straight: readonly Point3[] = [
    [0, 0, 0],
    [1, 0, 0],
  ]
  expect(clocking(straight, [0, 0, 1], [0, 1, 0])).toBeCloseTo(90, 9)
  expect(clocking(straight, [0, 0, 1], [0.3, 0, 1])).toBeCloseTo(0, 6)
  expect(clocking(straight, [1, 0, 0], [0, 1, 0])).toBe(0)
  // a right angle in the plane of the ports carries "inside of the bend" to "inside of the bend"
  const bend: readonly Point3[] = [
    [0, 0, 0],
    [1, 0, 0],
    [1, 1, 0],
  ]
  expect(clocking(bend, [0, 0, 1], [0, 0, 1])).toBeCloseTo(0, 6)
  expect(clocking(bend, [0, 1, 0], [-1, 0, 0])).toBeCloseTo(0, 6)
  expect(turnBetween([1, 0, 0], [-1, 0, 0])).toBeCloseTo(180, 9)
})

test('two runs that cross at a distance, lie beside each other, and end before each other', () => {
  const one: readonly Point3[] = [
    [0, 0, 0],
    [1, 0, 0],
  ]
  expect(
    distanceOfWays(one, [
      [0.5, -1, 0.2],
      [0.5, 1, 0.2],
    ]).least,
  ).toBeCloseTo(0.2, 12)
  expect(
    distanceOfWays(one, [
      [0, 0.3, 0],
      [1, 0.3, 0],
    ]).least,
  ).toBeCloseTo(0.3, 12)
  expect(
    distanceOfWays(one, [
      [2, 0, 0],
      [3, 0, 0],
    ]).least,
  ).toBeCloseTo(1, 12)
  expect(distanceOfWays(one, [[2, 0, 0]]).least).toBe(Infinity)
})

test('an end above the bonnet is told, one below it or where none is known is not', () => {
  const sloped: RoutingBay = { boxes: [], ceiling: (x) => (x < 1 ? 0.5 + 0.1 * x : undefined) }
  const above = (from: Point3, to: Point3) => hoseRoomOf(sloped, { from, to }).above
  expect(above([0, 0, 0.49], [0.5, 0, 0.54])).toEqual([])
  expect(above([0, 0, 0.51], [0.5, 0, 0.54])).toEqual([[0, 0, 0.51]])
  expect(above([0.2, 0, 0.6], [0.5, 0, 0.56])).toEqual([
    [0.2, 0, 0.6],
    [0.5, 0, 0.56],
  ])
  expect(above([2, 0, 9], [0, 0, 0])).toEqual([])
})
