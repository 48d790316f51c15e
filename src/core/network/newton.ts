/** Two ways to bring a network into balance: Newton's, and following it in time until it is at rest. */
import type { System } from './system'

/** Where Newton stops: the largest imbalance, kg/s, and how much a pressure may still move, Pa. */
export type Tolerance = { readonly kgS: number; readonly pa: number }
/** Well inside the tolerance: for what is shown and judged. */
export const FULL_TOLERANCE: Tolerance = { kgS: 1e-11, pa: 1e-3 }
/** Within the tolerance, and finer than a printed digit: for figures of which there are thousands. */
export const STUDY_TOLERANCE: Tolerance = { kgS: 1e-9, pa: 0.05 }

/** A step that leaves less than this of the sum of squares gains much. */
const FULL_STEP_GAIN = 0.3

const sumSquares = (F: Float64Array) => {
  let s = 0
  for (let k = 0; k < F.length; k++) s += F[k]! * F[k]!
  return s
}

/** Largest size of a number in `v`; NaN if one of them is. */
const largest = (v: Float64Array) => {
  let most = 0
  for (let k = 0; k < v.length; k++) {
    const size = Math.abs(v[k]!)
    if (!(size <= most)) most = size
  }
  return most
}

/** Moves by t delta, each pressure by no more than a factor in one step: behind a valve on its seat Newton's own step has no bound. */
function stepBy(p: Float64Array, delta: Float64Array, t: number, into: Float64Array): void {
  for (let k = 0; k < delta.length; k++) into[k] = Math.min(Math.max(p[k]! + t * delta[k]!, p[k]! / 4), p[k]! * 4)
}

/** Tries at a step's length, and the least share of what is open that the next goes on by. */
const [MOST_TRIES, LEAST_ON] = [14, 0.02]

/** What a step is still drawn on by where it has come to: below zero beyond the balance along it. */
const pull = (F: Float64Array, delta: Float64Array) => {
  let sum = 0
  for (let k = 0; k < F.length; k++) sum += F[k]! * delta[k]!
  return sum
}

/**
 * How far along `delta` to go: shortens while that helps, to where the pull along it would end if it were straight between the longest
 * step that fell short and the shortest that went too far, at most halfway. A root-law orifice near equal pressures makes full steps
 * bounce from side to side of the answer, each a little smaller; a shorter one then lands on it, so a full step is taken at once only if
 * it gains much. Writes the share of the step, what it leaves, and whether it was also the last assembled.
 */
function shorten(system: System, p: Float64Array, norm: number, best: Best): void {
  const { F, J, delta, trial } = system.work
  best.t = 0
  best.norm = Infinity
  let short = 0
  let over = 1
  let pullShort = pull(F, delta)
  let pullOver = 0
  for (let tries = 0, t = 1; tries < MOST_TRIES; tries++) {
    stepBy(p, delta, t, trial)
    system.assemble(trial, F, J)
    const next = sumSquares(F)
    best.last = next < best.norm
    if (!best.last && best.norm < norm) return
    if (best.last) {
      best.t = t
      best.norm = next
    }
    if (best.norm < FULL_STEP_GAIN * norm) return
    const pulled = pull(F, delta)
    if (pulled > 0 && t < over) {
      short = t
      pullShort = pulled
    } else {
      over = t
      pullOver = pulled
    }
    const on = pullOver < 0 && pullShort > 0 ? pullShort / (pullShort - pullOver) : 0.5
    t = short + (over - short) * Math.min(0.5, Math.max(LEAST_ON, on))
  }
  best.last = false
}
type Best = { t: number; norm: number; last: boolean }

export type Ended = {
  readonly done: boolean
  readonly iterations: number
  /** largest imbalance at the pressures it ended on, kg/s */
  readonly worst: number
}

/** @param most steps */
export function newton(system: System, p: Float64Array, { most, aim }: { most: number; aim: Tolerance }): Ended {
  const { F, J, trial, delta } = system.work
  const n = delta.length
  const best: Best = { t: 0, norm: 0, last: false }
  trial.set(p)
  system.assemble(p, F, J)
  let norm = sumSquares(F)
  let worst = largest(F)
  // the last full step, Pa
  let stepped = 0
  for (let it = 1; it <= most; it++) {
    if (!system.newtonStep(p)) return { done: false, iterations: it, worst: Number.NaN }
    // the last step is not taken: from a valve's seat even a thousandth of a pascal may open it
    if (worst <= aim.kgS && largest(delta) <= aim.pa) return { done: true, iterations: it, worst }
    shorten(system, p, norm, best)
    if (best.norm >= norm && !(best.norm <= norm && worst <= aim.kgS)) {
      // at the floor of rounding the balance cannot fall further: that is solved, if it is small
      // (a space that valves shut off has no pressure of its own to find; `settleTrapped` gives it one)
      return { done: worst <= aim.kgS, iterations: it, worst }
    }
    norm = best.norm
    if (best.last) for (let k = 0; k < n; k++) p[k] = trial[k]!
    else {
      stepBy(p, delta, best.t, p)
      system.assemble(p, F, J)
    }
    worst = largest(F)
    // the next step would be shorter than this one by at least as much as this one is than the last
    if (best.t < 1) stepped = 0
    else {
      const size = largest(delta)
      if (worst <= aim.kgS && size * Math.min(1, size / stepped) <= aim.pa) return { done: true, iterations: it, worst }
      stepped = size
    }
  }
  return { done: false, iterations: most, worst }
}

/** What a joint holds, kg/Pa: about a litre at 350 K. */
const CAPACITY = 1e-8
/** First time step, s; the shortest; one so long that what it reaches is at rest; and how many at most. */
const [FIRST_DT, LEAST_DT, REST_DT, MOST_DT_STEPS] = [1e-4, 1e-9, 1e6, 400]

/**
 * Follows the balance in time, one litre at each node, by implicit Euler: C (p - before)/dt = F(p), one Newton step each. A step whose
 * equation that one step does not nearly solve (a valve came off its seat) is taken back and made shorter; otherwise the next is longer,
 * until steps are so long that what they reach is at rest.
 * @returns steps taken
 */
export function settleInTime(system: System, p: Float64Array, n: number): number {
  const { F, J, delta } = system.work
  const before = new Float64Array(n)
  let dt = FIRST_DT
  system.assemble(p, F, J)
  let size = Math.sqrt(sumSquares(F))
  for (let step = 1; step <= MOST_DT_STEPS; step++) {
    if (size < FULL_TOLERANCE.kgS || !system.newtonStep(p, CAPACITY / dt)) return step
    let clipped = false
    for (let k = 0; k < n; k++) {
      before[k] = p[k]!
      const to = p[k]! + delta[k]!
      p[k] = Math.min(Math.max(to, p[k]! / 2), p[k]! * 2)
      clipped ||= p[k] !== to
    }
    system.assemble(p, F, J)
    let off = 0
    for (let k = 0; k < n; k++) off += (F[k]! - (CAPACITY / dt) * (p[k]! - before[k]!)) ** 2
    const left = Math.sqrt(off) / size
    if ((clipped || left > 0.6) && dt > LEAST_DT) {
      for (let k = 0; k < n; k++) p[k] = before[k]!
      system.assemble(p, F, J)
      dt /= 3
    } else if (dt > REST_DT) return step
    else {
      size = Math.sqrt(sumSquares(F))
      dt *= left < 0.2 ? 10 : 1.6
    }
  }
  return MOST_DT_STEPS
}
