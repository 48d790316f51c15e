/**
 * What emptyings teach. How often what is then promised is kept, over simulated cars, and the same by brute force, is in
 * `verification/checks/coverage.ts`.
 */
import { axisBetween, axisPoints } from './axis'
import { makeJump, stretchOf } from './jump'
import { BLANK, SCATTER, type Amount, type Emptying } from './prior'
import { studentCdf, studentDensity } from './student'
import { learn } from './learn'
import { multiplierRange } from './multiplier'
import { nextFilling } from './next-filling'
import { normalCdf, normalQuantile } from './normal'

const oil = (predicted: number, amount: Amount): Emptying => ({ predicted: { oil: predicted, water: 0 }, oil: amount })

test('a blank multiplier is its prior, and the next filling is wider by its own scatter', () => {
  const blank = learn([])
  expect(multiplierRange(blank, 'oil').high).toBeCloseTo(Math.exp(0.8 * 1.2816), 1)
  expect(blank.scatter).toBeCloseTo(SCATTER.median, 3)
  const { low, mid, high } = nextFilling(blank, { oil: 1, water: 0 })
  expect(mid).toBeCloseTo(1, 2)
  // worked case "fill-blank", by general-purpose quadrature
  expect(low).toBeCloseTo(0.33159, 2)
  expect(high / 3.01577).toBeCloseTo(1, 1)
  expect(nextFilling(blank, { oil: 0, water: 0 })).toEqual({ low: 0, mid: 0, high: 0 })
})

test('brim full teaches at least, dry at most; a volume as small as the wet wall teaches little', () => {
  const over = learn([oil(50e-6, { atLeast: 90e-6 })]).oil
  expect(over.mu).toBeGreaterThan(Math.log(1.8))
  expect(over.sigma).toBeLessThan(0.8)
  expect(learn([oil(50e-6, { atMost: 4e-6 })]).oil.mu).toBeLessThan(-1)
  expect(learn([oil(1e-6, { found: 2e-6 })]).oil.sigma).toBeGreaterThan(0.7)
  expect(learn([oil(100e-6, { found: 200e-6 })]).oil.sigma).toBeLessThan(0.3)
})

test('one wild entry among many is nearly left out, and said to be rare; the scatter grows with what strays', () => {
  const calm = Array.from({ length: 6 }, () => oil(20e-6, { found: 40e-6 }))
  const wild = [...calm.slice(0, 3), oil(20e-6, { found: 400e-6 }), ...calm.slice(3)]
  const [without, with1] = [learn(calm), learn(wild)]
  expect(Math.exp(with1.oil.mu - without.oil.mu)).toBeLessThan(1.15)
  expect(with1.rarity[3]!).toBeLessThan(0.02)
  expect(Math.min(...with1.rarity.filter((_, k) => k !== 3))).toBeGreaterThan(0.3)
  expect(with1.scatter).toBeGreaterThan(without.scatter)
  expect(without.scatter).toBeLessThan(SCATTER.median)
})

test('a lasting change is told by where it came and which way, and the next filling goes by what is now', () => {
  const of = (...ml: number[]) => learn(ml.map((v) => oil(20e-6, { found: v * 1e-6 })))
  const rise = of(20, 20, 20, 20, 60, 60, 60, 60)
  const most = rise.changes.reduce((best, c, k, all) => (c.any > all[best]!.any ? k : best), 0)
  expect(most).toBe(4)
  expect(rise.changes[4]!.rise).toBeGreaterThan(0.9 * rise.changes[4]!.any)
  expect(rise.changes.reduce((sum, c) => sum + c.any, 0)).toBeGreaterThan(0.9)
  expect(nextFilling(rise, { oil: 20e-6, water: 0 }).mid).toBeGreaterThan(52e-6)
  expect(of(60, 60, 60, 60, 20, 20, 20, 20).changes[4]!.rise).toBeLessThan(0.01)
  expect(of(20, 20, 20, 20, 20, 20, 20, 20).changes.reduce((sum, c) => sum + c.any, 0)).toBeLessThan(0.15)
  // what lasts is no stray entry, on either side of the change
  expect(Math.min(...rise.rarity)).toBeGreaterThan(0.3)
  // none before the first, and none where there is but one
  expect(rise.changes[0]).toEqual({ any: 0, rise: 0 })
  expect(of(90).changes).toEqual([{ any: 0, rise: 0 }])
})

test('an overflow after a small catch is not brushed aside: soon full is likely', () => {
  // 30 ml after 1 600 km, then brim full after 3 300 km
  const log: Emptying[] = [
    { predicted: { oil: 12e-6, water: 8e-6 }, all: { found: 30e-6 } },
    { predicted: { oil: 25e-6, water: 17e-6 }, all: { atLeast: 350e-6 } },
  ]
  const next = nextFilling(learn(log), { oil: 0.0075e-6, water: 0.005e-6 })
  expect(350e-6 / next.high).toBeLessThan(3300)
  expect(350e-6 / next.mid).toBeLessThan(13_000)
})

test('order matters only by a change; oil and water not told apart are learned together and their sum best', () => {
  const both = (found: number): Emptying => ({ predicted: { oil: 20e-6, water: 20e-6 }, all: { found } })
  const together = learn(Array.from({ length: 6 }, () => both(80e-6)))
  expect(together.oil.sigma).toBeGreaterThan(0.3)
  const next = nextFilling(together, { oil: 20e-6, water: 20e-6 })
  expect(next.mid).toBeGreaterThan(72e-6)
  expect(next.mid).toBeLessThan(84e-6)
  expect(Math.log(next.high / next.low)).toBeLessThan(0.8)
  // eight emptyings at three times the model: three times is learned, however oil and water share it
  const three = learn(
    Array.from({ length: 8 }, () => ({ predicted: { oil: 167, water: 333 }, all: { found: 1500 } })),
    BLANK,
    0,
  )
  expect(2000 / nextFilling(three, { oil: 0.126, water: 0.251 }).mid).toBeCloseTo(1772, -1)
})

