/** Documents that no one would plumb: refused, or judged, never hung on. */
import { finish } from '@/core/job'
import { analyse } from '../analyse'
import { analyseOverCycle } from '../analyse-over-cycle'
import * as fc from 'fast-check'
import { valuesIn } from './count'
import { logEntrySchema, type Build, type Line, type Part } from './schema'
import { isSoundEntry } from './sound-entry'
import { validateBuild } from './validate'
import { newBuild } from '../schools/new-build'
import { check, hose, port, tee } from '../catalogue/parts'
import { summarise } from '../studies/summary'
import { badNumbers, NEVER } from '../testing'

const base = newBuild({
  name: 'Odd',
  engineClass: 'i5-turbo',
  use: 'street',
  ambientC: 10,
  units: 'metric',
  school: 'stock',
})
const withMore = (parts: readonly Part[], lines: readonly Line[]): Build => ({
  ...base,
  variants: [
    {
      ...base.variants[0]!,
      parts: [...base.variants[0]!.parts, ...parts],
      lines: [...base.variants[0]!.lines, ...lines],
    },
  ],
})
const judged = (b: Build) => {
  const v = validateBuild(JSON.parse(JSON.stringify(b)))
  expect(v.ok ? [] : v.problems).toEqual([])
  const a = analyse(b, '2026-11-24')
  for (const s of a.states) if (!s.solved) expect(s.reason).toMatch(/no way out|joined to nothing|Not converged/)
  expect(badNumbers(a, NEVER)).toEqual([])
  return a
}

test('a ring of checks, each leading to the next', () => {
  const n = 6
  const tees = Array.from({ length: n }, (_, i) => tee(`t${i}`, `Tee ${i}`))
  const checks = Array.from({ length: n }, (_, i) => check(`c${i}`, `Check ${i}`, 'small'))
  const lines = checks.flatMap((_, i) => [
    hose(`a${i}`, `a${i}`, { from: `t${i}.a`, to: `c${i}.in`, boreMm: 10, lengthMm: 50 }),
    hose(`b${i}`, `b${i}`, { from: `c${i}.out`, to: `t${(i + 1) % n}.b`, boreMm: 10, lengthMm: 50 }),
  ])
  judged(
    withMore(
      [...tees, ...checks],
      [...lines, hose('in', 'in', { from: 'cover.filler', to: 't0.c', boreMm: 10, lengthMm: 100 })],
    ),
  )
})

test('checks head to head shut a space that nothing can fill', () => {
  const [a, b] = [check('c1', 'Check 1', 'small'), check('c2', 'Check 2', 'small')]
  judged(
    withMore(
      [a, b],
      [
        hose('x', 'x', { from: 'cover.filler', to: 'c1.in', boreMm: 10, lengthMm: 100 }),
        hose('y', 'y', { from: 'c1.out', to: 'c2.out', boreMm: 10, lengthMm: 100 }),
        hose('z', 'z', { from: 'c2.in', to: 'inlet.second', boreMm: 10, lengthMm: 100 }),
      ],
    ),
  )
})

test('eighty parts in a lattice are worked out; eighty-one are refused', () => {
  const tees = (n: number) =>
    Array.from({ length: n }, (_, i): Part => ({
      kind: 'tee',
      id: `t${i}`,
      name: `Tee ${i}`,
      ports: [port('a', 'a'), port('b', 'b'), port('c', 'c'), port('d', 'd')],
      at: undefined,
    }))
  const n = 80 - base.variants[0]!.parts.length
  const lines = [
    hose('start', 'start', { from: 'cover.filler', to: 't0.a', boreMm: 12, lengthMm: 100 }),
    ...Array.from({ length: n - 1 }, (_, i) =>
      hose(`l${i}`, `l${i}`, { from: `t${i}.b`, to: `t${i + 1}.a`, boreMm: 12, lengthMm: 100 }),
    ),
    ...Array.from({ length: 30 }, (_, i) =>
      hose(`m${i}`, `m${i}`, { from: `t${i}.c`, to: `t${i + 30}.d`, boreMm: 12, lengthMm: 100 }),
    ),
    hose('end', 'end', { from: `t${n - 1}.b`, to: 'inlet.second', boreMm: 12, lengthMm: 100 }),
  ]
  judged(withMore(tees(n), lines))
  expect(validateBuild(withMore(tees(n + 1), [])).ok).toBe(false)
})

