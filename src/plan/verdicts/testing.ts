/** For tests: circuits that break each rule, the slips that builders make, and every single mistake that a plan allows. */
import { changeBay, setBay, setSpot, setWay } from '../bay/bay-builders'
import { spotIn } from '../catalogue/bay-geometry'
import { readyBay } from '../catalogue/bays'
import type { EngineClass } from '../catalogue/engines'
import { check, drain, filter, hose, port, sensor, space } from '../catalogue/parts'
import type { Build, Line, LogEntry, Part } from '../document/schema'
import { activeVariant } from '../edit/edit'
import {
  addPart,
  cut,
  join,
  perform,
  reverseValve,
  setField,
  setLine,
  setPart,
  splice,
  unsplice,
  type EditBuilder,
} from '../edit/edit-builders'
import { newBuild } from '../schools/new-build'
import { after, inReadyBay } from '../testing'

/** A plan of a school with edits. */
export const schoolPlan = (
  school: string,
  builders: readonly EditBuilder[] = [],
  engineClass: EngineClass = 'i5-turbo',
  more: Partial<Parameters<typeof newBuild>[0]> = {},
): Build =>
  after(
    newBuild({ name: 'Test', engineClass, use: 'street', ambientC: 10, units: 'metric', school, ...more }),
    ...builders,
  )
const bore = (line: string, boreMm: number): EditBuilder => setLine(line, { boreMm })
const ROAD_OFF: EditBuilder = setField(['duty', 'hours'], {
  street: 0,
  motorway: 0,
  mountain: 0,
  track: 9,
  drag: 0,
  towing: 0,
  shortCold: 0,
})
const air = space('atmosphere', 'air', 'Open air', port('a', 'Open'))
const OPEN_HOSE = hose('leak', 'Open hose', { from: 'air.a', to: 'air.a', boreMm: 12, lengthMm: 100 })
const openTo = (partId: string, port: string): EditBuilder[] => [
  addPart(air),
  join({ ...OPEN_HOSE, to: { part: partId, port } }),
]

/** A plan in the ready bay of its engine, with edits after it. */
const inBay = (school: string, builders: readonly EditBuilder[] = [], engineClass: EngineClass = 'i5-turbo'): Build =>
  after(inReadyBay({ engineClass, use: 'street', school }), ...builders)
const spotAt = (b: Build, id: string) => {
  const { forwardMm, leftMm, upMm } = spotIn(b.bay, id)!
  return { forwardMm, leftMm, upMm }
}
/** A measured part so many mm from where it is. */
const moved =
  (id: string, { upMm = 0, leftMm = 0 }: { readonly upMm?: number; readonly leftMm?: number }): EditBuilder =>
  (b) => {
    const at = spotAt(b, id)
    return setSpot(id, { ...at, leftMm: at.leftMm + leftMm, upMm: at.upMm + upMm })(b)
  }
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
    return [...changeBay({ mounts: [mount] })(b), ...setPart('can', { bowlMl: 2000 })(b)]
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

/** A second plan, with the sensor that the one on the car has not. */
const besideOneWithSensor: EditBuilder = (b) => {
  const v = activeVariant(b)
  const other = { ...v, id: 'b', name: 'With a sensor', parts: [...v.parts, sensor('sensor', 'Sensor')] }
  return [{ op: 'insert', path: ['variants', 'b'], value: other, before: null }]
}

