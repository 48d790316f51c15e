/** Each school in every state: which way each line runs, and why. */
import { analyse } from '../analyse'
import { ENGINE_CLASSES, type EngineClass } from '../catalogue/engines'
import type { SolvedState } from '../model/results'
import { validateBuild } from '../document/validate'
import { newBuild } from './new-build'
import { badNumbers, NEVER } from '../testing'
import { SCHOOLS } from './schools'

const DAY = '2026-11-24'
const build = (school: string, engineClass: EngineClass = 'i5-turbo') =>
  newBuild({ name: 'Test', engineClass, use: 'street-track', ambientC: 10, units: 'metric', school })

/**
 * Per line, in the order idle, cruise, pull, spool, boost, overrun (without boost: idle, cruise, pull, overrun):
 * > the way it is named, < against it, 0 shut.
 */
const DIRECTIONS: readonly (readonly [
  school: string,
  engine: EngineClass,
  why: string,
  lines: Readonly<Record<string, string>>,
])[] = [
  [
    'stock',
    'i5-turbo',
    'the manifold sucks through the PCV valve at part throttle, fresh air makes up the rest; full load turns the breather round, boost shuts the valve',
    { suction: '>>>>0>', breather: '<<>>><' },
  ],
  [
    'stock-regulator',
    'i5-turbo',
    'whichever of manifold and inlet tract sucks takes the gas, checks keep the other out; no fresh air enters',
    { 'cover-line': '>>>>>>', suction: '>>000>', breather: '00>>>0' },
  ],
  [
    'vacuum-side-can',
    'i5-turbo',
    'the can lies in the PCV line and shares its fate: in boost it sees nothing',
    { dirty: '>>>>0>', suction: '>>>>0>', breather: '<<>>><' },
  ],
  [
    'breather-side-can',
    'i5-turbo',
    'the can lies in the breather: clean air through it at part throttle, all of the blow-by at full load',
    { suction: '>>>>0>', breather: '<<>>><', clean: '<<>>><' },
  ],
  [
    'both-sides',
    'i5-turbo',
    'each way out has its can',
    { dirty: '>>>>0>', suction: '>>>>0>', breather: '<<>>><', clean: '<<>>><' },
  ],
  [
    'both-sides-filler',
    'i5-turbo',
    'as both sides, the second can being the filler cap',
    { dirty: '>>>>0>', suction: '>>>>0>', breather: '<<>>><' },
  ],
  [
    'two-outlets',
    'i5-turbo',
    'one dirty line always outwards; behind the can manifold or inlet takes it, never both; fresh air only while the manifold sucks',
    { dirty: '>>>>>>', 'manifold-line': '>>000>', suction: '>>000>', 'inlet-line': '00>>>0', fresh: '>>000>' },
  ],
  [
    'separator-shared',
    'i5-turbo',
    'the breather, with a separator on its port',
    { suction: '>>>>0>', breather: '<<>>><', clean: '<<>>><' },
  ],
  [
    'separator-return',
    'i5-turbo',
    'the same; the drain stands full of oil and carries no gas',
    { suction: '>>>>0>', breather: '<<>>><', clean: '<<>>><' },
  ],
  [
    'vented-can',
    'i5-turbo',
    'nothing sucks: blow-by alone drives it, outwards in every state',
    { breather: '>>>>>>', 'vent-line': '>>>>>>' },
  ],
  [
    'vented-can',
    'v8-na',
    'both covers feed the tee',
    { 'cover-line1': '>>>>', 'cover-line2': '>>>>', 'can-line': '>>>>', 'vent-line': '>>>>' },
  ],
  ['vented-return', 'single', 'the valve lets it out and nothing back', { breather: '>>>>', 'vent-line': '>>>>' }],
  [
    'tank-vent',
    'vtwin-na',
    'the scavenge stage carries gas to the tank in every state, the vent takes what blows by',
    { 'scavenge-line': '>>>>', 'tank-line': '>>>>', 'tank-vent': '>>>>', 'vent-line': '>>>>' },
  ],
  [
    'regulator-delete',
    'i5-turbo',
    'the manifold sucks through check and restrictor; without vacuum the check shuts and the breather takes it all',
    { dirty: '>>000>', clean: '>>000>', suction: '>>000>', breather: '<<>>><' },
  ],
  [
    'relief-cap',
    'i5-turbo',
    'as the vacuum-side can; the cap stays shut',
    { dirty: '>>>>0>', suction: '>>>>0>', breather: '<<>>><' },
  ],
  [
    'baffle-upgrade',
    'i5-turbo',
    'as the vacuum-side can: baffles change the oil, not the gas',
    { dirty: '>>>>0>', suction: '>>>>0>', breather: '<<>>><' },
  ],
]

