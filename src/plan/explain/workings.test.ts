/**
 * Every working of all demo builds, classes and schools: what it prints is parsed and worked out again by an evaluator of this test's own, and
 * comes to what is shown, to its last digit but one; what only a solver gives, by the check that is printed beside it.
 */
import { evaluate } from '../analyse'
import { setBay } from '../bay/bay-builders'
import { bayFor, readyBay } from '../catalogue/bays'
import { ENGINE_CLASSES } from '../catalogue/engines'
import { activeVariant } from '../edit/edit'
import { setPart } from '../edit/edit-builders'
import { makeEvaluator } from '../model/evaluator'
import { isSolved, NO_FLOW } from '../model/results'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { after } from '../testing'
import type { FigureRef } from './figure'
import { bracketFor } from '../fit/bracket'
import { stripsOf } from '../fit/strips'
import { BAFFLE_DEFAULTS } from '../catalogue/cover-baffle'
import { holesFor, judgeBaffle } from '../fit/cover-baffle'
import { baffleWorkings, bracketWorkings, cutWorking, lengthWorking } from './making'
import { figuresIn, followWorking, followWorkings } from './testing'
import { workingOf } from './workings'

const DAY = '2026-11-25'
const METRIC = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const

test.each(ENGINE_CLASSES.map((c) => [c.key]))('%s: the workings of every school come out by hand', (engineClass) => {
  let all = 0
  for (const s of SCHOOLS) {
    const bare = newBuild({
      name: s.key,
      engineClass,
      use: 'street',
      ambientC: 12,
      units: all % 2 === 0 ? 'metric' : 'imperial',
      school: s.key,
    })
    const b = after(bare, setBay(readyBay(bare, activeVariant(bare), bayFor(bare.engine))))
    const { tried, bad } = followWorkings(b, evaluate(b, DAY), process.env.IVENT_RUNS ? 1 : 3)
    all += tried
    expect(bad.slice(0, 6)).toEqual([])
  }
  expect(all).toBeGreaterThan(300)
})

test.each([
  [
    'whose table begins late and ends early',
    {
      areaMm2ByKpa: [
        [1, 14],
        [3, 9],
      ],
    },
  ],
  ['that is stuck open', { stuck: 'open' }],
])('the flow through a PCV valve %s comes out by hand', (_, change) => {
  const plain = newBuild({
    name: 'x',
    engineClass: 'i4-turbo',
    use: 'street',
    ambientC: 15,
    units: 'metric',
    school: 'stock',
  })
  const b = after(plain, setPart('pcv', change))
  const { tried, bad } = followWorkings(b, evaluate(b, DAY), 1)
  expect(tried).toBeGreaterThan(50)
  expect(bad).toEqual([])
})

test('a working names every symbol once, an estimate as such and an entered figure as entered', () => {
  const b = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 12,
    units: 'metric',
    school: 'both-sides',
  })
  const a = evaluate(b, DAY)
  for (const ref of figuresIn(b, a)) {
    const w = workingOf(b, a, ref, makeEvaluator())
    if (!w) continue
    const symbols = w.lines.map((l) => l.symbol)
    expect(new Set(symbols).size).toBe(symbols.length)
    expect(symbols).toContain(w.symbol)
    expect(w.source.length).toBeGreaterThan(5)
  }
  const origin = (ref: FigureRef, symbol: string) => {
    const line = workingOf(b, a, ref, makeEvaluator())!.lines.find((l) => l.symbol === symbol)!
    return 'origin' in line ? line.origin : 'step'
  }
  expect(origin({ kind: 'air', state: 'idle' }, 'ω')).toBe('entered')
  expect(origin({ kind: 'air', state: 'cruise' }, 'ω')).toBe('step')
  expect(origin({ kind: 'flow', id: 'breather', state: 'boost' }, 'T')).toBe('estimated')
  expect(Math.abs(a.states.filter(isSolved)[0]!.passages.breather!.flow)).toBeGreaterThan(NO_FLOW)
})

test('lengths, cuts and brackets come out by hand too', () => {
  let tried = 0
  for (const { key } of ENGINE_CLASSES) {
    const bare = newBuild({
      name: key,
      engineClass: key,
      use: 'street',
      ambientC: 12,
      units: 'metric',
      school: 'both-sides',
    })
    const b = after(bare, setBay(readyBay(bare, activeVariant(bare), bayFor(bare.engine))))
    const v = activeVariant(b)
    const bad = [
      ...v.lines.map((l) => lengthWorking(b, l)),
      ...stripsOf(b, v).map((strip) => cutWorking(b, strip)),
      ...v.parts.flatMap((p) => {
        const bracket = p.kind === 'can' ? bracketFor(b, v, p.id) : undefined
        return bracket?.ok ? Object.values(bracketWorkings(bracket.value)) : []
      }),
    ].flatMap((w) => {
      if (!w) return []
      tried++
      return followWorking(w, b.units, { name: w.title }) ?? []
    })
    expect(bad).toEqual([])
  }
  expect(tried).toBeGreaterThan(60)
})

test('a cover baffle’s drop and cut size come out by hand, and are what it is told with', () => {
  for (const [outlet, holeMm, plates] of [
    [15.9, 4, 1],
    [12.7, 3, 2],
    [25.4, 10, 3],
  ] as const) {
    const holes = holesFor(outlet, holeMm)
    if (!holes.ok) throw new Error(holes.reason)
    const baffle = { plates, ...BAFFLE_DEFAULTS, holeMm, holes: holes.value }
    const judged = judgeBaffle(baffle, outlet)
    const { drop, half } = baffleWorkings(baffle, judged.d50)
    for (const w of [drop, half!]) expect(followWorking(w, METRIC, { name: w.title })).toBeUndefined()
    // the outlet's own heads are the port's loss, not the plates'
    expect(drop.result.si / 1000 / judged.dropKpaAt100).toBeCloseTo(1, 4)
  }
})