/** rule, a circuit that breaks it, one that does not */
export const RULE_CASES: readonly (readonly [rule: string, breaks: Build, keeps: Build])[] = [
  ['not-solved', schoolPlan('stock', [bore('breather', 0), bore('suction', 0)]), schoolPlan('stock')],
  [
    'boost-in-crankcase',
    schoolPlan('vacuum-side-can', [setPart('pcv', { stuck: 'open' })]),
    schoolPlan('vacuum-side-can'),
  ],
  ['can-sees-boost', schoolPlan('vacuum-side-can'), schoolPlan('breather-side-can')],
  ['crankcase-pressure', schoolPlan('stock', [bore('breather', 9.5)]), schoolPlan('stock', [], 'i4-na')],
  ['fresh-air', schoolPlan('stock', [cut('breather')]), schoolPlan('stock')],
  [
    'idle-bypass',
    schoolPlan('two-outlets', [setPart('restrictor', { boreMm: 9 }), bore('fresh', 19)]),
    schoolPlan('two-outlets'),
  ],
  ['breather-unprotected', schoolPlan('vacuum-side-can'), schoolPlan('both-sides')],
  [
    'velocity',
    schoolPlan('stock', [bore('breather', 11.1)]),
    schoolPlan('stock', [bore('breather', 25.4), bore('suction', 19)]),
  ],
  [
    'fill',
    schoolPlan('vacuum-side-can', [setField(['duty', 'checkEveryKm'], 50000)]),
    schoolPlan('vacuum-side-can', [setField(['duty', 'checkEveryKm'], 100)]),
  ],
  ['freezing', schoolPlan('vacuum-side-can', [], 'i5-turbo', { ambientC: -8 }), schoolPlan('vacuum-side-can')],
  [
    'oil-water',
    schoolPlan('vacuum-side-can', [setField(['engine', 'oilC'], 77)], 'i5-turbo', { ambientC: 0 }),
    schoolPlan('vacuum-side-can', [setField(['engine', 'oilC'], 96)], 'i5-turbo', { ambientC: 0 }),
  ],
  ['pulsation', schoolPlan('vented-can', [], 'single'), schoolPlan('vented-return', [], 'single')],
  ['unjoined', schoolPlan('stock', [addPart({ ...air, kind: 'tee' })]), schoolPlan('stock')],
  ['can-swapped', schoolPlan('breather-side-can', [reverseValve('breather-can')]), schoolPlan('breather-side-can')],
  [
    'torn-off',
    schoolPlan('breather-side-can', [setPart('breather-can', { faceCm2: 6 })]),
    schoolPlan('breather-side-can'),
  ],
  ['valve-idle', schoolPlan('two-outlets', [reverseValve('check-manifold')]), schoolPlan('two-outlets')],
  ['vacuum-leak', schoolPlan('vacuum-side-can', openTo('manifold', 'spare')), schoolPlan('vacuum-side-can')],
  ['vented-street', schoolPlan('vented-can'), schoolPlan('vented-can', [ROAD_OFF])],
  [
    'catch-rule',
    schoolPlan('vented-can', [ROAD_OFF, setPart('can', { bowlMl: 500 }), setField(['duty', 'catchRuleMl'], 3000)]),
    schoolPlan('vented-can', [ROAD_OFF, setPart('can', { bowlMl: 500 })]),
  ],
  [
    'clearance',
    schoolPlan('vacuum-side-can', [
      (b) => setBay(readyBay(b, b.variants[0]!, 'transverse'))(b),
      setSpot('can', { forwardMm: 150, leftMm: -640, upMm: -180 }),
    ]),
    schoolPlan('vacuum-side-can'),
  ],
  [
    'dead-end',
    schoolPlan('stock', [
      addPart({ ...air, kind: 'tee', id: 'stub', ports: [{ id: 'a', name: 'A' }] }),
      join({ ...OPEN_HOSE, from: { part: 'manifold', port: 'spare' }, to: { part: 'stub', port: 'a' } }),
    ]),
    schoolPlan('stock'),
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
  [
    'vent-low',
    inBay('vented-can', [moved('vent', { upMm: -900 })]),
    inBay('vented-can', [moved('vent', { upMm: 900 })]),
  ],
  ['pulled-out', inBay('vacuum-side-can', [dipstick(0)]), inBay('vacuum-side-can', [dipstick(1500)])],
  ['weak-mount', inBay('vented-can', [hungOn('bracket')]), inBay('vented-can', [hungOn('bolt')])],
  ['can-reach', inBay('vented-can', [batteryUnder(0)]), inBay('vented-can', [batteryUnder(300)])],
  ['drain-back', schoolPlan('separator-return', [cut('return')]), schoolPlan('separator-return')],
  ['open-end', schoolPlan('vented-can', [unsplice('vent')]), schoolPlan('vented-can')],
  ['stuck-valve', schoolPlan('stock', [setPart('pcv', { stuck: 'shut' })]), schoolPlan('stock')],
  ['sensor-lost', schoolPlan('stock', [besideOneWithSensor]), schoolPlan('stock')],
  ['port-open', schoolPlan('vacuum-side-can', [cut('suction')]), schoolPlan('vacuum-side-can')],
  ['relief-open', schoolPlan('relief-cap', [bore('breather', 5), bore('suction', 5)]), schoolPlan('relief-cap')],
  [
    'dry-can',
    schoolPlan(
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
        setField(['engine', 'blowBy'], { state: 'pull', lpm: 1 }),
      ],
      'i4-na',
    ),
    schoolPlan('breather-side-can'),
  ],
  [
    'reading',
    {
      ...schoolPlan('stock'),
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
    schoolPlan('stock'),
  ],
]

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
const openEnd: Part = space('atmosphere', 'end', 'Open end', port('a', 'Open'))
const openHose = (to: string): Line => hose('stray', 'Stray hose', { from: 'end.a', to, boreMm: 12, lengthMm: 100 })
const chargePipe: Part = space('chargePipe', 'charge', 'Charge pipe', port('a', 'Port'))
const lowBoost: EditBuilder = (b) => [
  { op: 'set', path: ['engine', 'boostKpa'], value: b.engine.boostKpa > 0 ? 30 : 0 },
]

export type Slip = readonly [slip: string, rule: string, subject: RegExp, said: RegExp, sound: Build, made: Build]
export const SLIPS: readonly Slip[] = [
  [
    'in and out of a can swapped',
    'can-swapped',
    /can/,
    /wrong way round/,
    schoolPlan('breather-side-can'),
    schoolPlan('breather-side-can', [reverseValve('breather-can')]),
  ],
  [
    'a port of the manifold left open',
    'vacuum-leak',
    /end/,
    /Stray hose|stray hose/,
    schoolPlan('vacuum-side-can'),
    schoolPlan('vacuum-side-can', [addPart(openEnd), join(openHose('manifold.spare'))]),
  ],
  [
    'a vacuum source on a vented can',
    'vacuum-leak',
    /air/,
    /vacuum source do not go together/,
    schoolPlan('vented-can', [], 'v8-na'),
    schoolPlan(
      'vented-can',
      [join(hose('wrong', 'Vacuum hose', { from: 'tee.d', to: 'manifold.vacuum', boreMm: 9.5, lengthMm: 500 }))],
      'v8-na',
    ),
  ],
  [
    'a can that sees boost',
    'can-sees-boost',
    /can/,
    /nothing on that side holds it back/,
    schoolPlan('two-outlets'),
    schoolPlan('vacuum-side-can'),
  ],
  [
    'a check before the can fitted the wrong way round',
    'can-sees-boost',
    /can/,
    /lets gas that way|stuck open/,
    schoolPlan('breather-side-can'),
    schoolPlan('vacuum-side-can', [splice('suction', check('fit', 'Manifold check', 'large'), 'to', true)]),
  ],
  [
    'a check before the can that is stuck open',
    'can-sees-boost',
    /can/,
    /stuck open/,
    schoolPlan('vacuum-side-can', [splice('suction', check('fit', 'Manifold check', 'large'), 'to')]),
    schoolPlan('vacuum-side-can', [
      splice('suction', check('fit', 'Manifold check', 'large'), 'to'),
      setPart('fit', { stuck: 'open' }),
    ]),
  ],
  [
    'no fresh-air path',
    'fresh-air',
    /missing/,
    /fresh/,
    schoolPlan('stock', [], 'i4-na'),
    schoolPlan('stock', [cut('breather')], 'i4-na'),
  ],
  [
    'a sensor forgotten',
    'sensor-lost',
    /lost/,
    /sensor/,
    schoolPlan('stock'),
    schoolPlan('stock', [besideOneWithSensor]),
  ],
  [
    'the breather led to the charge pipe, little boost',
    'boost-in-crankcase',
    /charge/,
    /breathe against|of boost/,
    schoolPlan('stock', [lowBoost]),
    schoolPlan('stock', [lowBoost, ...leadTo('breather', chargePipe, 'a')]),
  ],
  [
    'the PCV valve reversed',
    'valve-idle',
    /pcv/,
    /wrong way round/,
    schoolPlan('stock', [], 'i4-na'),
    schoolPlan('stock', [reverseValve('pcv')], 'i4-na'),
  ],
  [
    'a check reversed in the only way out',
    'not-solved',
    /boost|pull/,
    /way out|let go/,
    schoolPlan('two-outlets'),
    schoolPlan('two-outlets', [reverseValve('check-inlet')]),
  ],
  [
    'a sensor in the unprotected breather line',
    'breather-unprotected',
    /breather/,
    /no can has seen/,
    schoolPlan('both-sides'),
    schoolPlan('stock', [splice('breather', sensor('s', 'Sensor'), 'middle')]),
  ],
  [
    'a flame trap in the unprotected breather line',
    'breather-unprotected',
    /breather/,
    /no can has seen/,
    schoolPlan('both-sides'),
    schoolPlan('stock', [splice('breather', filter('trap', 'Flame trap'), 'middle')]),
  ],
  [
    'a check in the unprotected breather line',
    'breather-unprotected',
    /breather/,
    /no can has seen/,
    schoolPlan('both-sides'),
    schoolPlan('stock', [splice('breather', check('c', 'Breather check', 'wide'), 'middle')]),
  ],
  [
    'a relief cap reversed',
    'relief-open',
    /relief/,
    /wrong way round/,
    schoolPlan('relief-cap'),
    schoolPlan('relief-cap', [reverseValve('relief')]),
  ],
  [
    'a relief cap that opens too late',
    'relief-open',
    /relief/,
    /opens only at/,
    schoolPlan('relief-cap'),
    schoolPlan('relief-cap', [setPart('relief', { openKpa: 6 })]),
  ],
  [
    'a separator with no drain',
    'drain-back',
    /separator-none/,
    /no drain/,
    schoolPlan('separator-return'),
    schoolPlan('separator-return', [cut('return')]),
  ],
  [
    'a separator drained into the manifold',
    'drain-back',
    /separator-lost/,
    /drains into the intake manifold/,
    schoolPlan('separator-return'),
    schoolPlan('separator-return', [
      cut('return'),
      join(drain('r', 'Return', { from: 'separator.drain', to: 'manifold.r', boreMm: 9.5, lengthMm: 400 })),
    ]),
  ],
  [
    'a bowl that hangs on the suction side',
    'drain-back',
    /separator-held/,
    /Suction holds/,
    schoolPlan('separator-return'),
    schoolPlan('separator-return', [setPart('separator', { dropKpaAt100: 3, bowl: 'outlet' })]),
  ],
  [
    'a valve in a return that opens late',
    'drain-back',
    /separator-held/,
    /The valve in it holds/,
    schoolPlan('separator-return'),
    schoolPlan('separator-return', [
      splice('return', check('v', 'Return check', 'large'), 'to'),
      setPart('v', { crackKpa: 4 }),
    ]),
  ],
  [
    'a second outlet that never opens',
    'valve-idle',
    /check/,
    /opens at|the other way out/,
    schoolPlan('two-outlets'),
    schoolPlan('two-outlets', [
      setPart('check-manifold', { crackKpa: 20 }),
      setPart('check-inlet', { crackKpa: 0, seatMm: 40 }),
      setPart('restrictor', { boreMm: 0.1 }),
    ]),
  ],
  [
    'a check fitted backwards in a second outlet',
    'boost-in-crankcase',
    /manifold/,
    /of boost/,
    schoolPlan('two-outlets'),
    schoolPlan('two-outlets', [reverseValve('check-manifold')]),
  ],
  [
    'a breather too narrow',
    'crankcase-pressure',
    /high/,
    /lost in the (breather line|baffle and nipple)/,
    schoolPlan('stock', [], 'v8-na'),
    schoolPlan('stock', [setLine('breather', { boreMm: 8 })], 'v8-na'),
  ],
  [
    'a vent that ends in the open',
    'open-end',
    /vent-line/,
    /no filter/,
    schoolPlan('vented-can'),
    schoolPlan('vented-can', [unsplice('vent')]),
  ],
  [
    'vented on the road',
    'vented-street',
    /air/,
    /emission control/,
    schoolPlan('both-sides'),
    schoolPlan('vented-can'),
  ],
]

/** One thing that a builder may get wrong with a part. */
function mistakesWith(p: Part): readonly (readonly [mistake: string, EditBuilder])[] {
  const stuck = (is: string) => [`${p.id} stuck ${is}`, setPart(p.id, { stuck: is })] as const
  const turned = [`${p.id} the wrong way round`, reverseValve(p.id)] as const
  const fouled = [`${p.id} fouled`, setPart(p.id, { fouling: 12 })] as const
  switch (p.kind) {
    case 'check':
    case 'pcv':
    case 'relief':
      return [turned, stuck('open'), stuck('shut')]
    case 'can':
      return [[`${p.id} small`, setPart(p.id, { bowlMl: 60 })], fouled, turned]
    case 'filter':
      return [fouled]
    case 'restrictor':
      return [
        [`${p.id} wide`, setPart(p.id, { boreMm: 12 })],
        [`${p.id} narrow`, setPart(p.id, { boreMm: 0.5 })],
      ]
    default:
      return []
  }
}

/** A plan in the ready bay of its engine with each single mistake that it allows, and as it is. */
export function oneMistakeEach(
  school: string,
  engineClass: EngineClass,
): readonly (readonly [mistake: string, plan: Build])[] {
  const plain = inBay(school, [], engineClass)
  const { parts, lines } = activeVariant(plain)
  const mistakes: readonly (readonly [string, EditBuilder])[] = [
    ...parts.flatMap(mistakesWith),
    ...parts
      .filter((p) => spotIn(plain.bay, p.id) && (p.kind === 'can' || p.kind === 'filter'))
      .flatMap((p) => [
        [`${p.id} low`, moved(p.id, { upMm: -400 })] as const,
        [`${p.id} high`, moved(p.id, { upMm: 250 })] as const,
        [`${p.id} aside`, moved(p.id, { leftMm: 350 })] as const,
      ]),
    ...lines
      .filter((l) => l.kind !== 'direct')
      .flatMap((l) => [
        [`${l.id} off`, cut(l.id)] as const,
        [`${l.id} narrow`, bore(l.id, 5)] as const,
        [`${l.id} wide`, bore(l.id, 31.8)] as const,
      ]),
    ['seldom looked into', setField(['duty', 'checkEveryKm'], 50000)],
    ['frost', setField(['site', 'ambientC'], -15)],
    ['oil cold', setField(['engine', 'oilC'], 70)],
    ['much blow-by', setField(['engine', 'blowBy'], { state: 'pull', lpm: 260 })],
    ['little blow-by', setField(['engine', 'blowBy'], { state: 'pull', lpm: 1 })],
  ]
  return [
    ['as it is', plain],
    ...mistakes.flatMap(([mistake, builder]) => {
      const made = perform(plain, builder)
      return made.ok ? [[mistake, made.value] as const] : []
    }),
  ]
}
