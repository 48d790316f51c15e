/** The slips that builders make, one by one: each has a rule that names it, on a circuit that makes it and not on the one that does not. */
import { analyse } from '../analyse'
import type { EngineClass } from '../catalogue/engines'
import type { Build, Line, Part } from '../document/schema'
import {
  addPart,
  cut,
  join,
  setLine,
  setPart,
  splice,
  reverseValve,
  unsplice,
  type EditBuilder,
} from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { check, drain, filter, hose, port, sensor, space } from '../catalogue/parts'
import { newBuild } from '../schools/new-build'
import { after, byEdits } from '../testing'
import { SEVERITIES } from './verdict'

const DAY = '2026-11-25'
const make = (school: string, engineClass: EngineClass = 'i5-turbo', ...builders: EditBuilder[]): Build =>
  after(newBuild({ name: 'Slip', engineClass, use: 'street', ambientC: 10, units: 'metric', school }), ...builders)
const leadTo = (line: string, part: Part, at: string): EditBuilder[] => [
  addPart(part),
  (b) => {
    const old = activeVariant(b).lines.find((l) => l.id === line)!
    const to = { part: part.id, port: at }
    return [
      ...cut(line)(b),
      { op: 'insert', path: ['variants', b.active, 'lines', 'new'], value: { ...old, id: 'new', to }, before: null },
    ]
  },
]
const open: Part = space('atmosphere', 'end', 'Open end', port('a', 'Open'))
const openHose = (to: string): Line => hose('stray', 'Stray hose', { from: 'end.a', to, boreMm: 12, lengthMm: 100 })
const chargePipe: Part = space('chargePipe', 'charge', 'Charge pipe', port('a', 'Port'))
const lowBoost: EditBuilder = (b) => [
  { op: 'set', path: ['engine', 'boostKpa'], value: b.engine.boostKpa > 0 ? 30 : 0 },
]

