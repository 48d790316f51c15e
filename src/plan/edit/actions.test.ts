import { analyse } from '../analyse'
import type { SolvedState } from '../model/results'
import type { Build } from '../document/schema'
import { KINDS } from '../document/kinds'
import { validateBuild } from '../document/validate'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { actionsFor, type Chosen } from './actions'
import { perform, removePlan } from './edit-builders'
import { activeVariant, applyEdits } from './edit'

const DAY = '2026-11-24'
const build = (school: string) =>
  newBuild({ name: 'Test', engineClass: 'i5-turbo', use: 'street', ambientC: 10, units: 'metric', school })
function act(b: Build, chosen: Chosen, key: string | RegExp): Build {
  const a = actionsFor(b, activeVariant(b), chosen).find((x) =>
    typeof key === 'string' ? x.key === key : key.test(x.label),
  )
  if (!a) throw new Error(`not offered: ${key.toString()}`)
  const r = applyEdits(b, a.edits)
  if (!r.ok) throw new Error(r.reason)
  return r.value
}
const state = (b: Build, id: string) => analyse(b, DAY).states.find((s) => s.id === id) as SolvedState

test.each(SCHOOLS.map((s) => s.key))(
  '%s: whatever is offered leaves a whole plan that is judged, never a broken one',
  (school) => {
    const b = build(school)
    const v = activeVariant(b)
    const chosen: Chosen[] = [
      ...v.lines.filter((l) => l.kind === 'hose').map((l) => ({ kind: 'line' as const, id: l.id })),
      ...v.parts.map((p) => ({ kind: 'part' as const, id: p.id })),
    ]
    let tried = 0
    for (const c of chosen) {
      for (const action of actionsFor(b, v, c)) {
        const r = applyEdits(b, action.edits)
        if (!r.ok) throw new Error(`${c.id}, ${action.label}: ${r.reason}`)
        const valid = validateBuild(JSON.parse(JSON.stringify(r.value)))
        expect([c.id, action.label, valid.ok ? [] : valid.problems]).toEqual([c.id, action.label, []])
        // every tenth is analysed too: an answer, or a reason in words
        if (tried++ % 10 === 0)
          for (const s of analyse(r.value, DAY).states)
            if (!s.solved) expect(s.reason).toMatch(/no way out|joined to nothing/)
      }
    }
    expect(tried).toBeGreaterThan(20)
  },
)

/** The part of that name. */
const named = (b: Build, name: string) => activeVariant(b).parts.find((p) => p.name === name)!.id

test('from stock to one can with two checked outlets, by the job', () => {
  let b = act(build('stock'), { kind: 'line', id: 'breather' }, 'can')
  b = act(b, { kind: 'part', id: named(b, 'Catch can') }, 'second-manifold')
  const [boost, idle] = [state(b, 'boost'), state(b, 'idle')]
  const [first, second] = [named(b, 'First outlet check'), named(b, 'Second outlet check')]
  // the inlet takes it in boost, and the second outlet's check holds boost out
  expect(boost.passages[first]!.flow).toBeCloseTo(boost.blowBy, 6)
  expect(Math.abs(boost.passages[second]!.flow)).toBeLessThan(1e-7)
  expect(idle.passages[second]!.flow).toBeGreaterThan(0)
})

test('a can spliced into a hose makes two of it, and taken out again leaves the one', () => {
  const b = build('stock')
  const with1 = act(b, { kind: 'line', id: 'breather' }, 'can')
  expect(activeVariant(with1).lines.length).toBe(activeVariant(b).lines.length + 1)
  const without = act(with1, { kind: 'part', id: named(with1, 'Catch can') }, 'unsplice')
  expect(activeVariant(without).lines.find((l) => l.id === 'breather')).toEqual(
    activeVariant(b).lines.find((l) => l.id === 'breather'),
  )
})

