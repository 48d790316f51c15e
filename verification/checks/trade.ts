/** What builders find in their cans, against what is told of such engines: common practice, no source. */
import { analyse } from '../../src/plan/analyse'
import { ENGINE_CLASSES, type EngineClass } from '../../src/plan/catalogue/engines'
import { newBuild } from '../../src/plan/schools/new-build'
import { checks, type Check } from '../check'

const SOURCE = 'common practice, no source'
/** Middles may lie so far off what is found. */
const OFF = 2.5
const ml = 1e6

function cansOf(engineClass: EngineClass, school: string, use: 'street' | 'track') {
  const build = newBuild({ name: 'x', engineClass, use, ambientC: 15, units: 'metric', school })
  return analyse(build, '2026-06-01').cans
}
/** ml a session, likely. */
const session = (engineClass: EngineClass, school: string): number => {
  const can = cansOf(engineClass, school, 'track')[0]!
  return (can.bowlM3 / can.sessions.mid) * ml
}
const geometricMean = (values: readonly number[]): number =>
  Math.exp(values.reduce((sum, v) => sum + Math.log(v), 0) / values.length)

export function tradeChecks(): Check[] {
  // oil a 1 000 km on the street, over all classes with a can on each side
  const street = ENGINE_CLASSES.map(({ key }) => cansOf(key, 'both-sides', 'street'))
  const oil = (i: number) => street.map((cans) => cans[i]!.perMetre.oil * 1e6 * ml)
  const calm = ENGINE_CLASSES.flatMap((c, i) =>
    c.induction === 'na' && c.sump !== 'dry' ? [street[i]![1]!.perMetre.oil / street[i]![0]!.perMetre.oil] : [],
  )
  const within = (low: number, high: number) => [low / OFF, high * OFF] as const
  return checks('Trade', SOURCE, 0, [
    {
      what: 'strong eight on track, vacuum side',
      unit: 'ml a session',
      expected: within(22, 34),
      got: session('v8-na', 'both-sides'),
    },
    {
      what: 'strong six on track, vented can',
      unit: 'ml a session',
      expected: within(10, 60),
      got: session('i6-strong', 'vented-can'),
    },
    {
      what: 'street, vacuum side, mean of all classes',
      unit: 'ml a 1 000 km',
      expected: within(4, 20),
      got: geometricMean(oil(0)),
    },
    { what: 'street, breather side over vacuum side, unboosted', expected: [0, 0.2], got: geometricMean(calm) },
  ])
}
