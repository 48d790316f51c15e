import type { Element, Network } from './elements'
import { bendLoss, colebrook, contractionLoss, expansionLoss, frictionFactor, mitreLoss } from './friction'
import { flowLaw } from './flow'
import type { Flow } from './law'
import { nozzle } from './nozzle'
import { makeHose } from './hose'
import { solveNetwork } from './solve'

const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
const P0 = 101325
const solve = (nodes: Network['nodes'], elements: Element[]) => solveNetwork({ gas, nodes, elements })
const solved = (nodes: Network['nodes'], elements: Element[]) => {
  const s = solve(nodes, elements)
  if (!s.ok) throw new Error(s.reason)
  return s.value
}
const hose = (id: string, from: string, to: string, boreM = 0.0127) =>
  makeHose(id, from, to, { boreM, lengthM: 1, k: 1 })

test('worked examples of the doc comments', () => {
  expect(colebrook(1e5, 1e-4)).toBeCloseTo(0.01852, 4)
  expect(frictionFactor(1000, 1e-4)).toBe(0.064)
  expect(bendLoss({ angleDeg: 90, radiusM: 0.05 }, 0.0127).fixed).toBeCloseTo(0.0707, 4)
  expect(mitreLoss(90)).toBeCloseTo(1.2021, 4)
  expect(contractionLoss(0)).toBeCloseTo(0.57, 3)
  expect(expansionLoss(0)).toBe(1)
})

const every: Element[] = [
  hose('e', 'a', 'b'),
  { kind: 'orifice', id: 'e', from: 'a', to: 'b', cd: 0.6, areaM2: 2e-5 },
  { kind: 'check', id: 'e', from: 'a', to: 'b', cd: 0.6, areaM2: 2e-5, crackPa: 500 },
  {
    kind: 'pcv',
    id: 'e',
    from: 'a',
    to: 'b',
    cd: 0.7,
    area: [
      [0, 14e-6],
      [8000, 12e-6],
      [25000, 7e-6],
      [50000, 3.2e-6],
      [90000, 2.6e-6],
    ],
  },
  { kind: 'loss', id: 'e', from: 'a', to: 'b', a: 6e4, b: 7e7 },
]

test.each(every)('the slopes of a $kind are those of its flow, by finite differences', (element) => {
  const law = flowLaw(element, gas).at
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  const at = (p1: number, p2: number) => {
    law(p1, p2, f)
    return { ...f }
  }
  for (const [p1, p2] of [
    [101325, 101300],
    [101325, 100000],
    [101325, 60000],
    [101325, 30000],
    [90000, 101325],
  ] as const) {
    const here = at(p1, p2)
    const d = 0.01
    const slope1 = (at(p1 + d, p2).m - at(p1 - d, p2).m) / (2 * d)
    const slope2 = (at(p1, p2 + d).m - at(p1, p2 - d).m) / (2 * d)
    const scale = Math.max(Math.abs(slope1), Math.abs(slope2), 1e-13)
    expect(Math.abs(here.d1 - slope1) / scale).toBeLessThan(0.01)
    expect(Math.abs(here.d2 - slope2) / scale).toBeLessThan(0.01)
  }
})

test('an orifice chokes at and below the critical ratio, and its flow then follows the upstream pressure alone', () => {
  expect(nozzle(0.5283, 1.4).psi).toBeCloseTo(0.6847, 4)
  expect(nozzle(0.2, 1.4)).toEqual({ psi: nozzle(0.5, 1.4).psi, dPsi: 0 })
})

test('a check lets gas one way only, above its cracking pressure', () => {
  const check = (p1: number, p2: number) =>
    solved({ a: { p: p1 }, b: { p: p2 } }, [
      { kind: 'check', id: 'c', from: 'a', to: 'b', cd: 0.6, areaM2: 1e-4, crackPa: 500 },
    ]).flow.c!
  expect(check(P0 + 400, P0)).toBeLessThan(1e-9)
  expect(check(P0 + 600, P0)).toBeGreaterThan(1e-4)
  expect(Math.abs(check(P0, P0 + 120e3))).toBeLessThan(1e-9)
})

test('a suction line cannot pass more than sonic flow, however hard the manifold sucks', () => {
  const at = (p: number) =>
    solved({ a: { p: P0 }, b: { p } }, [makeHose('h', 'a', 'b', { boreM: 0.006, lengthM: 0.05, k: 1.5 })]).flow.h!
  expect(at(20e3)).toBeCloseTo(at(5e3), 9)
  expect(at(90e3)).toBeLessThan(0.7 * at(20e3))
})

