/** Edits: plain data, each with its inverse; two devices that change different things meet, whatever the order. */
import * as fc from 'fast-check'
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { newBuild } from '../schools/new-build'
import { restrictor } from '../catalogue/parts'
import { SCHOOLS, variantOf } from '../schools/schools'
import { after } from '../testing'
import { actionsFor, type Chosen } from './actions'
import * as builders from './edit-builders'
import { describeEdits } from './describe'
import { difference, sameJson } from './diff'
import { activeVariant, applyEdits, invertEdits, type Edit } from './edit'
import { rebaseEdits } from './merge'
import { readChanges } from './wire'

const build = (school = 'vacuum-side-can'): Build =>
  newBuild({ name: 'Test', engineClass: 'i5-turbo', use: 'street-track', ambientC: 10, units: 'metric', school })
const wire = <T>(x: T): T => JSON.parse(JSON.stringify(x)) as T

/** Every action that is offered anywhere in a few schools, as edits. */
const offered: readonly { readonly of: Build; readonly label: string; readonly edits: readonly Edit[] }[] = [
  'stock',
  'two-outlets',
  'vented-can',
].flatMap((school) => {
  const of = build(school)
  const v = activeVariant(of)
  const chosen: Chosen[] = [
    ...v.lines.map((l) => ({ kind: 'line' as const, id: l.id })),
    ...v.parts.map((p) => ({ kind: 'part' as const, id: p.id })),
  ]
  return chosen.flatMap((c) => actionsFor(of, v, c)).map((a) => ({ of, label: a.label, edits: a.edits }))
})

test('every action survives the wire and is taken back exactly', () => {
  expect(offered.length).toBeGreaterThan(150)
  for (const { of, label, edits } of offered) {
    const sent = wire(edits)
    const done = applyEdits(of, sent)
    const back = invertEdits(of, sent)
    if (!done.ok || !back.ok) throw new Error(label)
    expect([label, validateBuild(wire(done.value)).ok]).toEqual([label, true])
    const undone = applyEdits(done.value, wire(back.value))
    expect([label, undone.ok && undone.value]).toEqual([label, of])
  }
})

test('no two actions for one thing are told in the same words', () => {
  for (const school of SCHOOLS) {
    const b = newBuild({
      name: 'T',
      engineClass: 'v8-na',
      use: 'street',
      ambientC: 10,
      units: 'metric',
      school: school.key,
    })
    const v = activeVariant(b)
    const all = [...v.lines.map((l) => ['line', l.id] as const), ...v.parts.map((p) => ['part', p.id] as const)]
    const labels = all.flatMap(([kind, id]) => actionsFor(b, v, { kind, id }).map((a) => a.label))
    expect([school.key, labels.filter((l, i) => labels.indexOf(l) !== i)]).toEqual([school.key, []])
  }
})

const field = fc.constantFrom<readonly [readonly string[], readonly unknown[]]>(
  [['name'], ['One', 'Two']],
  [
    ['engine', 'boostKpa'],
    [80, 90, 100],
  ],
  [
    ['engine', 'inletFouling'],
    [1.2, undefined],
  ],
  [
    ['site', 'ambientC'],
    [-4, 20],
  ],
  [
    ['duty', 'hours', 'track'],
    [0, 3],
  ],
  [
    ['variants', 'a', 'lines', 'suction', 'boreMm'],
    [9.5, 12.7, 15.9],
  ],
  [
    ['variants', 'a', 'lines', 'breather', 'bends'],
    [[], [{ angleDeg: 45, radiusMm: 60 }]],
  ],
  [
    ['variants', 'a', 'parts', 'can', 'bowlMl'],
    [200, 500],
  ],
  [
    ['variants', 'a', 'parts', 'pcv', 'stuck'],
    ['open', undefined],
  ],
)
const setting = field.chain(([path, values]) =>
  fc.constantFrom(...values).map((value) => builders.setField(path, value)({} as Build)[0]!),
)
const structural = fc.constantFrom(...offered.filter((o) => sameJson(o.of, build('stock'))).map((o) => o.edits))

