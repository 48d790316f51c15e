/** The breathing model in full: every kind of part in a circuit, measurements, ranges, the map. */
import { makeEvaluator } from '../model/evaluator'
import { analyse } from '../analyse'
import { capacityOf } from '../model/capacity'
import { ENGINE_CLASSES, type EngineClass } from '../catalogue/engines'
import type { SolvedState } from '../model/results'
import { FORMAT_VERSION } from '../document/bounds'
import type { Build, Part } from '../document/schema'
import { validateBuild } from '../document/validate'
import { setField, setLine } from '../edit/edit-builders'
import { after } from '../testing'
import { finish } from '@/core/job'
import { engineMap } from './map'
import { newBuild } from '../schools/new-build'
import { pulse } from '../model/pulsation'
import { ranges } from './ranges'
import { check, direct, filter, hose, passage, port, space } from '../catalogue/parts'

const DAY = '2026-11-24'
const build = (engineClass: EngineClass = 'i5-turbo') =>
  newBuild({ name: 'Test', engineClass, use: 'street-track', ambientC: 10, units: 'metric' })
const state = (b: Build, id: string) => analyse(b, DAY).states.find((s) => s.id === id) as SolvedState
const inOut = [port('in', 'In'), port('out', 'Out')]

/** Crankcase, one cover, and what is plumbed from the cover's nipple to `sink`, part after part. */
function vented(b: Build, sink: Part, ...through: Part[]): Build {
  const chain = [
    'cover.out',
    ...through.flatMap((p) => [`${p.id}.in`, `${p.id}.out`]),
    `${sink.id}.${sink.ports[0]!.id}`,
  ]
  const lines = Array.from({ length: chain.length / 2 }, (_, i) =>
    hose(`line${i}`, `Line ${i}`, { from: chain[2 * i]!, to: chain[2 * i + 1]!, boreMm: 15.9, lengthMm: 300 }),
  )
  const made: Build = {
    ...b,
    variants: [
      {
        id: 'a',
        name: 'Trial',
        school: 'own',
        parts: [
          space('crankcase', 'crankcase', 'Crankcase', port('top', 'Top')),
          passage('passage', 'Passages', 12, 4),
          space('cover', 'cover', 'Cover', port('below', 'Below'), port('out', 'Nipple')),
          ...through,
          sink,
        ],
        lines: [
          direct('a', 'a', 'crankcase.top', 'passage.in'),
          direct('b', 'b', 'passage.out', 'cover.below'),
          ...lines,
        ],
      },
    ],
  }
  expect(validateBuild(JSON.parse(JSON.stringify(made)))).toMatchObject({ ok: true })
  return made
}
const air = space('atmosphere', 'air', 'Open air', port('in', 'In'))
const manifold = space('manifold', 'manifold', 'Manifold', port('in', 'In'))
const part = (p: object) => ({ ports: inOut, at: undefined, ...p }) as unknown as Part

