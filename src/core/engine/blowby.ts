/** Gas past the rings. */
import { airViscosity, GAS_GAMMA, GAS_R } from '../gas/air'
import { nozzle } from '../network/flow'
import { closedCycle, type Charge, type Cylinder } from './cylinder'

/** Gas in the ring gaps takes about the wall's temperature (estimate), K. */
const RING_GAS_K = 450
/** Clearance of the ring gaps that sets their Reynolds number (estimate: 30 um side clearance), m. */
const GAP_M = 0.03e-3
/** Reynolds number at which the gap's discharge coefficient has halved (estimate). */
const HALF_RE = 3000

/**
 * Blow-by of the whole engine in kg/s: the nozzle law through a leak of `leakM2` per cylinder, integrated over the closed cycle and
 * averaged over the four-stroke cycle's two turns. The gap's discharge coefficient falls as Re/(Re + 3000).
 * Negative when the cylinders suck crankcase gas back (long overrun at deep manifold vacuum).
 *
 * @param rpm above zero
 * @param crankcasePa crankcase pressure, Pa absolute
 * @example see blowby.test.ts
 */
export function blowBy(leakM2: number, cylinders: number, cylinder: Cylinder, charge: Charge, rpm: number, crankcasePa: number): number {
  const points = closedCycle(cylinder, charge)
  const root = Math.sqrt(GAS_R * RING_GAS_K)
  const mu = airViscosity(RING_GAS_K)
  let sum = 0
  for (let i = 0; i < points.length; i++) {
    const p = points[i]!.pPa
    const high = Math.max(p, crankcasePa)
    const ideal = high * nozzle(Math.min(p, crankcasePa) / high, GAS_GAMMA).psi / root // kg/(s m2)
    const flux = gapFlux(ideal, HALF_RE * mu / GAP_M)
    sum += (p >= crankcasePa ? 1 : -1) * flux * (i === 0 || i === points.length - 1 ? 0.5 : 1)
  }
  const dTheta = (points[points.length - 1]!.theta - points[0]!.theta) / (points.length - 1)
  const seconds = dTheta / (rpm * 2 * Math.PI / 60) * sum // kg/m2 per cycle
  return cylinders * leakM2 * seconds * rpm / 120
}

/** Flux through the gap where its Reynolds number is that of the ideal flux: g Re/(Re + Re0), Re/Re0 = g/g0. */
function gapFlux(ideal: number, g0: number): number {
  return ideal * ideal / (ideal + g0)
}

/**
 * Leak area per cylinder (m2) that makes `blowBy` meet `massFlow` (kg/s). Blow-by is proportional to it.
 * Returns 0 for a flow of zero or below, and where the state gives no blow-by to scale.
 */
export function leakAreaFor(massFlow: number, cylinders: number, cylinder: Cylinder, charge: Charge, rpm: number, crankcasePa: number): number {
  const perM2 = blowBy(1, cylinders, cylinder, charge, rpm, crankcasePa)
  return massFlow > 0 && perM2 > 0 ? massFlow / perM2 : 0
}
