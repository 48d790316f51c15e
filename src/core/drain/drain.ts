/** Whether oil runs back from a separator, and how much of it can. */
import { circleArea } from '../circle'
import { GRAVITY } from '../gas/air'

export type DrainCase = {
  /** Pa absolute where the oil is to go, and in the can */
  readonly returnPa: number
  readonly canPa: number
  /** cracking pressure of a valve in the drain, Pa */
  readonly crackPa?: number
  /** oil, kg/m3 and m2/s */
  readonly oilDensity: number
  readonly viscosity: number
  readonly boreM: number
  readonly lengthM: number
  /** from the return up to the can's floor, m */
  readonly heightM: number
}

export type Drain = {
  /** oil that the pressure difference holds up, m */
  readonly columnM: number
  /** what is left of the height to drive it, m; negative: it never drains */
  readonly headM: number
  /** m3/s that a full hose lets through; 0 where it never drains */
  readonly capacity: number
}

/**
 * Drain-back through a hose of its own: column = (p_return - p_can + p_crack)/(rho g), head = height - column, capacity of a full laminar
 * tube pi D^4 g head/(128 nu L) (Hagen-Poiseuille; cold oil in a hose is laminar by far). Lengths above zero.
 *
 * @example
 * import { drainOf } from '@/core/drain/drain'
 *
 * console.log(
 *   drainOf({
 *     returnPa: 100525,
 *     canPa: 99425,
 *     oilDensity: 850,
 *     viscosity: 1.375e-5,
 *     boreM: 0.0095,
 *     lengthM: 0.45,
 *     heightM: 0.32,
 *   }).headM,
 * ) // 0.18803672537932695
 */
export function drainOf(c: DrainCase): Drain {
  const columnM = (c.returnPa - c.canPa + (c.crackPa ?? 0)) / (c.oilDensity * GRAVITY)
  const headM = c.heightM - columnM
  const capacity = (Math.PI * c.boreM ** 4 * GRAVITY * Math.max(0, headM)) / (128 * c.viscosity * c.lengthM)
  return { columnM, headM, capacity }
}

/** Above this a port that gas leaves by lets no oil down (0.7 to 1.0 by the shape of its ends). */
export const FLOODING = 0.8

/** A flow at a port, m3/s, and its density, kg/m3. */
export type PortFlow = { readonly flow: number; readonly density: number }

/**
 * How near a shared vent is to flooding, oil down against gas up: Wallis, sqrt(jg*) + sqrt(jl*), j* = j sqrt(rho/(g D (rho_l - rho_g)))
 * (One-dimensional Two-phase Flow, 1969). Flows in m3/s at the port.
 *
 * @example
 * import { wallis } from '@/core/drain/drain'
 *
 * console.log(wallis({ flow: 0.00183, density: 0.98 }, { flow: 2e-8, density: 850 }, 0.019)) // 0.7255342544549757
 */
export function wallis(gas: PortFlow, oil: PortFlow, boreM: number): number {
  const area = circleArea(boreM)
  const scale = GRAVITY * boreM * (oil.density - gas.density)
  const part = ({ flow, density }: PortFlow) => Math.sqrt((Math.max(0, flow) / area) * Math.sqrt(density / scale))
  return part(gas) + part(oil)
}
