import { airViscosity } from '../../src/core/gas/air'
import type { Element, Node } from '../../src/core/network/elements'
import { bendLoss, colebrook, contractionLoss, expansionLoss, mitreLoss } from '../../src/core/network/friction'
import { makeHose } from '../../src/core/network/hose'
import { solveNetwork } from '../../src/core/network/solve'
import { headsLost } from '../../src/core/network/tee'
import { checks } from '../check'

const [R, P0] = [287.05, 101325]
/** Share of the branch in the worked example: 6.33 l/s beside 18.917. */
const BRANCHED = 0.00633 / (0.00633 + 0.018917)
const solve = (nodes: Record<string, Node>, elements: Element[], T = 300) => {
  const s = solveNetwork({ gas: { R, gamma: 1.4, T }, nodes, elements })
  if (!s.ok) throw new Error(s.reason)
  return s.value
}
const orifice = (id: string, from: string, to: string, areaM2: number): Element => ({
  kind: 'orifice',
  id,
  from,
  to,
  cd: 0.6,
  areaM2,
})
const bend = (angleDeg: number, radius: number, f: number) => {
  const k = bendLoss({ angleDeg, radiusM: radius * 0.1 }, 0.1)
  return k.fixed + f * k.perF
}

function laminar() {
  const s = solve({ a: { p: P0 + 100 }, b: { p: P0 } }, [makeHose('h', 'a', 'b', { boreM: 0.004, lengthM: 3 })])
  return checks('Pipes', 'Hagen-Poiseuille, compressible: pi D^4 (p1^2 - p2^2)/(256 mu L R T)', 1e-6, [
    {
      what: 'laminar flow, 4 mm by 3 m, 100 Pa',
      unit: 'kg/s',
      expected: (Math.PI * 0.004 ** 4 * ((P0 + 100) ** 2 - P0 ** 2)) / (256 * airViscosity(300) * 3 * R * 300),
      got: s.flow.h!,
    },
  ])
}

/** Isothermal pipe flow by its closed form, f found by fixed-point iteration here and not by the solver's code. */
function isothermal() {
  const [D, L, p1, p2, T] = [0.0127, 2, 120e3, 101325, 320]
  const area = (Math.PI * D * D) / 4
  let m = 0.01
  for (let i = 0; i < 200; i++) {
    const re = (4 * m) / (Math.PI * D * airViscosity(T))
    let f = 0.02
    for (let k = 0; k < 50; k++) f = (-2 * Math.log10(1.5e-6 / D / 3.7 + 2.51 / (re * Math.sqrt(f)))) ** -2
    m = area * Math.sqrt((p1 * p1 - p2 * p2) / ((R * T * f * L) / D))
  }
  const s = solve({ a: { p: p1 }, b: { p: p2 } }, [makeHose('h', 'a', 'b', { boreM: D, lengthM: L })], T)
  return checks(
    'Pipes',
    'isothermal pipe flow, G^2 = (p1^2 - p2^2)/(R T f L/D), Shapiro, Compressible Fluid Flow, ch. 6 (the small logarithm left out on both sides)',
    1e-6,
    [{ what: 'half-inch hose, 2 m, 19 kPa', unit: 'kg/s', expected: m, got: s.flow.h! }],
  )
}

function seriesAndParallel() {
  // small drops, incompressible: m = Cd A sqrt(2 rho dp); in series 1/A^2 adds, in parallel A adds
  const rho = P0 / (R * 300)
  const dp = 200
  const flow = (area: number) => 0.6 * area * Math.sqrt(2 * rho * dp)
  const series = solve({ a: { p: P0 + dp }, m: {}, b: { p: P0 } }, [
    orifice('1', 'a', 'm', 2e-5),
    orifice('2', 'm', 'b', 3e-5),
  ])
  const parallel = solve({ a: { p: P0 + dp }, b: { p: P0 } }, [
    orifice('1', 'a', 'b', 2e-5),
    orifice('2', 'a', 'b', 3e-5),
  ])
  return checks('Pipes', 'Bernoulli: holes in series add 1/A², holes in parallel add A', 0.002, [
    {
      what: 'two holes in series',
      unit: 'kg/s',
      expected: flow((2e-5 ** -2 + 3e-5 ** -2) ** -0.5),
      got: series.flow['1']!,
    },
    {
      what: 'pressure between them',
      unit: 'Pa',
      expected: (dp * 2e-5 ** -2) / (2e-5 ** -2 + 3e-5 ** -2),
      got: P0 + dp - series.pressure.m!,
    },
    {
      what: 'two holes in parallel',
      unit: 'kg/s',
      expected: flow(5e-5),
      got: parallel.flow['1']! + parallel.flow['2']!,
    },
  ])
}

