/** From the document to the network: which ports are one joint, what each place holds, what each end costs. */
import { statesOf } from '@/core/engine/states'
import type { EngineClass } from '../catalogue/engines'
import type { Hose } from '@/core/network/elements'
import { applyEdits, activeVariant } from '../edit/edit'
import { dropShares } from '../explain/drop-shares'
import { engineModel } from './engine'
import { boundaryPressure, endLoss, hoseShape, networkOf, SPACE_END_K, topologyOf } from './network'
import { newBuild } from '../schools/new-build'
import type { Part } from '../document/schema'

const build = (school = 'stock', engineClass: EngineClass = 'i5-turbo') =>
  newBuild({ name: 'Test', engineClass, use: 'street', ambientC: 15, altitudeM: 0, units: 'metric', school })
const model = (b = build()) => engineModel(b)
const stateOf = (id: string, b = build()) => model(b).states.find((s) => s.id === id)!

test('ports joined by an opening are one joint, under the name of the space', () => {
  const t = topologyOf(activeVariant(build()))
  expect(t.nodeOf.get('pcv.in')).toBe('cover')
  expect(t.nodeOf.get('passage.out')).toBe('cover')
  expect(t.nodeOf.get('passage.in')).toBe('crankcase')
  expect(t.nodeOf.get('pcv.out')).toBe('pcv.out')
})

test('what no line joins to the crankcase is left out; a drain joins nothing', () => {
  const b = build('vented-can')
  expect(topologyOf(activeVariant(b)).unjoined).toEqual(['manifold', 'inlet'])
  const separated = activeVariant(build('separator-return'))
  const only = { ...separated, lines: separated.lines.filter((l) => l.kind === 'drain' || l.kind === 'direct') }
  expect(topologyOf(only).unjoined).toContain('separator')
})

test('each place holds the pressure that the state says', () => {
  const b = build('stock', 'i4-super')
  const amb = model(b).amb
  const at = (kind: string, id: string, more = {}) =>
    boundaryPressure(
      { kind, id: 'x', name: 'x', ports: [], at: undefined, ...more } as unknown as Part,
      stateOf(id, b),
      amb,
    )
  const boost = stateOf('boost', b)
  expect(at('manifold', 'boost')).toBe(boost.manifoldPa)
  expect(at('inlet', 'boost', { depressionPct: 50 })).toBeCloseTo(amb.pressurePa - boost.inletDepressionPa / 2, 6)
  expect(at('atmosphere', 'boost')).toBe(amb.pressurePa)
  // the charge pipe is never below the inlet tract, the blower's inlet never above it
  expect(at('chargePipe', 'idle')).toBeCloseTo(amb.pressurePa - stateOf('idle', b).inletDepressionPa, 6)
  expect(at('chargePipe', 'boost')).toBe(boost.manifoldPa)
  expect(at('blowerInlet', 'idle')).toBe(stateOf('idle', b).manifoldPa)
  expect(at('blowerInlet', 'boost')).toBeCloseTo(amb.pressurePa - boost.inletDepressionPa, 6)
  // an extractor's suction grows with the square of flow
  expect(at('exhaust', 'boost', { suctionKpa: 5 })).toBeCloseTo(amb.pressurePa - 5000, 6)
  expect(amb.pressurePa - at('exhaust', 'cruise', { suctionKpa: 5 })!).toBeCloseTo(
    5000 * stateOf('cruise', b).flowShare ** 2,
    6,
  )
  expect(at('cover', 'boost')).toBeUndefined()
})

