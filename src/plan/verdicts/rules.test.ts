/** Every rule on a circuit that breaks it and on one that does not; every rule has its page. */
import { analyse } from '../analyse'
import { changeBay, setBay, setSpot, setWay } from '../bay/bay-builders'
import { bayFor, readyBay } from '../catalogue/bays'
import { spotIn } from '../catalogue/bay-geometry'
import type { EngineClass } from '../catalogue/engines'
import type { Build, Line, LogEntry, Part } from '../document/schema'
import {
  addPart,
  cut,
  join,
  setField,
  setLine,
  setPart,
  splice,
  reverseValve,
  unsplice,
  type EditBuilder,
} from '../edit/edit-builders'
import { actionsFor } from '../edit/actions'
import { activeVariant, applyEdits } from '../edit/edit'
import { byEdits, after } from '../testing'
import { SEVERITIES } from './verdict'
import { newBuild } from '../schools/new-build'
import { RULE_PAGES } from './pages'
import { RULES } from './rules'

const DAY = '2026-11-24'
const make = (
  school: string,
  builders: readonly EditBuilder[] = [],
  engineClass: EngineClass = 'i5-turbo',
  more: Partial<Parameters<typeof newBuild>[0]> = {},
): Build =>
  after(
    newBuild({ name: 'Test', engineClass, use: 'street', ambientC: 10, units: 'metric', school, ...more }),
    ...builders,
  )
const set = setField
const part = (id: string, change: object): EditBuilder => setPart(id, { ...change })
const bore = (line: string, boreMm: number): EditBuilder => setLine(line, { boreMm })
const ROAD_OFF: EditBuilder = set(['duty', 'hours'], {
  street: 0,
  motorway: 0,
  mountain: 0,
  track: 9,
  drag: 0,
  towing: 0,
  shortCold: 0,
})
const air: Part = { kind: 'atmosphere', id: 'air', name: 'Open air', ports: [{ id: 'a', name: 'Open' }], at: undefined }
const OPEN_HOSE: Line = {
  id: 'leak',
  name: 'Open hose',
  kind: 'hose',
  from: { part: 'air', port: 'a' },
  to: { part: 'air', port: 'a' },
  boreMm: 12,
  lengthMm: 100,
  bends: [],
  way: undefined,
}
const openTo = (partId: string, port: string): EditBuilder[] => [
  addPart(air),
  join({ ...OPEN_HOSE, to: { part: partId, port } }),
]

/** A plan in the ready bay of its engine, with edits after it. */
const inBay = (school: string, builders: readonly EditBuilder[] = []): Build =>
  make(school, [(b) => setBay(readyBay(b, b.variants[0]!, bayFor(b.engine)))(b), ...builders])
const spotAt = (b: Build, id: string) => {
  const { forwardMm, leftMm, upMm } = spotIn(b.bay, id)!
  return { forwardMm, leftMm, upMm }
}
/** A measured part so many mm lower. */
const lowered =
  (id: string, byMm: number): EditBuilder =>
  (b) =>
    setSpot(id, { ...spotAt(b, id), upMm: spotAt(b, id).upMm - byMm })(b)
/** A dipstick under the can, so far to its left. */
const dipstick =
  (leftMm: number): EditBuilder =>
  (b) => {
    const at = spotAt(b, 'can')
    const stick = {
      id: 'stick',
      name: 'Dipstick',
      kind: 'service' as const,
      longMm: 20,
      wideMm: 20,
      highMm: 20,
      pullMm: 300,
      measured: true,
    }
    return changeBay({ keepOuts: [{ ...at, upMm: at.upMm - 100, leftMm: at.leftMm + leftMm, ...stick }], bonnet: [] })(
      b,
    )
  }
