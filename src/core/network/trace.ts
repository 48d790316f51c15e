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

/** Joints so that gas comes to each from those before it (Kahn, 1962); where a pump sends it round, the rest as they come. */
function downstream(joints: ReadonlySet<string>, into: ReadonlyMap<string, readonly Way[]>): readonly string[] {
  const waits = new Map([...joints].map((j) => [j, into.get(j)?.length ?? 0]))
  const onwards = new Map<string, string[]>()
  for (const [joint, ways] of into) for (const w of ways) onwards.set(w.from, [...(onwards.get(w.from) ?? []), joint])
  const ready = [...joints].filter((j) => waits.get(j) === 0)
  const order: string[] = []
  for (let j = ready.shift(); j !== undefined; j = ready.shift()) {
    order.push(j)
    for (const to of onwards.get(j) ?? []) {
      waits.set(to, waits.get(to)! - 1)
      if (waits.get(to) === 0) ready.push(to)
    }
  }
  const done = new Set(order)
  return [...order, ...[...joints].filter((j) => !done.has(j))]
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
  for (const { id, from, to, flow } of streams) {
    joints.add(from).add(to)
    if (Math.abs(flow) < TRICKLE) continue
    const way = flow > 0 ? { id, from, flow } : { id, from: to, flow: -flow }
    const end = flow > 0 ? to : from
    into.set(end, [...(into.get(end) ?? []), way])
    wayOf.set(id, way)
  }
  const origins = [...new Set(sources.map((s) => s.origin))]
  const shares = new Map(origins.map((o) => [o, new Map<string, number>()]))
  const fed = new Map<string, TraceSource[]>()
  for (const s of sources) fed.set(s.joint, [...(fed.get(s.joint) ?? []), s])
  const sum = (list: readonly { readonly flow: number }[] | undefined) => (list ?? []).reduce((s, x) => s + x.flow, 0)
  const order = downstream(joints, into)
  const totals = new Map(order.map((j) => [j, sum(into.get(j)) + sum(fed.get(j))]))
  const carried = (w: Way, origin: string): number =>
    stops(w.id, origin) ? 0 : w.flow * (shares.get(origin)?.get(w.from) ?? 0)
  const arriving = (joint: string, origin: string): number =>
    (into.get(joint) ?? []).reduce((total, w) => total + carried(w, origin), 0)

  for (const origin of origins) {
    const share = shares.get(origin)!
    for (let sweep = 0; sweep < SWEEPS; sweep++) {
      let moved = 0
      for (const joint of order) {
        const all = totals.get(joint)!
        if (all <= 0) continue
        const own = sum(fed.get(joint)?.filter((s) => s.origin === origin))
        const next = (arriving(joint, origin) + own) / all
        moved = Math.max(moved, Math.abs(next - (share.get(joint) ?? 0)))
        share.set(joint, next)
      }
      if (moved < SETTLED) break
    }
  }
  return {
    shareAt: (joint, origin) => shares.get(origin)?.get(joint) ?? 0,
    arriving,
    inStream: (id, origin) => {
      const way = wayOf.get(id)
      return way ? way.flow * (shares.get(origin)?.get(way.from) ?? 0) : 0
    },
  }
}