test('the next filling between two points far apart: its quantiles are found on either, and between them', () => {
  const twoPoints = (weight: readonly [number, number]) => ({
    points: {
      oil: Float64Array.of(-4, 4),
      water: Float64Array.of(0, 0),
      scatter: Float64Array.of(0.25),
      weight: Float64Array.from(weight),
    },
  })
  const { low, mid, high } = nextFilling(twoPoints([0.5, 0.5]), { oil: 1, water: 0 })
  // each Student's t of 4 degrees and scale 0.25 about ln = -4 and 4: a tenth of all is a fifth of the lower, t = -0.9410 (tables)
  expect(Math.log(low)).toBeCloseTo(-4 - 0.941 * 0.25, 3)
  expect(Math.log(high)).toBeCloseTo(4 + 0.941 * 0.25, 3)
  expect(Math.abs(Math.log(mid))).toBeLessThan(3.9)
})

test('Student’s t of 4 degrees agrees with tables, and is told by its own density', () => {
  // Abramowitz & Stegun, table 26.10 (from memory): t of 4 degrees at 0.9, 0.95, 0.975, 0.99
  for (const [p, t] of [
    [0.9, 1.533],
    [0.95, 2.132],
    [0.975, 2.776],
    [0.99, 3.747],
  ] as const) {
    expect(studentCdf(t)).toBeCloseTo(p, 4)
    expect(studentCdf(-t)).toBeCloseTo(1 - p, 4)
    expect((studentCdf(t + 1e-4) - studentCdf(t - 1e-4)) / 2e-4).toBeCloseTo(studentDensity(t), 6)
  }
  // far out the tail falls with the fourth power: 3 / t^4 (by series)
  expect((studentCdf(-1e3) * 1e12) / 3).toBeCloseTo(1, 3)
})

test('a jump spreads what stood at a point into its normal, and keeps what there is of it', () => {
  const axis = axisBetween(-4, 4, 81)
  const of = new Float64Array(81)
  of[40] = 1
  of[50] = 0.5
  const to = new Float64Array(81)
  makeJump(axis, 0.7)(of, stretchOf(of, 0, 81), to, { start: 0, from: 0, end: 81 })
  expect(to.reduce((sum, v) => sum + v, 0)).toBeCloseTo(1.5, 2)
  const normal = (z: number) => Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI)
  const exact = (x: number) => ((normal(x / 0.7) + 0.5 * normal((x - 1) / 0.7)) / 0.7) * axis.step
  axisPoints(axis).forEach((x, i) => expect(to[i]! / axis.step).toBeCloseTo(exact(x) / axis.step, 2))
})

test('the normal distribution agrees with tables both ways', () => {
  // Abramowitz & Stegun, table 26.1 and 26.5 (from memory)
  for (const [z, p] of [
    [0, 0.5],
    [1, 0.8413447461],
    [1.959963985, 0.975],
    [-3.090232306, 0.001],
  ] as const) {
    expect(normalCdf(z)).toBeCloseTo(p, 6)
    expect(normalQuantile(p)).toBeCloseTo(z, 7)
  }
})

describe('road and track', () => {
  const road = (predicted: number, found: number): Emptying => ({
    predicted: { oil: predicted, water: 0, track: 0 },
    oil: { found },
  })
  const track = (predicted: number, found: number): Emptying => ({
    predicted: { oil: predicted, water: 0, track: predicted },
    oil: { found },
  })

  test('fillings of either alone tell its own multiplier, and pull the other after it', () => {
    const learned = learn([road(10, 20), road(10, 20), track(10, 60), track(10, 60)], BLANK, 0)
    expect(Math.exp(learned.oil.mu)).toBeGreaterThan(1.8)
    expect(Math.exp(learned.oil.mu)).toBeLessThan(2.5)
    expect(Math.exp(learned.track!.mu)).toBeGreaterThan(4)
    expect(Math.exp(learned.track!.mu)).toBeLessThan(6)
    expect([learned.oil.entries, learned.track!.entries]).toEqual([4, 2])
  })

  test('a duty that was never emptied after leans on the other by what they have in common', () => {
    const learned = learn([...Array.from({ length: 8 }, () => road(10, 20)), track(0, 1)], BLANK, 0)
    // no filling tells of track: nothing is told apart
    expect(learned.track).toBeUndefined()
    const one = learn([...Array.from({ length: 8 }, () => road(10, 20)), track(1e-9, 2e-9)], BLANK, 1)
    expect(one.track!.mu).toBeGreaterThan(0.7 * one.oil.mu)
    expect(one.track!.sigma).toBeGreaterThan(2 * one.oil.sigma)
  })

  test('what comes next goes by its own duty', () => {
    const learned = learn([road(10, 10), road(10, 10), track(10, 40), track(10, 40)], BLANK, 0)
    const [easy, hard] = [
      nextFilling(learned, { oil: 10, water: 0, track: 0 }),
      nextFilling(learned, { oil: 10, water: 0, track: 10 }),
    ]
    expect(hard.mid / easy.mid).toBeGreaterThan(2)
    const half = nextFilling(learned, { oil: 10, water: 0, track: 5 }).mid
    expect(half).toBeGreaterThan(easy.mid)
    expect(half).toBeLessThan(hard.mid)
  })
})