/** A can of two litres with one thing beside it to hang on. */
const hungOn =
  (kind: 'bolt' | 'bracket'): EditBuilder =>
  (b) => {
    const mount = { ...spotAt(b, 'can'), id: 'm', name: 'Mount', kind, measured: true }
    return [...changeBay({ mounts: [mount] })(b), ...part('can', { bowlMl: 2000 })(b)]
  }

/** A battery so far below the only can. */
const batteryUnder =
  (belowMm: number): EditBuilder =>
  (b) => {
    const { forwardMm, leftMm, upMm } = spotAt(b, 'can')
    const size = { longMm: 100, wideMm: 100, highMm: 100 }
    const battery = { id: 'battery', name: 'Battery', kind: 'panel' as const, forwardMm, leftMm, ...size }
    return changeBay({ keepOuts: [{ ...battery, upMm: upMm - belowMm - 70, measured: true }], bonnet: [] })(b)
  }

/** rule, a circuit that breaks it, one that does not */
const CASES: readonly (readonly [rule: string, breaks: Build, keeps: Build])[] = [
  ['not-solved', make('stock', [bore('breather', 0), bore('suction', 0)]), make('stock')],
  ['boost-in-crankcase', make('vacuum-side-can', [part('pcv', { stuck: 'open' })]), make('vacuum-side-can')],
  ['can-sees-boost', make('vacuum-side-can'), make('breather-side-can')],
  ['crankcase-pressure', make('stock', [bore('breather', 9.5)]), make('stock', [], 'i4-na')],
  ['fresh-air', make('stock', [cut('breather')]), make('stock')],
  ['idle-bypass', make('two-outlets', [part('restrictor', { boreMm: 9 }), bore('fresh', 19)]), make('two-outlets')],
  ['breather-unprotected', make('vacuum-side-can'), make('both-sides')],
  ['velocity', make('stock', [bore('breather', 11.1)]), make('stock', [bore('breather', 25.4), bore('suction', 19)])],
  [
    'fill',
    make('vacuum-side-can', [set(['duty', 'checkEveryKm'], 50000)]),
    make('vacuum-side-can', [set(['duty', 'checkEveryKm'], 100)]),
  ],
  ['freezing', make('vacuum-side-can', [], 'i5-turbo', { ambientC: -8 }), make('vacuum-side-can')],
  [
    'oil-water',
    make('vacuum-side-can', [set(['engine', 'oilC'], 77)], 'i5-turbo', { ambientC: 0 }),
    make('vacuum-side-can', [set(['engine', 'oilC'], 96)], 'i5-turbo', { ambientC: 0 }),
  ],
  ['pulsation', make('vented-can', [], 'single'), make('vented-return', [], 'single')],
  ['unjoined', make('stock', [addPart({ ...air, kind: 'tee' })]), make('stock')],
  ['can-swapped', make('breather-side-can', [reverseValve('breather-can')]), make('breather-side-can')],
  ['torn-off', make('breather-side-can', [part('breather-can', { faceCm2: 6 })]), make('breather-side-can')],
  ['valve-idle', make('two-outlets', [reverseValve('check-manifold')]), make('two-outlets')],
  ['vacuum-leak', make('vacuum-side-can', openTo('manifold', 'spare')), make('vacuum-side-can')],
  ['vented-street', make('vented-can'), make('vented-can', [ROAD_OFF])],
  [
    'catch-rule',
    make('vented-can', [ROAD_OFF, part('can', { bowlMl: 500 }), set(['duty', 'catchRuleMl'], 3000)]),
    make('vented-can', [ROAD_OFF, part('can', { bowlMl: 500 })]),
  ],
  [
    'clearance',
    make('vacuum-side-can', [
      (b) => setBay(readyBay(b, b.variants[0]!, 'transverse'))(b),
      setSpot('can', { forwardMm: 150, leftMm: -640, upMm: -180 }),
    ]),
    make('vacuum-side-can'),
  ],
  [
    'dead-end',
    make('stock', [
      addPart({ ...air, kind: 'tee', id: 'stub', ports: [{ id: 'a', name: 'A' }] }),
      join({ ...OPEN_HOSE, from: { part: 'manifold', port: 'spare' }, to: { part: 'stub', port: 'a' } }),
    ]),
    make('stock'),
  ],
  [
    'hose-lay',
    inBay('stock', [
      setWay('breather', [
        { forwardMm: 0, leftMm: 0, upMm: 0 },
        { forwardMm: 20, leftMm: 0, upMm: 0 },
        { forwardMm: 20, leftMm: 20, upMm: 0 },
      ]),
    ]),
    inBay('stock'),
  ],
  ['vent-low', inBay('vented-can', [lowered('vent', 900)]), inBay('vented-can', [lowered('vent', -900)])],
  ['pulled-out', inBay('vacuum-side-can', [dipstick(0)]), inBay('vacuum-side-can', [dipstick(1500)])],
  ['weak-mount', inBay('vented-can', [hungOn('bracket')]), inBay('vented-can', [hungOn('bolt')])],
  ['can-reach', inBay('vented-can', [batteryUnder(0)]), inBay('vented-can', [batteryUnder(300)])],
  ['drain-back', make('separator-return', [cut('return')]), make('separator-return')],
  ['open-end', make('vented-can', [unsplice('vent')]), make('vented-can')],
  ['stuck-valve', make('stock', [part('pcv', { stuck: 'shut' })]), make('stock')],
  [
    'sensor-lost',
    (() => {
      const b = make('stock')
      const v = b.variants[0]!
      return {
        ...b,
        active: 'a',
        variants: [
          v,
          {
            ...v,
            id: 'b',
            name: 'With a sensor',
            parts: [
              ...v.parts,
              {
                kind: 'sensor',
                id: 'sensor',
                name: 'Sensor',
                ports: [
                  { id: 'in', name: 'In' },
                  { id: 'out', name: 'Out' },
                ],
                boreMm: 12,
                at: undefined,
              },
            ],
          },
        ],
      }
    })(),
    make('stock'),
  ],
  ['port-open', make('vacuum-side-can', [cut('suction')]), make('vacuum-side-can')],
  ['relief-open', make('relief-cap', [bore('breather', 5), bore('suction', 5)]), make('relief-cap')],
  [
    'dry-can',
    make(
      'stock',
      [
        splice(
          'breather',
          {
            kind: 'can',
            id: 'can',
            name: 'Can',
            ports: [
              { id: 'in', name: 'In' },
              { id: 'out', name: 'Out' },
            ],
            at: undefined,
            model: 'hollow',
            bowlMl: 90,
            dropKpaAt100: 0.2,
            linearPct: 10,
            faceCm2: 28,
            packed: false,
            surfaceCm2: 220,
            stages: [],
          },
          'middle',
        ),
        set(['engine', 'blowBy'], { state: 'pull', lpm: 1 }),
      ],
      'i4-na',
    ),
    make('breather-side-can'),
  ],
  [
    'reading',
    {
      ...make('stock'),
      log: [
        {
          id: 'r',
          date: '2026-05-01',
          kind: 'reading',
          odometerKm: 1000,
          reading: { state: 'idle', kpa: 4 },
        } as LogEntry,
      ],
    },
    make('stock'),
  ],
]

