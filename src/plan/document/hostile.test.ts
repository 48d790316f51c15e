/** Documents that no one would plumb: refused, or judged, never hung on. */
import { analyse } from '../analyse'
import { validateBuild } from './validate'
import type { Build, Line, Part } from './schema'
import { newBuild } from '../schools/new-build'
import { check, hose, port, tee } from '../schools/parts'
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
    hose(`a${i}`, `a${i}`, `t${i}.a`, `c${i}.in`, 10, 50),
    hose(`b${i}`, `b${i}`, `c${i}.out`, `t${(i + 1) % n}.b`, 10, 50),
  ])
  judged(withMore([...tees, ...checks], [...lines, hose('in', 'in', 'cover.filler', 't0.c', 10, 100)]))
})

test('checks head to head shut a space that nothing can fill', () => {
  const [a, b] = [check('c1', 'Check 1', 'small'), check('c2', 'Check 2', 'small')]
  judged(
    withMore(
      [a, b],
      [
        hose('x', 'x', 'cover.filler', 'c1.in', 10, 100),
        hose('y', 'y', 'c1.out', 'c2.out', 10, 100),
        hose('z', 'z', 'c2.in', 'inlet.second', 10, 100),
      ],
    ),
  )
})

test('two hundred parts in a lattice are worked out; two hundred and one are refused', () => {
  const tees = (n: number) =>
    Array.from({ length: n }, (_, i): Part => ({
      kind: 'tee',
      id: `t${i}`,
      name: `Tee ${i}`,
      ports: [port('a', 'a'), port('b', 'b'), port('c', 'c'), port('d', 'd')],
      at: undefined,
    }))
  const n = 200 - base.variants[0]!.parts.length
  const lines = [
    hose('start', 'start', 'cover.filler', 't0.a', 12, 100),
    ...Array.from({ length: n - 1 }, (_, i) => hose(`l${i}`, `l${i}`, `t${i}.b`, `t${i + 1}.a`, 12, 100)),
    ...Array.from({ length: 60 }, (_, i) => hose(`m${i}`, `m${i}`, `t${i}.c`, `t${i + 60}.d`, 12, 100)),
    hose('end', 'end', `t${n - 1}.b`, 'inlet.second', 12, 100),
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
