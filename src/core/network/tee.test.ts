/** Losses of tees against published values, and circuits whose tees lose what their own flows make them lose. */
import { uniforms } from '../random'
import type { Element, Network } from './elements'
import { solveNetwork } from './solve'
import { headsLost, teePressures, teeShifts } from './tee'

const even = (...into: number[]) => into.map((m) => ({ into: m, areaM2: 1e-4 }))
/** Heads of a flow of 1 through an area of 1e-4 at a density of 1. */
const HEAD = 0.5 / 1e-4 ** 2
const heads = (...into: number[]) => teePressures(even(...into), 1).map((pa) => pa / HEAD)

test('two streams that meet: Crane, Technical Paper 410 (2009), example 7-35', () => {
  // equal bores of 102.3 mm, 18.917 l/s in the run and 6.33 l/s from the branch; values from memory
  const [run, branch] = [0.018917, 0.00633]
  const share = branch / (run + branch)
  expect(headsLost('corner', true, share, 1)).toBeCloseTo(-0.04044108513625682, 9)
  expect(headsLost('straight', true, 1 - share, 1)).toBeCloseTo(0.32575847854551254, 9)
  // as pressures against the first leg, the run that comes: it gives 0.326 heads of the whole, and stands above the branch
  const [first, all, second] = heads(1 - share, -1, share)
  expect(first).toBe(0)
  expect(all).toBeCloseTo(-0.32575847854551254, 9)
  expect(second).toBeCloseTo(-0.32575847854551254 - 0.04044108513625682, 9)
})

test('all round the corner, all straight on, and halves: Idelchik, Handbook of Hydraulic Resistance, ch. 7 (from memory)', () => {
  expect(headsLost('corner', true, 1, 1)).toBeCloseTo(1.1, 9)
  expect(headsLost('corner', false, 1, 1)).toBeCloseTo(1.8, 9)
  // half and half into the branch: 1.25 heads of the whole; and parted from it
  expect(heads(0.5, 0.5, -1).map((h) => h + 0)).toEqual([0, 0, -1.25])
  expect(heads(-0.5, -0.5, 1)[2]).toBeCloseTo(1 + 0.3 / 4, 9)
  // all from a run into the branch: half as parted from the run, half as gathered in the branch
  expect(heads(1, 0, -1)[2]).toBeCloseTo(-(1.8 + 2) / 2, 9)
})

test('an idle branch stands at the static pressure of the run that passes it: a head below its total', () => {
  const [first, second, branch] = heads(1, -1, 0)
  expect([first! + 0, second! + 0]).toEqual([0, 0])
  expect(branch).toBeLessThan(-0.9)
  expect(branch).toBeGreaterThan(-1.05)
})

test('pressures have no jump where a leg turns from giving to taking', () => {
  for (const bore of [0.5, 1, 2]) {
    const at = (x: number) =>
      teePressures(
        [
          { into: 1, areaM2: 1e-4 },
          { into: -1 - x, areaM2: 1e-4 },
          { into: x, areaM2: bore * 1e-4 },
        ],
        1,
      )
    at(1e-9).forEach((pa, i) => expect(pa / HEAD).toBeCloseTo(at(-1e-9)[i]! / HEAD, 6))
  }
})

const hose = (id: string, from: string, to: string, boreMm: number): Element => ({
  kind: 'hose',
  id,
  from,
  to,
  boreM: boreMm / 1000,
  lengthM: 0.4,
  roughnessM: 1.5e-6,
  kFixed: 1,
  kPerF: 0,
})
const LEGS = [
  { element: 0, inwards: 1 },
  { element: 1, inwards: -1 },
  { element: 2, inwards: -1 },
] as const
const GAS = { R: 287.05, gamma: 1.4, T: 353.15 }

test('in a thousand random circuits every leg stands as the flows that it brings about make it', () => {
  const random = uniforms(11)
  let between = 0
  for (let n = 0; n < 1000; n++) {
    const bore = () => 8 + 12 * random()
    const elements = [hose('a', 'x', 'tee', bore()), hose('b', 'tee', 'y', bore()), hose('c', 'tee', 'z', bore())]
    const network: Network = {
      gas: GAS,
      nodes: {
        x: { p: 101_325 + 6000 * (random() - 0.5) },
        y: { p: 101_325 + 6000 * (random() - 0.5) },
        z: { source: 4e-3 * (random() - 0.3) },
        tee: {},
      },
      elements,
      tees: [{ legs: LEGS }],
    }
    const solved = solveNetwork(network)
    if (!solved.ok) throw new Error(solved.reason)
    const { flow, teeLoss, pressure, residual } = solved.value
    expect(residual).toBeLessThan(1e-9)
    const density = pressure.tee! / (GAS.R * GAS.T)
    const told = teeShifts(
      elements,
      network.tees!,
      (k) => flow[elements[k]!.id]!,
      () => density,
    )
    const off = elements.map((e, k) =>
      Math.abs(Math.sign(flow[e.id]!) * (told[3 + k]! - told[k]!) - (teeLoss[e.id] ?? 0)),
    )
    if (Math.max(...off) > 0.01) between++
  }
  // one or two stand at a corner of the tables
  expect(between).toBeLessThan(5)
})

test('without a tee the same circuit loses less', () => {
  const network: Network = {
    gas: GAS,
    nodes: { x: { source: 2e-3 }, y: { p: 101_325 }, z: { p: 101_325 }, tee: {} },
    elements: [hose('a', 'x', 'tee', 12), hose('b', 'tee', 'y', 12), hose('c', 'tee', 'z', 12)],
  }
  const [open, teed] = [solveNetwork(network), solveNetwork({ ...network, tees: [{ legs: LEGS }] })]
  if (!open.ok || !teed.ok) throw new Error('no answer')
  expect(teed.value.pressure.x!).toBeGreaterThan(open.value.pressure.x! + 20)
  // the way round the corner is the harder: less goes there
  expect(teed.value.flow.c!).toBeLessThan(teed.value.flow.b!)
  expect(open.value.flow.c!).toBeCloseTo(open.value.flow.b!, 12)
})
