/** What emptyings teach, and how often what is then promised is kept: over simulated cars whose truth is known. */
import { uniforms } from '../random'
import {
  BLANK,
  ENTRY_SIGMA,
  learn,
  multiplierRange,
  nextFilling,
  WET_WALL_M3,
  type Amount,
  type Emptying,
} from './learn'
import { normalCdf, normalQuantile } from './normal'
import { STEP_ODDS, stepUp } from './trend'

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

const draw = uniforms(20_261_125)
const normal = () => normalQuantile(draw())
/** How an owner looks: the same distance each time, more or less, told as the share of the bowl that the model expects then. */
const HABITS: Readonly<Record<string, { readonly share: number; readonly apart: boolean }>> = {
  often: { share: 0.15, apart: false },
  'when half full': { share: 0.5, apart: true },
  'late, so that it often overflows': { share: 1.1, apart: false },
  'very often, near dry': { share: 0.07, apart: false },
}
const BOWL = 90e-6
const LENGTHS = [0, 1, 2, 4, 8]

/** One car of a habit: at each log length whether the next filling lay in the band, and whether it came before "check by". */
function car(habit: { share: number; apart: boolean }): { inside: boolean; early: boolean }[] {
  const truth = { oil: Math.exp(0.8 * normal()), water: Math.exp(0.8 * normal()) }
  const rate = { oil: 6e-6, water: 4e-6 }
  // weather and driving move both; each moves a little on its own as well
  const interval = () => {
    const both = normal()
    const scatter = () => Math.exp(ENTRY_SIGMA * (0.8 * both + 0.6 * normal()))
    const [o, w] = [scatter(), scatter()]
    return { oil: truth.oil * rate.oil * o, water: truth.water * rate.water * w }
  }
  const log: Emptying[] = []
  const told: { inside: boolean; early: boolean }[] = []
  for (let n = 0; n <= 8; n++) {
    if (LENGTHS.includes(n)) {
      const next = nextFilling(learn(log), rate)
      const real = interval()
      const sum = real.oil + real.water
      told.push({ inside: sum >= next.low && sum <= next.high, early: sum > next.high })
    }
    const units = ((habit.share * BOWL) / (rate.oil + rate.water)) * Math.exp(0.3 * normal())
    const real = interval()
    // some of it stays on the wall, some of what stayed before comes along
    const all = (real.oil + real.water) * units + WET_WALL_M3 * 0.7 * normal()
    const predicted = { oil: rate.oil * units, water: rate.water * units }
    const water = (all * real.water) / (real.oil + real.water)
    if (all >= BOWL) log.push({ predicted, all: { atLeast: BOWL } })
    else if (all < 0.5e-6) log.push({ predicted, all: { atMost: WET_WALL_M3 } })
    else if (habit.apart) log.push({ predicted, oil: { found: all - water }, water: { found: water } })
    else log.push({ predicted, all: { found: all } })
  }
  return told
}

const CARS = 400
test.each(Object.entries(HABITS))(
  'looked at %s: the 80 %% band holds and one in ten comes early, at every length of log',
  (_, habit) => {
    const cars = Array.from({ length: CARS }, () => car(habit))
    LENGTHS.forEach((length, i) => {
      const share = (of: (t: { inside: boolean; early: boolean }) => boolean) =>
        cars.filter((c) => of(c[i]!)).length / CARS
      const [inside, early] = [share((t) => t.inside), share((t) => t.early)]
      // 400 cars of a habit tell a share of 0.8 to within 0.04 (two standard deviations), all 1 600 to within 0.02
      expect([length, inside > 0.75 && inside < 0.86, early < 0.135]).toEqual([length, true, true])
    })
  },
)

test('a step of 1.6 is seen two times in three after four entries, and one look in fifty at most cries wolf', () => {
  const entries = (steps: (i: number) => number) => (n: number) => {
    const truth = Math.exp(0.8 * normal())
    return Array.from({ length: n }, (_, i) => ({
      found: 30e-6 * truth * steps(i) * Math.exp(ENTRY_SIGMA * normal()),
      predicted: 30e-6,
    }))
  }
  const seen = (list: ReturnType<ReturnType<typeof entries>>) => (stepUp(list)?.odds ?? 0) >= STEP_ODDS
  let [found, wolf, looks] = [0, 0, 0]
  for (let c = 0; c < 2000; c++) {
    if (seen(entries((i) => (i < 8 ? 1 : 1.6))(12))) found++
    const calm = entries(() => 1)(12)
    for (let n = 5; n <= 12; n++) {
      looks++
      if (seen(calm.slice(0, n))) wolf++
    }
  }
  expect(found / 2000).toBeGreaterThan(2 / 3)
  expect(wolf / looks).toBeLessThan(0.02)
})