test('turned round, a check holds what it let through, and that is judged', () => {
  const b = act(build('two-outlets'), { kind: 'part', id: 'check-inlet' }, 'turn')
  // shut in from all sides: before the gas goes where boost stands, seals let go
  expect(analyse(b, DAY).states.find((s) => s.id === 'boost')).toMatchObject({
    solved: false,
    reason: expect.stringMatching(/^Seals let go/) as string,
  })
  expect(
    analyse(b, DAY).verdicts.some(
      (v) => v.severity === 'stop' && (v.rule === 'crankcase-pressure' || v.rule === 'not-solved'),
    ),
  ).toBe(true)
})

test('a tee turned lets another line branch off, which then loses the more', () => {
  const b = build('two-outlets')
  const tee: Chosen = { kind: 'part', id: 'tee' }
  const bent = act(b, tee, /^Turn the outlet tee so that the inlet line branches off/)
  const lost = (x: Build) => state(x, 'boost').passages['inlet-line']!.teeLoss!
  expect(Math.abs(lost(b))).toBeLessThan(5)
  expect(lost(bent)).toBeGreaterThan(50)
  expect(state(bent, 'boost').crankcaseGauge).toBeGreaterThan(state(b, 'boost').crankcaseGauge + 30)
  // the one that branches off is not offered, and two turns bring back what was
  expect(actionsFor(bent, activeVariant(bent), tee).some((a) => /inlet line branches/.test(a.label))).toBe(false)
  const again = act(bent, tee, /the manifold line branches off/)
  expect(state(again, 'boost').crankcaseGauge).toBeCloseTo(state(b, 'boost').crankcaseGauge, 1)
})

test('the last plan of a build cannot be taken away', () => {
  expect(perform(build('stock'), removePlan('a'))).toMatchObject({
    ok: false,
    reason: 'The last plan of a build stays.',
  })
})

