/** A first guess at what thousands of points of the same inputs come to. */

/** Pressures of every state at a point of the inputs' scores; undefined where there is no answer. */
export type SolvedAt = (scores: Float64Array) => readonly (Float64Array | undefined)[]

/**
 * Where the pressures of a draw are to be looked for: the plan's own, and what each input moved alone by one standard deviation either way
 * made of them, as a parabola each. Newton then has a step or two to go instead of five. Written into arrays that the next draw writes over.
 */
export function parabolas(inputs: number, solvedAt: SolvedAt): SolvedAt {
  const scores = new Float64Array(inputs)
  const base = solvedAt(scores)
  const alone = (i: number, score: number) => {
    scores.fill(0)
    scores[i] = score
    return solvedAt(scores)
  }
  const ways = Array.from({ length: inputs }, (_, i) => ({ up: alone(i, 1), down: alone(i, -1) }))
  const states = base.map((p, s) => {
    if (!p) return undefined
    const [straight, bent] = [new Float64Array(inputs * p.length), new Float64Array(inputs * p.length)]
    ways.forEach(({ up, down }, i) => {
      const [u, d] = [up[s] ?? p, down[s] ?? p]
      p.forEach((middle, k) => {
        straight[i * p.length + k] = (u[k]! - d[k]!) / 2
        bent[i * p.length + k] = (u[k]! + d[k]!) / 2 - middle
      })
    })
    const moves = ways.flatMap((_, i) => {
      const own = (all: Float64Array) => all.subarray(i * p.length, (i + 1) * p.length)
      return own(straight).some(isMoved) || own(bent).some(isMoved) ? [i] : []
    })
    return { p, straight, bent, moves, start: new Float64Array(p.length) }
  })
  return (z) =>
    states.map((state) => {
      if (!state) return undefined
      const { p, straight, bent, moves, start } = state
      for (let k = 0; k < p.length; k++) start[k] = p[k]!
      for (const i of moves) {
        const by = z[i]!
        for (let k = 0, at = i * p.length; k < p.length; k++, at++) start[k]! += (straight[at]! + bent[at]! * by) * by
      }
      for (let k = 0; k < p.length; k++) start[k] = Math.max(start[k]!, p[k]! / 2)
      return start
    })
}

/** Worth being looked for elsewhere, Pa. */
const isMoved = (pa: number): boolean => Math.abs(pa) > 0.01
