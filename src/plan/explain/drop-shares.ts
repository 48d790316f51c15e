/** Where a hose's pressure drop goes: along its wall, round its bends, at its ends. */
import { airViscosity } from '@/core/gas/air'
import { frictionFactor } from '@/core/network/friction'
import { makeHose, type HoseShape } from '@/core/network/hose'

/**
 * Shares of the drop, which sum to 1, at `flow` kg/s and `tK`: friction f L/D, bends with their own friction, elbows and ends.
 * @param atTees share that is lost at the tees where it ends, which counts among the ends
 *
 * @example
 * import { dropShares } from '@/plan/explain/drop-shares'
 *
 * console.log(dropShares({ boreM: 0.0127, lengthM: 1, k: 1 }, 373, 3e-3).bends) // 0
 */
export function dropShares(
  laid: HoseShape,
  tK: number,
  flow: number,
  atTees = 0,
): { readonly friction: number; readonly bends: number; readonly ends: number } {
  const shape = flow < 0 && laid.kBack !== undefined ? { ...laid, k: laid.kBack, kBack: undefined } : laid
  if (!(shape.boreM > 0)) return { friction: 0, bends: 0, ends: 1 }
  const re = Math.max(1, (4 * Math.abs(flow)) / (Math.PI * shape.boreM * airViscosity(tK)))
  const whole = makeHose('h', 'a', 'b', shape)
  const straight = makeHose('h', 'a', 'b', { ...shape, bends: [] })
  const f = frictionFactor(re, whole.roughnessM / shape.boreM)
  const friction = (f * shape.lengthM) / shape.boreM
  const bends = whole.kFixed - straight.kFixed + f * whole.kPerF
  const sum = friction + bends + straight.kFixed
  const alone =
    sum > 0
      ? { friction: friction / sum, bends: bends / sum, ends: straight.kFixed / sum }
      : { friction: 1, bends: 0, ends: 0 }
  const rest = 1 - Math.min(1, Math.max(0, atTees))
  return { friction: rest * alone.friction, bends: rest * alone.bends, ends: rest * alone.ends + 1 - rest }
}
