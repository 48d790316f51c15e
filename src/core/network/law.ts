/** What a law of flow is, and the parts that several share. */
import type { Element, Gas } from './elements'

/** Filled by an element's law: flow kg/s from `from` to `to`, and its derivatives by each end's pressure, kg/(s Pa). */
export type Flow = { m: number; d1: number; d2: number }

export type Law = (p1: number, p2: number, out: Flow) => void

/** The law of an element, tuned in place to other sizes or another gas: studies ask for thousands that differ in a figure. */
export type ElementLaw = {
  readonly at: Law
  /** @returns false, and nothing changed, for an element of another kind */
  readonly tune: (element: Element, gas: Gas) => boolean
}

/** A law of one kind of element, from how it takes over an element and what it lets pass. */
export const elementLaw = <K extends Element['kind']>(
  kind: K,
  take: (element: Extract<Element, { kind: K }>, gas: Gas) => void,
  at: Law,
): ElementLaw => ({
  at,
  tune(element, gas) {
    if (element.kind !== kind) return false
    take(element as Extract<Element, { kind: K }>, gas)
    return true
  },
})

/** Conductance that ties a shut branch to its neighbours, kg/(s Pa): too small to count as flow and enough for a regular matrix. */
export const SHUT_LEAK = 1e-16

/** Below this pressure difference (Pa) a square-root law is blended to a straight one, so that its slope stays finite. */
export const BLEND_PA = 0.01

/** Turns a flow that a law gave for swapped pressures round. */
export function reverseFlow(out: Flow): void {
  const { d1 } = out
  out.m = -out.m
  out.d1 = -out.d2
  out.d2 = -d1
}

/** The leak alone: a hose or hole of no size. */
export function leakAlone(p1: number, p2: number, out: Flow): void {
  out.m = SHUT_LEAK * (p1 - p2)
  out.d1 = SHUT_LEAK
  out.d2 = -SHUT_LEAK
}

/** The leak, beside what a valve passes. */
export function addLeak(p1: number, p2: number, out: Flow): void {
  out.m += SHUT_LEAK * (p1 - p2)
  out.d1 += SHUT_LEAK
  out.d2 -= SHUT_LEAK
}
