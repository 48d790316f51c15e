/** A photograph under a view of the bay: its scale by two points of known distance, its place by the datum. */
import { fail, ok, type Result } from '@/core/result'
import type { Field } from '../document/fields'

type Pixel = readonly [x: number, y: number]
/** Metres of a pixel; where its left lower corner is, m across and up from the datum; its size in pixels. */
export type Underlay = {
  readonly metresPerPixel: number
  readonly left: number
  readonly bottom: number
  readonly width: number
  readonly height: number
}

/** What its scale is asked by. */
export const UNDERLAY_FIELDS = {
  distanceMm: { label: 'Distance', kept: 'Mm', min: 10, max: 10_000 },
} as const satisfies Record<string, Field>

/** Points closer than this say too little, px. */
const LEAST = 20

/**
 * @param one two points of the picture, px from its upper left corner, `distanceM` apart
 * @param datum the datum in the picture
 *
 * @example
 * import { scaledPhoto } from '@/plan/bay/underlay'
 *
 * console.log(
 *   scaledPhoto(
 *     [
 *       [0, 100],
 *       [200, 100],
 *     ],
 *     0.5,
 *     [0, 100],
 *     { width: 400, height: 300 },
 *   ).value.metresPerPixel,
 * ) // 0.0025
 */
export function scaledPhoto(
  [one, two]: readonly [Pixel, Pixel],
  distanceM: number,
  datum: Pixel,
  { width, height }: { readonly width: number; readonly height: number },
): Result<Underlay> {
  const apart = Math.hypot(two[0] - one[0], two[1] - one[1])
  if (!(apart >= LEAST)) return fail('The two points stand too close together in the picture.')
  const { min, max, label } = UNDERLAY_FIELDS.distanceMm
  if (!(distanceM * 1000 >= min && distanceM * 1000 <= max)) return fail(`${label}: too short or too long for a bay.`)
  const metresPerPixel = distanceM / apart
  return ok({
    metresPerPixel,
    left: -datum[0] * metresPerPixel,
    bottom: -(height - datum[1]) * metresPerPixel,
    width,
    height,
  })
}

/** As it is kept beside the picture, and read again; undefined for what is none. */
export const underlayText = (u: Underlay): string =>
  [u.metresPerPixel, u.left, u.bottom].map((v) => v.toPrecision(7)).join(' ') + ` ${u.width} ${u.height}`
/** The underlay that a text of `underlayText` holds; undefined for any other text. */
export function readUnderlay(text: string): Underlay | undefined {
  const [metresPerPixel, left, bottom, width, height] = text.trim().split(/\s+/).map(Number)
  const all = [metresPerPixel, left, bottom, width, height]
  if (
    !all.every((v) => v !== undefined && Number.isFinite(v)) ||
    !(metresPerPixel! > 0) ||
    !(width! > 0) ||
    !(height! > 0)
  )
    return undefined
  return { metresPerPixel: metresPerPixel!, left: left!, bottom: bottom!, width: width!, height: height! }
}
