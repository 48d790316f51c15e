/** What takes oil droplets out of the gas, size by size. */
import { circleArea } from '../circle'
import { airDensity, airViscosity, GRAVITY, meanFreePath } from '../gas/air'
import { slipOn } from './droplets'

/** A round jet, or row of holes, on a wall. */
export type Impactor = { readonly type: 'impactor'; readonly jets: number; readonly jetDiameter: number }
export type Cyclone = {
  readonly type: 'cyclone'
  readonly inletWidth: number
  readonly inletHeight: number
  readonly turns: number
}
/** `area` is the floor that droplets can fall on, m2. */
export type Settling = { readonly type: 'settling'; readonly area: number }
/** Wool, mesh or fine media: fibre diameter m, solidity (share of fibre in the volume), thickness m, face area m2. */
export type Fibre = {
  readonly type: 'fibre'
  readonly fibreDiameter: number
  readonly solidity: number
  readonly thickness: number
  readonly area: number
}
export type Stage = Impactor | Cyclone | Settling | Fibre

/** The carrying gas at a stage: actual volume flow m3/s, Pa, K, and the oil's density kg/m3. */
export type Carrier = { readonly flow: number; readonly pPa: number; readonly tK: number; readonly oilDensity: number }

/** Stage efficiency 0-1 for a droplet of diameter d (m); its slip correction `cc` may be passed where several stages share a gas. */
export type Efficiency = (d: number, cc?: number) => number

/**
 * Impactor: Stk = rho d^2 U Cc / (9 mu W), E = 1/(1 + (0.24/Stk)^2): half is caught at Stk 0.24, the round-jet value of
 * Hinds (Aerosol Technology, 5.5; sqrt(Stk50) 0.49).
 */
function impactor(s: Impactor, c: Carrier): Efficiency {
  const u = c.flow / (s.jets * circleArea(s.jetDiameter))
  const k = (c.oilDensity * u) / (9 * airViscosity(c.tK) * s.jetDiameter)
  const lambda = meanFreePath(c.pPa, c.tK)
  return (d, cc = slipOn(lambda, d)) => {
    const stk = k * d * d * cc
    return stk > 0 ? 1 / (1 + (0.24 / stk) ** 2) : 0
  }
}

/** Cyclone (Lapple): d50 = sqrt(9 mu W / (2 pi Ne V (rho - rho_g))), E = 1/(1 + (d50/d)^2). */
function cyclone(s: Cyclone, c: Carrier): Efficiency {
  const v = c.flow / (s.inletWidth * s.inletHeight)
  const rhoG = airDensity(c.pPa, c.tK)
  const d50 = Math.sqrt((9 * airViscosity(c.tK) * s.inletWidth) / (2 * Math.PI * s.turns * v * (c.oilDensity - rhoG)))
  return (d) => (Number.isFinite(d50) ? 1 / (1 + (d50 / d) ** 2) : 0)
}

/** Settling in a stirred chamber: E = 1 - exp(-v A/Q), v the Stokes terminal velocity (Hinds, 3.7 and 10). */
function settling(s: Settling, c: Carrier): Efficiency {
  const k = (c.oilDensity * GRAVITY) / (18 * airViscosity(c.tK))
  const lambda = meanFreePath(c.pPa, c.tK)
  return (d, cc = slipOn(lambda, d)) => 1 - Math.exp((-k * d * d * cc * s.area) / c.flow)
}

const BOLTZMANN = 1.380649e-23

/**
 * Fibre bed: impaction Stk^3/(Stk^3 + 0.77 Stk^2 + 0.22) (Landahl & Herrmann, 1949), interception 0.6 (1-a)/Ku R^2/(1+R) and diffusion
 * 1.6 ((1-a)/Ku)^(1/3) Pe^(-2/3) (Lee & Liu, 1982), Ku = -ln(a)/2 - 3/4 + a - a^2/4; summed, at most 1.
 * Bed: 1 - exp(-4 a E L / (pi df (1-a))).
 */
function fibre(s: Fibre, c: Carrier): Efficiency {
  const mu = airViscosity(c.tK)
  const a = s.solidity
  const u0 = c.flow / s.area
  const ku = -Math.log(a) / 2 - 0.75 + a - (a * a) / 4
  const depth = (4 * a * s.thickness) / (Math.PI * s.fibreDiameter * (1 - a))
  const lambda = meanFreePath(c.pPa, c.tK)
  return (d, cc = slipOn(lambda, d)) => {
    const stk = (c.oilDensity * d * d * cc * u0) / (18 * mu * s.fibreDiameter)
    const r = d / s.fibreDiameter
    const diffusivity = (BOLTZMANN * c.tK * cc) / (3 * Math.PI * mu * d)
    const pe = (s.fibreDiameter * u0) / diffusivity
    const e =
      stk ** 3 / (stk ** 3 + 0.77 * stk * stk + 0.22) +
      (((0.6 * (1 - a)) / ku) * r * r) / (1 + r) +
      1.6 * ((1 - a) / ku) ** (1 / 3) * pe ** (-2 / 3)
    return 1 - Math.exp(-depth * Math.min(1, e))
  }
}

/**
 * Efficiency 0-1 of a stage as a function of droplet diameter in m. With no flow nothing is carried, so nothing is caught (0).
 *
 * @example
 * import { stageEfficiency } from '@/core/separation/stages'
 *
 * console.log(
 *   stageEfficiency(
 *     { type: 'settling', area: 0.0028 },
 *     { flow: 5e-4, pPa: 101325, tK: 343.15, oilDensity: 850 },
 *   )(1e-5),
 * ) // 0.01286641569163216
 */
export function stageEfficiency(stage: Stage, carrier: Carrier): Efficiency {
  if (!(carrier.flow > 0)) return () => 0
  switch (stage.type) {
    case 'impactor':
      return impactor(stage, carrier)
    case 'cyclone':
      return cyclone(stage, carrier)
    case 'settling':
      return settling(stage, carrier)
    case 'fibre':
      return fibre(stage, carrier)
  }
}

/**
 * Above the velocity K sqrt((rho_l - rho_g)/rho_g) gas tears caught oil off again (Souders & Brown, 1934); K 0.107 m/s for a pad,
 * 0.05 m/s for an open vessel (estimate). Returns the share of the catch that stays: 1 below, fading as (limit/velocity)^2 above (estimate).
 *
 * @example
 * import { keptAgainstFlow } from '@/core/separation/stages'
 *
 * console.log(keptAgainstFlow(2, 0.05, { pPa: 101325, tK: 343.15, oilDensity: 850 })) // 0.5158197716197879
 */
export function keptAgainstFlow(velocity: number, k: number, { pPa, tK, oilDensity }: Omit<Carrier, 'flow'>): number {
  const rhoG = airDensity(pPa, tK)
  const limit = k * Math.sqrt((oilDensity - rhoG) / rhoG)
  return velocity <= limit ? 1 : (limit / velocity) ** 2
}

export const SOUDERS_BROWN_PAD = 0.107
export const SOUDERS_BROWN_OPEN = 0.05
