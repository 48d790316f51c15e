/** The circuit as joints (where a pressure is) and ways between them, for the ladder. Pure. */
import type { Part, PartKind, Variant } from '@/plan/document/schema'
import { isThrough } from '@/plan/document/validate'
import { topologyOf } from '@/plan/network'

export type Joint = { readonly id: string; readonly label: string; readonly part: string; readonly boundary: boolean }
export type Way = { readonly id: string; readonly from: string; readonly to: string; readonly kind: 'hose' | PartKind; readonly name: string }

const BOUNDARIES: readonly PartKind[] = ['manifold', 'inlet', 'chargePipe', 'atmosphere']

/** Short enough to stand under a block. */
export const shortName = (part: Part): string => ({ crankcase: 'Crankcase', manifold: 'Manifold', inlet: 'Inlet', chargePipe: 'Charge pipe', atmosphere: 'Open air' } as Partial<Record<PartKind, string>>)[part.kind] ?? part.name

/** Joints in the order of their distance from the crankcase, so that each gets a place of its own from left to right. */
export function jointsOf(variant: Variant): { joints: readonly Joint[]; ways: readonly Way[] } {
  const { nodeOf, unjoined } = topologyOf(variant)
  const out = new Set(unjoined)
  const joints = new Map<string, Joint>()
  const put = (id: string, joint: Omit<Joint, 'id'>, stronger: boolean) => { if (stronger || !joints.has(id)) joints.set(id, { id, ...joint }) }
  const ways: Way[] = []
  for (const part of variant.parts) {
    if (out.has(part.id) || !part.ports[0]) continue
    if (!isThrough(part.kind)) put(nodeOf.get(`${part.id}.${part.ports[0].id}`)!, { label: shortName(part), part: part.id, boundary: BOUNDARIES.includes(part.kind) }, true)
    else {
      const from = nodeOf.get(`${part.id}.in`)!
      const to = nodeOf.get(`${part.id}.out`)!
      put(from, { label: `${part.name} in`, part: part.id, boundary: false }, false)
      put(to, { label: `${part.name} out`, part: part.id, boundary: false }, false)
      ways.push({ id: part.id, from, to, kind: part.kind, name: part.name })
    }
  }
  for (const line of variant.lines) {
    if (line.kind === 'direct' || out.has(line.from.part)) continue
    ways.push({ id: line.id, from: nodeOf.get(`${line.from.part}.${line.from.port}`)!, to: nodeOf.get(`${line.to.part}.${line.to.port}`)!, kind: 'hose', name: line.name })
  }
  const start = variant.parts.find((p) => p.kind === 'crankcase')
  const first = start?.ports[0] && nodeOf.get(`${start.id}.${start.ports[0].id}`)
  const order: string[] = []
  const queue = first ? [first] : []
  const seen = new Set(queue)
  while (queue.length > 0) {
    const id = queue.shift()!
    order.push(id)
    const next = ways.flatMap((w) => (w.from === id ? [w.to] : w.to === id ? [w.from] : [])).filter((n) => !seen.has(n))
    for (const n of next) { seen.add(n); queue.push(n) }
  }
  return { joints: [...order.map((id) => joints.get(id)).filter((j): j is Joint => j !== undefined), ...[...joints.values()].filter((j) => !seen.has(j.id))], ways }
}
