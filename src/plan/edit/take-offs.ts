/** Places of the engine that a line may be led to, by what they do. */
import type { Build, Part, PartKind, Variant } from '../document/schema'
import { port, space } from '../catalogue/parts'
import { addPart, freshId, type EditBuilder } from './edit-builders'
import { freePort } from './ports'

export type TakeOff = {
  readonly kind: Extract<PartKind, 'manifold' | 'inlet' | 'blowerInlet' | 'chargePipe' | 'exhaust'>
  readonly id: string
  readonly name: string
  /** whether an engine has it */
  readonly when: (e: Build['engine']) => boolean
}

export const TAKE_OFFS: readonly TakeOff[] = [
  { kind: 'manifold', id: 'manifold', name: 'Intake manifold', when: () => true },
  { kind: 'inlet', id: 'inlet', name: 'Inlet tract', when: () => true },
  {
    kind: 'blowerInlet',
    id: 'blower-inlet',
    name: 'Between throttle and blower',
    when: (e) => e.induction === 'super',
  },
  { kind: 'chargePipe', id: 'charge-pipe', name: 'Charge pipe', when: (e) => e.induction !== 'na' },
  { kind: 'exhaust', id: 'exhaust', name: 'Exhaust collector', when: () => true },
]

function make({ kind, id, name }: TakeOff): Part {
  const ports = [port('a', kind === 'exhaust' ? 'Slash-cut pipe' : 'Port')]
  if (kind === 'inlet') return { kind, id, name, ports, at: undefined, depressionPct: 100 }
  if (kind === 'exhaust') return { kind, id, name, ports, at: undefined, suctionKpa: 4 }
  return space(kind, id, name, ...ports)
}

/** Builders that bring a take-off into the circuit if it is not there, and the end to join to: a capped port, else a new one. */
export function reach(
  variant: Variant,
  takeOff: TakeOff,
): { readonly builders: readonly EditBuilder[]; readonly end: { readonly part: string; readonly port: string } } {
  const there = variant.parts.find((p) => p.kind === takeOff.kind)
  if (!there) {
    const part = { ...make(takeOff), id: freshId(variant, takeOff.id) } as Part
    return { builders: [addPart(part)], end: { part: part.id, port: 'a' } }
  }
  return { builders: [], end: { part: there.id, port: freePort(variant, there) } }
}
