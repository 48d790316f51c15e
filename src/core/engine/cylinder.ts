/** Cylinder geometry and the gas pressure of the closed part of the four-stroke cycle. */
import { circleArea } from '../circle'

export type Cylinder = {
  readonly boreM: number
  readonly strokeM: number
  readonly rodM: number
  /** geometric compression ratio */
  readonly compression: number
}

/**
 * Cylinder volume in m3 at crank angle `theta` (rad after top dead centre), slider-crank (Heywood, Internal Combustion Engine Fundamentals, 2.2).
 *
 * @example
 * import { cylinderVolume } from '@/core/engine/cylinder'
 *
 * console.log(cylinderVolume({ boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }, Math.PI)) // 0.0005578937972682866
 */
export function cylinderVolume(c: Cylinder, theta: number): number {
  const area = circleArea(c.boreM)
  const a = c.strokeM / 2
  const clearance = (area * c.strokeM) / (c.compression - 1)
  const s = a * Math.cos(theta) + Math.sqrt(c.rodM ** 2 - (a * Math.sin(theta)) ** 2)
  return clearance + area * (c.rodM + a - s)
}

/**
 * Slope of `cylinderVolume` by crank angle, m3/rad: A a sin(t) (1 + a cos(t) / sqrt(l^2 - a^2 sin^2 t)).
 *
 * @example
 * import { cylinderVolumeSlope } from '@/core/engine/cylinder'
 *
 * console.log(cylinderVolumeSlope({ boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }, 0)) // 0
 */
export function cylinderVolumeSlope(c: Cylinder, theta: number): number {
  const a = c.strokeM / 2
  const sin = Math.sin(theta)
  return circleArea(c.boreM) * a * sin * (1 + (a * Math.cos(theta)) / Math.sqrt(c.rodM ** 2 - (a * sin) ** 2))
}

export type Charge = {
  /** Pa absolute and K at intake valve closing, taken as the manifold's */
  readonly pPa: number
  readonly tK: number
  /** fuel heat released per cylinder and cycle, J; zero when motored */
  readonly heatJ: number
}

const DEGREE = Math.PI / 180
const CLOSE = -130 * DEGREE // intake valve closing, after top dead centre of firing
const OPEN = 130 * DEGREE // exhaust valve opening
const BURN_START = -15 * DEGREE
const BURN_LENGTH = 55 * DEGREE
const N_COMPRESSION = 1.32
const N_EXPANSION = 1.28
/** Steps of two degrees over the closed cycle. */
export const CYCLE_STEPS = 130
/** rad a step */
export const CYCLE_STEP = (OPEN - CLOSE) / CYCLE_STEPS

/** Pressures of the closed cycle of a geometry: they are proportional to the charge's own, and rise in proportion to the heat released. */
export type Cycle = {
  /** Pa over Pa of charge, without firing and with it */
  readonly motored: Float64Array
  readonly fired: Float64Array
  /** Pa over J of heat */
  readonly perJoule: Float64Array
}
/**
 * Whether two cylinders are of the same sizes.
 *
 * @example
 * import { sameCylinder } from '@/core/engine/cylinder'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * console.log(sameCylinder(cylinder, cylinder)) // true
 */
export const sameCylinder = (a: Cylinder, b: Cylinder): boolean =>
  a === b || (a.boreM === b.boreM && a.strokeM === b.strokeM && a.rodM === b.rodM && a.compression === b.compression)

/**
 * The closed cycle of a geometry, at CYCLE_STEPS + 1 crank angles.
 *
 * @example
 * import { cycleOf } from '@/core/engine/cylinder'
 *
 * console.log(cycleOf({ boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }).motored.length) // 131
 */
export function cycleOf(cylinder: Cylinder): Cycle {
  const theta = Float64Array.from({ length: CYCLE_STEPS + 1 }, (_, i) => CLOSE + i * CYCLE_STEP)
  const volume = theta.map((t) => cylinderVolume(cylinder, t))
  const burnt = theta.map((t) => {
    const x = (t - BURN_START) / BURN_LENGTH
    return x <= 0 ? 0 : 1 - Math.exp(-5 * Math.min(1, x) ** 3)
  })
  const first = burnt.findIndex((x) => x > 0)
  const last = burnt.findIndex((x) => x >= burnt[CYCLE_STEPS]!)
  const exponent = (i: number) => {
    if (i < first) return N_COMPRESSION
    return i > last ? N_EXPANSION : N_COMPRESSION + (N_EXPANSION - N_COMPRESSION) * burnt[i - 1]!
  }
  const motored = new Float64Array(CYCLE_STEPS + 1).fill(1)
  const fired = motored.slice()
  const perJoule = new Float64Array(CYCLE_STEPS + 1)
  for (let i = 1; i <= CYCLE_STEPS; i++) {
    const [v, next] = [volume[i - 1]!, volume[i]!]
    // motored, it expands from top dead centre on; fired, as it burns
    motored[i] = motored[i - 1]! * (v / next) ** (i <= CYCLE_STEPS / 2 ? N_COMPRESSION : N_EXPANSION)
    const n = exponent(i)
    // exact polytropic step, heat added at the mean volume
    const step = (v / next) ** n
    fired[i] = fired[i - 1]! * step
    perJoule[i] = perJoule[i - 1]! * step + ((n - 1) * (burnt[i]! - burnt[i - 1]!)) / ((v + next) / 2)
  }
  return { motored, fired, perJoule }
}

/**
 * Pressure in Pa at each of CYCLE_STEPS + 1 crank angles from intake valve closing (-130 degrees) to exhaust valve opening (130).
 * Polytropic compression 1.32 and expansion 1.28 carry the wall heat; a single Wiebe function (a 5, m 2, 55 degrees from 15 before top)
 * releases `heatJ`: dp = -n p dV/V + (n - 1) dQ/V (Heywood, 9.2). Timings are typical estimates.
 *
 * @example
 * import { closedCycle } from '@/core/engine/cylinder'
 *
 * console.log(
 *   closedCycle({ boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }, { pPa: 1e5, tK: 320, heatJ: 0 })
 *     .length,
 * ) // 131
 */
export function closedCycle(cylinder: Cylinder, charge: Charge): Float64Array {
  const pressures = new Float64Array(CYCLE_STEPS + 1)
  writePressures(cycleOf(cylinder), charge, pressures)
  return pressures
}

/**
 * Writes the pressures of a charge over a cycle, Pa, into room for CYCLE_STEPS + 1 of them.
 *
 * @example
 * import { cycleOf, writePressures } from '@/core/engine/cylinder'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const charge = { pPa: 2e5, tK: 330, heatJ: 2000 }
 * const pressures = new Float64Array(131)
 * writePressures(cycleOf(cylinder), charge, pressures)
 * console.log(pressures[65]) // 4641739.049998031
 */
export function writePressures({ motored, fired, perJoule }: Cycle, { pPa, heatJ }: Charge, into: Float64Array): void {
  if (heatJ > 0) for (let i = 0; i <= CYCLE_STEPS; i++) into[i] = fired[i]! * pPa + perJoule[i]! * heatJ
  else for (let i = 0; i <= CYCLE_STEPS; i++) into[i] = motored[i]! * pPa
}
