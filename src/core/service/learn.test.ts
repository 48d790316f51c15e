/** What emptyings teach. How often what is then promised is kept, over simulated cars, is in `verification/checks/coverage.ts`. */
import { BLANK, learn, multiplierRange, nextFilling, type Amount, type Emptying } from './learn'
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