describe('parts', () => {
  test('a regulator holds the crankcase at its set point, against deep suction', () => {
    const regulator = part({ kind: 'regulator', id: 'reg', name: 'Regulator', boreMm: 12, setKpa: -2.5, bandKpa: 1.5 })
    const b = vented(build('v6-na'), manifold, regulator)
    for (const id of ['idle', 'cruise']) expect(Math.abs(state(b, id).crankcaseGauge + 2500)).toBeLessThan(800)
    // stuck open it does not
    expect(
      state(vented(build('v6-na'), manifold, { ...regulator, stuck: 'open' } as Part), 'idle').crankcaseGauge,
    ).toBeLessThan(-20e3)
  })
  test('a relief cap stays shut until its opening pressure, then bounds it', () => {
    const relief = part({ kind: 'relief', id: 'relief', name: 'Relief cap', seatMm: 20, openKpa: 1.5 })
    const pull = state(vented(build('v8-na'), air, relief), 'pull')
    expect(pull.crankcaseGauge).toBeGreaterThan(1500)
    // the cover's baffle and nipple stand between them
    expect(pull.crankcaseGauge).toBeLessThan(4000)
    const shut = analyse(vented(build('v8-na'), air, { ...relief, stuck: 'shut' } as Part), DAY)
    expect(shut.states.every((s) => !s.solved && /no way out/.test(s.reason))).toBe(true)
  })
  test('a vacuum pump draws the crankcase down, deeper with speed, and not without end', () => {
    const pump = part({ kind: 'pump', id: 'pump', name: 'Vacuum pump', ccPerTurn: 120, ratio: 0.5, clearancePct: 40 })
    const b = vented(build('v8-na'), air, pump)
    const [idle, pull] = [state(b, 'idle'), state(b, 'pull')]
    expect(pull.crankcaseGauge).toBeLessThan(-3000)
    expect(idle.crankcaseGauge).toBeGreaterThan(-90e3)
    expect(state(vented(build('v8-na'), air, { ...pump, ratio: 0.8 } as Part), 'pull').crankcaseGauge).toBeLessThan(
      pull.crankcaseGauge,
    )
  })
  test('an exhaust extractor sucks at full load; its check holds when the collector pushes', () => {
    const exhaust = part({
      kind: 'exhaust',
      id: 'exhaust',
      name: 'Collector',
      ports: [port('in', 'Slash-cut pipe')],
      suctionKpa: 6,
    })
    const b = vented(build('v8-na'), exhaust, check('check', 'Extractor check', 'large'))
    expect(state(b, 'pull').crankcaseGauge).toBeLessThan(0)
    const pushing = vented(
      build('v8-na'),
      { ...exhaust, suctionKpa: -10 } as Part,
      check('check', 'Extractor check', 'large'),
    )
    expect(state(pushing, 'idle').into.exhaust!.gas).toBeGreaterThanOrEqual(0)
  })
  test('between throttle and blower there is suction at idle and never boost', () => {
    const b = vented(
      build('i4-super'),
      part({ kind: 'blowerInlet', id: 'blower', name: 'Blower inlet', ports: [port('in', 'In')] }),
    )
    expect(state(b, 'idle').gauge.blower).toBeLessThan(-50e3)
    expect(state(b, 'boost').gauge.blower).toBeLessThan(0)
    expect(state(b, 'boost').gauge.blower).toBeGreaterThan(-6000)
  })
  test('a fouled filter lifts the crankcase by its factor', () => {
    const at = (fouling: number) =>
      state(vented(build('v8-na'), air, { ...filter('vent', 'Vent filter'), fouling } as Part), 'pull')
    const drop = (s: SolvedState) => s.passages.vent!.gaugeFrom - s.passages.vent!.gaugeTo
    expect(drop(at(4)) / drop(at(1))).toBeCloseTo(4, 1)
  })
  test('a dry sump: the scavenge stage carries gas to the tank, whose vent takes it, and the crankcase stands below', () => {
    const b = build('vtwin-na')
    const scavenge = part({
      kind: 'pump',
      id: 'scavenge',
      name: 'Scavenge stage',
      ccPerTurn: 30,
      ratio: 0.5,
      clearancePct: 10,
    })
    const tank = space('tank' as 'tee', 'tank', 'Oil tank', port('in', 'Return'), port('vent', 'Vent'))
    const made: Build = {
      ...b,
      variants: [
        {
          id: 'a',
          name: 'Dry sump',
          school: 'own',
          parts: [space('crankcase', 'crankcase', 'Crankcase', port('out', 'Pick-up')), scavenge, tank, air],
          lines: [
            hose('l1', 'Scavenge line', { from: 'crankcase.out', to: 'scavenge.in', boreMm: 19, lengthMm: 200 }),
            hose('l2', 'Return line', { from: 'scavenge.out', to: 'tank.in', boreMm: 19, lengthMm: 500 }),
            hose('l3', 'Tank vent', { from: 'tank.vent', to: 'air.in', boreMm: 15.9, lengthMm: 600 }),
          ],
        },
      ],
    }
    const pull = state(made, 'pull')
    expect(pull.crankcaseGauge).toBeLessThan(-500)
    expect(pull.gauge.tank).toBeGreaterThan(0)
    expect(pull.into.air!.gas).toBeCloseTo(pull.blowBy, 9)
  })
})

