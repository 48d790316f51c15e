/** Gas past the rings. */
import { airViscosity, GAS_GAMMA, GAS_R } from '../gas/air'
import { nozzlePsi } from '../network/nozzle'
import {
  CYCLE_STEP,
  CYCLE_STEPS,
  cycleOf,
  sameCylinder,
  writePressures,
  type Charge,
  type Cycle,
  type Cylinder,
} from './cylinder'

/** Gas in the ring gaps takes about the wall's temperature (estimate), K. */
const RING_GAS_K = 450
/** Clearance of the ring gaps that sets their Reynolds number (estimate: 30 um side clearance), m. */
const GAP_M = 0.03e-3
/** Reynolds number at which the gap's discharge coefficient has halved (estimate). */
const HALF_RE = 3000
const ROOT_RT = Math.sqrt(GAS_R * RING_GAS_K)
const HALF_FLUX = (HALF_RE * airViscosity(RING_GAS_K)) / GAP_M
/** Ideal flux a pascal where the gap is choked, kg/(s m2 Pa). */
const CHOKED = nozzlePsi(0, GAS_GAMMA) / ROOT_RT

/** What leaks past the rings of an engine: a leak of `leakM2` in each of its cylinders, all of one geometry. */
export type RingLeak = { readonly leakM2: number; readonly cylinders: number; readonly cylinder: Cylinder }
export type BlowBy = (leak: RingLeak, charge: Charge, crankcasePa: number) => number

/**
 * Blow-by of the whole engine in kg/s: the nozzle law through a leak of `leakM2` per cylinder, integrated over the closed cycle and
 * averaged over the four-stroke cycle's two turns. The gap's discharge coefficient falls as Re/(Re + 3000).
 * Negative when the cylinders suck crankcase gas back (long overrun at deep manifold vacuum). The same charge leaks as much a second at
 * any speed.
 *
 * @param crankcasePa crankcase pressure, Pa absolute
 *
 * @example
 * import { blowBy } from '@/core/engine/blowby'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const charge = { pPa: 2e5, tK: 330, heatJ: 2000 }
 * console.log(blowBy({ leakM2: 1e-7, cylinders: 5, cylinder }, charge, 101325)) // 0.0005505106473753875
 */
export const blowBy: BlowBy = (leak, charge, crankcasePa) => makeBlowBy()(leak, charge, crankcasePa)

type BlowByQuery = { readonly cylinder: Cylinder; readonly charge: Charge; readonly crankcasePa: number }
type BlowByAnswer = BlowByQuery & { readonly flow: number; askedAt: number }
/** Answers and cycles that are kept: a draw of estimates leaves most states as they were. */
const MOST_ANSWERED = 16
const MOST_CYCLES = 16
const sameQuery = (a: BlowByQuery, cylinder: Cylinder, charge: Charge, crankcasePa: number) =>
  a.crankcasePa === crankcasePa &&
  a.charge.pPa === charge.pPa &&
  a.charge.heatJ === charge.heatJ &&
  sameCylinder(a.cylinder, cylinder)

/**
 * `blowBy` for who asks again and again: cycles of the last geometries and the last answers are kept.
 *
 * @example
 * import { makeBlowBy } from '@/core/engine/blowby'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const charge = { pPa: 2e5, tK: 330, heatJ: 2000 }
 * console.log(makeBlowBy()({ leakM2: 1e-7, cylinders: 5, cylinder }, charge, 101325)) // 0.0005505106473753875
 */
export function makeBlowBy(): BlowBy {
  const answered: BlowByAnswer[] = []
  let asked = 0
  const cycles: { readonly of: Cylinder; readonly cycle: Cycle }[] = []
  const pressures = new Float64Array(CYCLE_STEPS + 1)

  function cycleFor(cylinder: Cylinder): Cycle {
    const known = cycles.find((t) => sameCylinder(t.of, cylinder))
    if (known) return known.cycle
    const cycle = cycleOf(cylinder)
    cycles.unshift({ of: cylinder, cycle })
    cycles.length = Math.min(cycles.length, MOST_CYCLES)
    return cycle
  }

  /** Blow-by of one cylinder through a leak of one square metre, kg/s. */
  function perLeak(cylinder: Cylinder, charge: Charge, crankcasePa: number): number {
    asked++
    // what was not asked about for longest makes room: what a draw changes must not push out what it leaves
    let oldest = 0
    for (let k = 0; k < answered.length; k++) {
      const known = answered[k]!
      if (sameQuery(known, cylinder, charge, crankcasePa)) {
        known.askedAt = asked
        return known.flow
      }
      if (known.askedAt < answered[oldest]!.askedAt) oldest = k
    }
    writePressures(cycleFor(cylinder), charge, pressures)
    let sum = 0
    for (let i = 0; i <= CYCLE_STEPS; i++) {
      const flux = fluxAt(pressures[i]!, crankcasePa)
      sum += i === 0 || i === CYCLE_STEPS ? flux / 2 : flux
    }
    // over the 4 pi rad of a cycle
    const flow = (CYCLE_STEP * sum) / (4 * Math.PI)
    answered[answered.length < MOST_ANSWERED ? answered.length : oldest] = {
      cylinder,
      charge,
      crankcasePa,
      flow,
      askedAt: asked,
    }
    return flow
  }

  return ({ leakM2, cylinders, cylinder }, charge, crankcasePa) =>
    leakM2 * cylinders * perLeak(cylinder, charge, crankcasePa)
}

/** Flux in kg/(s m2) through the gap from a cylinder at `p`; below zero into it. */
function fluxAt(p: number, crankcasePa: number): number {
  // beyond the critical ratio, which is most of the cycle, psi is a constant
  if (p > 2 * crankcasePa) return gapFlux(p * CHOKED)
  if (p >= crankcasePa) return gapFlux((p * nozzlePsi(crankcasePa / p, GAS_GAMMA)) / ROOT_RT)
  if (p > 0.5 * crankcasePa) return -gapFlux((crankcasePa * nozzlePsi(p / crankcasePa, GAS_GAMMA)) / ROOT_RT)
  return -gapFlux(crankcasePa * CHOKED)
}

/** Flux in kg/(s m2) through the gap, where its Reynolds number is that of the ideal flux g: g Re/(Re + Re0), Re/Re0 = g/g0. */
const gapFlux = (ideal: number): number => (ideal * ideal) / (ideal + HALF_FLUX)

/** An engine of so many cylinders of one geometry, with what is in them and below them. */
type Leaking = Omit<RingLeak, 'leakM2'> & { readonly charge: Charge; readonly crankcasePa: number }

/**
 * Leak area per cylinder (m2) that makes `blowBy` meet `massFlow` (kg/s). Blow-by is proportional to it.
 * Returns 0 for a flow of zero or below, and where the state gives no blow-by to scale.
 * @param law `blowBy`, or what `makeBlowBy` has made
 *
 * @example
 * import { leakAreaFor } from '@/core/engine/blowby'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const charge = { pPa: 2e5, tK: 330, heatJ: 2000 }
 * console.log(leakAreaFor(0.002, { cylinders: 5, cylinder, charge, crankcasePa: 101325 })) // 3.632990587076185e-7
 */
export function leakAreaFor(
  massFlow: number,
  { cylinders, cylinder, charge, crankcasePa }: Leaking,
  law: BlowBy = blowBy,
): number {
  const perM2 = law({ leakM2: 1, cylinders, cylinder }, charge, crankcasePa)
  return massFlow > 0 && perM2 > 0 ? massFlow / perM2 : 0
}