/** What a circuit is made of: kinds of parts that are not the engine's, kinds of places that its hoses end at, and its drains. */
function made(b: Build) {
  const v = activeVariant(b)
  const joined = new Set(v.lines.flatMap((l) => [l.from.part, l.to.part]))
  const parts = v.parts.filter((p) => joined.has(p.id) && !KINDS[p.kind].engine && p.kind !== 'tee')
  return {
    parts: parts.map((p) => (p.kind === 'can' && p.drain ? `can, ${p.drain} drain` : p.kind)).toSorted(),
    ends: ['manifold', 'inlet', 'atmosphere'].filter((k) => v.parts.some((p) => p.kind === k && joined.has(p.id))),
    drains: v.lines.filter((l) => l.kind === 'drain').length,
  }
}
type Press = readonly [on: string, action: string | RegExp]
/** Presses one after another: on a line or part by its name. */
function walk(b: Build, presses: readonly Press[]): Build {
  return presses.reduce((now, [on, action]) => {
    const v = activeVariant(now)
    const line = v.lines.find((l) => l.name === on)
    const part = v.parts.find((p) => p.name === on)
    if (!line && !part)
      throw new Error(`nothing is called ${on}: ${[...v.lines, ...v.parts].map((x) => x.name).join(', ')}`)
    return act(now, line ? { kind: 'line', id: line.id } : { kind: 'part', id: part!.id }, action)
  }, b)
}
const VENT: readonly Press[] = [
  ['Suction line', 'cut'],
  ['PCV valve', 'remove'],
  ['Breather line', 'to-air'],
]
/** Every school from the stock circuit, by what is offered. */
const WALKS: Readonly<Record<string, readonly Press[]>> = {
  stock: [],
  'stock-regulator': [
    ['Suction line', 'cut'],
    ['PCV valve', 'remove'],
    ['Breather line', /^Put a regulator/],
    ['Breather line, after regulator', /^Cut a tee/],
    ['Tee', /^Lead a hose from the tee to the intake manifold/],
    ['Hose to the intake manifold', /^Put a check into .*towards the intake manifold/],
    ['Breather line, after regulator, after tee', /^Put a check into .*towards the inlet/],
  ],
  'vacuum-side-can': [['Suction line', /^Put a can/]],
  'breather-side-can': [['Breather line', /^Put a can/]],
  'both-sides': [
    ['Suction line', /^Put a can/],
    ['Breather line', /^Put a can/],
  ],
  'both-sides-filler': [
    ['Suction line', /^Put a can/],
    ['Cam cover', 'filler-separator'],
    ['Filler-cap separator', /^Lead the breather line from its outlet/],
  ],
  'two-outlets': [
    ['Suction line', 'cut'],
    ['PCV valve', 'remove'],
    ['Breather line', /^Put a can/],
    ['Catch can', 'second-manifold'],
    ['Second outlet line', /^Put a restrictor/],
    ['Cam cover', /^Lead a hose from the cam cover to the inlet/],
    ['Hose to the inlet, ahead of compressor', /^Put a check into .*towards the cam cover/],
  ],
  'separator-shared': [
    ['Breather line', /^Put a can/],
    ['Catch can', 'drain-shared'],
  ],
  'separator-return': [
    ['Breather line', /^Put a can/],
    ['Catch can', 'return-block'],
  ],
  'vented-can': [...VENT, ['Vent line', /^Put a can/]],
  'vented-return': [
    ...VENT,
    ['Vent line', /^Put a check into .*towards the vent filter/],
    ['Vent line, after check valve', /^Put a can/],
    ['Catch can', /^Lead a return from the catch can to the filler/],
  ],
  'tank-vent': [
    ['Suction line', 'cut'],
    ['PCV valve', 'remove'],
    ['Breather line', 'cut'],
    ['Crankcase', 'oil-tank'],
    ['Oil tank', 'vent'],
    ['Vent line', /^Put a can/],
  ],
  'regulator-delete': [
    ['Suction line', 'cut'],
    ['PCV valve', 'remove'],
    ['Intake manifold', 'vacuum-line'],
    ['Cam cover', /^Lead a hose from the cam cover to the tee in the vacuum line/],
    ['Hose to the tee in the vacuum line', /^Put a can/],
    ['Hose to the tee in the vacuum line, after catch can', /^Put a check into .*towards the tee/],
    ['Hose to the tee in the vacuum line, after catch can', /^Put a restrictor/],
  ],
  'relief-cap': [
    ['Suction line', /^Put a can/],
    ['Cam cover', 'relief'],
  ],
  'baffle-upgrade': [['Suction line', /^Put a can/]],
}

test.each(SCHOOLS.map((s) => s.key))('%s is reached from stock by what is offered', (school) => {
  const walked = walk(build('stock'), WALKS[school]!)
  expect(validateBuild(JSON.parse(JSON.stringify(walked))).ok).toBe(true)
  const [got, want] = [made(walked), made(build(school))]
  // the relief cap of the school has a filter on it, which anybody may leave out
  const bare = (x: typeof got) => ({
    ...x,
    parts: school === 'relief-cap' ? x.parts.filter((p) => p !== 'filter') : x.parts,
  })
  expect(bare(got)).toEqual(bare(want))
})

test('a hose can be led to a can that stands in a line already', () => {
  const v8 = newBuild({
    name: 'T',
    engineClass: 'v8-na',
    use: 'street',
    ambientC: 10,
    units: 'metric',
    school: 'stock',
  })
  const one = walk(v8, [['Breather line', /^Put a can/]])
  const two = walk(one, [['Right cover', /^Lead a hose from the right cover to the catch can as well/]])
  const pull = analyse(two, DAY).states.find((s) => s.id === 'pull') as SolvedState
  const hose = activeVariant(two).lines.find((l) => l.name === 'Hose to the catch can')!
  expect(pull.passages[hose.id]!.flow).toBeGreaterThan(1e-5)
})
