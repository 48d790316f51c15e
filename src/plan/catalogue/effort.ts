/**
 * What it takes to add a part or a hose to an engine: hours at the bench, price, and what must be done or be there (estimates; a quick
 * worker with all at hand; money in whatever the builder pays with, a can at about a hundred).
 */
import type { MEANS } from '../document/bounds'
import type { PartKind } from '../document/schema'

export type Means = (typeof MEANS)[number]
/** What is done, as a list and a sentence say it. */
export const MEANS_NAMES: Readonly<Record<Means, { readonly name: string; readonly doing: string }>> = {
  drill: { name: 'Drill and tap', doing: 'drilling' },
  weld: { name: 'Weld aluminium', doing: 'welding' },
  coverOff: { name: 'Take a cam cover off', doing: 'taking a cam cover off' },
  panOff: { name: 'Take the oil pan off', doing: 'taking the oil pan off' },
  lift: { name: 'Lift the car', doing: 'lifting the car' },
}

export type Effort = { readonly hours: number; readonly price: number; readonly means: readonly Means[] }
const effort = (hours: number, price: number, ...means: Means[]): Effort => ({ hours, price, means })

/** A part that the maker did not fit. Spaces of the engine and places that hold a pressure are there. */
export const PART_EFFORT: Readonly<Record<PartKind, Effort>> = {
  can: effort(1.5, 110, 'drill'),
  check: effort(0.2, 20),
  pcv: effort(0.3, 25),
  regulator: effort(0.6, 60),
  relief: effort(0.2, 35),
  restrictor: effort(0.2, 6),
  filter: effort(0.2, 20),
  sensor: effort(0.4, 15),
  tee: effort(0.2, 8),
  pump: effort(5, 400, 'lift'),
  tank: effort(4, 300),
  passage: effort(3, 0, 'coverOff', 'drill'),
  crankcase: effort(0, 0),
  cover: effort(0, 0),
  manifold: effort(0, 0),
  inlet: effort(0, 0),
  blowerInlet: effort(0, 0),
  chargePipe: effort(0, 0),
  exhaust: effort(1.5, 30, 'lift', 'weld'),
  atmosphere: effort(0, 0),
}
/** A hose with its ends, and each metre of it more. */
export const HOSE_EFFORT: Effort = effort(0.3, 15)
export const HOSE_METRE_PRICE = 12
/** A nipple that a cover has not: a bung welded on, the cover off; one drilled into the inlet tract or block. */
export const COVER_NIPPLE: Effort = effort(2.5, 15, 'coverOff', 'weld')
export const TRACT_NIPPLE: Effort = effort(0.5, 6, 'drill')
export const BLOCK_RETURN: Effort = effort(1, 15, 'drill')
export const TURBO_RETURN: Effort = effort(1.2, 25, 'lift')
/** A cover with more baffles: opened, plates made and fitted, shut again. */
export const COVER_BAFFLES: Effort = effort(5, 60, 'coverOff', 'weld')
/** A port of the maker's that is no longer used: a plug. */
export const PLUG: Effort = effort(0.1, 4)
