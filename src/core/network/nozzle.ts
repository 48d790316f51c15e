/** The isentropic nozzle: holes, and the open part of every valve. */
import { GAS_GAMMA } from '../gas/air'
import type { Gas } from './elements'
import { BLEND_PA, reverseFlow, type Flow } from './law'

/**
 * The nozzle function psi(r) = sqrt(2g/(g-1) (r^(2/g) - r^((g+1)/g))), constant at and below the critical ratio,
 * as a function of the pressure drop share x = 1 - r; and its derivative by r. Heywood, Internal Combustion Engine Fundamentals, app. C.
 *
 * @example
 * import { nozzle } from '@/core/network/nozzle'
 *
 * console.log(nozzle(0, 1.4).psi) // 0.6847314563772705
 */
export function nozzle(r: number, gamma: number): { psi: number; dPsi: number } {
  const out = { psi: 0, dPsi: 0 }
  fillNozzle(r, gamma, out)
  return out
}

/**
 * psi alone, for integrals over many ratios.
 *
 * @example
 * import { nozzlePsi } from '@/core/network/nozzle'
 *
 * console.log(nozzlePsi(0, 1.4)) // 0.6847314563772705
 */
export function nozzlePsi(r: number, gamma: number): number {
  const n = gamma === GAS_GAMMA ? DIATOMIC : nozzleOf(gamma)
  if (r <= n.critical) return n.choked
  if (r >= 1) return 0
  const fall = temperatureFall(r, n)
  return Math.sqrt(Math.max(0, n.c * toTwoOverGamma(r, fall, n) * (1 - fall)))
}

/** r^(1 - 1/gamma), the ratio of temperatures over a ratio of pressures. */
function temperatureFall(r: number, n: Exponents): number {
  if (n !== DIATOMIC) return r ** (n.e2 - n.e1)
  const root = seventhRoot(r)
  return root * root
}
/** r^(2/gamma): its fifth power where gamma is 7/5. */
const toTwoOverGamma = (r: number, fall: number, n: Exponents): number =>
  n === DIATOMIC ? fall * fall * (fall * fall) * fall : r ** n.e1

/**
 * r^(1/7) for r from 0.528 to 1: a quartic through the root at Chebyshev's points, within 6e-6, and one step of Halley's, which cubes that
 * to the last digit. Half the time of a logarithm and an exponential.
 */
function seventhRoot(r: number): number {
  const q = 0.698837 + r * (0.634518 + r * (-0.590666 + r * (0.339885 - r * 0.082576)))
  const q2 = q * q
  const q7 = q2 * q2 * q2 * q
  return (q * (6 * q7 + 8 * r)) / (8 * q7 + 6 * r)
}

/** The same written into `out`, for laws that ask thousands of times. */
function fillNozzle(r: number, gamma: number, out: { psi: number; dPsi: number }): void {
  const n = gamma === GAS_GAMMA ? DIATOMIC : nozzleOf(gamma)
  out.dPsi = 0
  out.psi = r <= n.critical ? n.choked : 0
  if (r <= n.critical || r >= 1) return
  const fall = temperatureFall(r, n)
  const u = toTwoOverGamma(r, fall, n)
  const v = u * fall // r^((gamma+1)/gamma)
  const psi = Math.sqrt(Math.max(0, n.c * (u - v)))
  out.psi = psi
  if (psi > 0) out.dPsi = (n.c * (n.e1 * u - n.e2 * v)) / (2 * r * psi)
}

/** A hole by its discharge coefficient and area. */
export type OpenHole = { readonly cd: number; readonly areaM2: number }

/**
 * Mass flow in kg/s through a hole from p1 to p2 (Pa absolute, p1 >= p2): Cd A p1 / sqrt(R T) psi(p2/p1), choked at and below the critical ratio.
 *
 * @example
 * import { orificeFlow } from '@/core/network/nozzle'
 *
 * console.log(orificeFlow({ cd: 0.62, areaM2: 2e-5 }, 103325, 101325, { R: 287.05, gamma: 1.4, T: 353.15 })) // 0.0007835112923300079
 */