test('an end costs a head where it opens into a space, more through a narrow barb, nothing at a tee', () => {
  const end = { part: 'x', port: 'y' }
  expect(endLoss(end, true, 15.9)).toBeCloseTo(SPACE_END_K, 12)
  expect(endLoss(end, false, 15.9)).toBe(0)
  const barb = endLoss({ ...end, barbMm: 12 }, true, 15.9)
  expect(barb).toBeGreaterThan(SPACE_END_K * (15.9 / 12) ** 4)
  // a barb wider than the hose is no barb to the gas
  expect(endLoss({ ...end, barbMm: 20 }, true, 15.9)).toBeCloseTo(SPACE_END_K, 12)
  const v = activeVariant(build('vented-can', 'v8-na'))
  const parts = new Map<string, Part>(v.parts.map((p) => [p.id, p]))
  expect(
    hoseShape(
      v.lines.find((l) => l.id === 'cover-line1')!,
      parts,
    ).k,
  ).toBeCloseTo(SPACE_END_K, 12)
})

test('elbows and bends go into the hose that has them', () => {
  const b = build('vacuum-side-can')
  const m = model(b)
  const network = networkOf(activeVariant(b), topologyOf(activeVariant(b)), m.states[0]!, m.amb, 1e-4)
  const hose = (id: string) => network.elements.find((e) => e.id === id) as Hose
  expect(hose('dirty').kPerF).toBeGreaterThan(0)
  const straight = applyEdits(b, [{ op: 'line', line: 'dirty', set: { bends: [], to: { part: 'can', port: 'in' } } }])
  if (!straight.ok) throw new Error(straight.reason)
  const plain = networkOf(
    activeVariant(straight.value),
    topologyOf(activeVariant(straight.value)),
    m.states[0]!,
    m.amb,
    1e-4,
  ).elements.find((e) => e.id === 'dirty') as Hose
  expect(plain.kPerF).toBe(0)
  expect(hose('dirty').kFixed - plain.kFixed).toBeGreaterThan(1.2)
})

test('a stuck valve is a hole or no hole', () => {
  const b = build()
  const element = (stuck: 'open' | 'shut') => {
    const r = applyEdits(b, [{ op: 'part', part: 'pcv', set: { stuck } }])
    if (!r.ok) throw new Error(r.reason)
    const v = activeVariant(r.value)
    return networkOf(v, topologyOf(v), model().states[0]!, model().amb, 0).elements.find((e) => e.id === 'pcv')!
  }
  expect(element('open')).toMatchObject({ kind: 'orifice', areaM2: 14e-6 })
  expect(element('shut')).toMatchObject({ kind: 'orifice', areaM2: 0 })
})

test('elements of a plan are made once and are the same in every state; a pump turns with the engine', () => {
  const b = build()
  const v = activeVariant(b)
  const m = model(b)
  const [a, c] = [
    networkOf(v, topologyOf(v), m.states[0]!, m.amb, 0),
    networkOf(v, topologyOf(v), m.states[4]!, m.amb, 0),
  ]
  expect(a.elements).toBe(c.elements)
  const dry = build('tank-vent', 'vtwin-na')
  const dv = activeVariant(dry)
  const dm = model(dry)
  const swept = (i: number) =>
    networkOf(dv, topologyOf(dv), dm.states[i]!, dm.amb, 0).elements.find((e) => e.kind === 'pump') as {
      sweptM3s: number
    }
  expect(swept(2).sweptM3s / swept(0).sweptM3s).toBeCloseTo(dm.states[2]!.rpm / dm.states[0]!.rpm, 9)
})

test('the shares of a drop sum to one, and a longer hose loses more of it along its wall', () => {
  const v = activeVariant(build())
  const line = v.lines.find((l) => l.id === 'breather')!
  const at = (lengthMm: number) => dropShares({ ...line, lengthMm }, v, 370, 3e-3)
  for (const mm of [0, 300, 3000]) {
    const s = at(mm)
    expect(s.friction + s.bends + s.ends).toBeCloseTo(1, 12)
  }
  expect(at(3000).friction).toBeGreaterThan(at(300).friction)
  expect(at(0).friction).toBe(0)
})

test('a charged engine has six states, another four', () => {
  expect(model(build('stock', 'i4-super')).states.map((s) => s.id)).toEqual(statesOf('super'))
  expect(model(build('stock', 'v6-na')).states.map((s) => s.id)).toEqual(statesOf('na'))
})
