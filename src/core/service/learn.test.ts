/** What emptyings teach. How often what is then promised is kept, over simulated cars, is in `verification/checks/coverage.ts`. */
import { BLANK, DUTIES_ALIKE, learn, multiplierRange, type Amount, type Emptying } from './learn'
import { nextFilling } from './next-filling'
import { normalCdf, normalQuantile } from './normal'
import { stepUp } from './trend'

const oil = (predicted: number, amount: Amount): Emptying => ({ predicted: { oil: predicted, water: 0 }, oil: amount })

test('a blank multiplier is its prior, and the next filling is wider by its own scatter', () => {
  const blank = learn([])
  expect(multiplierRange(blank, 'oil').high).toBeCloseTo(Math.exp(0.8 * 1.2816), 1)
  expect(nextFilling(blank, { oil: 1, water: 0 }).high).toBeCloseTo(Math.exp(Math.hypot(0.8, 0.25) * 1.2816), 1)
  expect(nextFilling(blank, { oil: 0, water: 0 })).toEqual({ low: 0, mid: 0, high: 0 })
})

test('one volume found is the conjugate update, whatever unit it is told in', () => {
  // Gelman et al., Bayesian Data Analysis, 2.5: precision adds, means weigh by it
  const { mu, sigma, entries } = learn([oil(10, { found: 20 })], BLANK, 0).oil
  const precision = 1 / 0.64 + 16
  expect([mu, sigma, entries]).toEqual([
    expect.closeTo((16 * Math.log(2)) / precision, 4),
    expect.closeTo(precision ** -0.5, 4),
    1,
  ])
})

test('brim full teaches at least, dry at most; a volume as small as the wet wall teaches little', () => {
  const over = learn([oil(50e-6, { atLeast: 90e-6 })]).oil
  expect(over.mu).toBeGreaterThan(Math.log(1.8))
  expect(over.sigma).toBeLessThan(0.8)
  expect(learn([oil(50e-6, { atMost: 4e-6 })]).oil.mu).toBeLessThan(-1)
  expect(learn([oil(1e-6, { found: 2e-6 })]).oil.sigma).toBeGreaterThan(0.7)
  expect(learn([oil(100e-6, { found: 200e-6 })]).oil.sigma).toBeLessThan(0.25)
})

test('order does not matter; oil and water not told apart are learned together and their sum best', () => {
  const entries = [oil(10e-6, { found: 12e-6 }), oil(40e-6, { found: 90e-6 }), oil(20e-6, { atLeast: 30e-6 })]
  expect(learn(entries.toReversed()).oil.mu).toBeCloseTo(learn(entries).oil.mu, 9)
  const both: Emptying[] = Array.from({ length: 6 }, () => ({
    predicted: { oil: 20e-6, water: 20e-6 },
    all: { found: 80e-6 },
  }))
  const together = learn(both)
  expect(together.oil.sigma).toBeGreaterThan(0.3)
  const next = nextFilling(together, { oil: 20e-6, water: 20e-6 })
  expect(next.mid).toBeGreaterThan(72e-6)
  expect(next.mid).toBeLessThan(84e-6)
  expect(Math.log(next.high / next.low)).toBeLessThan(0.8)
})