test('what the reference tells of is what is judged, in the same order', () => {
  expect(RULE_PAGES.map(([id]) => id)).toEqual(RULES.map((r) => r.id))
})

test('every rule has a case', () => {
  const ids = RULES.map((r) => r.id).toSorted()
  expect(CASES.map((c) => c[0]).toSorted()).toEqual(ids)
})

const open = (b: Build, rule: string) => analyse(b, DAY).verdicts.filter((v) => v.rule === rule && v.severity !== 'ok')

test.each(CASES)(
  '%s speaks on the circuit that breaks it and is silent on the one that does not',
  (rule, breaks, keeps) => {
    const found = open(breaks, rule)
    expect(found.length).toBeGreaterThan(0)
    for (const v of found) {
      expect(v.title.length).toBeGreaterThan(5)
      expect(v.why.length).toBeGreaterThan(20)
      expect(`${v.title} ${v.why}`).not.toMatch(/NaN|undefined|Infinity/)
    }
    expect(open(keeps, rule)).toEqual([])
  },
)

test.each(CASES)('%s: a fix that is offered can be made, and lowers the finding or ends it', (rule, breaks) => {
  const rank = (v: { severity: (typeof SEVERITIES)[number] }) => SEVERITIES.indexOf(v.severity)
  for (const v of open(breaks, rule)) {
    if (!v.fix) continue
    const mended = after(breaks, byEdits(v.fix.edits))
    // the same finding: whatever number it tells now
    const still = open(mended, rule).find((x) => x.subject === v.subject)
    if (still) expect(rank(still)).toBeGreaterThan(rank(v))
  }
})