test('every school is in the table of directions', () =>
  expect(SCHOOLS.map((s) => s.key).filter((k) => !DIRECTIONS.some((d) => d[0] === k))).toEqual([]))

test.each(DIRECTIONS)('%s on %s: %s', (school, engine, _, lines) => {
  const states = analyse(build(school, engine), DAY).states as SolvedState[]
  const got = Object.fromEntries(
    Object.keys(lines).map((id) => [
      id,
      states
        .map((s) => {
          const f = s.passages[id]!.flow
          return Math.abs(f) < 1e-7 ? '0' : f > 0 ? '>' : '<'
        })
        .join(''),
    ]),
  )
  expect(got).toEqual(lines)
})

describe.each(SCHOOLS.map((s) => s.key))('%s', (key) => {
  test.each(ENGINE_CLASSES.map((c) => c.key))('fits %s: valid, solved in every state, gas conserved', (engineClass) => {
    const b = build(key, engineClass)
    expect(validateBuild(b)).toEqual({ ok: true, build: b })
    const a = analyse(b, DAY)
    for (const s of a.states) {
      if (!s.solved) throw new Error(`${s.id}: ${s.reason}`)
      expect(Object.values(s.into).reduce((t, x) => t + x.gas, 0)).toBeCloseTo(s.blowBy, 8)
    }
    expect(badNumbers(a, NEVER)).toEqual([])
  })
})

test('what each school does to the numbers', () => {
  const of = (key: string) => analyse(build(key), DAY)
  const oil = (key: string) => of(key).intakeOil
  // a can on either side keeps more oil out than one on one side; an open circuit lets none in
  expect(oil('vacuum-side-can')).toBeLessThan(oil('stock'))
  expect(oil('both-sides')).toBeLessThan(Math.min(oil('vacuum-side-can'), oil('breather-side-can')))
  expect(oil('vented-can')).toBe(0)
  expect(oil('baffle-upgrade')).toBeLessThan(0.6 * oil('vacuum-side-can'))
  // on a street car the breather-side can stays almost dry while the vacuum-side one collects (common practice, no source)
  const street = analyse(
    newBuild({
      name: 'Street',
      engineClass: 'i4-na',
      use: 'street',
      ambientC: 5,
      units: 'metric',
      school: 'both-sides',
    }),
    DAY,
  )
  const caught = (id: string) => {
    const c = street.cans.find((x) => x.part === id)!
    return c.perMetre.oil + c.perMetre.water
  }
  expect(caught('breather-can')).toBeLessThan(0.5 * caught('can'))
  // a separator that drains back has nothing to empty
  expect(of('separator-return').cans).toEqual([])
  // the two-outlet circuit's restrictor keeps the idle bypass in bounds
  expect(of('two-outlets').verdicts.filter((v) => v.rule === 'idle-bypass')).toEqual([])
})

test('a strong V8 on track half fills a 0.5 l can in two sessions or so (common practice, no source)', () => {
  const b = newBuild({
    name: 'Track',
    engineClass: 'v8-na',
    use: 'track',
    ambientC: 20,
    units: 'metric',
    school: 'breather-side-can',
    engine: { rings: 'loose', pickUp: 'unbaffled' },
  })
  const can = analyse(b, DAY).cans.find((c) => c.part === 'breather-can')!
  const share = (2 * (can.perSession.oil + can.perSession.water)) / can.bowlM3
  // the estimate's own range is a factor of three either way
  expect(share).toBeGreaterThan(0.5 / 3)
  expect(share).toBeLessThan(0.5 * 3)
})

test('every school on every class is sound by its own verdicts: sizes follow what the engine makes, none is a stop', () => {
  const stops = ENGINE_CLASSES.flatMap(({ key }) =>
    SCHOOLS.flatMap((school) =>
      analyse(build(school.key, key), DAY)
        .verdicts.filter((v) => v.severity === 'stop')
        .map((v) => `${key}, ${school.key}: ${v.title}`),
    ),
  )
  expect(stops).toEqual([])
})
