/** How often what is promised of the next filling is kept, over simulated cars whose truth is known: methods 7's own statistics. */
import { uniforms } from '../../src/core/random'
import { ENTRY_SIGMA, learn, WET_WALL_M3, type Emptying } from '../../src/core/service/learn'
import { nextFilling } from '../../src/core/service/next-filling'
import { normalQuantile } from '../../src/core/service/normal'
import { STEP_ODDS, stepUp } from '../../src/core/service/trend'
import { checks, type Check } from '../check'

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

const CARS = 300
const SOURCE = 'simulated cars with the scatter of methods 7'

function promises(name: string, habit: (typeof HABITS)[string]): Check[] {
  const cars = Array.from({ length: CARS }, () => car(habit))
  const share = (i: number, of: (t: { inside: boolean; early: boolean }) => boolean) =>
    cars.filter((c) => of(c[i]!)).length / CARS
  // 300 cars tell a share of 0.8 to within 0.046 (two standard deviations)
  return checks(
    'Forecast',
    SOURCE,
    0,
    LENGTHS.flatMap((n, i) => [
      {
        what: `inside the 80 % band, looked at ${name}, ${n} logged`,
        expected: [0.75, 0.87],
        got: share(i, (t) => t.inside),
      },
      {
        what: `full before "check by", looked at ${name}, ${n} logged`,
        expected: [0, 0.15],
        got: share(i, (t) => t.early),
      },
    ]),
  )
}

function steps(): Check[] {
  const entries = (n: number, factor: (i: number) => number) => {
    const truth = Math.exp(0.8 * normal())
    return Array.from({ length: n }, (_, i) => ({
      found: 30e-6 * truth * factor(i) * Math.exp(ENTRY_SIGMA * normal()),
      predicted: 30e-6,
    }))
  }
  const seen = (list: ReturnType<typeof entries>) => (stepUp(list)?.odds ?? 0) >= STEP_ODDS
  let [found, wolf, looks] = [0, 0, 0]
  for (let c = 0; c < 2000; c++) {
    if (seen(entries(12, (i) => (i < 8 ? 1 : 1.6)))) found++
    const calm = entries(12, () => 1)
    for (let n = 5; n <= 12; n++) {
      looks++
      if (seen(calm.slice(0, n))) wolf++
    }
  }
  return checks('Forecast', SOURCE, 0, [
    { what: 'a step of 1.6 seen after four entries', expected: [2 / 3, 1], got: found / 2000 },
    { what: 'a look that cries wolf', expected: [0, 0.02], got: wolf / looks },
  ])
}

export const coverageChecks = (): Check[] => [
  ...Object.entries(HABITS).flatMap(([name, habit]) => promises(name, habit)),
  ...steps(),
]
