/** Random numbers that a seed decides: the same seed, the same draws. */

/**
 * Uniform numbers in (0, 1): mulberry32, a 32-bit generator of period 2^32 (public domain, by T. Ettinger), enough for thousands of draws.
 *
 * @example
 * import { uniforms } from '@/core/random'
 *
 * console.log(uniforms(1)()) // 0.6270739407045767
 */
export function uniforms(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return (((t ^ (t >>> 14)) >>> 0) + 0.5) / 4294967296
  }
}

/**
 * Quantile of sorted values, linear between them (type 7 of Hyndman & Fan).
 *
 * @example
 * import { quantile } from '@/core/random'
 *
 * console.log(quantile([1, 2, 3], 0.5)) // 2
 */
export function quantile(sorted: ArrayLike<number>, q: number): number {
  const x = q * (sorted.length - 1)
  const i = Math.min(sorted.length - 2, Math.max(0, Math.floor(x)))
  return sorted.length < 2 ? (sorted[0] ?? 0) : sorted[i]! + (sorted[i + 1]! - sorted[i]!) * (x - i)
}