test('a space between two shut valves keeps the highest pressure that got in, not a mean of the two', () => {
  const s = solved({ crankcase: { source: 0.002 }, can: {}, inlet: { p: P0 - 4000 }, manifold: { p: P0 + 120e3 } }, [
    hose('breather', 'crankcase', 'inlet', 0.016),
    { kind: 'pcv', id: 'pcv', from: 'crankcase', to: 'can', cd: 0.7, area: [[0, 14e-6]] },
    { kind: 'check', id: 'check', from: 'can', to: 'manifold', cd: 0.6, areaM2: 6e-5, crackPa: 500 },
  ])
  expect(s.pressure.can).toBeCloseTo(s.pressure.crankcase!, 3)
})

const shut = (id: string, from: string, to: string, crackPa = 0): Element => ({
  kind: 'check',
  id,
  from,
  to,
  cd: 0.6,
  areaM2: 6e-5,
  crackPa,
})

test('behind shut valves: the highest that leads in, less its cracking pressure; else the lowest that leads out; chains settle', () => {
  const held = { low: { p: P0 - 5000 }, mid: { p: P0 }, high: { p: P0 + 3000 } }
  const at = (elements: Element[], id: string) =>
    solved({ ...held, a: {}, b: {} }, [hose('h', 'low', 'mid'), ...elements]).pressure[id]!
  // into a: from low and, cracking at 1 kPa, from high; out of a nothing
  const into = [shut('1', 'low', 'a'), shut('2', 'high', 'a', 1000), hose('join', 'a', 'b')]
  expect(at(into, 'a')).toBeCloseTo(P0 + 2000, 0)
  expect(at(into, 'b')).toBeCloseTo(P0 + 2000, 0)
  const out = [shut('1', 'a', 'mid', 1000), shut('2', 'a', 'low'), hose('join', 'a', 'b')]
  expect(at(out, 'a')).toBeCloseTo(P0 - 5000, 0)
  // b hangs on a by a further valve
  expect(at([shut('1', 'high', 'a', 1000), shut('2', 'a', 'b', 500)], 'b')).toBeCloseTo(P0 + 1500, 0)
})

test('every size of every kind is refused by name where it is none', () => {
  const ends = { from: 'a', to: 'b' }
  const bad: readonly Element[] = [
    { ...hose('x', 'a', 'b'), lengthM: -1 } as Element,
    { ...hose('x', 'a', 'b'), roughnessM: Number.NaN } as Element,
    { kind: 'orifice', id: 'x', ...ends, cd: -0.6, areaM2: 1e-5 },
    { kind: 'check', id: 'x', ...ends, cd: 0.6, areaM2: 1e-5, crackPa: 0, leakM2: -1 },
    { kind: 'pcv', id: 'x', ...ends, cd: 0.6, area: [[0, -1e-6]] },
    { kind: 'pcv', id: 'x', ...ends, cd: 0.6, area: [[Number.NaN, 1e-6]] },
    { kind: 'regulator', id: 'x', ...ends, cd: 0.6, areaM2: 1e-5, shutPa: 100, openPa: 100 } as Element,
    { kind: 'regulator', id: 'x', ...ends, cd: -0.6, areaM2: 1e-5, shutPa: 100, openPa: 200 } as Element,
    { kind: 'regulator', id: 'x', ...ends, cd: 0.6, areaM2: -1e-5, shutPa: 100, openPa: 200 } as Element,
    { kind: 'regulator', id: 'x', ...ends, cd: 0.6, areaM2: 1e-5, shutPa: -100, openPa: 200 } as Element,
    { kind: 'pump', id: 'x', ...ends, sweptM3s: Infinity, clearance: 0.1 } as Element,
    { kind: 'pump', id: 'x', ...ends, sweptM3s: 1e-3, clearance: -0.1 } as Element,
    { kind: 'loss', id: 'x', ...ends, a: 0, b: 0 },
    { kind: 'loss', id: 'x', ...ends, a: 1, b: -1 },
  ]
  for (const element of bad) {
    const s = solve({ a: { p: P0 }, b: { p: P0 - 1000 } }, [element])
    expect([element.kind, s.ok ? 'solved' : s.reason]).toEqual([element.kind, expect.stringMatching(/^x: every size/)])
  }
  const sound = { kind: 'regulator', id: 'x', ...ends, cd: 0.6, areaM2: 1e-5, shutPa: 100, openPa: 200 } as Element
  expect(solve({ a: { p: P0 }, b: { p: P0 - 1000 } }, [sound]).ok).toBe(true)
  // of two joints on their own the one with gas is named
  const lost = solve({ idle: {}, idle2: {}, made: { source: 1e-3 }, made2: {}, c: { p: P0 } }, [
    hose('1', 'idle', 'idle2'),
    hose('2', 'made', 'made2'),
  ])
  expect(lost.ok ? '' : lost.reason).toMatch(/^made is joined to nothing/)
})

