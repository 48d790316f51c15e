/** Spaces that valves shut off from everything: what pressure they keep. */
import { unions } from '../unions'
import type { Network } from './elements'

/** Flow below which a one-way valve counts as shut, kg/s. */
const SHUT_FLOW = 1e-9

/**
 * Sets the pressure of every zone that no open way joins to a held pressure or a source. Mass balance alone leaves it free there: any
 * pressure that keeps the valves shut will do. What nature leaves is the highest that could get in through a valve that leads to it
 * (its upstream pressure less cracking); with no such valve, the lowest that a valve out of it lets go down to; between plain walls, the
 * mean of the neighbours. Changes `pressure` in place; flows stay nil.
 */
export function settleTrapped(
  network: Network,
  pressure: Record<string, number>,
  flow: Readonly<Record<string, number>>,
): void {
  const oneWay = (kind: string) => kind === 'check' || kind === 'pcv'
  const isWall = (e: Network['elements'][number]) =>
    oneWay(e.kind)
      ? Math.abs(flow[e.id]!) < SHUT_FLOW
      : e.kind === 'hose'
        ? e.boreM <= 0
        : e.kind === 'orifice' && e.cd * e.areaM2 <= 0
  const walls = network.elements.filter(isWall)
  if (walls.length === 0) return
  const { find, join } = unions()
  for (const e of network.elements) if (!walls.includes(e)) join(e.from, e.to)
  const held = new Set(
    Object.entries(network.nodes)
      .filter(([, n]) => n.p !== undefined || (n.source ?? 0) !== 0)
      .map(([id]) => find(id)),
  )
  const free = new Set(
    Object.keys(network.nodes)
      .map(find)
      .filter((z) => !held.has(z)),
  )
  // zones can hang on one another through further valves: as many passes as there are zones settle a chain
  for (let pass = 0; pass < free.size; pass++) {
    for (const z of free) {
      const into: number[] = []
      const outOf: number[] = []
      const beside: number[] = []
      for (const e of walls) {
        const [from, to] = [find(e.from), find(e.to)]
        if (from === to || (from !== z && to !== z)) continue
        const crack = e.kind === 'check' ? e.crackPa : 0
        if (!oneWay(e.kind)) beside.push(pressure[from === z ? e.to : e.from]!)
        else if (to === z) into.push(pressure[e.from]! - crack)
        else outOf.push(pressure[e.to]! + crack)
      }
      const p =
        into.length > 0
          ? Math.max(...into)
          : outOf.length > 0
            ? Math.min(...outOf)
            : beside.length > 0
              ? beside.reduce((s, x) => s + x, 0) / beside.length
              : undefined
      if (p !== undefined) for (const id of Object.keys(network.nodes)) if (find(id) === z) pressure[id] = p
    }
  }
}
