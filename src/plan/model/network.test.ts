/** From the document to the network: which ports are one joint, what each place holds, what each end costs. */
import { statesOf } from '@/core/engine/states'
import type { EngineClass } from '../catalogue/engines'
import type { Hose, Loss } from '@/core/network/elements'
import { setLine, setPart } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { after } from '../testing'
import { endLoss, leastBore, resolve, SPACE_END_K } from './resolve'
import { dropShares } from '../explain/drop-shares'
import { engineModel } from './engine'
import { makeEvaluator } from './evaluator'
import { boundaryPressure, makeNetworkOf, networkOf } from './network'
import { newBuild } from '../schools/new-build'
import type { BoundaryPart } from '../document/kinds'
import type { Build, Part } from '../document/schema'
import { figuresOf } from './figures'

const build = (school = 'stock', engineClass: EngineClass = 'i5-turbo') =>
  newBuild({ name: 'Test', engineClass, use: 'street', ambientC: 15, altitudeM: 0, units: 'metric', school })
const model = (b = build()) => engineModel(b)
const stateOf = (id: string, b = build()) => model(b).states.find((s) => s.id === id)!

const elementsIn = (b: ReturnType<typeof build>, state = 0, { resolve, networkOf } = makeEvaluator()) => {
  const m = model(b)
  return networkOf(resolve(activeVariant(b)), m.states[state]!, m.amb, 1e-4).elements
}

test('ports joined by an opening are one joint, under the name of the space', () => {
  const t = resolve(activeVariant(build())).topology
  // behind the cover's baffle and nipple, which is an element of its own
  expect(t.nodeOf.get('pcv.in')).toBe(t.nodeOf.get('cover.pcv'))
  expect(t.nodeOf.get('cover.filler')).toBe('cover')
  expect(t.nodeOf.get('passage.out')).toBe('cover')
  expect(t.nodeOf.get('passage.in')).toBe('crankcase')
  expect(t.nodeOf.get('pcv.out')).toBe('pcv.out')
})

test('what no line joins to the crankcase is left out; a drain joins nothing', () => {
  const b = build('vented-can')
  expect([...resolve(activeVariant(b)).topology.unjoined]).toEqual(['manifold', 'inlet'])
  const separated = activeVariant(build('separator-return'))
  const only = { ...separated, lines: separated.lines.filter((l) => l.kind === 'drain' || l.kind === 'direct') }
  expect([...resolve(only).topology.unjoined]).toContain('separator')
})

test('elements that are kept from state to state are made anew where the pressure outside is another', () => {
  const regulated = { engineClass: 'i6-turbo', engine: { freshAir: 'regulator' }, school: 'stock-regulator' } as const
  const b = newBuild({ name: 'Test', use: 'street', ambientC: 15, altitudeM: 0, units: 'metric', ...regulated })
  const low = model(b)
  const high = engineModel({ ...b, site: { ...b.site, altitudeM: 2500 } })
  const r = resolve(activeVariant(b))
  const kept = makeNetworkOf()
  const before = kept(r, low.states[0]!, low.amb, 1e-4).elements
  const idle = high.states[0]!
  const { elements } = networkOf(r, idle, high.amb, 1e-4)
  expect(elements).not.toEqual(before)
  expect(kept(r, idle, high.amb, 1e-4).elements).toEqual(elements)
})