test('a pressure is above zero and below 20 MPa, gas entering is a number', () => {
  const refused = (node: Network['nodes'][string]) => {
    const s = solve({ a: node, b: { p: P0 } }, [hose('x', 'a', 'b')])
    return s.ok ? undefined : s.reason
  }
  for (const p of [0, -1, 2e7, 3e7, Number.NaN]) expect(refused({ p })).toMatch(/^a: pressure must be above zero/)
  expect(refused({ source: Number.NaN })).toMatch(/^a: the gas entering/)
  expect(refused({ p: P0 + 1 })).toBeUndefined()
})

test('a hose whose ends lose more one way than the other: each way is that of a hose with those ends alone', () => {
  const ends = { from: 'a', to: 'b', boreM: 0.0127, lengthM: 0.5, roughnessM: 1.5e-6, kPerF: 0 }
  const through = (one: number, other: number, kFixed: number, kBack?: number) =>
    solved({ a: { p: one }, b: { p: other } }, [
      { kind: 'hose', id: 'h', ...ends, kFixed, ...(kBack === undefined ? {} : { kBack }) },
    ]).flow.h!
  expect(through(P0 + 2000, P0, 1, 4)).toBe(through(P0 + 2000, P0, 1))
  expect(through(P0, P0 + 2000, 1, 4)).toBe(through(P0, P0 + 2000, 4))
  // choked as well
  expect(through(20e3, P0, 1, 4)).toBe(through(20e3, P0, 4))
  expect(Math.abs(through(P0, P0 + 2000, 1, 4))).toBeLessThan(through(P0 + 2000, P0, 1, 4))
})

test('the same network gives the same answer, whatever it starts from', () => {
  const network: Network = {
    gas,
    nodes: { a: { source: 0.002 }, b: {}, c: { p: P0 }, d: { p: 40e3 } },
    elements: [
      hose('1', 'a', 'b'),
      hose('2', 'b', 'c'),
      { kind: 'orifice', id: '3', from: 'a', to: 'd', cd: 0.6, areaM2: 4e-6 },
    ],
  }
  const cold = solveNetwork(network)
  const warm = solveNetwork(network, { a: 30e3, b: 300e3 })
  if (!cold.ok || !warm.ok) throw new Error('no answer')
  expect(warm.value.pressure.a).toBeCloseTo(cold.value.pressure.a!, 3)
  expect(solveNetwork(network)).toEqual(cold)
})

test.each([
  ['an unknown node', { a: { p: P0 } }, [hose('h', 'a', 'nowhere')], /nowhere, which does not exist/],
  [
    'gas with no way out',
    { a: { source: 1e-3 }, b: { p: P0 } },
    [{ kind: 'check', id: 'c', from: 'b', to: 'a', cd: 0.6, areaM2: 1e-4, crackPa: 0 } as Element],
    /no way out of a|shuts every path/,
  ],
  [
    'a part of the circuit on its own',
    { a: { source: 1e-3 }, b: {}, c: { p: P0 } },
    [hose('h', 'a', 'b')],
    /joined to nothing/,
  ],
  ['a NaN size', { a: { p: P0 }, b: { p: 9e4 } }, [hose('h', 'a', 'b', Number.NaN)], /must be a number/],
  ['gas that is no number', { a: { source: Number.NaN }, b: { p: P0 } }, [hose('h', 'a', 'b')], /is not a number/],
  ['a negative pressure', { a: { p: -5 }, b: { p: 9e4 } }, [hose('h', 'a', 'b')], /above zero/],
])('%s is a reason, not a number', (_, nodes, elements, reason) => {
  const s = solve(nodes, elements)
  expect(s.ok ? 'solved' : s.reason).toMatch(reason)
})

test('a hose of no bore and an orifice of no area are shut', () => {
  const s = solved({ a: { source: 1e-3 }, b: { p: P0 }, c: { p: 5e4 } }, [
    hose('open', 'a', 'b'),
    hose('none', 'a', 'c', 0),
    { kind: 'orifice', id: 'plug', from: 'a', to: 'c', cd: 0.6, areaM2: 0 },
  ])
  expect(s.flow.open).toBeCloseTo(1e-3, 9)
  expect(Math.abs(s.flow.none!) + Math.abs(s.flow.plug!)).toBeLessThan(1e-9)
})