export function orificeFlow({ cd, areaM2 }: OpenHole, p1: number, p2: number, gas: Gas): number {
  return p1 > p2 ? ((cd * areaM2 * p1) / Math.sqrt(gas.R * gas.T)) * nozzle(p2 / p1, gas.gamma).psi : 0
}

/** What psi needs of gamma: critical ratio, psi there, exponents and factor. */
function nozzleOf(gamma: number) {
  const critical = (2 / (gamma + 1)) ** (gamma / (gamma - 1))
  const [c, e1, e2] = [(2 * gamma) / (gamma - 1), 2 / gamma, (gamma + 1) / gamma]
  return { critical, c, e1, e2, choked: Math.sqrt(c * (critical ** e1 - critical ** e2)) }
}
type Exponents = ReturnType<typeof nozzleOf>
const DIATOMIC = nozzleOf(GAS_GAMMA)

/**
 * A hole of a law that is asked thousands of times: sizes and gas worked out beforehand, and room to work in. Fields of one object, and
 * functions beside it, since numbers in a closure's variables are slow to read.
 */
export type Hole = {
  cdA: number
  rootRT: number
  gamma: number
  readonly nozzle: { psi: number; dPsi: number }
  readonly own: Flow
}

/**
 * @example
 * import { makeHole, nozzleFlow, tuneHole } from '@/core/network/nozzle'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const hole = makeHole()
 * tuneHole(hole, 1e-5, gas)
 * const out = { m: 0, d1: 0, d2: 0 }
 * nozzleFlow(hole, 103325, 101325, out)
 * console.log(out.m) // 0.0006318639454274257
 */
export const makeHole = (): Hole => ({
  cdA: 0,
  rootRT: 1,
  gamma: GAS_GAMMA,
  nozzle: { psi: 0, dPsi: 0 },
  own: { m: 0, d1: 0, d2: 0 },
})

/** Gives a hole its discharge coefficient times its area, m2, and its gas. */
export function tuneHole(hole: Hole, cdA: number, gas: Gas): void {
  hole.cdA = cdA
  hole.rootRT = Math.sqrt(gas.R * gas.T)
  hole.gamma = gas.gamma
}

/** Nozzle flow for p1 >= p2, straightened within BLEND_PA of equal pressures. Writes m, d1, d2. */
export function nozzleFlow(hole: Hole, p1: number, p2: number, out: Flow): void {
  const { cdA, rootRT, nozzle: at } = hole
  const dp = p1 - p2
  if (dp < 100 * BLEND_PA) {
    // incompressible to 1e-5 here: m = cdA sqrt(2 rho) dp / (dp^2 + blend^2)^(1/4)
    const rho = p1 / (rootRT * rootRT)
    const s = dp * dp + BLEND_PA * BLEND_PA
    const k = cdA * Math.sqrt(2 * rho)
    const g = 1 / Math.sqrt(Math.sqrt(s))
    out.m = k * dp * g
    const slope = k * (g - (0.5 * dp * dp * g) / s)
    out.d1 = slope + out.m / (2 * p1)
    out.d2 = -slope
    return
  }
  const r = p2 / p1
  fillNozzle(r, hole.gamma, at)
  const k = cdA / rootRT
  out.m = k * p1 * at.psi
  out.d1 = k * (at.psi - r * at.dPsi)
  out.d2 = k * at.dPsi
}

/** The same either way. */
export function flowBothWays(hole: Hole, p1: number, p2: number, out: Flow): void {
  if (p1 >= p2) return nozzleFlow(hole, p1, p2, out)
  nozzleFlow(hole, p2, p1, out)
  reverseFlow(out)
}

/** Adds what passes a hole, either way, to what is there. */
export function addFlow(hole: Hole, p1: number, p2: number, out: Flow): void {
  if (hole.cdA <= 0) return
  const { own } = hole
  flowBothWays(hole, p1, p2, own)
  out.m += own.m
  out.d1 += own.d1
  out.d2 += own.d2
}
