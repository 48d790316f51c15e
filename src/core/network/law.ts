/** What a law of flow is, and the parts that several share. */

/** Filled by an element's law: flow kg/s from `from` to `to`, and its derivatives by each end's pressure, kg/(s Pa). */
export type Flow = { m: number; d1: number; d2: number }

export type Law = (p1: number, p2: number, out: Flow) => void

/**
 * Conductance that ties a shut branch to its neighbours, kg/(s Pa). SHUT_LEAK is too small to count as flow and enough for a regular matrix;
 * the solver may raise it for a while to feel its way to a hard answer.
 */
export type Tie = { leak: number }
export const SHUT_LEAK = 1e-16

/** Below this pressure difference (Pa) a square-root law is blended to a straight one, so that its slope stays finite. */
export const BLEND_PA = 0.01
/** A law for p1 >= p2 as one for both directions. */
export const bothDirections =
  (forward: Law): Law =>
  (p1, p2, out) => {
    if (p1 >= p2) return forward(p1, p2, out)
    forward(p2, p1, out)
    const d1 = out.d1
    out.m = -out.m
    out.d1 = -out.d2
    out.d2 = -d1
  }

/** Nothing passes: a hose or hole of no size. */
export const shut =
  (tie: Tie): Law =>
  (p1, p2, out) => {
    out.m = tie.leak * (p1 - p2)
    out.d1 = tie.leak
    out.d2 = -tie.leak
  }