type Slip = readonly [slip: string, rule: string, subject: RegExp, said: RegExp, sound: Build, made: Build]
const SLIPS: readonly Slip[] = [
  [
    'in and out of a can swapped',
    'can-swapped',
    /can/,
    /wrong way round/,
    make('breather-side-can'),
    make('breather-side-can', 'i5-turbo', reverseValve('breather-can')),
  ],
  [
    'a port of the manifold left open',
    'vacuum-leak',
    /end/,
    /Stray hose|stray hose/,
    make('vacuum-side-can'),
    make('vacuum-side-can', 'i5-turbo', addPart(open), join(openHose('manifold.spare'))),
  ],
  [
    'a vacuum source on a vented can',
    'vacuum-leak',
    /air/,
    /vacuum source do not go together/,
    make('vented-can', 'v8-na'),
    make(
      'vented-can',
      'v8-na',
      join(hose('wrong', 'Vacuum hose', { from: 'tee.d', to: 'manifold.vacuum', boreMm: 9.5, lengthMm: 500 })),
    ),
  ],
  [
    'a can that sees boost',
    'can-sees-boost',
    /can/,
    /nothing on that side holds it back/,
    make('two-outlets'),
    make('vacuum-side-can'),
  ],
  [
    'a check before the can fitted the wrong way round',
    'can-sees-boost',
    /can/,
    /lets gas that way|stuck open/,
    make('breather-side-can'),
    make('vacuum-side-can', 'i5-turbo', splice('suction', check('fit', 'Manifold check', 'large'), 'to', true)),
  ],
  [
    'no fresh-air path',
    'fresh-air',
    /missing/,
    /fresh/,
    make('stock', 'i4-na'),
    make('stock', 'i4-na', cut('breather')),
  ],
  [
    'a sensor forgotten',
    'sensor-lost',
    /lost/,
    /sensor/,
    make('stock'),
    make('stock', 'i5-turbo', (b) => {
      const v = activeVariant(b)
      const other = { ...v, id: 'b', name: 'With', parts: [...v.parts, sensor('s', 'Sensor')] }
      return [{ op: 'insert', path: ['variants', 'b'], value: other, before: null }]
    }),
  ],
  [
    'the breather led to the charge pipe, little boost',
    'boost-in-crankcase',
    /charge/,
    /breathe against|of boost/,
    make('stock', 'i5-turbo', lowBoost),
    make('stock', 'i5-turbo', lowBoost, ...leadTo('breather', chargePipe, 'a')),
  ],
  [
    'the PCV valve reversed',
    'valve-idle',
    /pcv/,
    /wrong way round/,
    make('stock', 'i4-na'),
    make('stock', 'i4-na', reverseValve('pcv')),
  ],
  [
    'a check reversed in the only way out',
    'not-solved',
    /boost|pull/,
    /way out|let go/,
    make('two-outlets'),
    make('two-outlets', 'i5-turbo', reverseValve('check-inlet')),
  ],
  [
    'a sensor in the unprotected breather line',
    'breather-unprotected',
    /breather/,
    /no can has seen/,
    make('both-sides'),
    make('stock', 'i5-turbo', splice('breather', sensor('s', 'Sensor'), 'middle')),
  ],
  [
    'a flame trap in the unprotected breather line',
    'breather-unprotected',
    /breather/,
    /no can has seen/,
    make('both-sides'),
    make('stock', 'i5-turbo', splice('breather', filter('trap', 'Flame trap'), 'middle')),
  ],
  [
    'a check in the unprotected breather line',
    'breather-unprotected',
    /breather/,
    /no can has seen/,
    make('both-sides'),
    make('stock', 'i5-turbo', splice('breather', check('c', 'Breather check', 'wide'), 'middle')),
  ],
  [
    'a relief cap reversed',
    'relief-open',
    /relief/,
    /wrong way round/,
    make('relief-cap'),
    make('relief-cap', 'i5-turbo', reverseValve('relief')),
  ],
  [
    'a relief cap that opens too late',
    'relief-open',
    /relief/,
    /opens only at/,
    make('relief-cap'),
    make('relief-cap', 'i5-turbo', setPart('relief', { openKpa: 6 })),
  ],
  [
    'a separator with no drain',
    'drain-back',
    /separator-none/,
    /no drain/,
    make('separator-return'),
    make('separator-return', 'i5-turbo', cut('return')),
  ],
  [
    'a separator drained into the manifold',
    'drain-back',
    /separator-lost/,
    /drains into the intake manifold/,
    make('separator-return'),
    make(
      'separator-return',
      'i5-turbo',
      cut('return'),
      join(drain('r', 'Return', { from: 'separator.drain', to: 'manifold.r', boreMm: 9.5, lengthMm: 400 })),
    ),
  ],
  [
    'a second outlet that never opens',
    'valve-idle',
    /check/,
    /opens at|the other way out/,
    make('two-outlets'),
    make(
      'two-outlets',
      'i5-turbo',
      setPart('check-manifold', { crackKpa: 20 }),
      setPart('check-inlet', { crackKpa: 0, seatMm: 40 }),
      setPart('restrictor', { boreMm: 0.1 }),
    ),
  ],
  [
    'a check fitted backwards in a second outlet',
    'boost-in-crankcase',
    /manifold/,
    /of boost/,
    make('two-outlets'),
    make('two-outlets', 'i5-turbo', reverseValve('check-manifold')),
  ],
  [
    'a breather too narrow',
    'crankcase-pressure',
    /high/,
    /lost in the (breather line|baffle and nipple)/,
    make('stock', 'v8-na'),
    make('stock', 'v8-na', setLine('breather', { boreMm: 8 })),
  ],
  [
    'a vent that ends in the open',
    'open-end',
    /vent-line/,
    /no filter/,
    make('vented-can'),
    make('vented-can', 'i5-turbo', unsplice('vent')),
  ],
  ['vented on the road', 'vented-street', /air/, /emission control/, make('both-sides'), make('vented-can')],
]
const rank = (s: (typeof SEVERITIES)[number]) => SEVERITIES.indexOf(s)
const found = (b: Build, rule: string) => analyse(b, DAY).verdicts.filter((v) => v.rule === rule && v.severity !== 'ok')

test.each(SLIPS)('%s is named, and the sound circuit is not', (...[, rule, subject, said, sound, made]) => {
  const v = found(made, rule).find((x) => subject.test(x.subject) && said.test(`${x.title} ${x.why}`))
  expect(v ?? found(made, rule)).toMatchObject({ rule })
  expect(found(sound, rule).filter((x) => subject.test(x.subject) && said.test(`${x.title} ${x.why}`))).toEqual([])
})

test.each(SLIPS)('%s: what is offered mends it and brings nothing as grave', (...[, rule, subject, , , made]) => {
  for (const v of found(made, rule)) {
    if (!v.fix || !subject.test(v.subject)) continue
    const then = analyse(after(made, byEdits(v.fix.edits)), DAY).verdicts
    const still = then.find((x) => x.rule === rule && x.subject === v.subject)
    expect(still ? rank(still.severity) : SEVERITIES.length).toBeGreaterThan(rank(v.severity))
  }
})

/** Slips whose mending is one press. */
test.each(
  SLIPS.filter(([slip]) =>
    /swapped|left open|vacuum source|sees boost|no fresh-air|relief cap|no drain|backwards|only way out|flame trap|too narrow|ends in the open/.test(
      slip,
    ),
  ),
)('%s: a fix is offered', (...[, rule, subject, , , made]) => {
  expect(found(made, rule).some((v) => subject.test(v.subject) && v.fix)).toBe(true)
})
