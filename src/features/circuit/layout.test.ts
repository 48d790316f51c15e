import { newBuild } from '@/plan/schools/new-build'
import { ENGINE_CLASSES, type EngineClass } from '@/plan/catalogue/engines'
import { setPart } from '@/plan/edit/edit-builders'
import { activeVariant, applyEdits } from '@/plan/edit/edit'
import { after } from '@/plan/testing'
import { actionsFor } from '@/plan/edit/actions'
import { SCHOOLS } from '@/plan/schools/schools'
import { boxesAlong, overlap, placeLabels } from '@/ui/labels'
import { schematicLayout, roundedPath, VIEW, type SchematicLayout } from './layout'
import { resolve } from '@/plan/model/resolve'
import { jointsOf } from './joints'

const build = (school: string, engineClass: EngineClass) =>
  newBuild({ name: 'Test', engineClass, use: 'street', ambientC: 10, units: 'metric', school })
const layout = (b: ReturnType<typeof build>) => schematicLayout(activeVariant(b), b.engine)
const free = (l: SchematicLayout) => l.parts.filter((p) => !p.onEngine && p.part.kind !== 'passage')

describe.each(ENGINE_CLASSES.map((c) => c.key))('on %s', (engineClass) => {
  test.each(SCHOOLS.map((s) => s.key))(
    '%s: everything is in the picture, no part stands on another, every hose is drawn',
    (school) => {
      const b = build(school, engineClass)
      const l = layout(b)
      for (const p of l.parts) {
        expect(p.at[0]).toBeGreaterThanOrEqual(0)
        expect(p.at[0]).toBeLessThanOrEqual(VIEW.width)
        expect(p.at[1]).toBeGreaterThanOrEqual(l.top)
        expect(p.at[1]).toBeLessThanOrEqual(VIEW.height)
      }
      const parts = free(l)
      for (const [i, a] of parts.entries())
        for (const c of parts.slice(i + 1))
          expect([a.part.id, c.part.id, Math.hypot(a.at[0] - c.at[0], a.at[1] - c.at[1]) > 17]).toEqual([
            a.part.id,
            c.part.id,
            true,
          ])
      expect(l.runs.map((r) => r.line.id).toSorted()).toEqual(
        activeVariant(b)
          .lines.filter((x) => x.kind !== 'direct')
          .map((x) => x.id)
          .toSorted(),
      )
      for (const r of l.runs) expect(roundedPath(r.points)).toMatch(/^M[\d.-]+ [\d.-]+/)
    },
  )
})

test('an edit in one line leaves the parts of the others where they were', () => {
  const b = build('both-sides', 'i5-turbo')
  const before = layout(b)
  const action = actionsFor(b, activeVariant(b), { kind: 'line', id: 'clean' }).find((a) => a.key === 'check-to')!
  const after = applyEdits(b, action.edits)
  if (!after.ok) throw new Error(after.reason)
  const now = layout(after.value)
  for (const id of ['pcv', 'can', 'cover', 'manifold', 'inlet'])
    expect([id, now.parts.find((p) => p.part.id === id)!.at]).toEqual([
      id,
      before.parts.find((p) => p.part.id === id)!.at,
    ])
})

test('a part that was put somewhere stays there', () => {
  const b = build('both-sides', 'i5-turbo')
  const moved = after(b, setPart('can', { at: { x: 111, y: 77 } }))
  expect(layout(moved).parts.find((p) => p.part.id === 'can')!.at).toEqual([111, 77])
})

const PICTURE = [0, 0, 484, 400] as const

test('labels lie on no part and not on one another', () => {
  const at = [
    [100, 100],
    [130, 100],
    [160, 100],
  ] as const
  const labels = [
    ...placeLabels(
      at.map((p, i) => ({ id: String(i), spots: [p], half: [13, 13] as const, text: 'Fresh-air check' })),
      [],
      [],
      PICTURE,
    ).values(),
  ]
  expect(new Set(labels.map((l) => `${l.x} ${l.y}`)).size).toBe(3)
})

test('the ladder has a joint for every pressure and a way for every part and hose', () => {
  for (const s of SCHOOLS) {
    const v = activeVariant(build(s.key, 'v8-na'))
    const { joints, ways } = jointsOf(v)
    const ids = new Set(joints.map((j) => j.id))
    for (const w of ways) expect([w.id, ids.has(w.from), ids.has(w.to)]).toEqual([w.id, true, true])
    expect(ways.length).toBe(
      resolve(v).topology.baffled.size +
        v.lines.filter((l) => l.kind === 'hose').length +
        v.parts.filter(
          (p) =>
            'cd' in p ||
            [
              'can',
              'filter',
              'pcv',
              'check',
              'passage',
              'restrictor',
              'regulator',
              'relief',
              'pump',
              'sensor',
            ].includes(p.kind),
        ).length,
    )
  }
})

test('a label keeps clear of a hose that runs beside its part', () => {
  const hose = boxesAlong(
    [
      [100, 100],
      [300, 100],
    ],
    4,
  )
  const at = placeLabels([{ id: 'a', spots: [[200, 100]], half: [13, 13], text: 'Catch can' }], hose, [], PICTURE).get(
    'a',
  )!
  expect(overlap([at.x - 30, at.y - 10, 60, 13], hose[0]!)).toBe(false)
})

test('parts that screw into each other are drawn as joined', () => {
  const v = activeVariant(build('two-outlets', 'i5-turbo'))
  const tee = v.parts.find((p) => p.kind === 'tee')!
  expect(
    layout(build('two-outlets', 'i5-turbo')).joins.some((j) =>
      v.lines.some((l) => l.id === j.id && (l.from.part === tee.id || l.to.part === tee.id)),
    ),
  ).toBe(true)
})
