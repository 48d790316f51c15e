/** What a fact that is 2 % off does to offers: to one that is worked out, and to a choice with figures made up for the purpose. */
import { activeVariant } from '../edit/edit'
import { makeEvaluator } from '../model/evaluator'
import { newBuild } from '../schools/new-build'
import type { PlanOffer } from './judge-plan'
import { placingOf } from './propose'
import { smallErrorEffects, replacementNotes, type SmallErrorEffects } from './small-errors'
import { planTrial } from './tried-plan'
import { assumedWishes, WALL_NAMES } from './wishes'

const build = newBuild({ name: 'Ask', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
const wishes = { ...assumedWishes(build), mostLooks: Infinity }

test('more blow-by brings more oil and pressure, more driven more looks, each by some hundredths; less the other way', () => {
  const plan = activeVariant(build)
  const trial = planTrial(build, makeEvaluator())
  const { figures } = trial.goOn(trial.begin([0], plan), plan, wishes)
  const [moreGas, lessGas, moreDriven, lessDriven] = smallErrorEffects({ build, genome: [0] }, wishes).map((effect) => {
    if ('stopped' in effect) throw new Error(effect.stopped)
    return effect
  })
  expect(moreGas!.figures.oil / figures.oil).toBeGreaterThan(0.005)
  expect(moreGas!.figures.oil / figures.oil).toBeLessThan(0.1)
  expect(moreGas!.figures.pressure).toBeGreaterThan(5)
  expect(moreGas!.points).toBeGreaterThan(0)
  expect(lessGas!.figures.oil).toBeLessThan(0)
  expect(lessGas!.points).toBeLessThan(0)
  expect(moreDriven!.figures.looks / figures.looks).toBeCloseTo(0.02)
  expect(lessDriven!.figures.looks / figures.looks).toBeCloseTo(-0.02)
  for (const effect of [moreGas, moreDriven]) expect(effect!.figures).toMatchObject({ hours: 0, price: 0 })
  // at the builder's own limit a can that fills sooner is looked at too often, whatever fills it
  const atLimit = { ...wishes, mostLooks: figures.looks * 1.01 }
  const stops = smallErrorEffects({ build, genome: [0] }, atLimit).map((s) => ('stopped' in s ? s.stopped : undefined))
  expect(stops).toEqual([WALL_NAMES.looks, undefined, WALL_NAMES.looks, undefined])
})

/** An offer of a circuit with its points; each is the least in something, so that none outdoes another. */
const offer = (circuit: number, total: number): PlanOffer => ({
  genome: [circuit],
  circuit: `c${circuit}`,
  name: `Circuit ${circuit}`,
  differs: [],
  build,
  figures: { oil: 1e-11 * (10 - circuit), pressure: 100 * circuit, looks: 2, hours: 5, price: 200 },
  measure: { total } as PlanOffer['measure'],
  findings: [],
  place: undefined,
})
const none = { oil: 0, pressure: 0, looks: 0, hours: 0, price: 0 }
const still: SmallErrorEffects = Array.from({ length: 4 }, () => ({ figures: none, points: 0 }))
/** Nothing changes but with less driven, which is the last. */
const lastOnly = (last: SmallErrorEffects[number]): SmallErrorEffects => [...still.slice(0, 3), last]
const stopped = { stopped: WALL_NAMES.looks }

test('who would be shown instead is named, and who would not be shown for nobody; one that stays says nothing', () => {
  const all = [1, 2, 3, 4, 5, 6].map((circuit) => offer(circuit, 10 * circuit))
  const { shown } = placingOf({ judged: all, placed: new Map() })
  // the best by points, by oil and by pressure, then by points
  expect(shown.map((o) => o.circuit)).toEqual(['c1', 'c2', 'c3', 'c4', 'c6'])
  const saysWith = (circuit: string, last: SmallErrorEffects[number]) => {
    const effects = new Map(all.map((o) => [o, o.circuit === circuit ? lastOnly(last) : still] as const))
    expect(placingOf({ judged: all, placed: new Map(), effects }).replaced).toEqual(replacementNotes(shown, effects))
    return [...replacementNotes(shown, effects)]
  }
  expect(saysWith('c4', { figures: none, points: 9 })).toEqual([])
  expect(saysWith('c4', { figures: none, points: 11 })).toEqual([
    ['Circuit 4', expect.stringMatching(/2 % less driven.*“Circuit 5” would be shown/)],
  ])
  // what would stop it is said too
  const inPlace = expect.stringMatching(
    /less driven a year it would ask to be looked at too often: “Circuit 5” would be shown/,
  )
  expect(saysWith('c4', stopped)).toEqual([['Circuit 4', inPlace]])
  const few = all.slice(0, 3)
  const notesOf = (second: SmallErrorEffects[number]) => [
    ...replacementNotes(few, new Map(few.map((o, k) => [o, k === 1 ? lastOnly(second) : still] as const))),
  ]
  expect(notesOf(stopped)).toEqual([['Circuit 2', expect.stringMatching(/looked at too often\.$/)]])
  // cheaper than the first by little, which the error takes away
  const other = { ...offer(6, 12), figures: { ...offer(1, 10).figures, oil: 12e-11, price: 197 } }
  const dearer = lastOnly({ figures: { ...none, price: 2.5 }, points: 0 })
  const effects = new Map([...few, other].map((o) => [o, o === other ? dearer : still] as const))
  const asGood = expect.stringContaining('“Circuit 1” would be as good or better in everything')
  expect([...replacementNotes([...few, other], effects)]).toEqual([['Circuit 6', asGood]])
  // one whose effects are not known stays as it is
  expect(replacementNotes(few, new Map(few.map((o) => [o, undefined]))).size).toBe(0)
})

test('one that would not be shown if differences twice as large counted as none says so, and beside which', () => {
  const all = [1, 2, 3, 4, 5].map((circuit) => offer(circuit, 10 * circuit))
  const notesWith = (more: readonly PlanOffer[]) => {
    const offers = [...all, ...more]
    const { shown } = placingOf({ judged: offers, placed: new Map() })
    for (const o of more) expect(shown).toContain(o)
    return [...replacementNotes(shown, new Map(offers.map((o) => [o, still])))]
  }
  expect(notesWith([])).toEqual([])
  // cheaper than the first by what is hardly worth choosing by, and worse in the rest
  const other = (less: number): PlanOffer => ({
    ...offer(6, 12),
    figures: { ...offer(1, 10).figures, oil: 12e-11, price: 200 - less },
  })
  expect(notesWith([other(1.5)])).toEqual([
    ['Circuit 6', expect.stringContaining('“Circuit 1” is as good or nearly so')],
  ])
  expect(notesWith([other(2.5)])).toEqual([])
})