test('each place holds the pressure that the state says', () => {
  const b = build('stock', 'i4-super')
  const amb = model(b).amb
  const at = (kind: string, id: string, more = {}) =>
    boundaryPressure(
      { kind, id: 'x', name: 'x', ports: [], at: undefined, ...more } as unknown as BoundaryPart,
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

test('a tee costs whoever turns into its third port, and in each state by what runs there', () => {
  const b = newBuild({
    name: 'T',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 20,
    units: 'metric',
    school: 'stock-regulator',
  })
  const v = activeVariant(b)
  const tee = v.parts.find((p) => p.kind === 'tee')!
  const inlet = v.lines.find((l) => [l.from, l.to].some((e) => e.part === tee.id && e.port === 'c'))!
  const lossIn = (of: Build, id: string) => {
    const s = figuresOf(of).states.find((x) => x.id === id)!
    return s.solved ? (s.passages[inlet.id]!.teeLoss ?? 0) : Number.NaN
  }
  const swapped = {
    ...b,
    variants: [
      {
        ...v,
        parts: v.parts.map((p) => (p === tee ? ({ ...p, ports: [p.ports[0]!, p.ports[2]!, p.ports[1]!] } as Part) : p)),
      },
    ],
  }
  // in boost all of it goes to the inlet: round the corner, or straight on
  expect(lossIn(b, 'boost')).toBeGreaterThan(50)
  expect(Math.abs(lossIn(swapped, 'boost'))).toBeLessThan(1)
  // at idle the check there is shut: nothing runs
  expect(lossIn(b, 'idle')).toBeLessThan(1)
})

test('an end costs a head where it opens into a space, more through a narrow bore, nothing else where it meets a joint', () => {
  const even = { narrowMm: 15.9, boreMm: 15.9 }
  for (const gas of ['enters', 'leaves'] as const) {
    expect(endLoss(even, true, gas)).toBeCloseTo(SPACE_END_K[gas], 12)
    expect(endLoss(even, false, gas)).toBe(0)
    expect(endLoss({ narrowMm: 12, boreMm: 15.9 }, true, gas)).toBeGreaterThan(SPACE_END_K[gas] * (15.9 / 12) ** 4)
  }
})

test('the least bore of hose, barb and port counts; a barb that is not known is 3.2 mm less than its hose', () => {
  const end = { part: 'x', port: 'y' }
  expect(leastBore(end, 15.9, undefined)).toBeCloseTo(12.7, 9)
  expect(leastBore({ ...end, barbMm: 14 }, 15.9, undefined)).toBe(14)
  // a barb wider than the hose is no barb to the gas
  expect(leastBore({ ...end, barbMm: 20 }, 15.9, undefined)).toBe(15.9)
  expect(leastBore({ ...end, barbMm: 14 }, 15.9, 6)).toBe(6)
  expect(leastBore(end, 4, undefined)).toBe(2)
})

test('narrow ports are felt: breather nipples of 6 mm hold the boosted crankcase up by kilopascals', () => {
  const b = build('stock')
  const gauge = (of: Build) => {
    const s = figuresOf(of).states.find((x) => x.id === 'boost')!
    return s.solved ? s.crankcaseGauge : Number.NaN
  }
  const plan = activeVariant(b)
  const narrow = plan.parts.map((p) => ({
    ...p,
    ports: p.ports.map((q) => (q.id === 'breather' ? { ...q, boreMm: 6 } : q)),
  }))
  expect(gauge(b)).toBeLessThan(0)
  expect(gauge({ ...b, variants: [{ ...plan, parts: narrow as typeof plan.parts }] })).toBeGreaterThan(8000)
})

test('a cover port costs its baffle and nipple, 0.5 kPa at 100 l/min unless it says otherwise; a filler neck nothing', () => {
  const at = (of: Build) => elementsIn(of).find((e) => e.id === 'cover.breather') as Loss
  const b = build('stock')
  const q = 0.1 / 60
  expect(at(b).a * q + at(b).b * 1.2 * q * q).toBeCloseTo(500, 6)
  expect(
    at(
      after(
        b,
        setPart('cover', {
          ports: activeVariant(b)
            .parts.find((p) => p.id === 'cover')!
            .ports.map((p) => ({ ...p, lossKpaAt100: 0 })),
        }),
      ),
    ),
  ).toBeUndefined()
  expect(elementsIn(build('both-sides-filler')).some((e) => e.id === 'cover.filler')).toBe(false)
})

test('elbows and bends go into the hose that has them', () => {
  const b = build('vacuum-side-can')
  const hose = (of: typeof b) => elementsIn(of).find((e) => e.id === 'dirty') as Hose
  expect(hose(b).kPerF).toBeGreaterThan(0)
  const plain = hose(after(b, setLine('dirty', { bends: [], to: { part: 'can', port: 'in' } })))
  expect(plain.kPerF).toBe(0)
  expect(hose(b).kFixed - plain.kFixed).toBeGreaterThan(1.2)
})

test('a stuck valve is a hole or no hole', () => {
  const element = (stuck: 'open' | 'shut') =>
    elementsIn(after(build(), setPart('pcv', { stuck }))).find((e) => e.id === 'pcv')
  expect(element('open')).toMatchObject({ kind: 'orifice', areaM2: 14e-6 })
  expect(element('shut')).toMatchObject({ kind: 'orifice', areaM2: 0 })
})

test('elements of a plan are made once and are the same in every state; a pump turns with the engine', () => {
  const b = build()
  const one = makeEvaluator()
  expect(elementsIn(b, 0, one)).toBe(elementsIn(b, 4, one))
  // another evaluator knows nothing of it
  expect(elementsIn(b, 0, makeEvaluator())).not.toBe(elementsIn(b, 0, one))
  const dry = build('tank-vent', 'vtwin-na')
  const { states } = model(dry)
  const swept = (i: number) => elementsIn(dry, i).find((e) => e.kind === 'pump') as { sweptM3s: number }
  expect(swept(2).sweptM3s / swept(0).sweptM3s).toBeCloseTo(states[2]!.rpm / states[0]!.rpm, 9)
})

test('what an edit leaves as it is stays the same element; what it changes is another', () => {
  const b = build('vacuum-side-can')
  const changed = after(b, setPart('can', { dropKpaAt100: 0.9 }), setLine('suction', { lengthMm: 900 }))
  const one = makeEvaluator()
  const [before, now] = [elementsIn(b, 0, one), elementsIn(changed, 0, one)]
  const others = now.flatMap((e, k) => (e === before[k] ? [] : [e.id]))
  expect(others).toEqual(['can', 'suction'])
  expect(one.resolve(activeVariant(changed)).topology).toBe(one.resolve(activeVariant(b)).topology)
})

test('a joint moved is another topology', () => {
  const b = build('vacuum-side-can')
  const moved = after(b, setLine('breather', { from: { part: 'cover', port: 'filler' } }))
  const one = makeEvaluator()
  expect(one.resolve(activeVariant(moved)).topology).not.toBe(one.resolve(activeVariant(b)).topology)
})

test('the shares of a drop sum to one, and a longer hose loses more of it along its wall', () => {
  const { shape } = resolve(activeVariant(build())).lines.get('breather')!
  const at = (mm: number) => dropShares({ ...shape, lengthM: mm / 1000 }, 370, 3e-3)
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
