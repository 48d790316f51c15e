/** How a draining hose falls, and where oil stays behind in it. */
import { circleArea } from '../circle'

/** Metres in any one frame. */
export type Point3 = readonly [x: number, y: number, z: number]
const DOWN: Point3 = [0, 0, -9.80665]

export type Profile = {
  /** from first to last point along gravity, m */
  readonly fallM: number
  /** stretches that stay under oil */
  readonly traps: number
  /** m3 of oil that they hold, the hose full */
  readonly trappedM3: number
  /** least fall a metre of hose; negative where it climbs */
  readonly leastFall: number
}

/**
 * The way of a drain from can floor to return, straight between its points, under a gravity that may be tilted by driving. A point of the
 * hose stands under oil when a later point lies higher. Fewer than two points have no fall.
 * @param points m, can floor first
 * @param gravity effective gravity, m/s2; its size does not matter
 *
 * @example
 * import { profileOf } from '@/core/drain/profile'
 *
 * console.log(profileOf([[0, 0, 0.4], [0.15, 0, 0.12], [0.3, 0, 0.2]], 0.0127).traps) // 1
 */
export function profileOf(points: readonly Point3[], boreM: number, gravity: Point3 = DOWN): Profile {
  const size = Math.hypot(...gravity)
  const height = ([x, y, z]: Point3) => -(x * gravity[0] + y * gravity[1] + z * gravity[2]) / size
  const h = points.map(height)
  if (points.length < 2 || !(size > 0)) return { fallM: 0, traps: 0, trappedM3: 0, leastFall: 0 }
  let leastFall = Infinity
  let wet = 0
  let traps = 0
  // from the return upwards: the highest point so far is the level up to which oil stands
  let level = h.at(-1)!
  let standing = false
  for (let i = points.length - 2; i >= 0; i--) {
    const [a, b] = [points[i]!, points[i + 1]!]
    const length = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2])
    if (length > 0) leastFall = Math.min(leastFall, (h[i]! - h[i + 1]!) / length)
    level = Math.max(level, h[i + 1]!)
    const [low, high] = [Math.min(h[i]!, h[i + 1]!), Math.max(h[i]!, h[i + 1]!)]
    const share = high <= level ? (low < level ? 1 : 0) : Math.max(0, (level - low) / (high - low))
    if (share > 0 && !standing) traps++
    // a stretch that rises out of the oil ends it: the next one down is another
    standing = share > 0 && h[i]! < level
    wet += share * length
  }
  return {
    fallM: h[0]! - h.at(-1)!,
    traps,
    trappedM3: wet * circleArea(boreM),
    leastFall: Number.isFinite(leastFall) ? leastFall : 0,
  }
}
