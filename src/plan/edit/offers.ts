/** What actions are made of: an offer before it is made into edits, and the pieces that several of them fit. */
import { direct, filter, hose, port, space } from '../catalogue/parts'
import type { Build, Line, LineEnd, Part, Variant } from '../document/schema'
import { lowered } from '../document/words'
import { addPart, freshId, join, type EditBuilder } from './edit-builders'

export type OfferGroup = 'in the line' | 'its ends' | 'from here' | 'this part'
/** An action before it is made into edits. */
export type Offer = {
  readonly key: string
  readonly label: string
  readonly group: OfferGroup
  readonly builders: readonly EditBuilder[]
}
export type OfferContext = { readonly build: Build; readonly variant: Variant }
export type End = Pick<LineEnd, 'part' | 'port'>

/** The name under which something of a plan is shown; its id where it has none. */
export const nameOf = (variant: Variant, id: string) => lowered(variant.parts.find((p) => p.id === id)?.name ?? id)

/**
 * A part with a name that no other has (Catch can, Catch can 2), under an id that says where it goes: two devices that put a part into
 * different lines do not mean the same one.
 */
export function fresh<P extends Part>(variant: Variant, part: P, at = ''): P {
  const taken = new Set(variant.parts.map((p) => p.name))
  let { name } = part
  for (let n = 2; taken.has(name); n++) name = `${part.name} ${n}`
  return { ...part, id: freshId(variant, at === '' ? part.id : `${part.id}-${at}`), name }
}

type LineEnds = { readonly from: End; readonly to: End }
/** A wanted id, and a name. */
type WantedName = { readonly id: string; readonly name: string }

/** A hose between two ends, under an id that the variant has not yet. */
export const lead = (variant: Variant, { id, name }: WantedName, ends: LineEnds, line: Partial<Line>): Line => ({
  ...hose(freshId(variant, id), name, { from: 'x.y', to: 'x.y', boreMm: 12.7, lengthMm: 300 }),
  ...line,
  ...ends,
})
/** A line that is one opening, no hose, to be put into a plan. */
export const opening = (variant: Variant, { id, name }: WantedName, { from, to }: LineEnds): Line => ({
  ...direct(freshId(variant, id), name, 'x.y', 'x.y'),
  from,
  to,
})

/** From `end` to the open air: a hose, a filter, the air. */
export function ventBuilders(variant: Variant, end: End, boreMm: number): EditBuilder[] {
  const vent = fresh(variant, filter('vent', 'Vent filter'), end.part)
  const air: Part = {
    ...space('atmosphere', 'air', 'Open air', port('vent', 'Filter mouth')),
    id: freshId(variant, `air-${end.part}`),
  }
  const line = lead(
    variant,
    { id: `vent-line-${end.part}`, name: 'Vent line' },
    { from: end, to: { part: vent.id, port: 'in' } },
    { boreMm },
  )
  const mouth = opening(
    variant,
    { id: `vent-end-${end.part}`, name: 'Filter mouth' },
    { from: { part: vent.id, port: 'out' }, to: { part: air.id, port: 'vent' } },
  )
  return [addPart(vent), addPart(air), join(line), join(mouth)]
}