test('extreme sizes: a needle and a drainpipe in one line', () => {
  const odd = {
    ...base,
    variants: [
      {
        ...base.variants[0]!,
        lines: base.variants[0]!.lines.map((l) =>
          l.id === 'breather'
            ? { ...l, boreMm: 0.5, lengthMm: 20000 }
            : l.id === 'suction'
              ? { ...l, boreMm: 100, lengthMm: 0, bends: [] }
              : l,
        ),
      },
    ],
  }
  const a = judged(odd)
  expect(a.verdicts.some((v) => v.severity === 'stop')).toBe(true)
})

test.each([
  [
    'a line from a part to itself',
    (b: Build) => {
      b.variants[0]!.lines[0]!.to.part = b.variants[0]!.lines[0]!.from.part
    },
  ],
  [
    'a number told as text',
    (b: Build) => {
      ;(b.engine as { boreMm: unknown }).boreMm = '82'
    },
  ],
  [
    'not a number',
    (b: Build) => {
      b.engine.displacementCc = Number.NaN
    },
  ],
  [
    'infinity',
    (b: Build) => {
      b.engine.displacementCc = Infinity
    },
  ],
  [
    'a field that poisons',
    (b: Build) => {
      Object.defineProperty(b.engine, '__proto__', { value: {}, enumerable: true })
    },
  ],
])('%s is refused', (_, spoil) => {
  const b = structuredClone(base)
  spoil(b)
  expect(validateBuild(b).ok).toBe(false)
})

describe('a small file that repeats something is told by its count, before anything walks it', () => {
  const v = base.variants[0]!
  const many = (n: number, make: (i: number) => unknown) => Array.from({ length: n }, (_, i) => make(i))
  const plan = (change: object) => ({ ...base, variants: [{ ...v, ...change }] })
  const bend = { angleDeg: 90, radiusMm: 20 }
  test.each([
    ['bends', plan({ lines: v.lines.map((l) => ({ ...l, bends: many(100_000, () => bend) })) }), /bends/],
    ['ports', plan({ parts: v.parts.map((p) => ({ ...p, ports: many(20_000, () => ({})) })) }), /ports/],
    ['stages', plan({ parts: v.parts.map((p) => ({ ...p, stages: many(7, () => ({})) })) }), /stages/],
    ['points', plan({ parts: v.parts.map((p) => ({ ...p, areaMm2ByKpa: many(41, () => [0, 1]) })) }), /areaMm2ByKpa/],
    ['parts', plan({ parts: many(81, () => v.parts[0]) }), /parts/],
    ['lines', plan({ lines: many(121, () => v.lines[0]) }), /lines/],
    ['plans', { ...base, variants: many(13, () => v) }, /variants/],
    ['entries', { ...base, log: many(10_001, () => ({})) }, /log/],
    ['names', { ...base, ...Object.fromEntries(many(30_000, (i) => [`k${i}`, 1]) as [string, number][]) }, /the file/],
  ])('%s', (_, doc, where) => {
    const found = validateBuild(doc)
    expect(found).toMatchObject({ ok: false, problems: [{ path: expect.stringMatching(where) as string }] })
    if (!found.ok) expect(found.problems[0]!.message).toMatch(/at most|more than/)
  })

  test('values are counted no further than asked', () => {
    expect(valuesIn({ a: [1, 2, { b: 'x' }] }, 100)).toBe(6)
    expect(valuesIn({ a: [1, 2, { b: 'x' }] }, 3)).toBe(4)
    expect(
      valuesIn(
        many(1_000_000, () => 0),
        10,
      ),
    ).toBe(11)
  })

  test('five thousand bad entries are told by the first five and a count, good ones among them not', () => {
    const log = many(5000, (i) => ({
      id: `e${i}`,
      date: i % 2 ? '2026-02-31' : '2026-02-28',
      kind: 'checked',
      odometerKm: i,
    }))
    const found = validateBuild({ ...base, log })
    expect(found).toEqual({
      ok: false,
      problems: [
        ...[2, 4, 6, 8, 10].map((n) => ({
          path: `log › ${n} › date`,
          message: 'must be a day of the calendar such as 2026-05-30',
        })),
        { path: 'log', message: 'has 2495 more entries that are not sound' },
      ],
    })
  })
})

