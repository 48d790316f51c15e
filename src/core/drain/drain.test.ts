/** Drain-back by hand: columns of oil, a full laminar tube, and the geometry of a hose that stands in its own oil. */
import { GRAVITY } from '../gas/air'
import { drainOf, wallis } from './drain'
import { profileOf } from './profile'

const AREA = (Math.PI * 0.0127 ** 2) / 4

describe('a drain of its own', () => {
  const c = {
    returnPa: 100_000,
    canPa: 100_000,
    oilDensity: 850,
    viscosity: 1e-5,
    boreM: 0.01,
    lengthM: 0.5,
    heightM: 0.3,
  }
  test('without a pressure difference all of the height drives it', () => {
    expect(drainOf(c)).toMatchObject({ columnM: 0, headM: 0.3 })
  })
  test('1 kPa of suction holds up 120 mm of oil of 850 kg/m3 (p = rho g h)', () => {
    expect(drainOf({ ...c, canPa: 99_000 }).columnM).toBeCloseTo(1000 / (850 * GRAVITY), 12)
    expect(drainOf({ ...c, canPa: 99_000 }).columnM).toBeCloseTo(0.12, 3)
  })
  test('a valve’s cracking pressure is held up too', () => {
    expect(drainOf({ ...c, crackPa: 850 * GRAVITY * 0.05 }).headM).toBeCloseTo(0.25, 12)
  })
  test('a full laminar tube passes pi D^4 g head/(128 nu L) (Hagen-Poiseuille)', () => {
    expect(drainOf(c).capacity).toBeCloseTo((Math.PI * 1e-8 * GRAVITY * 0.3) / (128 * 1e-5 * 0.5), 12)
    expect(drainOf({ ...c, lengthM: 1 }).capacity / drainOf(c).capacity).toBeCloseTo(0.5, 12)
  })
  test('held up beyond its height it passes nothing, and its head says by how much it falls short', () => {
    const held = drainOf({ ...c, canPa: 95_000 })
    expect(held.capacity).toBe(0)
    expect(held.headM).toBeCloseTo(0.3 - 5000 / (850 * GRAVITY), 12)
  })
})

test('a port floods by the sum of the roots of both superficial velocities (Wallis)', () => {
  const [D, gas, oil] = [0.02, { flow: 1e-3, density: 1 }, { flow: 1e-6, density: 850 }]
  const area = (Math.PI * D * D) / 4
  const star = ({ flow, density }: typeof gas) => (flow / area) * Math.sqrt(density / (GRAVITY * D * (850 - 1)))
  expect(wallis(gas, oil, D)).toBeCloseTo(Math.sqrt(star(gas)) + Math.sqrt(star(oil)), 12)
  // gas that runs down with the oil does not hold it up
  expect(wallis({ ...gas, flow: -1e-3 }, oil, D)).toBeCloseTo(Math.sqrt(star(oil)), 12)
})

describe('the way of a drain', () => {
  test('one that falls throughout has no trap, and its least fall is that of its flattest stretch', () => {
    expect(
      profileOf(
        [
          [0, 0, 0.4],
          [0.3, 0, 0.1],
          [0.3, 0.4, 0.05],
        ],
        0.0127,
      ),
    ).toEqual({
      fallM: expect.closeTo(0.35, 12),
      traps: 0,
      trappedM3: 0,
      leastFall: expect.closeTo(0.05 / Math.hypot(0.4, 0.05), 12),
    })
  })
  test('a dip holds oil up to the height of its lower lip', () => {
    const p = profileOf(
      [
        [0, 0, 0.4],
        [0.15, 0, 0.12],
        [0.3, 0, 0.2],
      ],
      0.0127,
    )
    // the far leg in full, of the near one what lies below 0.2 m
    const wet = Math.hypot(0.15, 0.08) + (0.08 / 0.28) * Math.hypot(0.15, 0.28)
    expect(p.traps).toBe(1)
    expect(p.trappedM3).toBeCloseTo(wet * AREA, 15)
    expect(p.leastFall).toBeCloseTo(-0.08 / Math.hypot(0.15, 0.08), 12)
  })
  test('two dips with a crest that stands out of the oil between them are two traps', () => {
    const way = (crest: number) =>
      profileOf(
        [
          [0, 0, 0.5],
          [0.1, 0, 0.1],
          [0.2, 0, crest],
          [0.3, 0, 0.05],
          [0.4, 0, 0.2],
        ],
        0.0127,
      )
    expect(way(0.3).traps).toBe(2)
    // a crest below the lip at the return stands in the same oil
    expect(way(0.15).traps).toBe(1)
  })
  test('a dip whose bottom is flat is one trap, wet along its bottom', () => {
    const p = profileOf(
      [
        [0, 0, 0.4],
        [0.1, 0, 0.1],
        [0.3, 0, 0.1],
        [0.4, 0, 0.2],
      ],
      0.0127,
    )
    expect(p.traps).toBe(1)
    expect(p.trappedM3).toBeCloseTo(AREA * (0.2 + Math.hypot(0.1, 0.1) + (0.1 / 0.3) * Math.hypot(0.1, 0.3)), 15)
    expect(p.leastFall).toBeCloseTo(-0.1 / Math.hypot(0.1, 0.1), 12)
  })
  test('a way that only rises stands in oil in full', () => {
    const p = profileOf(
      [
        [0, 0, 0],
        [0.3, 0, 0.4],
      ],
      0.0127,
    )
    expect(p).toMatchObject({ fallM: -0.4, traps: 1 })
    expect(p.trappedM3).toBeCloseTo(0.5 * AREA, 15)
  })
  test('leaning over turns a fall into a rise; the size of gravity does not matter', () => {
    const points = [
      [0, 0, 0.1],
      [0.4, 0, 0],
    ] as const
    expect(profileOf(points, 0.0127, [0, 0, -3]).fallM).toBeCloseTo(0.1, 12)
    // braking at 1 g throws what lies behind ahead: down is forward and down
    const leant = profileOf(points, 0.0127, [-9.81, 0, -9.81])
    expect(leant.fallM).toBeCloseTo((0.1 - 0.4) / Math.SQRT2, 12)
    expect(leant.traps).toBe(1)
  })
  test.each([
    ['no points', [], [0, 0, -1]],
    ['a single one', [[0, 0, 1]], [0, 0, -1]],
    [
      'no gravity',
      [
        [0, 0, 1],
        [0, 0, 0],
      ],
      [0, 0, 0],
    ],
  ] as const)('%s: no fall, no trap, and no number that is none', (_, points, gravity) => {
    expect(profileOf(points, 0.0127, gravity)).toEqual({ fallM: 0, traps: 0, trappedM3: 0, leastFall: 0 })
  })
  test('points that coincide have no slope', () => {
    expect(
      profileOf(
        [
          [0, 0, 0.2],
          [0, 0, 0.2],
        ],
        0.0127,
      ),
    ).toEqual({ fallM: 0, traps: 0, trappedM3: 0, leastFall: 0 })
  })
})