test('a return that hangs on the turbo drain is told of where suction draws at it, and one to the pan is not', () => {
  const canned = make('breather-side-can')
  const led = (to: string) => {
    const here = activeVariant(canned).parts.find((p) => p.kind === 'can')!
    const offer = actionsFor(canned, activeVariant(canned), { kind: 'part', id: here.id }).find((a) =>
      a.label.endsWith(to),
    )!
    const then = applyEdits(canned, offer.edits)
    if (!then.ok) throw new Error(then.reason)
    return then.value
  }
  const turbo = open(led('to the turbo drain'), 'drain-back').filter((v) => v.subject.endsWith('-turbo-drain'))
  expect(turbo).toHaveLength(1)
  // the figure is the solution's own: crankcase less can, where it is largest
  const states = analyse(led('to the turbo drain'), DAY).states
  const suction = states.map((s) => {
    if (!s.solved) return 0
    const can = Object.keys(s.cans)[0]!
    return s.crankcaseGauge - s.gauge[`${can}.in`]!
  })
  expect(turbo[0]!.amount).toBeCloseTo(Math.max(...suction), 0)
  expect(open(led('to the block or pan'), 'drain-back').filter((v) => v.subject.endsWith('-turbo-drain'))).toEqual([])
})

test('a can whose media have filled costs more, and cleaning it is offered first', () => {
  const fouled = make('vented-can', [part('can', { fouling: 12 })])
  const clean = make('vented-can')
  const pull = (b: Build) => analyse(b, DAY).states.find((s) => s.id === 'boost')!
  const gauge = (b: Build) => {
    const s = pull(b)
    return s.solved ? s.crankcaseGauge : Infinity
  }
  expect(gauge(fouled)).toBeGreaterThan(gauge(clean) + 200)
  const verdicts = open(fouled, 'crankcase-pressure')
  expect(verdicts.some((v) => v.fix?.label.startsWith('Clean the'))).toBe(true)
})

test('a fresh-air line that a fix adds leads from the inlet tract to the cover that fewest lines use, and lets air in', () => {
  const closed = make('stock', [cut('breather')])
  const [finding] = open(closed, 'fresh-air').filter((v) => v.fix)
  const mended = after(closed, byEdits(finding!.fix!.edits))
  const { lines, parts } = activeVariant(mended)
  const old = activeVariant(closed).lines
  const [added] = lines.filter((l) => l.kind === 'hose' && !old.some((x) => x.id === l.id))
  const cover = parts.find((p) => p.id === added!.to.part)!
  expect(cover.kind).toBe('cover')
  const uses = (id: string) => old.filter((l) => l.from.part === id || l.to.part === id).length
  const covers = parts.filter((p) => p.kind === 'cover')
  expect(uses(cover.id)).toBe(Math.min(...covers.map((p) => uses(p.id))))
  expect(open(mended, 'fresh-air').filter((v) => v.severity === 'fix' || v.severity === 'stop')).toEqual([])
})
