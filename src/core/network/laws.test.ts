/** Each element's law on its own: closed forms at single points, slopes against finite differences, behaviour at its corners. */
import type { Element } from './elements'
import { flowLaw } from './flow'
import type { Flow } from './law'
import { nozzle, nozzlePsi, orificeFlow } from './nozzle'
import { tableArea } from './valve-laws'
import { makeHose } from './hose'

const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
const P0 = 101325
const flowOf = (e: Element) => {
  const law = flowLaw(e, gas).at
  return (p1: number, p2: number): Flow => {
    const f: Flow = { m: 0, d1: 0, d2: 0 }
    law(p1, p2, f)
    return f
  }
}
const ends = { id: 'e', from: 'a', to: 'b' }
const regulator: Element = { ...ends, kind: 'regulator', cd: 0.6, areaM2: 1e-4, openPa: P0 - 1750, shutPa: P0 - 3250 }
const pump: Element = { ...ends, kind: 'pump', sweptM3s: 2e-3, clearance: 0.3 }

describe.each<[string, Element, readonly (readonly [number, number])[]]>([
  [
    'regulator',
    regulator,
    [
      [P0 - 1000, P0 - 30e3],
      [P0 - 2500, P0 - 30e3],
      [P0 - 2500, P0 - 2600],
      [P0 - 4000, P0 - 60e3],
      [P0, P0 + 50e3],
    ],
  ],
  [
    'pump',
    pump,
    [
      [P0, P0],
      [60e3, P0],
      [P0, 80e3],
      [30e3, P0],
      [12e3, P0],
    ],
  ],
  [
    'long hose',
    makeHose('e', 'a', 'b', { boreM: 0.012, lengthM: 3, k: 2, bends: [{ angleDeg: 90, radiusM: 0.05 }], mitres: [90] }),
    [
      [P0 + 1, P0],
      [P0 + 30, P0],
      [P0 + 4000, P0],
      [3e5, P0],
      [P0, P0 + 900],
    ],
  ],
  [
    'hose of no length',
    makeHose('e', 'a', 'b', { boreM: 0.012, lengthM: 0 }),
    [
      [P0 + 5, P0],
      [P0 + 500, P0],
      [P0, P0 + 50],
    ],
  ],
  [
    'loss of no linear share',
    { ...ends, kind: 'loss', a: 0, b: 2e8 },
    [
      [P0 + 1, P0],
      [P0 + 800, P0],
      [P0, P0 + 5000],
    ],
  ],
])('%s', (_, element, points) => {
  test.each(points)('slopes at %p, %p are those of its flow', (p1, p2) => {
    const law = flowOf(element)
    const d = Math.max(1e-4, Math.abs(p1 - p2) * 1e-5)
    const here = law(p1, p2)
    const [s1, s2] = [
      (law(p1 + d, p2).m - law(p1 - d, p2).m) / (2 * d),
      (law(p1, p2 + d).m - law(p1, p2 - d).m) / (2 * d),
    ]
    const scale = Math.max(Math.abs(s1), Math.abs(s2), 1e-12)
    expect(Math.abs(here.d1 - s1) / scale).toBeLessThan(2e-3)
    expect(Math.abs(here.d2 - s2) / scale).toBeLessThan(2e-3)
  })
})

test('a regulator is shut below its band, full above it, half in the middle', () => {
  const at = flowOf(regulator)
  const full = (p1: number) => orificeFlow({ cd: 0.6, areaM2: 1e-4 }, p1, P0 - 40e3, gas)
  expect(at(P0 - 3300, P0 - 40e3).m).toBeLessThan(1e-9)
  expect(at(P0 - 1700, P0 - 40e3).m / full(P0 - 1700)).toBeCloseTo(1, 9)
  expect(at(P0 - 2500, P0 - 40e3).m / full(P0 - 2500)).toBeCloseTo(0.5, 9)
  // pressed from the far side it lifts
  expect(at(P0, P0 + 20e3).m).toBeLessThan(-1e-3)
})

test('a pump carries its swept volume at no lift, and nothing at its limit', () => {
  const at = flowOf(pump)
  const rho = P0 / (gas.R * gas.T)
  expect(at(P0, P0).m / (rho * 2e-3)).toBeCloseTo(1, 9)
  // volumetric efficiency falls to nothing where c (p2/p1)^(1/g) = 1 + c
  const limit = (1.3 / 0.3) ** 1.4
  expect(at(P0 / limit / 1.2, P0).m).toBeLessThan(1e-9)
  expect(at((P0 / limit) * 1.3, P0).m).toBeGreaterThan(0)
})

test('a check passes nothing backwards, opens at its cracking pressure, and a leak goes both ways', () => {
  const at = flowOf({ ...ends, kind: 'check', cd: 0.6, areaM2: 5e-5, crackPa: 500 })
  expect(at(P0 + 499, P0).m).toBeLessThan(1e-12)
  expect(at(P0, P0 + 90e3).m).toBeGreaterThan(-1e-10)
  expect(at(P0 + 1500, P0).m / orificeFlow({ cd: 0.6, areaM2: 5e-5 }, P0 + 1000, P0, gas)).toBeCloseTo(1, 6)
  expect(
    flowOf({ ...ends, kind: 'check', cd: 0.6, areaM2: 5e-5, crackPa: 500, leakM2: 1e-7 })(P0, P0 + 10e3).m,
  ).toBeLessThan(-1e-7)
})

