/** Joints and ends of a network as numbers; networks of one shape share them, and the order in which their equations are eliminated. */
import { weakMemo } from '../weak-memo'
import type { Network } from './elements'
import { eliminator, type Elimination } from './elimination'
import { solveLinear } from './linear'

export type ElementEnds = { readonly i: number; readonly j: number }

export type NetworkLayout = {
  /** joints: first those that are free, then those that hold a pressure */
  readonly ids: readonly string[]
  readonly index: ReadonlyMap<string, number>
  /** how many of them are free */
  readonly free: number
  /** joints of each element, in the network's order */
  readonly ends: readonly ElementEnds[]
  /** solves the equations of the first `n` joints */
  readonly elimination: (n: number) => Elimination
}

/** @param last a free joint that comes last of them, so that holding it only makes the unknowns one fewer */
export type LayoutOf = (network: Network, last?: string) => NetworkLayout

/**
 * The layout of a network that is solved once: an order of elimination would not pay.
 *
 * @example
 * import { networkLayout } from '@/core/network/layout'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * console.log(networkLayout({ gas, nodes: { a: { p: 101325 }, b: {} }, elements: [] }).ids) // [ 'b', 'a' ]
 */
export const networkLayout: LayoutOf = (network, last) => lay(network, last, dense)

/**
 * `networkLayout` for who solves networks of one shape again and again: they share a layout, and an order of elimination.
 *
 * @example
 * import { makeLayoutOf } from '@/core/network/layout'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * console.log(makeLayoutOf()({ gas, nodes: { a: { p: 101325 }, b: {} }, elements: [] }).ids) // [ 'b', 'a' ]
 */
export function makeLayoutOf(): LayoutOf {
  const layouts = weakMemo<object, Map<string | undefined, NetworkLayout>>(() => new Map())
  return (network, last) => {
    if (!network.shape) return networkLayout(network, last)
    const ofShape = layouts(network.shape)
    let known = ofShape.get(last)
    if (!known) ofShape.set(last, (known = lay(network, last, eliminator)))
    return known
  }
}

const dense =
  (n: number): Elimination =>
  (a, b) =>
    solveLinear(a, b, n)

function lay({ nodes, elements }: Network, last: string | undefined, make: typeof eliminator): NetworkLayout {
  const names = Object.keys(nodes)
  const isFree = (id: string) => nodes[id]!.p === undefined
  const free = names.filter((id) => isFree(id) && id !== last)
  if (last !== undefined && nodes[last] && isFree(last)) free.push(last)
  const ids = [...free, ...names.filter((id) => !isFree(id))]
  const index = new Map(ids.map((id, k) => [id, k]))
  const ends = elements.map((e) => ({ i: index.get(e.from)!, j: index.get(e.to)! }))
  const known = new Map<number, Elimination>()
  return {
    ids,
    index,
    free: free.length,
    ends,
    elimination(n) {
      let found = known.get(n)
      if (!found)
        known.set(
          n,
          (found = make(
            n,
            ends.map(({ i, j }) => [i, j] as const),
          )),
        )
      return found
    },
  }
}