test('any run of settings is taken back to where it began', () => {
  const b = build()
  fc.assert(
    fc.property(fc.array(setting, { minLength: 1, maxLength: 8 }), (edits) => {
      const done = applyEdits(b, wire(edits))
      const back = invertEdits(b, edits)
      if (!done.ok || !back.ok) throw new Error('does not fit')
      expect(applyEdits(done.value, back.value)).toEqual({ ok: true, value: b })
    }),
    { numRuns: 300, seed: 1 },
  )
})

/** A document that nobody may change in place. */
function frozen<T>(x: T): T {
  if (x === null || typeof x !== 'object') return x
  for (const inner of Object.values(x)) frozen(inner)
  return Object.freeze(x)
}

test('edits made together are edits made one by one, and neither document nor values are changed in place', () => {
  const stock = frozen(build('stock'))
  // whole records set, taken out and put back between settings of their own fields
  const line = stock.variants[0]!.lines[0]!
  const path = ['variants', 'a', 'lines', line.id]
  const record: fc.Arbitrary<readonly Edit[]> = fc.constantFrom<readonly Edit[]>(
    [{ op: 'set', path, value: frozen({ ...line, name: 'Another' }) }],
    [{ op: 'set', path: [...path, 'from', 'barbMm'], value: 9 }],
    [{ op: 'unset', path: [...path, 'from', 'barbMm'] }],
    [{ op: 'set', path: [...path, 'name'], value: 'Renamed' }],
    [
      { op: 'remove', path },
      { op: 'insert', path, value: frozen({ ...line }), before: null },
      { op: 'set', path: [...path, 'to', 'barbMm'], value: 7 },
    ],
  )
  fc.assert(
    fc.property(
      fc.array(
        fc.oneof(
          record,
          structural,
          setting.map((e) => [e]),
        ),
        { maxLength: 10 },
      ),
      (runs) => {
        const edits = frozen(wire(runs)).flat()
        let now: Build = stock
        for (const edit of edits) {
          const next = applyEdits(now, [edit])
          if (!next.ok) {
            expect(applyEdits(stock, edits).ok).toBe(false)
            return
          }
          now = frozen(next.value)
        }
        expect(applyEdits(stock, edits)).toEqual({ ok: true, value: now })
      },
    ),
    { numRuns: 400, seed: 4 },
  )
})

test('settings of two devices that do not meet give one build, whoever is first', () => {
  const b = build()
  fc.assert(
    fc.property(fc.array(setting, { maxLength: 4 }), fc.array(setting, { maxLength: 4 }), (mine, theirs) => {
      const { rest, clashes } = rebaseEdits(mine, theirs)
      if (clashes.length > 0) {
        // a clash is of the same field, set otherwise
        expect(clashes.every((c) => sameJson(c.path, c.theirs.path) && !sameJson(c.mine, c.theirs))).toBe(true)
        return
      }
      const [first, second] = [
        applyEdits(b, [...theirs, ...rest]),
        applyEdits(b, [...mine, ...rebaseEdits(theirs, mine).rest]),
      ]
      expect(first.ok && second.ok && sameJson(first.value, second.value)).toBe(true)
    }),
    { numRuns: 500, seed: 2 },
  )
})

test('two devices that each do a job elsewhere in the circuit leave a whole plan', () => {
  const b = build('stock')
  const into = (line: string, key: string) =>
    actionsFor(b, activeVariant(b), { kind: 'line', id: line }).find((a) => a.key === key)!.edits
  const [mine, theirs] = [into('breather', 'can'), into('suction', 'check-to')]
  expect(rebaseEdits(mine, theirs)).toEqual({ rest: mine, clashes: [] })
  const both = applyEdits(b, [...theirs, ...mine])
  expect(both.ok && validateBuild(wire(both.value)).ok).toBe(true)
  // the same line cut twice is for a person to decide
  expect(rebaseEdits(into('breather', 'can'), into('breather', 'tee')).clashes.length).toBeGreaterThan(0)
})

test('what both did alike counts once', () => {
  const b = build()
  const same = builders.setLine('suction', { boreMm: 15.9 })(b)
  expect(rebaseEdits(same, wire(same))).toEqual({ rest: [], clashes: [] })
})

