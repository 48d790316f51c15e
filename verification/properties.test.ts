/** What holds for every circuit there can be: thousands of random ones, by fast-check. The laws are the source: conservation of mass, the second law. */
import * as fc from 'fast-check'
import type { Element, Network, Node } from '../src/core/network/elements'
import { makeHose } from '../src/core/network/hose'
import { solveNetwork } from '../src/core/network/solve'

const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
const P0 = 101325
const RUNS = Number(process.env.IVENT_RUNS ?? 5000)
const seed = 20261125

type Ends = { from: string; to: string }
type Make = (id: string, ends: Ends) => Element
const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })

const hose: fc.Arbitrary<Make> = fc
  .record({
    boreM: fc.oneof({ weight: 12, arbitrary: between(2e-3, 32e-3) }, { weight: 1, arbitrary: fc.constant(0) }),
    lengthM: between(0, 3),
    k: between(0, 6),
    bends: fc.array(fc.record({ angleDeg: between(0, 180), radiusM: between(0.01, 0.2) }), { maxLength: 3 }),
  })
  .map((h) => (id, e) => makeHose(id, e.from, e.to, h))
const orifice: fc.Arbitrary<Make> = fc
  .record({
    cd: between(0.5, 1),
    areaM2: fc.oneof({ weight: 12, arbitrary: between(5e-7, 4e-4) }, { weight: 1, arbitrary: fc.constant(0) }),
  })
  .map((o) => (id, e) => ({ kind: 'orifice', id, ...e, ...o }))
const check: fc.Arbitrary<Make> = fc
  .record({ cd: between(0.5, 1), areaM2: between(5e-6, 3e-4), crackPa: between(0, 3000) })
  .map((o) => (id, e) => ({ kind: 'check', id, ...e, ...o }))
const loss: fc.Arbitrary<Make> = fc
  .record({ a: between(0, 4e5), b: between(1e5, 4e8) })
  .map((o) => (id, e) => ({ kind: 'loss', id, ...e, ...o }))
const pcv: fc.Arbitrary<Make> = fc
  .record({ cd: between(0.6, 0.9), widest: between(5e-6, 3e-5), shrink: between(0.1, 1) })
  .map((o) => (id, e) => ({
    kind: 'pcv',
    id,
    ...e,
    cd: o.cd,
    area: [
      [0, o.widest],
      [15e3, o.widest * (0.5 + o.shrink / 2)],
      [60e3, o.widest * o.shrink],
    ],
  }))
const regulator: fc.Arbitrary<Make> = fc
  .record({ cd: between(0.5, 0.9), areaM2: between(1e-5, 3e-4), set: between(-5000, 0), band: between(300, 4000) })
  .map((o) => (id, e) => ({
    kind: 'regulator',
    id,
    ...e,
    cd: o.cd,
    areaM2: o.areaM2,
    openPa: P0 + o.set + o.band / 2,
    shutPa: P0 + o.set - o.band / 2,
  }))
const pump: fc.Arbitrary<Make> = fc
  .record({ sweptM3s: between(0, 0.01), clearance: between(0.05, 0.8) })
  .map((o) => (id, e) => ({ kind: 'pump', id, ...e, ...o }))

