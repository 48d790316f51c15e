/** How often what is promised of the next filling is kept, over simulated cars whose truth is known: methods 7's own statistics. */
import { uniforms } from '../../src/core/random'
import { learn } from '../../src/core/service/learn'
import { nextFilling } from '../../src/core/service/next-filling'
import { normalQuantile } from '../../src/core/service/normal'
import { BLANK, PRIOR_SIGMA, SCATTER, TRACK_SIGMA, WET_WALL_M3, type Emptying } from '../../src/core/service/prior'
import { bruteFill } from '../brute-fill'
import { checks, type Check } from '../check'

const draw = uniforms(20_261_129)
const normal = () => normalQuantile(draw())
/** Student's t of 4 degrees: a normal over the root of a mean of four squared normals. */
const student = () => normal() / Math.sqrt((normal() ** 2 + normal() ** 2 + normal() ** 2 + normal() ** 2) / 4)

/** How an owner looks, and what his car and his weather do. */
export type Habit = {
  /** the same distance each time, more or less, told as the share of the bowl that the model expects then */
  readonly share: number
  readonly apart?: boolean
  /** oil of what the model expects in a mean month */
  readonly oilShare?: number
  /** water swings over the year by so much either way */
  readonly season?: number
  /** spread of the truth's multipliers, of oil and of water */
  readonly sigma?: number
  /** scatter of every interval; drawn from its prior where it is not said */
  readonly scatter?: number
}
export const HABITS: Readonly<Record<string, Habit>> = {
  'looked at often': { share: 0.15 },
  'looked at when half full, oil and water told apart': { share: 0.5, apart: true },
  'looked at late, so that it often overflows': { share: 1.1 },
  'looked at very often, near dry': { share: 0.07 },
  'water swings threefold over the year': { share: 0.4, oilShare: 0.35, season: 3 },
  'on track': { share: 0.4, oilShare: 1, sigma: TRACK_SIGMA },
  'intervals alike, scatter 0.15': { share: 0.4, scatter: 0.15 },
  'intervals unlike, scatter 0.5': { share: 0.4, scatter: 0.5 },
}
const BOWL = 90e-6
const RATE = 10e-6
const LENGTHS = [2, 4, 8]

type ForecastCheck = { readonly inside: boolean; readonly early: boolean }

/** One car of a habit: at each length of its log whether the next filling lay in the band, and whether it was full before "check by". */
function car({ share, apart, oilShare = 0.6, season = 1, sigma = PRIOR_SIGMA, scatter }: Habit): ForecastCheck[] {
  const truth = { oil: Math.exp(sigma * normal()), water: Math.exp(PRIOR_SIGMA * normal()) }
  const s = scatter ?? SCATTER.median * Math.exp(SCATTER.sigma * normal())
  // what the model expects a unit of driving to make, by the time of the year, and what it makes
  const rateAt = (turn: number) => ({
    oil: RATE * oilShare,
    water: RATE * (1 - oilShare) * season ** Math.cos(2 * Math.PI * turn),
  })
  const made = (rate: { oil: number; water: number }) => {
    const stray = Math.exp(s * student())
    return { oil: truth.oil * rate.oil * stray, water: truth.water * rate.water * stray }
  }
  const prior = { ...BLANK, oil: { mu: 0, sigma } }
  const log: Emptying[] = []
  const forecasts: ForecastCheck[] = []
  let turn = draw()
  for (let n = 0; n <= LENGTHS.at(-1)!; n++) {
    const rate = rateAt(turn)
    if (LENGTHS.includes(n)) {
      const next = nextFilling(learn(log, prior), rate)
      const real = made(rate)
      const sum = real.oil + real.water
      forecasts.push({ inside: sum >= next.low && sum <= next.high, early: sum > next.high })
    }
    const units = ((share * BOWL) / (rate.oil + rate.water)) * Math.exp(0.3 * normal())
    const real = made(rate)
    // some of it stays on the wall, some of what stayed before comes along
    const all = (real.oil + real.water) * units + WET_WALL_M3 * 0.7 * normal()
    const predicted = { oil: rate.oil * units, water: rate.water * units }
    const water = (all * real.water) / (real.oil + real.water)
    if (all >= BOWL) log.push({ predicted, all: { atLeast: BOWL } })
    else if (all < 0.5e-6) log.push({ predicted, all: { atMost: WET_WALL_M3 } })
    else if (apart) log.push({ predicted, oil: { found: all - water }, water: { found: water } })
    else log.push({ predicted, all: { found: all } })
    turn += 0.22
  }
  return forecasts
}

