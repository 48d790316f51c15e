import { calibrate, multiplierAt, normalQuantile, risingTrend } from './calibrate'
import { gathered, rateRange, untilFull } from './fill'
import { ACTIVITIES, ACTIVITY_FACTS, stateShare } from './rates'
import { STATE_IDS } from '../engine/states'

const found = (...values: number[]) => values.map((v) => ({ found: v, predicted: 10 }))

test('with nothing logged the multiplier is its prior: median 1, ten-to-ninety a factor of 2.8 either way', () => {
  const m = calibrate([])
  expect(multiplierAt(m, 0.5)).toBe(1)
  expect(multiplierAt(m, 0.9)).toBeCloseTo(Math.exp(0.8 * 1.2816), 3)
})

test('each emptying pulls the multiplier to what was found and narrows it', () => {
  const one = calibrate(found(20))
  const four = calibrate(found(20, 21, 19, 20))
  expect(one.mu).toBeCloseTo((Math.log(2) * 16) / (16 + 1 / 0.64), 9)
  expect(Math.exp(four.mu)).toBeGreaterThan(Math.exp(one.mu))
  expect(four.sigma).toBeLessThan(one.sigma)
})

test('a dry can or a drive of no length teaches nothing', () => {
  expect(
    calibrate([
      { found: 0, predicted: 10 },
      { found: 5, predicted: 0 },
    ]),
  ).toEqual(calibrate([]))
})

test('the normal quantile agrees with tables', () => {
  // Abramowitz & Stegun, table 26.5 (from memory)
  expect(normalQuantile(0.5)).toBeCloseTo(0, 9)
  expect(normalQuantile(0.9)).toBeCloseTo(1.281551566, 8)
  expect(normalQuantile(0.975)).toBeCloseTo(1.959963985, 8)
  expect(normalQuantile(0.001)).toBeCloseTo(-3.090232306, 7)
})

test('three emptyings above the band are a trend, two are not, and neither is a car that always made much', () => {
  expect(risingTrend(found(10, 10, 10, 22, 24, 25))).toBe(true)
  expect(risingTrend(found(10, 10, 10, 10, 24, 25))).toBe(false)
  expect(risingTrend(found(25, 24, 26, 25, 24, 25))).toBe(false)
})

test('the forecast runs from the fast tenth to the slow tenth', () => {
  const rate = rateRange({ oil: 1e-5, water: 0, oilMultiplier: calibrate([]), waterMultiplier: calibrate([]) })
  expect(rate.mid / 1e-5).toBeCloseTo(1, 2)
  expect(rate.high / rate.mid).toBeCloseTo(Math.exp(0.8 * 1.2816), 1)
  expect(untilFull({ low: 1, mid: 2, high: 4 }, 8)).toEqual({ low: 2, mid: 4, high: 8 })
  expect(gathered({ low: 1, mid: 2, high: 4 }, 3)).toEqual({ low: 3, mid: 6, high: 12 })
  expect(untilFull({ low: 0, mid: 0, high: 0 }, 8).low).toBe(Infinity)
})

test('quantiles of oil and water together agree with a seeded draw of 200 000', () => {
  let seed = 1
  const uniform = () => {
    seed = (seed * 48271) % 2147483647
    return seed / 2147483647
  }
  const [oil, water] = [calibrate(found(20, 22)), calibrate([])]
  const draws = Float64Array.from(
    { length: 200_000 },
    () => 1e-5 * multiplierAt(oil, uniform()) + 2e-5 * multiplierAt(water, uniform()),
  ).toSorted()
  const r = rateRange({ oil: 1e-5, water: 2e-5, oilMultiplier: oil, waterMultiplier: water })
  for (const [q, got] of [
    [0.1, r.low],
    [0.5, r.mid],
    [0.9, r.high],
  ] as const)
    expect(Math.abs(got / draws[Math.floor(q * 200_000)]! - 1)).toBeLessThan(0.02)
})

test('hours of every activity add up, with or without a charger', () => {
  for (const a of ACTIVITIES) {
    expect(STATE_IDS.reduce((s, id) => s + stateShare(a, id, STATE_IDS), 0)).toBeCloseTo(1, 9)
    const na = ['idle', 'cruise', 'pull', 'overrun'] as const
    expect(na.reduce((s, id) => s + stateShare(a, id, na), 0)).toBeCloseTo(1, 9)
    expect(ACTIVITY_FACTS[a].kmPerHour).toBeGreaterThan(0)
  }
})