/** A crankcase, a few joints and places that hold a pressure, joined so that each joint reaches one, and some ways more. */
const circuit = (makes: fc.Arbitrary<Make>): fc.Arbitrary<Network> =>
  fc
    .record({
      joints: fc.integer({ min: 0, max: 6 }),
      held: fc.array(between(-80e3, 160e3), { minLength: 1, maxLength: 3 }),
      blowBy: between(0, 6e-3),
      tree: fc.array(fc.record({ make: makes, to: fc.nat(), turn: fc.boolean() }), { minLength: 7, maxLength: 7 }),
      more: fc.array(fc.record({ make: makes, a: fc.nat(), b: fc.nat() }), { maxLength: 4 }),
    })
    .map(({ joints, held, blowBy, tree, more }) => {
      const names = [
        ...held.map((_, i) => `held${i}`),
        'crankcase',
        ...Array.from({ length: joints }, (_, i) => `joint${i}`),
      ]
      const nodes: Record<string, Node> = {}
      held.forEach((g, i) => {
        nodes[`held${i}`] = { p: P0 + g }
      })
      for (const n of names.slice(held.length)) nodes[n] = n === 'crankcase' ? { source: blowBy } : {}
      const elements: Element[] = []
      names.slice(held.length).forEach((n, i) => {
        const t = tree[i]!
        const other = names[t.to % (held.length + i)]!
        elements.push(t.make(`t${i}`, t.turn ? { from: n, to: other } : { from: other, to: n }))
      })
      more.forEach((m, i) => {
        const [a, b] = [names[m.a % names.length]!, names[m.b % names.length]!]
        if (a !== b) elements.push(m.make(`m${i}`, { from: a, to: b }))
      })
      return { gas, nodes, elements }
    })

const passive = fc.oneof(
  { weight: 5, arbitrary: hose },
  { weight: 3, arbitrary: orifice },
  { weight: 3, arbitrary: check },
  { weight: 2, arbitrary: loss },
)
const every = fc.oneof(
  { weight: 8, arbitrary: passive },
  { weight: 2, arbitrary: pcv },
  { weight: 1, arbitrary: regulator },
  { weight: 1, arbitrary: pump },
)

/** Reasons that are an answer: nothing else may come back. */
const ANSWERS = /has no way out/
const imbalance = (n: Network, flow: Readonly<Record<string, number>>) =>
  Object.entries(n.nodes)
    .filter(([, v]) => v.p === undefined)
    .map(([id, v]) =>
      n.elements.reduce(
        (s, e) => s + (e.to === id ? flow[e.id]! : 0) - (e.from === id ? flow[e.id]! : 0),
        v.source ?? 0,
      ),
    )

test('mass is conserved, everything is a number, and what has no answer says so', () => {
  fc.assert(
    fc.property(circuit(every), (n) => {
      const s = solveNetwork(n)
      if (!s.ok) {
        expect(s.reason).toMatch(ANSWERS)
        return
      }
      expect(Object.values(s.value.flow).filter((m) => !Number.isFinite(m))).toEqual([])
      expect(Object.values(s.value.pressure).filter((p) => !Number.isFinite(p) || p <= 0)).toEqual([])
      expect(imbalance(n, s.value.flow).filter((off) => !(Math.abs(off) < 2e-9))).toEqual([])
    }),
    { numRuns: RUNS, seed },
  )
})

test('second law: through everything that is not driven, gas runs from high pressure to low', () => {
  fc.assert(
    fc.property(
      circuit(
        fc.oneof({ weight: 8, arbitrary: passive }, { weight: 2, arbitrary: pcv }, { weight: 1, arbitrary: regulator }),
      ),
      (n) => {
        const s = solveNetwork(n)
        if (!s.ok) return
        for (const e of n.elements) {
          const [m, dp] = [s.value.flow[e.id]!, s.value.pressure[e.from]! - s.value.pressure[e.to]!]
          if (Math.abs(m) > 1e-9) expect(Math.sign(m)).toBe(Math.sign(dp))
          if (e.kind === 'check' && m > 1e-9) expect(dp).toBeGreaterThan(e.crackPa - 1e-3)
          if ((e.kind === 'check' || e.kind === 'pcv') && dp < 0) expect(m).toBeGreaterThan(-1e-9)
        }
      },
    ),
    { numRuns: RUNS, seed: seed + 1 },
  )
})

test('one answer: from other first pressures the same circuit comes to rest at the same flows', () => {
  fc.assert(
    fc.property(circuit(passive), fc.array(between(2e4, 3e5), { minLength: 8, maxLength: 8 }), (n, starts) => {
      const a = solveNetwork(n)
      const b = solveNetwork(n, Object.fromEntries(Object.keys(n.nodes).map((id, i) => [id, starts[i % 8]!])))
      expect(b.ok).toBe(a.ok)
      if (!a.ok || !b.ok) return
      for (const e of n.elements)
        expect(Math.abs(a.value.flow[e.id]! - b.value.flow[e.id]!)).toBeLessThan(
          2e-8 + 1e-5 * Math.abs(a.value.flow[e.id]!),
        )
    }),
    { numRuns: RUNS / 2, seed: seed + 2 },
  )
})

