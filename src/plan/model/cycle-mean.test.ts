/** An engine whose pistons pump its crankcase, told by the means of a turn. */
import { makeEvaluator } from './evaluator'
import { finish } from '@/core/job'
import { exchanged } from '@/core/pulsation/exchange'
import { figuresOf } from './figures'
import { analyseOverCycle } from '../analyse-over-cycle'
import { volumeRange } from '@/core/pulsation/crankcase'
import { engineModel, pulsates, pumpingOf } from './engine'
import { resolve } from './resolve'
import { isCycleMean, oilSum, solvedIn, type SolvedState } from './results'
import { newBuild } from '../schools/new-build'
import { badNumbers } from '../testing'
import { judgeState } from './limits'
import { expectedIn } from '../studies/proof'
import { pulse } from './pulsation'
import { ranges } from '../studies/ranges'
import { cycleMeans } from './cycle-mean'

const DAY = '2026-01-01'
const single = (school: string) =>
  newBuild({ name: 'x', engineClass: 'single', use: 'street', ambientC: 10, units: 'metric', school })
const vented = single('vented-can')
const still = figuresOf(vented)
const means = finish(cycleMeans(vented, still, makeEvaluator()))
const stateOf = (f: typeof means, id: string) => solvedIn(f, id as 'pull')!

test('every state bears the mean of its turn, and its swing', () => {
  expect(isCycleMean(means)).toBe(true)
  expect(isCycleMean(still)).toBe(false)
  expect(badNumbers(means)).toEqual([])
  for (const s of means.states as SolvedState[]) {
    const p = finish(pulse(vented, s.id))
    if (!p.ok) throw new Error(p.reason)
    expect(s.crankcaseGauge).toBeCloseTo(p.value.mean - p.value.ambientPa, 0)
    expect(s.cycle!.least).toBeLessThan(s.crankcaseGauge)
    expect(s.cycle!.peak).toBeGreaterThan(s.crankcaseGauge)
  }
})

test('over a turn that repeats, as much gas leaves each joint as comes to it', () => {
  const s = stateOf(means, 'pull')
  const r = resolve(vented.variants[0]!)
  const sum = new Map<string, number>()
  const add = (joint: string, kg: number) => sum.set(joint, (sum.get(joint) ?? 0) + kg)
  const p = finish(pulse(vented, 'pull'))
  if (!p.ok) throw new Error(p.reason)
  for (const e of p.value.network.elements) {
    add(e.to, s.passages[e.id]!.flow)
    add(e.from, -s.passages[e.id]!.flow)
  }
  const home = r.topology.jointOf.get('crankcase') ?? r.topology.nodeOf.get('crankcase')!
  for (const [joint, kg] of sum) {
    if (p.value.network.nodes[joint]?.p !== undefined) continue
    expect(Math.abs(kg + (joint === home ? s.blowBy : (p.value.network.nodes[joint]?.source ?? 0)))).toBeLessThan(
      0.02 * s.blowBy,
    )
  }
})

test('what is breathed to and fro brings oil to a can, more than the mean flow alone', () => {
  for (const id of ['cruise', 'pull']) {
    const [a, b] = [stateOf(still, id), stateOf(means, id)].map((s) => oilSum(s.cans.can!.caught))
    expect(b!).toBeGreaterThan(a!)
    expect(b!).toBeLessThan(30 * a!)
  }
  // nothing is caught that did not come
  for (const s of means.states as SolvedState[])
    for (const c of Object.values(s.cans)) expect(oilSum(c.caught)).toBeLessThanOrEqual(oilSum(c.oilIn))
})

test('water is shown along the way that most of it goes, never below zero where gas breathes backwards', () => {
  for (const s of means.states) {
    if (!s.solved) continue
    for (const p of Object.values(s.passages)) expect(p.water).toBeGreaterThanOrEqual(-1e-15)
  }
})

test('a hose that holds a whole breath exchanges nothing, a short one all but its own gas', () => {
  // 2 g/s breathed at 50 turns a second is 40 mg a turn (by hand)
  expect(exchanged(2e-3, 50, 4.1e-5)).toBe(0)
  expect(exchanged(2e-3, 50, 1e-5)).toBeCloseTo(1.5e-3, 9)
  expect(exchanged(2e-3, 50, 0)).toBe(2e-3)
  expect(exchanged(0, 50, 0)).toBe(0)
})

test('verdicts go by the turn: a return that still flow calls pressure is suction', () => {
  const b = single('vented-return')
  const whole = finish(analyseOverCycle(b, DAY))
  expect(solvedIn(figuresOf(b), 'pull')!.crankcaseGauge).toBeGreaterThan(0)
  expect(solvedIn(whole, 'pull')!.crankcaseGauge).toBeLessThan(-2000)
  const pressure = whole.verdicts.filter((v) => v.rule === 'crankcase-pressure')
  expect(pressure.map((v) => v.subject)).not.toContain('high')
  // suction that the pistons exceed at every turn is watched and stops nothing
  for (const s of whole.states as SolvedState[]) if (s.crankcaseGauge < 0) expect(judgeState(s)).not.toBe('stop')
})

test('an engine whose pistons cancel is told on still flow', () => {
  const four = newBuild({ name: 'x', engineClass: 'i4-na', use: 'street', ambientC: 10, units: 'metric' })
  const figures = figuresOf(four)
  expect(finish(cycleMeans(four, figures, makeEvaluator()))).toBe(figures)
})

test('proof expects the mean of the turn, and the air that the pistons breathe counts as fresh', () => {
  const whole = finish(analyseOverCycle(vented, DAY))
  const drawn = finish(ranges(vented, 40)).states
  for (const d of drawn) {
    const s = solvedIn(whole, d.id)!
    const { low, mid, high } = expectedIn(s, d)
    expect(mid).toBe(s.crankcaseGauge)
    expect(high - low).toBeGreaterThanOrEqual(d.crankcase.high - d.crankcase.low - 1e-9)
    expect(expectedIn(solvedIn(still, d.id), d)).toEqual(d.crankcase)
  }
  expect(whole.verdicts.find((v) => v.rule === 'fresh-air')).toMatchObject({ severity: 'ok' })
})

test('a four whose pistons move in pairs pumps as methods 4 say, an even one does not', () => {
  const even = newBuild({ name: 'x', engineClass: 'f4-turbo', use: 'street', ambientC: 10, units: 'metric' }).engine
  const paired = { ...even, layout: 'vee', pistons: 'paired', pistonPhaseDeg: 70 } as const
  expect([pulsates(even), pulsates(paired), pulsates({ ...paired, cylinders: 6 })]).toEqual([false, true, false])
  const { least, most } = volumeRange(pumpingOf(paired, engineModel({ engine: paired, site: vented.site }).facts))
  // methods 4: a paired-pin V4 swings by 82 % of its displacement (two pairs, 70 degrees apart)
  expect((most - least) / (paired.displacementCc * 1e-6)).toBeCloseTo(0.82, 1)
})
