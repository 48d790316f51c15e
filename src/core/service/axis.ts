/** Even points of one unknown. */
export type Axis = { readonly from: number; readonly step: number; readonly count: number }

/**
 * So many points between two ends, both among them.
 *
 * @example
 * import { axisBetween } from '@/core/service/axis'
 *
 * console.log(axisBetween(0, 1, 5)) // { from: 0, step: 0.25, count: 5 }
 */
export const axisBetween = (from: number, to: number, count: number): Axis => ({
  from,
  step: (to - from) / Math.max(1, count - 1),
  count,
})

/**
 * The points themselves.
 *
 * @example
 * import { axisPoints } from '@/core/service/axis'
 *
 * console.log([...axisPoints({ from: 1, step: 2, count: 3 })]) // [ 1, 3, 5 ]
 */
export function axisPoints({ from, step, count }: Axis): Float64Array {
  const points = new Float64Array(count)
  for (let i = 0; i < count; i++) points[i] = from + i * step
  return points
}