export const pipeChecks = () => [
  ...checks(
    'Pipes',
    'White, Fluid Mechanics, Moody chart and table 6.1 (from memory)',
    0.01,
    (
      [
        [1e4, 0, 0.0309],
        [1e5, 0, 0.018],
        [1e6, 0, 0.0116],
        [1e5, 1e-3, 0.0222],
        [1e6, 1e-2, 0.0379],
      ] as const
    ).map(([re, rel, f]) => ({
      what: `friction at Re ${re.toExponential(0)}, roughness ${rel}`,
      expected: f,
      got: colebrook(re, rel),
    })),
  ),
  ...checks('Pipes', 'White, Fluid Mechanics, example 6.6: oil, Re 128 000, e/d 0.0013', 0.01, [
    { what: 'friction factor', expected: 0.0227, got: colebrook(128000, 0.0013) },
  ]),
  ...checks('Pipes', 'Crane TP-410 and Idelchik, square elbow 1.1 to 1.3 heads (from memory)', 0, [
    { what: '90° mitre', expected: [1.1, 1.3], got: mitreLoss(90) },
  ]),
  ...checks('Pipes', 'Crane TP-410, smooth 90° bends r/D 1.5 to 4 at f 0.02: 12 to 20 f (from memory)', 0, [
    { what: '90° bend, r/D 1.5', expected: [0.22, 0.42], got: bend(90, 1.5, 0.02) },
    { what: '90° bend, r/D 4', expected: [0.2, 0.36], got: bend(90, 4, 0.02) },
  ]),
  ...checks(
    'Pipes',
    'White, Fluid Mechanics, fig. 6.22: sharp contraction from a large space 0.5 heads, expansion into one 1.0 (Rennels: 0.57 for a sharp edge)',
    0,
    [
      { what: 'contraction, beta 0', expected: [0.45, 0.6], got: contractionLoss(0) },
      { what: 'expansion, beta 0', expected: [0.99, 1.01], got: expansionLoss(0) },
      { what: 'expansion, beta 0.5', expected: [0.55, 0.57], got: expansionLoss(0.5) },
    ],
  ),
  ...checks('Pipes', 'Crane TP-410 (2009), example 7-35: two streams meet in a tee (values from memory)', 1e-6, [
    { what: 'from the branch, 25 % of the flow', expected: -0.040441085, got: headsLost('corner', true, BRANCHED, 1) },
    { what: 'straight on', expected: 0.325758478, got: headsLost('straight', true, 1 - BRANCHED, 1) },
  ]),
  ...checks('Pipes', 'Crane TP-410 (2009), 2-15: dividing at equal bores (from memory)', 1e-6, [
    { what: 'all from the run into the branch', expected: 1.69, got: headsLost('corner', false, 1, 1) },
    { what: 'half of it', expected: 1.155625, got: headsLost('corner', false, 0.5, 1) },
    { what: 'half of it straight on', expected: [0, 0], got: headsLost('straight', false, 0.5, 1) },
  ]),
  ...checks('Pipes', 'Idelchik, Handbook of Hydraulic Resistance, ch. 7: tees of equal bores (from memory)', 0.001, [
    { what: 'all from the branch into the run', expected: 1.1, got: headsLost('corner', true, 1, 1) },
    { what: 'two halves into the branch', expected: 1.25, got: headsLost('facing', true, 0.5, 1) },
  ]),
  ...laminar(),
  ...isothermal(),
  ...seriesAndParallel(),
]