/** Shares of cars whose next filling lay in the band, and came too soon, at each length of the log. */
export function kept(habit: Habit, cars: number): readonly { readonly inside: number; readonly early: number }[] {
  const all = Array.from({ length: cars }, () => car(habit))
  return LENGTHS.map((_, i) => ({
    inside: all.filter((c) => c[i]!.inside).length / cars,
    early: all.filter((c) => c[i]!.early).length / cars,
  }))
}

const CARS = 100
const SOURCE = 'simulated cars with the scatter of methods 7'

function promises(name: string, habit: Habit): Check[] {
  const shares = kept(habit, CARS)
  const mean = (of: (s: (typeof shares)[number]) => number) => shares.reduce((sum, s) => sum + of(s), 0) / shares.length
  // 100 cars at three lengths tell a share of 0.8 to within 0.05 (two standard deviations)
  const inside = habit.scatter === undefined ? ([0.75, 0.87] as const) : ([0.55, 0.97] as const)
  return checks('Forecast', SOURCE, 0, [
    { what: `inside the 80 % band: ${name}`, expected: inside, got: mean((s) => s.inside) },
    {
      what: `full before "check by": ${name}`,
      expected: [0, habit.scatter === undefined ? 0.15 : 0.22],
      got: mean((s) => s.early),
    },
  ])
}

const ml = 1e-6
/** Logs of three entries by the share of oil in them and the truth's multiplier, one of them run over or dry. */
function againstBrute(): Check[] {
  const cases = [0, 0.4, 1].flatMap((share) =>
    [0.2, 1, 5].map((times) => {
      const p = (v: number) => ({ oil: v * share * ml, water: v * (1 - share) * ml })
      const log: Emptying[] = [
        { predicted: p(20), all: { found: 20 * times * ml } },
        times < 1
          ? { predicted: p(12), all: { atMost: WET_WALL_M3 } }
          : { predicted: p(30), all: { found: 28 * times * ml } },
        times > 1
          ? { predicted: p(25), all: { atLeast: 90 * ml } }
          : { predicted: p(25), all: { found: 26 * times * ml } },
      ]
      return { name: `oil ${100 * share} %, ${times} x the model`, log, rate: p(20) }
    }),
  )
  const track: readonly Emptying[] = [
    { predicted: { oil: 30 * ml, water: 0, track: 20 * ml }, all: { found: 70 * ml } },
    { predicted: { oil: 20 * ml, water: 0, track: 2 * ml }, all: { found: 30 * ml } },
    { predicted: { oil: 60 * ml, water: 0, track: 55 * ml }, all: { atLeast: 90 * ml } },
  ]
  return [...cases, { name: 'road and track mixed', log: track, rate: track[0]!.predicted }].flatMap(
    ({ name, log, rate }) => {
      const slow = bruteFill(log, rate, PRIOR_SIGMA, 45)
      const known = learn(log, BLANK, 0)
      const fast = nextFilling(known, rate)
      return checks('Learning', 'the same integral by brute force (verification/brute-fill.ts)', 0.02, [
        ...(['low', 'mid', 'high'] as const).map((q) => ({
          what: `next filling, ${q}: ${name}`,
          unit: 'ml',
          expected: slow[q] / ml,
          got: fast[q] / ml,
        })),
        {
          what: `probability of a change: ${name}`,
          expected: [slow.changed - 0.01, slow.changed + 0.01] as const,
          got: known.changes.reduce((sum, c) => sum + c.any, 0),
        },
      ])
    },
  )
}

export const coverageChecks = (): Check[] => [
  ...Object.entries(HABITS).flatMap(([name, habit]) => promises(name, habit)),
  ...againstBrute(),
]