test('the next filling between two points far apart: its quantiles are found on either, and between them', () => {
  const twoPoints = (weight: readonly [number, number]) => ({
    points: { oil: Float64Array.of(-4, 4), water: Float64Array.of(0, 0), weight: Float64Array.from(weight) },
  })
  const { low, mid, high } = nextFilling(twoPoints([0.5, 0.5]), { oil: 1, water: 0 })
  // each a bell of 0.25 about ln = -4 and 4: a tenth of all is a fifth of the lower, z = -0.8416
  expect(Math.log(low)).toBeCloseTo(-4 - 0.8416 * 0.25, 3)
  expect(Math.log(high)).toBeCloseTo(4 + 0.8416 * 0.25, 3)
  expect(Math.abs(Math.log(mid))).toBeLessThan(3)
  const most = nextFilling(twoPoints([0.2, 0.8]), { oil: 1, water: 0 })
  // half of all is three eighths of the upper, z = -0.3186
  expect(Math.log(most.mid)).toBeCloseTo(4 - 0.3186 * 0.25, 3)
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

test('a step needs two entries before it and three after, and falls are none', () => {
  const of = (...ml: number[]) => stepUp(ml.map((v) => ({ found: v * 1e-6, predicted: 10e-6 })))
  expect(of(10, 10, 20, 20)).toBeUndefined()
  expect(of(10, 10, 10, 10, 10, 10, 20, 20, 20, 20)).toMatchObject({ from: 6 })
  expect(of(20, 20, 20, 20, 20, 20, 10, 10, 10, 10)!.odds).toBeLessThan(0.2)
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

  test('fillings of either alone are the conjugate update of two correlated normals', () => {
    // Gelman et al., Bayesian Data Analysis, 3.5: precisions add; prior 0.64 (1, rho; rho, 1), readings 0.25^2 each
    const learned = learn([road(10, 20), road(10, 20), track(10, 30)], BLANK, 0)
    const [a, b] = [0.64, 0.64 * DUTIES_ALIKE]
    const det = a * a - b * b
    const [p11, p12, p22] = [a / det + 2 * 16, -b / det, a / det + 16]
    const d = p11 * p22 - p12 * p12
    const [r1, r2] = [2 * 16 * Math.log(2), 16 * Math.log(3)]
    expect(learned.oil.mu).toBeCloseTo((p22 * r1 - p12 * r2) / d, 2)
    expect(learned.track!.mu).toBeCloseTo((p11 * r2 - p12 * r1) / d, 2)
    expect(learned.oil.sigma).toBeCloseTo(Math.sqrt(p22 / d), 2)
    expect(learned.track!.sigma).toBeCloseTo(Math.sqrt(p11 / d), 2)
    expect([learned.oil.entries, learned.track!.entries]).toEqual([3, 1])
  })

  test('a duty that was never emptied after leans on the other by what they have in common', () => {
    const learned = learn([...Array.from({ length: 8 }, () => road(10, 20)), track(0, 1)], BLANK, 0)
    // no filling tells of track: nothing is told apart
    expect(learned.track).toBeUndefined()
    const one = learn([...Array.from({ length: 8 }, () => road(10, 20)), track(1e-9, 2e-9)], BLANK, 1)
    expect(one.track!.mu).toBeGreaterThan(0.7 * one.oil.mu)
    expect(one.track!.sigma).toBeGreaterThan(2 * one.oil.sigma)
  })

  test('mixed fillings, oil and water not told apart, against brute-force integration', () => {
    const entries: Emptying[] = [
      { predicted: { oil: 30e-6, water: 10e-6, track: 20e-6 }, all: { found: 70e-6 } },
      { predicted: { oil: 20e-6, water: 15e-6, track: 2e-6 }, all: { found: 30e-6 } },
      { predicted: { oil: 60e-6, water: 5e-6, track: 55e-6 }, all: { atLeast: 90e-6 } },
    ]
    const learned = learn(entries, BLANK, 0)
    // three logarithms on an even grid, prior and likelihoods written out again
    const n = 61
    const at = (k: number) => -3.5 + (7 * k) / (n - 1)
    const sum = { w: 0, o: 0, t: 0, oo: 0, tt: 0 }
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++)
        for (let k = 0; k < n; k++) {
          const [o, t, w] = [at(i), at(j), at(k)]
          const det = 1 - DUTIES_ALIKE ** 2
          let log = -(o * o - 2 * DUTIES_ALIKE * o * t + t * t) / (2 * 0.64 * det) - (w * w) / (2 * 0.64)
          for (const { predicted: p, all } of entries) {
            const made = (p.oil - p.track!) * Math.exp(o) + p.track! * Math.exp(t) + p.water * Math.exp(w)
            if (all && 'found' in all) log -= Math.log(all.found / made) ** 2 / (2 * 0.0625)
            else if (all && 'atLeast' in all) log += Math.log(normalCdf(-Math.log(all.atLeast / made) / 0.25))
          }
          const weight = Math.exp(log)
          sum.w += weight
          sum.o += weight * o
          sum.t += weight * t
          sum.oo += weight * o * o
          sum.tt += weight * t * t
        }
    const mean = (x: number) => x / sum.w
    expect(learned.oil.mu).toBeCloseTo(mean(sum.o), 2)
    expect(learned.track!.mu).toBeCloseTo(mean(sum.t), 2)
    expect(learned.oil.sigma).toBeCloseTo(Math.sqrt(mean(sum.oo) - mean(sum.o) ** 2), 2)
    expect(learned.track!.sigma).toBeCloseTo(Math.sqrt(mean(sum.tt) - mean(sum.t) ** 2), 2)
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
