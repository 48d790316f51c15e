/**
 * Where a pressure stands on a scale that is linear near the atmosphere and logarithmic away from it, so that 0.1 and 10 kPa are both seen.
 * The package that has such a scale weighs as much as a station's pictures (16 kB); its test holds the two together.
 */
type Ends = readonly [number, number]

/**
 * @param linearPa below this, in Pa, the scale is about linear
 * @param from the pressures at its ends, Pa, different from each other
 * @param to where on the picture they stand
 */
export function pressureScale(linearPa: number, from: Ends, to: Ends): (pa: number) => number {
  const symlog = (pa: number) => Math.sign(pa) * Math.log1p(Math.abs(pa) / linearPa)
  const [first, last] = [symlog(from[0]), symlog(from[1])]
  return (pa) => to[0] + ((symlog(pa) - first) / (last - first)) * (to[1] - to[0])
}
