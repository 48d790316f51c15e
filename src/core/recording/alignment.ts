/** How two records of one drive lie to each other in time, by something that moves in both. */

/** A quantity over time, rising, unevenly taken as it may be; NaN where there is no reading. */
export type TimedSeries = { readonly seconds: Float64Array; readonly values: ArrayLike<number> }

export type Alignment = {
  /** what is added to a time of the second to have the first's: at its start, s */
  readonly shift: number
  /** seconds that the first's clock gains on the second's in a second */
  readonly skew: number
  /** correlation of the two where they overlap so, -1 to 1 */
  readonly match: number
}

/** Steps in which shifts are tried first and then, s; and how far about the best of the first. */
const [COARSE_S, FINE_S, NEAR_S] = [1, 0.05, 3]
/** Time that both must have in common, s and as a share of the shorter: a short piece is alike to many; and from which length on two clocks are told to go differently. */
const [LEAST_OVERLAP_S, LEAST_OVERLAP, SKEW_FROM_S] = [15, 0.5, 120]
/** How far the two ends of a long record are looked at apart, s: clocks that differ by more are broken. */
const SKEW_SEARCH_S = 2

/** On even steps from a time on: the mean of what lies in each, held over a step without any. */
function evenly({ seconds, values }: TimedSeries, from: number, count: number, step: number): Float64Array {
  const out = new Float64Array(count).fill(Number.NaN)
  const sums = new Float64Array(count)
  const counts = new Uint32Array(count)
  for (let k = 0; k < seconds.length; k++) {
    const at = Math.floor((seconds[k]! - from) / step)
    const v = values[k]!
    if (at < 0 || at >= count || !Number.isFinite(v)) continue
    sums[at]! += v
    counts[at]!++
  }
  let [last, held] = [Number.NaN, 0]
  for (let i = 0; i < count; i++) {
    if (counts[i]! > 0) {
      last = sums[i]! / counts[i]!
      held = 0
    } else if (++held * step > 2) last = Number.NaN
    out[i] = last
  }
  return out
}

/** Correlation of `a` with `b` moved by `lag` steps to the right; NaN where they have less than `least` steps in common. */
function correlationAt(a: Float64Array, b: Float64Array, lag: number, least: number): number {
  let [n, sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0, 0]
  const end = Math.min(a.length, b.length + lag)
  for (let i = Math.max(0, lag); i < end; i++) {
    const [x, y] = [a[i]!, b[i - lag]!]
    if (Number.isNaN(x) || Number.isNaN(y)) continue
    n++
    sa += x
    sb += y
    saa += x * x
    sbb += y * y
    sab += x * y
  }
  if (n < least) return Number.NaN
  const [va, vb] = [saa - (sa * sa) / n, sbb - (sb * sb) / n]
  return va > 0 && vb > 0 ? (sab - (sa * sb) / n) / Math.sqrt(va * vb) : Number.NaN
}

/** The best shift of two series among `lags`, on steps of `step`. */
function best(
  a: TimedSeries,
  b: TimedSeries,
  step: number,
  [from, to]: readonly [number, number],
): { shift: number; match: number } | undefined {
  const length = (s: TimedSeries) => Math.ceil((s.seconds.at(-1)! - s.seconds[0]!) / step) + 1
  const [x, y] = [evenly(a, a.seconds[0]!, length(a), step), evenly(b, b.seconds[0]!, length(b), step)]
  const base = a.seconds[0]! - b.seconds[0]!
  const least = Math.max(LEAST_OVERLAP_S / step, LEAST_OVERLAP * Math.min(x.length, y.length))
  let found: { shift: number; match: number } | undefined
  for (let lag = Math.round((from - base) / step); lag <= Math.round((to - base) / step); lag++) {
    const match = correlationAt(x, y, lag, least)
    if (Number.isFinite(match) && (!found || match > found.match)) found = { shift: base + lag * step, match }
  }
  return found
}

const part = ({ seconds, values }: TimedSeries, from: number, to: number): TimedSeries => {
  const kept = [...seconds.keys()].filter((k) => seconds[k]! >= from && seconds[k]! <= to)
  return { seconds: Float64Array.from(kept, (k) => seconds[k]!), values: Float64Array.from(kept, (k) => values[k]!) }
}

/**
 * By how much one record is later than another: the shift at which the two move together best (greatest correlation), found in steps of a
 * second and then of a twentieth; of a long record also how their clocks part.
 * @returns undefined where they have too little in common
 *
 * @example
 * import { align } from '@/core/recording/alignment'
 *
 * const seconds = Float64Array.from({ length: 600 }, (_, k) => k / 10)
 * const wave = (t: number) => Math.sin(t) + Math.sin(t * t * 0.05)
 * const first = { seconds, values: seconds.map((t) => wave(t)) }
 * const second = { seconds, values: seconds.map((t) => wave(t + 7)) }
 * console.log(align(first, second).shift.toFixed(1)) // '7.0'
 */
export function align(first: TimedSeries, second: TimedSeries): Alignment | undefined {
  if (first.seconds.length < 2 || second.seconds.length < 2) return undefined
  const [a0, a1] = [first.seconds[0]!, first.seconds.at(-1)!]
  const [b0, b1] = [second.seconds[0]!, second.seconds.at(-1)!]
  const rough = best(first, second, COARSE_S, [a0 - b1, a1 - b0])
  if (!rough) return undefined
  const about = (of: number, by: number) => [of - by, of + by] as const
  const fine = best(first, second, FINE_S, about(rough.shift, NEAR_S)) ?? rough
  const third = (b1 - b0) / 3
  if (b1 - b0 < SKEW_FROM_S) return { shift: fine.shift, skew: 0, match: fine.match }
  const ends = [part(second, b0, b0 + third), part(second, b1 - third, b1)].map((p) =>
    p.seconds.length > 1 ? best(first, p, FINE_S, about(fine.shift, SKEW_SEARCH_S)) : undefined,
  )
  if (!ends[0] || !ends[1] || Math.min(ends[0].match, ends[1].match) < 0.5 * fine.match)
    return { shift: fine.shift, skew: 0, match: fine.match }
  const skew = (ends[1].shift - ends[0].shift) / (b1 - b0 - third)
  return {
    shift: ends[0].shift - (skew * third) / 2,
    skew,
    match: Math.max(fine.match, (ends[0].match + ends[1].match) / 2),
  }
}
