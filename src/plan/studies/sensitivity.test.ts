/** What moves a figure most, against every fact raised one by one and the whole analysis worked out again. */
import { finish } from '@/core/job'
import { analyse } from '../analyse'
import { perform } from '../edit/edit-builders'
import { readFigure, type FigureRef } from '../explain/figures'
import { makeEvaluator } from '../model/evaluator'
import { newBuild } from '../schools/new-build'
import { candidatesOf, influences } from './sensitivity'

const DAY = '2026-11-25'
const five = newBuild({
  name: 'x',
  engineClass: 'i5-turbo',
  use: 'street',
  ambientC: 12,
  units: 'metric',
  school: 'both-sides',
})

/** The same with one emptying in its log. */
const emptied = {
  ...five,
  log: [
    { id: '1', date: '2026-01-01', kind: 'fitted', odometerKm: 1000, part: 'breather-can' },
    { id: '2', date: '2026-05-01', kind: 'emptied', odometerKm: 4000, part: 'breather-can', ml: 30, waterMl: 30 },
  ],
} as typeof five

test.each([
  [five, { kind: 'crankcase', state: 'boost' }],
  [five, { kind: 'oil', id: 'breather', state: 'boost' }],
  [five, { kind: 'flow', id: 'suction', state: 'idle' }],
  [five, { kind: 'intakeOil' }],
  [emptied, { kind: 'distance', id: 'breather-can' }],
] as const satisfies readonly (readonly [typeof five, FigureRef])[])(
  '%#: as finite differences of the whole analysis have it',
  (b, ref) => {
    const read = (build: typeof five) => readFigure(build, analyse(build, DAY), ref, makeEvaluator())!
    const from = read(b)
    const all = candidatesOf(b)
      .flatMap(({ name, builder }) => {
        const then = perform(b, builder)
        const to = then.ok ? read(then.value) : Number.NaN
        return Number.isFinite(to) ? [{ name, moved: Math.abs(to - from) }] : []
      })
      .toSorted((x, y) => y.moved - x.moved)
    const found = finish(influences(b, DAY, ref))
    expect(found.length).toBeGreaterThan(0)
    expect(found[0]!.from).toBeCloseTo(from, 12)
    found.forEach((t, i) => expect(Math.abs(t.to - t.from)).toBeCloseTo(all[i]!.moved, 12))
    expect(found.map((t) => t.name)).toEqual(all.slice(0, found.length).map((t) => t.name))
  },
)

test('every fact of the engine, its use and its site is asked, and every bore, barb, baffle and setting of the circuit', () => {
  const names = candidatesOf(five).map((c) => c.name)
  for (const asked of [
    'Rated speed',
    'Idle',
    'Displacement',
    'Compression ratio',
    'Oil in use, warmed through',
    'Hours of street',
    'Outside air',
  ])
    expect(names).toContain(asked)
  expect(names.some((n) => n.endsWith('baffle and nipple'))).toBe(true)
  expect(names.some((n) => n.endsWith('barb bore'))).toBe(true)
  expect(new Set(candidatesOf(five).map((c) => JSON.stringify(perform(five, c.builder)))).size).toBe(names.length)
})

test('a measured blow-by is not the cause of itself', () => {
  const measured = { ...five, engine: { ...five.engine, blowBy: { state: 'idle' as const, lpm: 12 } } } as typeof five
  const names = (state: 'idle' | 'boost') =>
    finish(influences(measured, DAY, { kind: 'blowBy', state }, 40)).map((i) => i.name)
  expect(names('idle')).not.toContain('Blow-by, as measured')
  expect(names('boost')).toContain('Blow-by, as measured')
})
