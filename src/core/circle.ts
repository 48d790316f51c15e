/** The area of a round bore. */

/**
 * m2 of a circle of so many metres across; of mm, mm2.
 *
 * @example
 * import { circleArea } from '@/core/circle'
 *
 * console.log(circleArea(0.0127)) // 0.00012667686977437442
 */
export const circleArea = (diameter: number): number => (Math.PI * diameter * diameter) / 4
