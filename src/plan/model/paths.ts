/** Where gas of each origin goes in a solved plan: blow-by, and what every boundary feeds in. */
import { NO_FLOW } from './results'
import { traceGas, type Trace, type TraceStream } from '@/core/network/trace'
import { isBoundary } from '../document/kinds'
import type { Part } from '../document/schema'
import { crankcaseNode, nodeOfPart, type Resolved } from './resolve'
import type { SolvedState } from './results'

export const BLOW_BY = 'blow-by'
/** Blow-by that no can has seen yet. */
export const UNSEEN = 'unseen blow-by'

/** Gas that is less than this matters to nobody, kg/s. */
export const TRACE = 1e-6

export type Paths = {
  /** kg/s of an origin (a boundary's id, BLOW_BY, UNSEEN) that comes to a part: a space or a boundary */
  readonly into: (part: string, origin: string) => number
  /** kg/s of an origin in a line or part that gas passes */
  readonly through: (id: string, origin: string) => number
  /** boundaries that feed gas in, by id, with kg/s */
  readonly feeding: ReadonlyMap<string, number>
}

/** Follows all gas of a solved state. */
export function pathsOf(r: Resolved, s: SolvedState): Paths {
  const streams: TraceStream[] = []
  const { ends } = r.topology
  for (const id in s.passages) {
    const joints = ends.get(id)
    if (joints) streams.push({ id, from: joints[0], to: joints[1], flow: s.passages[id]!.flow })
  }
  const joint = (p: Part) => nodeOfPart(r, p) ?? p.id
  const feeding = new Map<string, number>()
  for (const p of r.variant.parts) {
    const gas = s.into[p.id]?.gas ?? 0
    if (isBoundary(p.kind) && gas < -NO_FLOW) feeding.set(p.id, -gas)
  }
  const home = crankcaseNode(r) ?? ''
  const boundary = (id: string, flow: number) => ({ origin: id, joint: joint(r.parts.get(id)!), flow })
  const fed = [...feeding].map(([id, flow]) => boundary(id, flow))
  const all = traceGas(streams, [...fed, { origin: BLOW_BY, joint: home, flow: s.blowBy }])
  // the same gas once more, as far as the first can
  let bare: Trace | undefined
  const of = (origin: string): Trace =>
    origin !== UNSEEN
      ? all
      : (bare ??= traceGas(
          streams,
          [...fed, { origin: UNSEEN, joint: home, flow: s.blowBy }],
          (id, kind) => kind === UNSEEN && r.parts.get(id)?.kind === 'can',
        ))
  return {
    into: (part, origin) => {
      const p = r.parts.get(part)
      return p ? of(origin).arriving(joint(p), origin) : 0
    },
    through: (id, origin) => of(origin).inStream(id, origin),
    feeding,
  }
}
