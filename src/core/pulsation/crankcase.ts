/** The crankcase as the pistons' undersides pump it. */
import { cylinderVolume, cylinderVolumeSlope, type Cylinder } from '../engine/cylinder'

export type Pumping = {
  readonly cylinder: Cylinder
  /** crank angle in rad by which each piston runs behind the first */
  readonly phases: readonly number[]
  /** free volume averaged over a turn, m3 */
  readonly meanM3: number
}

/** What rises above the pistons is lost below them: V = mean + sum of (mean cylinder volume - cylinder volume). */
const above = (p: Pumping, theta: number) =>
  p.phases.reduce((s, phase) => s + cylinderVolume(p.cylinder, theta - phase), 0)

/** Mean of a cylinder's volume over a turn, by 720 even steps (exact to rounding for a smooth periodic function). */
function meanAbove(p: Pumping): number {
  let sum = 0
  for (let i = 0; i < 720; i++) sum += above(p, (i * Math.PI) / 360)
  return sum / 720
}

/** Free volume, m3, and its slope by crank angle, m3/rad; filled by the function below. */
export type Space = { volume: number; slope: number }

/**
 * Free crankcase volume and its slope at `theta` rad after the first piston's top dead centre.
 * A mean below half the swing would go negative: the caller refuses it (`volumeRange`).
 *
 * @example
 * import { crankcaseVolume } from '@/core/pulsation/crankcase'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * console.log(crankcaseVolume({ cylinder, phases: [0], meanM3: 2e-3 })(0, { volume: 0, slope: 0 }).volume) // 0.002271687632178352
 */
export function crankcaseVolume(p: Pumping): (theta: number, out: Space) => Space {
  const whole = p.meanM3 + meanAbove(p)
  return (theta, out) => {
    out.volume = whole
    out.slope = 0
    for (const phase of p.phases) {
      out.volume -= cylinderVolume(p.cylinder, theta - phase)
      out.slope -= cylinderVolumeSlope(p.cylinder, theta - phase)
    }
    return out
  }
}

/**
 * Smallest and largest free volume over a turn, m3.
 *
 * @example
 * import { volumeRange } from '@/core/pulsation/crankcase'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * console.log(volumeRange({ cylinder, phases: [0], meanM3: 2e-3 }).most) // 0.002271687632178352
 */
export function volumeRange(p: Pumping): { readonly least: number; readonly most: number } {
  const at = crankcaseVolume(p)
  const space: Space = { volume: 0, slope: 0 }
  let [least, most] = [Infinity, 0]
  for (let i = 0; i < 720; i++) {
    const v = at((i * Math.PI) / 360, space).volume
    least = Math.min(least, v)
    most = Math.max(most, v)
  }
  return { least, most }
}

/**
 * Polytropic index of crankcase gas: a turn leaves little time for heat, but oil mist and wet walls take some; between 1 and 1.4
 * (estimate).
 */
export const CRANKCASE_INDEX = 1.3

/**
 * Swing either way, Pa, of a sealed crankcase at `pPa`: n p dV / (2 V), the closed form for small swings.
 *
 * @example
 * import { sealedSwing } from '@/core/pulsation/crankcase'
 *
 * console.log(sealedSwing({ least: 1.8e-3, most: 2.2e-3 }, 1e5)) // 13000.000000000005
 */
export function sealedSwing({ least, most }: { readonly least: number; readonly most: number }, pPa: number): number {
  const mean = (least + most) / 2
  return (CRANKCASE_INDEX * pPa * (most - least)) / 2 / mean
}
