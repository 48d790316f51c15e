/** Cylinder geometry and the gas pressure of the closed part of the four-stroke cycle. */

export type Cylinder = {
  readonly boreM: number
  readonly strokeM: number
  readonly rodM: number
  /** geometric compression ratio */
  readonly compression: number
}

/**
 * Cylinder volume in m3 at crank angle `theta` (rad after top dead centre), slider-crank (Heywood, Internal Combustion Engine Fundamentals, 2.2).
 * @example cylinderVolume({ boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }, Math.PI) // 5.58e-4
 */
export function cylinderVolume(c: Cylinder, theta: number): number {
  const area = Math.PI * c.boreM ** 2 / 4
  const a = c.strokeM / 2
  const clearance = area * c.strokeM / (c.compression - 1)
  const s = a * Math.cos(theta) + Math.sqrt(c.rodM ** 2 - (a * Math.sin(theta)) ** 2)
  return clearance + area * (c.rodM + a - s)
}

export type Charge = {
  /** Pa absolute and K at intake valve closing, taken as the manifold's */
  readonly pPa: number
  readonly tK: number
  /** fuel heat released per cylinder and cycle, J; zero when motored */
  readonly heatJ: number
}

export type CyclePoint = { readonly theta: number; readonly pPa: number }

const CLOSE = -130 * Math.PI / 180 // intake valve closing, after top dead centre of firing
const OPEN = 130 * Math.PI / 180 // exhaust valve opening
const BURN_START = -15 * Math.PI / 180
const BURN_LENGTH = 55 * Math.PI / 180
const N_COMPRESSION = 1.32
const N_EXPANSION = 1.28

/**
 * Pressure from intake valve closing (-130 degrees) to exhaust valve opening (130), in steps of two degrees.
 * Polytropic compression 1.32 and expansion 1.28 carry the wall heat; a single Wiebe function (a 5, m 2, 55 degrees from 15 before top)
 * releases `heatJ`: dp = -n p dV/V + (n - 1) dQ/V (Heywood, 9.2). Timings are typical estimates.
 * @example closedCycle({ boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }, { pPa: 1e5, tK: 320, heatJ: 0 }).length // 131
 */
export function closedCycle(cylinder: Cylinder, charge: Charge): readonly CyclePoint[] {
  const steps = 130
  const d = (OPEN - CLOSE) / steps
  const points: CyclePoint[] = [{ theta: CLOSE, pPa: charge.pPa }]
  let p = charge.pPa
  let v = cylinderVolume(cylinder, CLOSE)
  let burnt = 0
  for (let i = 1; i <= steps; i++) {
    const theta = CLOSE + i * d
    const next = cylinderVolume(cylinder, theta)
    const x = (theta - BURN_START) / BURN_LENGTH
    const nowBurnt = x <= 0 ? 0 : 1 - Math.exp(-5 * Math.min(1, x) ** 3)
    const n = N_COMPRESSION + (N_EXPANSION - N_COMPRESSION) * (charge.heatJ > 0 ? burnt : theta > 0 ? 1 : 0)
    // exact polytropic step, heat added at the mean volume
    p = p * (v / next) ** n + (n - 1) * charge.heatJ * (nowBurnt - burnt) / ((v + next) / 2)
    v = next
    burnt = nowBurnt
    points.push({ theta, pPa: p })
  }
  return points
}
