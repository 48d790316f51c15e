/** Which gas is where: what enters a solved network followed to where it leaves, mixed at every joint that it passes. */

/** Flow between two joints, kg/s, positive from `from` to `to`. */
export type TraceStream = { readonly id: string; readonly from: string; readonly to: string; readonly flow: number }
/** Gas of one origin that enters at a joint, kg/s. */
export type TraceSource = { readonly origin: string; readonly joint: string; readonly flow: number }

export type Trace = {
  /** share of an origin in the gas that leaves a joint, 0-1 */
  readonly shareAt: (joint: string, origin: string) => number
  /** kg/s of an origin's gas that streams bring to a joint */
  readonly arriving: (joint: string, origin: string) => number
  /** kg/s of an origin's gas in a stream, without sign */
  readonly inStream: (id: string, origin: string) => number
}

/** Sweeps for gas that a pump sends round, and what may still change between two. */
const SWEEPS = 400
const SETTLED = 1e-9
/** Less than this is what the balance leaves open, kg/s. */
const TRICKLE = 1e-10

/**
 * Streams by number, as gas runs: from joint to joint, and those that come to each joint one after another. Plain lists: typed ones of more
 * than a few numbers take longer to make than to follow.
 */
type Ways = {
  readonly from: number[]
  readonly to: number[]
  readonly flow: number[]
  /** first way to a joint, and the next to the same one; -1 where there is none */
  readonly first: number[]
  readonly next: number[]
}

type Order = {
  readonly joints: readonly number[]
  /** gas comes back to a joint that it has left */
  readonly round: boolean
}

const listOf = (size: number, value: number): number[] => {
  const list: number[] = []
  for (let k = 0; k < size; k++) list.push(value)
  return list
}

/** Joints so that gas comes to each from those before it (Kahn, 1962); where a pump sends it round, the rest as they come. */
function downstream(joints: number, { from, to }: Ways): Order {
  const waits = listOf(joints, 0)
  for (const j of to) if (j >= 0) waits[j]!++
  const order: number[] = []
  for (let j = 0; j < joints; j++) if (waits[j] === 0) order.push(j)
  // grows while it is walked
  for (let k = 0; k < order.length; k++) {
    for (let w = 0; w < from.length; w++) if (from[w] === order[k] && --waits[to[w]!]! === 0) order.push(to[w]!)
  }
  const round = order.length < joints
  if (round) for (let j = 0; j < joints; j++) if (waits[j]! > 0) order.push(j)
  return { joints: order, round }
}

/**
 * Follows gas by origin through solved flows. Every joint mixes what comes to it; joints are swept until their shares stand, since a pump
 * may send gas round.
 * @param stops streams in which an origin ends: what a filter takes out is not beyond it
 *
 * @example
 * import { traceGas } from '@/core/network/trace'
 *
 * console.log(
 *   traceGas([{ id: 'h', from: 'a', to: 'b', flow: 2e-3 }], [{ origin: 'x', joint: 'a', flow: 2e-3 }]).arriving(
 *     'b',
 *     'x',
 *   ),
 * ) // 0.002
 */
export function traceGas(
  streams: readonly TraceStream[],
  sources: readonly TraceSource[],
  stops: (id: string, origin: string) => boolean = () => false,
): Trace {
  const number = new Map<string, number>()
  const numbered = (joint: string) => {
    let k = number.get(joint)
    if (k === undefined) {
      number.set(joint, (k = number.size))
      ways.first.push(-1)
    }
    return k
  }
  const n = streams.length
  const ways: Ways = { from: listOf(n, -1), to: listOf(n, -1), flow: listOf(n, 0), first: [], next: listOf(n, -1) }
  streams.forEach(({ from, to, flow }, w) => {
    const [a, b] = [numbered(from), numbered(to)]
    if (Math.abs(flow) < TRICKLE) return
    const end = flow > 0 ? b : a
    ways.from[w] = flow > 0 ? a : b
    ways.to[w] = end
    ways.flow[w] = Math.abs(flow)
    ways.next[w] = ways.first[end]!
    ways.first[end] = w
  })
  for (const s of sources) numbered(s.joint)
  const joints = number.size
  const totals = listOf(joints, 0)
  for (let w = 0; w < n; w++) if (ways.to[w]! >= 0) totals[ways.to[w]!]! += ways.flow[w]!
  for (const s of sources) totals[number.get(s.joint)!]! += s.flow
  const order = downstream(joints, ways)

  /** What streams bring of an origin to a joint, from its shares in what leaves the others. */
  function brought(joint: number, origin: string, share: readonly number[]): number {
    let sum = 0
    for (let w = ways.first[joint]!; w >= 0; w = ways.next[w]!)
      if (!stops(streams[w]!.id, origin)) sum += ways.flow[w]! * share[ways.from[w]!]!
    return sum
  }

  /** Share of an origin in what leaves each joint. */
  function follow(origin: string): readonly number[] {
    const share = listOf(joints, 0)
    for (let sweep = 0; sweep < SWEEPS; sweep++) {
      let moved = 0
      for (const joint of order.joints) {
        const all = totals[joint]!
        if (all <= 0) continue
        let mine = brought(joint, origin, share)
        for (const s of sources) if (s.origin === origin && number.get(s.joint) === joint) mine += s.flow
        const next = mine / all
        moved = Math.max(moved, Math.abs(next - share[joint]!))
        share[joint] = next
      }
      if (!order.round || moved < SETTLED) break
    }
    return share
  }
  // an origin is followed when it is first asked for: of most nobody asks
  const followed = new Map<string, readonly number[]>()
  const sharesOf = (origin: string): readonly number[] => {
    let shares = followed.get(origin)
    if (!shares) followed.set(origin, (shares = follow(origin)))
    return shares
  }
  return {
    shareAt: (joint, origin) => sharesOf(origin)[number.get(joint) ?? -1] ?? 0,
    arriving: (joint, origin) => {
      const k = number.get(joint)
      return k === undefined ? 0 : brought(k, origin, sharesOf(origin))
    },
    inStream: (id, origin) => {
      const w = streams.findIndex((s) => s.id === id)
      return w >= 0 && ways.from[w]! >= 0 ? ways.flow[w]! * sharesOf(origin)[ways.from[w]!]! : 0
    },
  }
}
