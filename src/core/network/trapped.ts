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
  if (!network.elements.some(isWall)) return
  const walls = new Set(network.elements.filter(isWall))
  const { find, join } = unions()
  for (const e of network.elements) if (!walls.has(e)) join(e.from, e.to)
  const zones = new Map<string, Zone>()
  const held = new Set<string>()
  for (const [id, node] of Object.entries(network.nodes)) {
    const z = find(id)
    if (node.p !== undefined || (node.source ?? 0) !== 0) held.add(z)
    const known = zones.get(z)
    if (known) known.nodes.push(id)
    else zones.set(z, { nodes: [id], into: [], outOf: [], beside: [] })
  }
  for (const z of held) zones.delete(z)
  for (const e of walls) {
    const [from, to] = [find(e.from), find(e.to)]
    if (from === to) continue
    const crack = e.kind === 'check' ? e.crackPa : 0
    const [before, after] = [zones.get(from), zones.get(to)]
    if (!oneWay(e.kind)) {
      before?.beside.push(e.to)
      after?.beside.push(e.from)
    } else {
      before?.outOf.push([e.to, crack])
      after?.into.push([e.from, -crack])
    }
  }
  const pressureAcross = ([id, more]: Neighbour) => pressure[id]! + more
  const pressureIn = ({ into, outOf, beside }: Zone): number | undefined => {
    if (into.length > 0) return Math.max(...into.map(pressureAcross))
    if (outOf.length > 0) return Math.min(...outOf.map(pressureAcross))
    return beside.length > 0 ? beside.reduce((sum, id) => sum + pressure[id]!, 0) / beside.length : undefined
  }
  // zones can hang on one another through further valves: as many passes as there are zones settle a chain
  for (let pass = 0, moved = true; pass < zones.size && moved; pass++) {
    moved = false
    for (const zone of zones.values()) {
      const p = pressureIn(zone)
      if (p === undefined || zone.nodes.every((id) => pressure[id] === p)) continue
      moved = true
      for (const id of zone.nodes) pressure[id] = p
    }
  }
}

/** A joint on the other side of a valve, and how much more or less than its pressure comes through, Pa. */
type Neighbour = readonly [joint: string, more: number]
/** Joints that no wall parts, and what lies behind the walls around them: valves that lead in, valves that lead out, plain walls. */
type Zone = {
  readonly nodes: string[]
  readonly into: Neighbour[]
  readonly outOf: Neighbour[]
  readonly beside: string[]
}
