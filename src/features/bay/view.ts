/** How millimetres of the bay become places in a picture. */
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
