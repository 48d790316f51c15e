/** The circuit as joints (where a pressure is) and ways between them, for the ladder. Pure. */
import type { Part, PartKind, Variant } from '@/plan/document/schema'
import { isBoundary, isThrough } from '@/plan/document/kinds'
import { coverPort, resolve } from '@/plan/model/resolve'

export type Joint = {
  readonly id: string
  readonly label: string
  readonly part: string
  readonly boundary: boolean
  /** an end of a part that gas runs through, and no space of its own */ readonly through: boolean
}
export type JointLink = {
  readonly id: string
  readonly from: string
  readonly to: string
  readonly kind: 'hose' | PartKind
  readonly name: string
}

/** Short enough to stand under a block. */
export const shortName = (part: Part): string =>
  (
    ({
      crankcase: 'Crankcase',
      manifold: 'Manifold',
      inlet: 'Inlet',
      blowerInlet: 'Blower inlet',
      chargePipe: 'Charge pipe',
      exhaust: 'Exhaust',
      atmosphere: 'Open air',
    }) as Partial<Record<PartKind, string>>
  )[part.kind] ?? part.name

/** Joints from left to right, each with a place of its own. */
export function jointsOf(variant: Variant): { joints: readonly Joint[]; ways: readonly JointLink[] } {
  const r = resolve(variant)
  const { nodeOf, jointOf, baffled, unjoined: out } = r.topology
  const joints = new Map<string, Joint>()
  const put = (id: string, joint: Omit<Joint, 'id'>, stronger: boolean) => {
    if (stronger || !joints.has(id)) joints.set(id, { id, ...joint })
  }
  const ways: JointLink[] = []
  for (const part of variant.parts) {
    if (out.has(part.id) || !part.ports[0]) continue
    if (!isThrough(part.kind))
      put(
        jointOf.get(part.id)!,
        { label: shortName(part), part: part.id, boundary: isBoundary(part.kind), through: false },
        true,
      )
    else {
      const from = nodeOf.get(`${part.id}.in`)!
      const to = nodeOf.get(`${part.id}.out`)!
      put(from, { label: `${part.name} in`, part: part.id, boundary: false, through: true }, false)
      put(to, { label: `${part.name} out`, part: part.id, boundary: false, through: true }, false)
      ways.push({ id: part.id, from, to, kind: part.kind, name: part.name })
    }
  }
  // behind a cover's baffle and nipple
  for (const [id, at] of baffled) {
    const { part, port } = coverPort(r, at)
    if (out.has(part.id)) continue
    const [from, to] = [jointOf.get(part.id)!, nodeOf.get(id)!]
    const name = `${part.name}, ${port.name.toLowerCase()}`
    put(to, { label: name, part: part.id, boundary: false, through: true }, false)
    ways.push({ id, from, to, kind: 'passage', name })
  }
  for (const line of variant.lines) {
    if (line.kind !== 'hose' || out.has(line.from.part)) continue
    ways.push({
      id: line.id,
      from: nodeOf.get(`${line.from.part}.${line.from.port}`)!,
      to: nodeOf.get(`${line.to.part}.${line.to.port}`)!,
      kind: 'hose',
      name: line.name,
    })
  }
  const start = variant.parts.find((p) => p.kind === 'crankcase')
  const first = start && jointOf.get(start.id)
  const order = first
    ? sideBySide(
        first,
        ways,
        new Map([...joints].map(([id, j]) => [id, variant.parts.find((p) => p.id === j.part)!.kind])),
      )
    : []
  return {
    joints: [
      ...order.map((id) => joints.get(id)).filter((j): j is Joint => j !== undefined),
      ...[...joints.values()].filter((j) => !order.includes(j.id)),
    ],
    ways,
  }
}

/** Branches of the crankcase that lead to fresh air alone go to its left, the others to its right, each in the order of distance. */
function sideBySide(first: string, ways: readonly JointLink[], kindAt: ReadonlyMap<string, PartKind>): string[] {
  const neighbours = (id: string) => ways.flatMap((w) => (w.from === id ? [w.to] : w.to === id ? [w.from] : []))
  const seen = new Set([first])
  const branches: string[][] = []
  for (const start of neighbours(first)) {
    if (seen.has(start)) continue
    seen.add(start)
    const branch = [start]
    for (let i = 0; i < branch.length; i++)
      for (const n of neighbours(branch[i]!))
        if (!seen.has(n)) {
          seen.add(n)
          branch.push(n)
        }
    branches.push(branch)
  }
  const fresh = (b: readonly string[]) =>
    b.every((id) => kindAt.get(id) !== 'manifold' && kindAt.get(id) !== 'chargePipe')
  const left = branches.length > 1 ? branches.filter(fresh).slice(0, branches.every(fresh) ? 1 : undefined) : []
  return [...left.flat().toReversed(), first, ...branches.filter((b) => !left.includes(b)).flat()]
}
