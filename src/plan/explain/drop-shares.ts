/** Where a hose's pressure drop goes: along its wall, round its bends, at its ends. */
import { airViscosity } from '@/core/gas/air'
import { frictionFactor } from '@/core/network/friction'
import { makeHose } from '@/core/network/hose'
import type { Line, Part, Variant } from '../document/schema'
import { hoseShape } from '../model/network'

/**
 * Shares of the drop, which sum to 1, at `flow` kg/s and `tK`: friction f L/D, bends with their own friction, elbows and ends.
 * @example dropShares(line, variant, 373, 3e-3) // { friction: 0.4, bends: 0.15, ends: 0.45 }
 */
export function dropShares(
  line: Line,
  variant: Variant,
  tK: number,
  flow: number,
): { readonly friction: number; readonly bends: number; readonly ends: number } {
  const shape = hoseShape(line, new Map<string, Part>(variant.parts.map((p) => [p.id, p])))
  if (!(shape.boreM > 0)) return { friction: 0, bends: 0, ends: 1 }
  const re = Math.max(1, (4 * Math.abs(flow)) / (Math.PI * shape.boreM * airViscosity(tK)))
  const whole = makeHose('h', 'a', 'b', shape)
  const straight = makeHose('h', 'a', 'b', { ...shape, bends: [] })
  const f = frictionFactor(re, whole.roughnessM / shape.boreM)
  const friction = (f * shape.lengthM) / shape.boreM
  const bends = whole.kFixed - straight.kFixed + f * whole.kPerF
  const sum = friction + bends + straight.kFixed
  return sum > 0
    ? { friction: friction / sum, bends: bends / sum, ends: straight.kFixed / sum }
    : { friction: 1, bends: 0, ends: 0 }
}
