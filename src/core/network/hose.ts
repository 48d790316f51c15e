/** A hose from what a builder measures: bore, length, bends, elbows and ends. */
import type { Hose } from './elements'
import { bendLoss, mitreLoss, type BendShape } from './friction'

/** Wall roughness of smooth rubber, PTFE or drawn tube (estimate), m. */
export const SMOOTH_ROUGHNESS_M = 1.5e-6

export type HoseShape = {
  readonly boreM: number
  /** straight length; bends carry their own friction */
  readonly lengthM: number
  readonly roughnessM?: number
  readonly bends?: readonly BendShape[]
  /** turning angles in degrees of tight forged elbows */
  readonly mitres?: readonly number[]
  /** other losses on the hose's own velocity head: ends, reduced barbs */
  readonly k?: number
  /** the same for a flow that runs back; left out, the same */
  readonly kBack?: number | undefined
}

/**
 * Network element of a hose: its losses summed into a fixed part and a part on the friction factor.
 *
 * @example
 * import { makeHose } from '@/core/network/hose'
 *
 * console.log(
 *   makeHose('h', 'a', 'b', {
 *     boreM: 0.0127,
 *     lengthM: 1.2,
 *     bends: [{ angleDeg: 90, radiusM: 0.05 }],
 *     mitres: [],
 *     k: 1,
 *   }).kFixed,
 * ) // 1.0707106781186548
 */
export function makeHose(id: string, from: string, to: string, shape: HoseShape): Hose {
  // a hose of no bore is shut; its losses would divide by it
  if (shape.boreM === 0)
    return { kind: 'hose', id, from, to, boreM: 0, lengthM: shape.lengthM, roughnessM: 0, kFixed: 0, kPerF: 0 }
  const ends = shape.k ?? 0
  let kFixed = ends
  let kPerF = 0
  for (const bend of shape.bends ?? []) {
    const loss = bendLoss(bend, shape.boreM)
    kFixed += loss.fixed
    kPerF += loss.perF
  }
  for (const angle of shape.mitres ?? []) kFixed += mitreLoss(angle)
  return {
    kind: 'hose',
    id,
    from,
    to,
    boreM: shape.boreM,
    lengthM: shape.lengthM,
    roughnessM: shape.roughnessM ?? SMOOTH_ROUGHNESS_M,
    kFixed,
    ...(shape.kBack === undefined || shape.kBack === ends ? {} : { kBack: kFixed - ends + shape.kBack }),
    kPerF,
  }
}