describe('facts and measurements', () => {
  test.each(ENGINE_CLASSES.map((c) => c.key))('%s: altitude and a low barometer thin everything alike', (key) => {
    const high = after(build(key), setField(['site', 'altitudeM'], 2000))
    const read = after(build(key), setField(['site', 'pressureKpa'], 79.5))
    const [a, b] = [state(high, 'idle'), state(read, 'idle')]
    expect(a.blowBy / b.blowBy).toBeCloseTo(1, 1)
    expect(Math.abs(a.crankcaseGauge - b.crankcaseGauge)).toBeLessThan(20)
  })
  test('a meter and an orifice that say the same give the same leak', () => {
    const meter = after(build(), setField(['engine', 'blowBy'], { state: 'boost', lpm: 210 }))
    expect(state(meter, 'boost').blowBy / ((210 * 1.204119e-3) / 60)).toBeCloseTo(1, 6)
    // 0.62 x 10 mm hole, pressure that passes 210 l/min at the state's 100 C: m = Cd A sqrt(2 rho dp), to the nozzle's expansion
    const rho = 100129 / (287.05 * 373.15)
    const kpa = ((210 * 1.204119e-3) / 60 / (0.62 * Math.PI * 0.005 ** 2)) ** 2 / (2 * rho) / 1000
    const orifice = after(build(), setField(['engine', 'blowBy'], { state: 'boost', orificeMm: 10, kpa }))
    expect(validateBuild(orifice).ok).toBe(true)
    expect(state(orifice, 'boost').blowBy / state(meter, 'boost').blowBy).toBeCloseTo(1, 1)
    expect(validateBuild(after(build(), setField(['engine', 'blowBy'], { state: 'boost', kpa: 2 }))).ok).toBe(false)
  })
  test('logged air replaces the estimate and moves the inlet depression', () => {
    const b = after(build(), setField(['engine', 'overrides', 'cruise'], { airGs: 60 }))
    expect(state(b, 'cruise').operating.airKgS).toBeCloseTo(0.06, 9)
    expect(state(b, 'cruise').operating.inletDepressionPa).toBeGreaterThan(
      state(build(), 'cruise').operating.inletDepressionPa,
    )
  })
  test('a build of version 1 becomes a wet sump', () => {
    const { sump: _gone, ...engine } = build().engine
    const v = validateBuild({ ...build(), version: 1, engine })
    expect(v.ok && [v.build.version, v.build.engine.sump]).toEqual([FORMAT_VERSION, 'wet'])
  })
})

describe('ranges', () => {
  const before = finish(ranges(build(), 300))
  test('the same seed gives the same bands, which hold the likely value', () => {
    expect(finish(ranges(build(), 300))).toEqual(before)
    for (const s of before.states) {
      const likely = state(build(), s.id).crankcaseGauge
      expect(s.crankcase.low).toBeLessThan(likely)
      expect(s.crankcase.high).toBeGreaterThan(likely)
    }
    expect(before.failed).toBe(0)
  })
  test('a measured blow-by narrows the band where blow-by made it wide', () => {
    const width = (r: typeof before) => {
      const s = r.states.find((x) => x.id === 'spool')!
      return s.crankcase.high - s.crankcase.low
    }
    const measured = finish(ranges(after(build(), setField(['engine', 'blowBy'], { state: 'boost', lpm: 150 })), 300))
    expect(width(measured)).toBeLessThan(0.8 * width(before))
  })
  test('in boost the inlet depression is what to measure; its share falls once it is', () => {
    const most = before.states.find((s) => s.id === 'boost')!.shares.slice(0, 3)
    expect(most.map((x) => x.id)).toContain('inlet')
    const known = finish(ranges(after(build(), setField(['engine', 'inletDepressionKpa'], 4)), 300))
    expect(
      known.states.find((s) => s.id === 'boost')!.crankcase.high -
        known.states.find((s) => s.id === 'boost')!.crankcase.low,
    ).toBeLessThan(
      0.9 *
        (before.states.find((s) => s.id === 'boost')!.crankcase.high -
          before.states.find((s) => s.id === 'boost')!.crankcase.low),
    )
  })
})

