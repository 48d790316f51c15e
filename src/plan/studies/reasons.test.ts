/** Why one plan stands before another: the figures that a reason names, of two plans with facts made up for the purpose. */
import { unitFormatter } from '../document/words'
import { newBuild } from '../schools/new-build'
import { MARGIN, MEASURE_PARTS, type MeasurePart, type PlanMeasure } from './measure-parts'
import { because, gains, reasonText, type Measured } from './reasons'

const say = unitFormatter(
  newBuild({ name: 'x', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' }).units,
)
type Facts = PlanMeasure['facts']
const FACTS: Facts = {
  intakeOil: 3e-12,
  unwashed: 1,
  highest: 1000,
  lowest: -500,
  worstState: undefined,
  vented: 0,
  looks: 2,
  interval: 5e6,
  drain: undefined,
  effort: { hours: 3, price: 200, means: [] } as unknown as Facts['effort'],
  missing: [],
  refused: [],
  worstFailure: undefined,
  stops: 0,
  fixes: 0,
}
const measured = (name: string, facts: Partial<Facts>, points: Partial<Record<MeasurePart, number>> = {}): Measured => {
  const all = Object.fromEntries(MEASURE_PARTS.map((p) => [p, points[p] ?? 0])) as PlanMeasure['points']
  const total = Object.values(all).reduce((sum, x) => sum + x, 0)
  return { name, measure: { points: all, total, facts: { ...FACTS, ...facts } } }
}
/** A part's reason, of one plan against another. */
const reason = (part: MeasurePart, a: Partial<Facts>, b: Partial<Facts>) =>
  reasonText(part, measured('One', a), measured('Another', b), say)

test.each([
  [0.4, /^hardly ever$/],
  [0.5, /^once a year$/],
  [1.4, /^once a year$/],
  [1.5, /^2 times a year$/],
  [12.4, /^12 times a year$/],
])('%s looks a year are told as a person counts them', (looks, words) => {
  expect(/another (.*)$/.exec(reason('looks', { looks: 0 }, { looks }))![1]).toMatch(words)
  expect(/^looked after (.*), another/.exec(reason('looks', { looks }, { looks: 0 }))![1]).toMatch(words)
})

test('one that is never looked after says never', () => {
  expect(reason('looks', { looks: 0 }, { looks: 5 })).toMatch(/^looked after never, another 5 times/)
})

test('hours and money are rounded as estimates are; nothing to do and nothing to buy are said so', () => {
  const effort = (hours: number, price: number) => ({
    effort: { hours, price, means: [] } as unknown as Facts['effort'],
  })
  expect(reason('work', effort(3.44, 0), effort(12.4, 0))).toMatch(/^about 3.4 h .*against 12 h /)
  expect(reason('work', effort(0, 0), effort(10, 0))).toMatch(/^no work .*against 10 h /)
  expect(reason('price', effort(0, 98), effort(0, 347))).toMatch(/^some 100 of parts, against 350 /)
  expect(reason('price', effort(0, 0), effort(0, 62))).toMatch(/^nothing to buy, against 60 /)
})

test('a share of the gas is told in hundredths, a trace as under one', () => {
  expect(reason('law', { vented: 0 }, { vented: 0.004 })).toMatch(/^sealed.*lets under 1 % /)
  expect(reason('law', { vented: 0.01 }, { vented: 0.254 })).toMatch(/^1 % of its gas .*against 25 % /)
})

test('the crankcase is told by its high end; where both stand alike, by its low one', () => {
  expect(reason('crankcase', { highest: 400, worstState: 'boost' }, { highest: undefined })).toMatch(
    /\+0\.40 kPa in boost, against no answer/,
  )
  expect(reason('crankcase', { lowest: -1000 }, { lowest: -4000 })).toMatch(/−1\.0 kPa.*against .*−4\.0 kPa/)
})

test('what decides is the part with the most points between them; within the margin they are as good as each other', () => {
  const ahead = measured('One', {}, { looks: 1, oil: 2, work: 3 })
  const behind = measured('Another', { looks: 30, stops: 1, fixes: 2 }, { looks: 4, oil: 2.04, work: 2, findings: 8 })
  expect(gains(ahead.measure, behind.measure).map((g) => [g.part, g.by])).toEqual([
    ['findings', 8],
    ['looks', 3],
  ])
  expect(because(ahead, behind, say)).toMatch(/^nothing to mend, against 3 /)
  const near = measured('Near', {}, { work: MARGIN })
  expect(because(measured('One', {}), near, say)).toMatch(/^as good as near: about 3 h /)
  expect(because(near, near, say)).toBe('as good as near')
  expect(because(measured('One', {}), measured('Far', {}, { work: MARGIN + 0.1 }), say)).toMatch(/^about 3 h/)
})
