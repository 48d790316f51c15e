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

/** Gas on its way to a joint. */
type Way = { readonly id: string; readonly from: string; readonly flow: number }

type Order = {
  readonly joints: readonly string[]
  /** gas comes back to a joint that it has left */ readonly round: boolean
}

/** Joints so that gas comes to each from those before it (Kahn, 1962); where a pump sends it round, the rest as they come. */
function downstream(joints: ReadonlySet<string>, into: ReadonlyMap<string, readonly Way[]>): Order {
  const waits = new Map<string, number>()
  const onwards = new Map<string, string[]>()
  const order: string[] = []
  for (const j of joints) {
    waits.set(j, into.get(j)?.length ?? 0)
    if (!into.has(j)) order.push(j)
  }
  for (const [joint, ways] of into) for (const w of ways) append(onwards, w.from, joint)
  // grows while it is walked
  for (const j of order) {
    for (const to of onwards.get(j) ?? []) {
      const left = waits.get(to)! - 1
      waits.set(to, left)
      if (left === 0) order.push(to)
    }
  }
  if (order.length === joints.size) return { joints: order, round: false }
  const done = new Set(order)
  return { joints: [...order, ...[...joints].filter((j) => !done.has(j))], round: true }
}

function append<T>(lists: Map<string, T[]>, key: string, item: T): void {
  const list = lists.get(key)
  if (list) list.push(item)
  else lists.set(key, [item])
}

/**
 * Follows gas by origin through solved flows. Every joint mixes what comes to it; joints are swept until their shares stand, since a pump
 * may send gas round.
 * @param stops streams in which an origin ends: what a filter takes out is not beyond it
 * @example traceGas([{ id: 'h', from: 'a', to: 'b', flow: 2e-3 }], [{ origin: 'x', joint: 'a', flow: 2e-3 }]).arriving('b', 'x') // 0.002
 */
export function traceGas(
  streams: readonly TraceStream[],
  sources: readonly TraceSource[],
  stops: (id: string, origin: string) => boolean = () => false,
): Trace {
  const into = new Map<string, Way[]>()
  const wayOf = new Map<string, Way>()
  const joints = new Set<string>()
  const totals = new Map<string, number>()
  const gains = (joint: string, flow: number) => totals.set(joint, (totals.get(joint) ?? 0) + flow)
  for (const { id, from, to, flow } of streams) {
    joints.add(from).add(to)
    if (Math.abs(flow) < TRICKLE) continue
    const way = flow > 0 ? { id, from, flow } : { id, from: to, flow: -flow }
    const end = flow > 0 ? to : from
    append(into, end, way)
    gains(end, way.flow)
    wayOf.set(id, way)
  }
  for (const s of sources) gains(s.joint, s.flow)
  const order = downstream(joints, into)

  /** Share of an origin in what leaves each joint. */
  function follow(origin: string): ReadonlyMap<string, number> {
    const share = new Map<string, number>()
    const own = new Map<string, number>()
    for (const s of sources) if (s.origin === origin) own.set(s.joint, (own.get(s.joint) ?? 0) + s.flow)
    for (let sweep = 0; sweep < SWEEPS; sweep++) {
      let moved = 0
      for (const joint of order.joints) {
        const all = totals.get(joint) ?? 0
        if (all <= 0) continue
        let mine = own.get(joint) ?? 0
        for (const w of into.get(joint) ?? []) if (!stops(w.id, origin)) mine += w.flow * (share.get(w.from) ?? 0)
        const next = mine / all
        moved = Math.max(moved, Math.abs(next - (share.get(joint) ?? 0)))
        share.set(joint, next)
      }
      if (!order.round || moved < SETTLED) break
    }
    return share
  }
  // an origin is followed when it is first asked for: of most nobody asks
  const followed = new Map<string, ReadonlyMap<string, number>>()
  const shareAt = (joint: string, origin: string): number => {
    let shares = followed.get(origin)
    if (!shares) followed.set(origin, (shares = follow(origin)))
    return shares.get(joint) ?? 0
  }
  return {
    shareAt,
    arriving: (joint, origin) => {
      let total = 0
      for (const w of into.get(joint) ?? []) if (!stops(w.id, origin)) total += w.flow * shareAt(w.from, origin)
      return total
    },
    inStream: (id, origin) => {
      const way = wayOf.get(id)
      return way ? way.flow * shareAt(way.from, origin) : 0
    },
  }
}