describe('the map', () => {
  const b = build()
  const map = finish(engineMap(b, 8))
  const corner = { topRight: 8 * 8 - 1, bottomLeft: 0 }
  test('its corners are what the states next to them say', () => {
    expect(map.crankcaseGauge.every((v) => Number.isFinite(v))).toBe(true)
    expect(map.crankcaseGauge[corner.topRight]! / state(b, 'boost').crankcaseGauge).toBeCloseTo(1, 1)
    expect(map.breather[corner.topRight]).toBeGreaterThan(0)
    expect(map.breather[corner.bottomLeft]).toBeLessThan(0)
  })
  test('blow-by grows with manifold pressure at every speed', () => {
    for (let c = 0; c < 8; c++)
      for (let r = 1; r < 8; r++) expect(map.blowBy[r * 8 + c]!).toBeGreaterThan(map.blowBy[(r - 1) * 8 + c]!)
  })
  test('with blow-by at capacity the crankcase stands at the limit', () => {
    const carries = capacityOf(b, makeEvaluator()).spool!
    const at = after(b, setField(['engine', 'blowBy'], { state: 'spool', lpm: carries / (1.204119e-3 / 60) }))
    expect(state(at, 'spool').crankcaseGauge / 2000).toBeCloseTo(1, 2)
  })
})

describe('pulsation of a build', () => {
  const b = vented(build('single'), air)
  test('a breather valve turns the pumping into suction', () => {
    const open = finish(pulse(b, 'pull'))
    const valved = finish(pulse(vented(build('single'), air, check('valve', 'Breather valve', 'large')), 'pull'))
    if (!open.ok || !valved.ok) throw new Error('no answer')
    expect(open.value.back).toBeGreaterThan(0)
    expect(valved.value.mean).toBeLessThan(open.value.mean - 2000)
    expect(valved.value.out - valved.value.back).toBeCloseTo(state(b, 'pull').blowBy, 5)
  })
  test('a four has none worth following, and a crankcase too small for its piston is refused', () => {
    expect(finish(pulse(build('i4-na'), 'idle'))).toMatchObject({ ok: false })
    expect(finish(pulse(after(b, setField(['engine', 'crankcaseCc'], 120)), 'idle'))).toMatchObject({
      ok: false,
      at: 'engine.crankcaseCc',
    })
  })
})

test('breathers of 100 and 600 mm are followed to a turn that repeats, at full load and on overrun', () => {
  for (const [engineClass, lengthMm, state] of [
    ['single', 100, 'overrun'],
    ['single', 600, 'pull'],
    ['vtwin-na', 100, 'overrun'],
  ] as const) {
    const b = after(
      newBuild({ name: 'T', engineClass, use: 'track', ambientC: 20, units: 'metric', school: 'vented-return' }),
      setLine('breather', { lengthMm }),
    )
    const r = finish(pulse(b, state))
    expect([engineClass, lengthMm, state, r.ok]).toEqual([engineClass, lengthMm, state, true])
    // no lower than the open air thinned by the pistons' own swing
    if (r.ok) expect(r.value.mean).toBeGreaterThan(70_000)
  }
})
