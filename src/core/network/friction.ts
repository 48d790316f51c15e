/** Friction factor and local loss coefficients of pipes. All Darcy, all dimensionless. */

const LOG10_E = Math.LOG10E
/** Reynolds numbers up to which flow is laminar, and from which it is turbulent. */
export const LAMINAR_RE = 2000
export const TURBULENT_RE = 4000

/**
 * Colebrook's friction factor for turbulent flow, solved by Newton from Haaland's guess: 1/sqrt(f) = -2 log10(e/3.7 + 2.51/(Re sqrt(f))).
 * `relRoughness` is roughness over bore. Exact to 1e-9 for Re >= 4000.
 *
 * @example
 * import { colebrook } from '@/core/network/friction'
 *
 * console.log(colebrook(1e5, 1e-4)) // 0.018513866077471648
 */
export function colebrook(re: number, relRoughness: number): number {
  const a = relRoughness / 3.7
  const b = 2.51 / re
  // the first guess is within 2 %; each step of Newton squares that, and the function is nearly straight: 1e-4, then 1e-9
  let x = -1.8 * LOG10_E * Math.log(a + 6.9 / re) - 0.2
  for (let i = 0; i < 3; i++) {
    const inner = a + b * x
    const step = (x + 2 * LOG10_E * Math.log(inner)) / (1 + (2 * LOG10_E * b) / inner)
    x -= step
    if (step < 1e-5 && step > -1e-5) break
  }
  return 1 / (x * x)
}

/**
 * Darcy friction factor: 64/Re to Re 2000, Colebrook from Re 4000, linear in Re between (the gap has no law; this joins the two).
 * `turbulentAt4000` may be passed to save solving Colebrook at the edge again.
 *
 * @example
 * import { frictionFactor } from '@/core/network/friction'
 *
 * console.log(frictionFactor(1000, 1e-4)) // 0.064
 */
export function frictionFactor(
  re: number,
  relRoughness: number,
  turbulentAt4000 = colebrook(TURBULENT_RE, relRoughness),
): number {
  if (re <= LAMINAR_RE) return 64 / Math.max(re, 1e-12)
  if (re >= TURBULENT_RE) return colebrook(re, relRoughness)
  const laminar = 64 / LAMINAR_RE
  return laminar + ((turbulentAt4000 - laminar) * (re - LAMINAR_RE)) / (TURBULENT_RE - LAMINAR_RE)
}

export type BendShape = { readonly angleDeg: number; readonly radiusM: number }

/**
 * The two coefficients of a smooth bend's loss K = fixed + perF f, bend friction included
 * (Rennels & Hudson, Pipe Flow, 2012, ch. 15): K = f a r/D + (0.10 + 2.4 f) s + 6.6 f (sqrt(s) + s) / (r/D)^(4a/pi), s = sin(a/2).
 * Angle 0 to 180 degrees, r/D >= 0.5.
 *
 * @example
 * import { bendLoss } from '@/core/network/friction'
 *
 * console.log(bendLoss({ angleDeg: 90, radiusM: 0.05 }, 0.0127)) // { fixed: 0.07071067811865475, perF: 8.5404422117764 }
 */
export function bendLoss(bend: BendShape, boreM: number): { readonly fixed: number; readonly perF: number } {
  const a = (bend.angleDeg * Math.PI) / 180
  const s = Math.sin(a / 2)
  const rd = bend.radiusM / boreM
  return { fixed: 0.1 * s, perF: a * rd + 2.4 * s + (6.6 * (Math.sqrt(s) + s)) / rd ** ((4 * a) / Math.PI) }
}

/**
 * Loss coefficient of a tight forged elbow (mitre): 0.42 s + 2.56 s^3, s = sin(a/2) (Rennels & Hudson). 0 to 150 degrees.
 *
 * @example
 * import { mitreLoss } from '@/core/network/friction'
 *
 * console.log(mitreLoss(90)) // 1.2020815280171306
 */
export function mitreLoss(angleDeg: number): number {
  const s = Math.sin((angleDeg * Math.PI) / 360)
  return 0.42 * s + 2.56 * s ** 3
}

/**
 * Sharp contraction into `beta` = small bore / large bore, on the small bore's velocity (Rennels & Hudson, ch. 10):
 * K = 0.0696 (1 - beta^5) lambda^2 + (lambda - 1)^2, lambda = 1 + 0.622 (1 - 0.215 beta^2 - 0.785 beta^5).
 *
 * @example
 * import { contractionLoss } from '@/core/network/friction'
 *
 * console.log(contractionLoss(0)) // 0.5699935263999998
 */
export function contractionLoss(beta: number): number {
  const b = Math.min(1, Math.max(0, beta))
  const b5 = b * b * b * b * b
  const lambda = 1 + 0.622 * (1 - 0.215 * b * b - 0.785 * b5)
  return 0.0696 * (1 - b5) * lambda * lambda + (lambda - 1) ** 2
}

/**
 * Sudden expansion from `beta` = small bore / large bore, on the small bore's velocity: (1 - beta^2)^2 (Borda-Carnot).
 *
 * @example
 * import { expansionLoss } from '@/core/network/friction'
 *
 * console.log(expansionLoss(0)) // 1
 */
export function expansionLoss(beta: number): number {
  const b = Math.min(1, Math.max(0, beta))
  return (1 - b * b) ** 2
}
