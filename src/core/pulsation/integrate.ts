/** One step in time of a stiff system. */
import { solveLinear } from '../network/linear'

const GAMMA = 1 - Math.SQRT1_2

export type Slope = (time: number, y: Float64Array, f: Float64Array, J: Float64Array) => void

/**
 * Steps y by h with the two-stage, second-order, L-stable SDIRK method (Alexander, SIAM J. Numer. Anal. 14, 1977): a check that slams shut
 * in a small space is damped out within a step instead of ringing, which an explicit or trapezoidal step would. Newton with the slopes'
 * own Jacobian solves each stage; where it does not settle the step is halved, down to h/1024.
 */
export function stepper(
  slope: Slope,
  size: number,
  tolerance: Float64Array,
): (time: number, h: number, y: Float64Array) => boolean {
  const f = new Float64Array(size)
  const J = new Float64Array(size * size)
  const delta = new Float64Array(size)
  const base = new Float64Array(size)
  const k1 = new Float64Array(size)
  const stage = new Float64Array(size)
  const trial = new Float64Array(size)
  const move = new Float64Array(size)
  const offOf = (time: number, hg: number, at: Float64Array): number => {
    slope(time, at, f, J)
    let worst = 0
    for (let i = 0; i < size; i++) {
      delta[i] = base[i]! + hg * f[i]! - at[i]!
      worst = Math.max(worst, Math.abs(delta[i]!) / tolerance[i]!)
    }
    return worst
  }
  /** solves stage = base + h gamma f(time, stage) */
  const solve = (time: number, hg: number): boolean => {
    let off = offOf(time, hg, stage)
    for (let it = 0; it < 20; it++) {
      if (off <= 1) return true
      for (let i = 0; i < size * size; i++) J[i] = -hg * J[i]!
      for (let i = 0; i < size; i++) J[i * size + i]! += 1
      if (!solveLinear(J, delta, size)) return false
      move.set(delta)
      let share = 1
      for (let cut = 0; ; cut++, share /= 2) {
        for (let i = 0; i < size; i++) trial[i] = stage[i]! + share * move[i]!
        const next = offOf(time, hg, trial)
        if (next < off || cut === 5) {
          off = next
          break
        }
      }
      stage.set(trial)
      if (!Number.isFinite(off)) return false
    }
    return off <= 1
  }
  const step = (time: number, h: number, y: Float64Array, depth: number): boolean => {
    const hg = h * GAMMA
    base.set(y)
    stage.set(y)
    if (solve(time + hg, hg)) {
      for (let i = 0; i < size; i++) k1[i] = (stage[i]! - y[i]!) / hg
      for (let i = 0; i < size; i++) base[i] = y[i]! + h * (1 - GAMMA) * k1[i]!
      if (solve(time + h, hg)) {
        y.set(stage)
        return true
      }
    }
    return depth < 10 && step(time, h / 2, y, depth + 1) && step(time + h / 2, h / 2, y, depth + 1)
  }
  return (time, h, y) => step(time, h, y, 0)
}