test('a wider hose never raises the crankcase of a passive single path', () => {
  const chain = fc.record({
    makes: fc.array(fc.oneof(hose, orifice, loss, check), { minLength: 0, maxLength: 4 }),
    boreM: between(4e-3, 25e-3),
    lengthM: between(0.05, 2),
    wider: between(1.01, 2),
    blowBy: between(1e-5, 5e-3),
    held: between(-8e3, 2e3),
  })
  fc.assert(
    fc.property(chain, (c) => {
      const at = (boreM: number) => {
        const nodes: Record<string, Node> = { n0: { source: c.blowBy } }
        const elements: Element[] = [makeHose('first', 'n0', 'n1', { boreM, lengthM: c.lengthM, k: 1.5 })]
        c.makes.forEach((make, i) => {
          nodes[`n${i + 1}`] = {}
          elements.push(make(`e${i}`, { from: `n${i + 1}`, to: `n${i + 2}` }))
        })
        nodes[`n${c.makes.length + 1}`] = { p: P0 + c.held }
        return solveNetwork({ gas, nodes, elements })
      }
      const [narrow, wide] = [at(c.boreM), at(c.boreM * c.wider)]
      if (narrow.ok) {
        expect(wide.ok).toBe(true)
        if (wide.ok) expect(wide.value.pressure.n0!).toBeLessThanOrEqual(narrow.value.pressure.n0! + 1e-3)
      }
    }),
    { numRuns: RUNS / 2, seed: seed + 3 },
  )
})

describe('at the edges', () => {
  const path = (elements: Element[], blowBy = 1e-3) =>
    solveNetwork({ gas, nodes: { c: { source: blowBy }, out: { p: P0 } }, elements })
  test('no blow-by: the crankcase stands at the pressure outside and nothing flows', () => {
    const s = path([makeHose('h', 'c', 'out', { boreM: 0.0127, lengthM: 1, k: 1 })], 0)
    expect(s.ok && [Math.abs(s.value.pressure.c! - P0) < 1e-3, Math.abs(s.value.flow.h!) < 1e-9]).toEqual([true, true])
  })
  test.each<[string, Element]>([
    ['a hose of no bore', makeHose('h', 'c', 'out', { boreM: 0, lengthM: 1, k: 1 })],
    ['a hole of no area', { kind: 'orifice', id: 'h', from: 'c', to: 'out', cd: 0.6, areaM2: 0 }],
    ['a check the wrong way', { kind: 'check', id: 'h', from: 'out', to: 'c', cd: 0.6, areaM2: 1e-4, crackPa: 0 }],
    ['a valve table of nothing', { kind: 'pcv', id: 'h', from: 'c', to: 'out', cd: 0.7, area: [[0, 0]] }],
  ])('%s: no way out, in words', (_, e) => {
    const s = path([e])
    expect(s.ok ? 'an answer' : s.reason).toMatch(/no way out/)
  })
  test.each<[string, Partial<Network>]>([
    ['a bore that is not a number', { elements: [makeHose('h', 'c', 'out', { boreM: Number.NaN, lengthM: 1 })] }],
    ['a pressure below zero', { nodes: { c: {}, out: { p: -5 } } }],
    ['no gas', { gas: { R: 0, gamma: 1.4, T: 300 } }],
  ])('%s is refused with its place', (_, change) => {
    const s = solveNetwork({
      gas,
      nodes: { c: { source: 1e-3 }, out: { p: P0 } },
      elements: [makeHose('h', 'c', 'out', { boreM: 0.01, lengthM: 1 })],
      ...change,
    })
    expect(s.ok).toBe(false)
  })
})