test('the difference of two builds makes the one of the other', () => {
  const b = build()
  fc.assert(
    fc.property(structural, fc.array(setting, { maxLength: 5 }), (job, edits) => {
      const stock = build('stock')
      const there = applyEdits(stock, [...job, ...edits.filter((e) => e.path[3] !== 'can')])
      if (!there.ok) return
      expect(applyEdits(stock, wire(difference(stock, there.value)))).toEqual({ ok: true, value: there.value })
      expect(difference(there.value, wire(there.value))).toEqual([])
    }),
    { numRuns: 200, seed: 3 },
  )
  for (const school of SCHOOLS) {
    const other: Build = { ...b, variants: [variantOf(school, b.engine, 'a')] }
    const done = applyEdits(b, wire(difference(b, other)))
    expect([school.key, done.ok && sameJson(done.value, other)]).toEqual([school.key, true])
  }
})

test('records put in another order, and a part that became another kind, are edits too', () => {
  const b = build()
  const v = b.variants[0]!
  const turned: Build = { ...b, variants: [{ ...v, parts: v.parts.toReversed() }] }
  expect(applyEdits(b, difference(b, turned))).toEqual({ ok: true, value: turned })
  const other: Build = {
    ...b,
    variants: [{ ...v, parts: v.parts.map((p) => (p.id === 'can' ? restrictor('can', 'Hole', 3) : p)) }],
  }
  const done = applyEdits(b, difference(b, other))
  expect(done.ok && sameJson(done.value, other)).toBe(true)
})

test('an edit that does not fit says so and changes nothing; poisoned paths are none', () => {
  const b = build()
  const refused: readonly Edit[] = [
    { op: 'set', path: ['variants', 'a', 'lines', 'gone', 'boreMm'], value: 1 },
    { op: 'remove', path: ['log', 'gone'] },
    { op: 'insert', path: ['variants', 'a', 'parts', 'can'], value: { id: 'can' }, before: null },
    { op: 'insert', path: ['engine', 'x'], value: { id: 'x' }, before: null },
    { op: 'set', path: ['__proto__', 'polluted'], value: 1 },
    { op: 'set', path: ['engine', 'constructor'], value: 1 },
    { op: 'unset', path: ['nothing', 'here'] },
  ]
  for (const edit of refused) expect([edit.path, applyEdits(b, [edit]).ok]).toEqual([edit.path, false])
  expect(({} as { polluted?: unknown }).polluted).toBeUndefined()
})

test('changes off the wire are what they claim to be', () => {
  const good = { id: crypto.randomUUID(), name: 'x', edits: [{ op: 'set', path: ['name'], value: 'A' }] }
  expect(readChanges([good])).toEqual({ ok: true, changes: [good] })
  for (const bad of [
    undefined,
    {},
    [{}],
    [{ ...good, id: 'no' }],
    [{ ...good, base: 1.5 }],
    [{ ...good, edits: [{ op: 'explode', path: ['name'] }] }],
    [{ ...good, edits: [{ op: 'set', path: [], value: 1 }] }],
    [{ ...good, edits: [{ op: 'set', path: ['a', 3], value: 1 }] }],
    [{ ...good, edits: [{ op: 'insert', path: ['log', 'x'], value: { id: 'y' }, before: null }] }],
    Array.from({ length: 501 }, () => good),
  ])
    expect(readChanges(bad).ok).toBe(false)
})

test('edits are told in the builder’s words and units', () => {
  const b = build()
  const described = (builder: builders.EditBuilder, of = b) => describeEdits(of, builder(of))
  expect(described(builders.setLine('suction', { boreMm: 12.7 }))).toBe('Suction line, bore: 12.7 mm')
  const imperial = after(b, builders.setField(['units'], { system: 'imperial', pressure: 'inHg', flow: 'cfm' }))
  expect(described(builders.setLine('suction', { boreMm: 12.7 }), imperial)).toBe('Suction line, bore: 0.5 in')
  expect(described(builders.setField(['engine', 'boostKpa'], 95))).toBe('Engine, boost at rated speed: 95 kPa')
  expect(described(builders.setField(['engine', 'inletFouling'], undefined))).toBe(
    'Engine, air filter fouling, ×: cleared',
  )
  expect(described(builders.cut('suction'))).toBe('Suction line taken away')
  expect(described(builders.splice('suction', restrictor('r', 'Restrictor', 3), 'to'))).toMatch(
    /^Restrictor added, and \d more$/,
  )
})
