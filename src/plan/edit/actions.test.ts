import { analyse } from '../analyse'
import type { SolvedState } from '../model/results'
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { actionsFor, type Chosen } from './actions'
import { perform, removePlan } from './deeds'
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

test('the last plan of a build cannot be taken away', () => {
  expect(perform(build('stock'), removePlan('a'))).toMatchObject({
    ok: false,
    reason: 'The last plan of a build stays.',
  })
})
