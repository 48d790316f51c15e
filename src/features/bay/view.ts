/** A measured drawing of the bay: which way it is looked at, and how millimetres become places in a picture. */
import type { Point } from '@/core/drain/profile'

/** From the left: forward runs to the right, up is up. From above: forward runs to the right, left is up. */
export type Side = 'left' | 'above'
export const flat = (side: Side, p: Point): readonly [across: number, up: number] =>
  side === 'left' ? [p[0], p[2]] : [p[0], p[1]]

export type Frame = {
  readonly x: (m: number) => number
  readonly y: (m: number) => number
  /** picture units to the metre */
  readonly scale: number
}

/** The frame that shows all points in a picture of this size, the same scale both ways. */
export function frameFor(
  points: readonly (readonly [number, number])[],
  width: number,
  height: number,
  margin = 26,
): Frame {
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)]
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)]
  const scale = Math.min((width - 2 * margin) / Math.max(0.2, x1 - x0), (height - 2 * margin) / Math.max(0.2, y1 - y0))
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2]
  return { x: (m) => width / 2 + (m - cx) * scale, y: (m) => height / 2 - (m - cy) * scale, scale }
}