test('a plunger valve follows its table, level beyond its ends', () => {
  const table = [
    [0, 14e-6],
    [10e3, 10e-6],
    [50e3, 3e-6],
  ] as const
  expect(tableArea(table, -5)).toEqual({ area: 14e-6, slope: 0 })
  expect(tableArea(table, 5e3).area).toBeCloseTo(12e-6, 12)
  expect(tableArea(table, 30e3).slope).toBeCloseTo(-7e-6 / 40e3, 15)
  expect(tableArea(table, 90e3)).toEqual({ area: 3e-6, slope: 0 })
  expect(tableArea([], 5)).toEqual({ area: 0, slope: 0 })
  // flow may fall while suction rises: at 50 kPa less than at 10
  const at = flowOf({ ...ends, kind: 'pcv', cd: 0.7, area: table })
  expect(at(P0, P0 - 50e3).m).toBeLessThan(at(P0, P0 - 10e3).m)
})

test('beyond the critical ratio more suction brings no more flow', () => {
  const at = flowOf({ ...ends, kind: 'orifice', cd: 0.6, areaM2: 2e-5 })
  expect(at(P0, 40e3).m).toBe(at(P0, 5e3).m)
  expect(at(P0, 40e3).d2).toBeCloseTo(0, 20)
  expect(nozzle(0.5282, 1.4).psi).toBeCloseTo(nozzle(0.5283, 1.4).psi, 6)
  // a hose chokes too: isothermal, at G sqrt(RT) = p2
  const hose = flowOf(makeHose('e', 'a', 'b', { boreM: 0.01, lengthM: 0.5, k: 1 }))
  expect(hose(4e5, 2e4).m).toBeCloseTo(hose(4e5, 1e4).m, 9)
  expect(hose(4e5, 3e5).m).toBeLessThan(hose(4e5, 2e4).m)
})

test('laws are odd where they go both ways: swapped ends, the same flow back', () => {
  for (const e of [
    makeHose('e', 'a', 'b', { boreM: 0.0127, lengthM: 1, k: 1 }),
    { ...ends, kind: 'orifice', cd: 0.6, areaM2: 2e-5 },
    { ...ends, kind: 'loss', a: 6e4, b: 7e7 },
  ] as Element[]) {
    const at = flowOf(e)
    for (const dp of [0.5, 20, 700, 20e3]) expect(at(P0, P0 + dp).m).toBeCloseTo(-at(P0 + dp, P0).m, 12)
  }
})

test('a law that is tuned to another size or gas, or was asked about no number, answers as a new one does', () => {
  const hose = (lengthM: number, boreM = 0.012) => makeHose('e', 'a', 'b', { boreM, lengthM, k: 1.5 })
  const elements: readonly Element[] = [hose(0.4), hose(3), hose(1, 0), hose(1), hose(1, 0.02), hose(0.05)]
  const kept = flowLaw(elements[0]!, gas)
  const at = (law: { at: (p1: number, p2: number, out: Flow) => void }, p1: number, p2: number): Flow => {
    const f: Flow = { m: 0, d1: 0, d2: 0 }
    law.at(p1, p2, f)
    return f
  }
  for (const T of [353.15, 300, 420]) {
    for (const e of elements) {
      at(kept, Number.NaN, P0)
      expect(kept.tune(e, { ...gas, T })).toBe(true)
      const fresh = flowLaw(e, { ...gas, T })
      for (const p1 of [P0 + 1, P0 + 40, P0 + 3000, P0 + 2e5, P0 - 500]) {
        const [was, is] = [at(fresh, p1, P0), at(kept, p1, P0)]
        for (const part of ['m', 'd1', 'd2'] as const)
          expect(Math.abs(is[part] - was[part])).toBeLessThanOrEqual(1e-9 * Math.abs(was[part]))
      }
    }
  }
  // another kind is not taken over
  expect(kept.tune(regulator, gas)).toBe(false)
})

test('a small pressure drop drives what Bernoulli has through an orifice, one smaller yet nearly so', () => {
  const orifice: Element = { ...ends, kind: 'orifice', cd: 0.6, areaM2: 1e-4 }
  const density = P0 / (gas.R * gas.T)
  for (const dp of [0.2, 0.9, 20, 90]) {
    const expected = 0.6 * 1e-4 * Math.sqrt(2 * density * dp)
    expect(flowOf(orifice)(P0, P0 - dp).m / expected).toBeCloseTo(1, 2)
    expect(flowOf(orifice)(P0 - dp, P0).m / expected).toBeCloseTo(-1, 2)
  }
})

test('flow through a nozzle without its slope, by the formula of its gas (Anderson, Modern Compressible Flow, 5)', () => {
  for (const gamma of [1.4, 1.3])
    for (const r of [0, 0.2, 0.5, 0.6, 0.9, 0.999, 1, 1.2]) {
      const critical = (2 / (gamma + 1)) ** (gamma / (gamma - 1))
      const at = Math.min(1, Math.max(r, critical))
      const psi = Math.sqrt(((2 * gamma) / (gamma - 1)) * (at ** (2 / gamma) - at ** ((gamma + 1) / gamma)))
      expect(nozzlePsi(r, gamma)).toBeCloseTo(psi, 6)
    }
})