test('a quick look at a log entry and the schema answer alike', () => {
  const value = fc.oneof(
    fc.constantFrom(
      null,
      undefined,
      '',
      'e1',
      'emptied',
      'idle',
      '2026-02-29',
      '2024-02-29',
      '2026-13-01',
      'a b',
      'a\0b',
    ),
    fc.double({ noNaN: true }),
    fc.integer({ min: -5, max: 30_000 }),
    fc.string({ maxLength: 60 }),
    fc.constantFrom({}, [], { state: 'idle', kpa: -1 }, { state: 'idle' }, { state: 'idle', kpa: 1, more: 1 }),
  )
  const good = { id: 'e1', date: '2026-05-30', kind: 'emptied', odometerKm: 1200, ml: 20 }
  const keys = [
    'id',
    'date',
    'kind',
    'odometerKm',
    'ml',
    'waterMl',
    'sessions',
    'plan',
    'part',
    'reading',
    'note',
    'odd',
  ]
  fc.assert(
    fc.property(fc.dictionary(fc.constantFrom(...keys), value, { maxKeys: 3 }), (change) => {
      const entry = JSON.parse(JSON.stringify({ ...good, ...change })) as unknown
      expect([entry, isSoundEntry(entry)]).toEqual([entry, logEntrySchema.isValidSync(entry, { strict: true })])
    }),
    { numRuns: 2000 },
  )
})

test('forty checks in a row, each shut by the next, are judged and not hung on', () => {
  const n = 38
  const parts = Array.from({ length: n }, (_, i) =>
    i % 2 ? check(`c${i}`, `Check ${i}`, 'small') : tee(`c${i}`, `Tee ${i}`),
  )
  const [left, right] = [(i: number) => `c${i}.${i % 2 ? 'in' : 'a'}`, (i: number) => `c${i}.${i % 2 ? 'out' : 'b'}`]
  const lines = parts
    .slice(1)
    .map((_, i) => hose(`h${i}`, `Hose ${i}`, { from: right(i), to: left(i + 1), boreMm: 10, lengthMm: 100 }))
  const a = judged(
    withMore(parts, [hose('in', 'in', { from: 'cover.filler', to: left(0), boreMm: 10, lengthMm: 100 }), ...lines]),
  )
  expect(a.states.every((s) => s.solved)).toBe(true)
})

/** Every text of a document, by where it stands. */
function textsIn(value: unknown, at: readonly (string | number)[] = []): (readonly (string | number)[])[] {
  if (typeof value === 'string') return [at]
  if (value === null || typeof value !== 'object') return []
  return Object.entries(value).flatMap(([k, v]) => textsIn(v, [...at, Array.isArray(value) ? Number(k) : k]))
}
function withText(doc: unknown, at: readonly (string | number)[], text: string): unknown {
  const copy = structuredClone(doc)
  let holder = copy as Record<string | number, unknown>
  for (const name of at.slice(0, -1)) holder = holder[name] as Record<string | number, unknown>
  holder[at.at(-1)!] = text
  return copy
}

/** With entries of every sort, so that every text of a file stands in it. */
const rich: Build = {
  ...newBuild({
    name: 'Full',
    engineClass: 'i5-turbo',
    use: 'track',
    ambientC: 10,
    units: 'metric',
    school: 'both-sides',
  }),
  log: [
    {
      id: 'e1',
      date: '2026-05-01',
      kind: 'emptied',
      odometerKm: 1000,
      ml: 20,
      part: 'can',
      plan: 'a',
      note: 'as found',
      reading: undefined,
    },
    {
      id: 'e2',
      date: '2026-05-02',
      kind: 'reading',
      odometerKm: 1100,
      reading: { state: 'idle', kpa: -0.3, at: 'crankcase' },
    },
  ],
}

test.each(['__proto__', 'constructor', 'toString'])(
  'a text %s is refused in words, or does no harm where it stands',
  (word) => {
    const doc = JSON.parse(JSON.stringify(rich)) as Build
    const part = doc.variants[0]!.parts.find((p) => doc.variants[0]!.parts.every((q) => q.kind !== p.id))
    const called = validateBuild(
      JSON.parse(JSON.stringify(doc).replaceAll(`"${part!.id}"`, JSON.stringify(word))) as unknown,
    )
    expect(called).toMatchObject({ ok: false })
    if (!called.ok) expect(called.problems[0]!.message).toBe(`${word} cannot be a name here; choose another`)
    const taken = textsIn(doc).flatMap((at) => {
      const read = validateBuild(withText(doc, at, word))
      if (!read.ok) return []
      const analysis = finish(analyseOverCycle(read.build, '2026-06-01'))
      summarise(read.build, analysis)
      return [at.join(' ')]
    })
    // names and notes are the builder's own
    expect(taken).toEqual(expect.arrayContaining(['name', 'variants 0 parts 0 name']))
  },
)
