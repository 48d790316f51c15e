/** What each kind of part is to the gas, said once. */
import type { Part, PartKind } from './schema'

type Kind = {
  /** a space of one pressure; a place that holds a pressure; or a way through from `in` to `out` */
  readonly role: 'space' | 'boundary' | 'through'
  readonly name: string
  /** what enters it ends in the engine's intake */
  readonly intake?: true
  /** can stick open or shut */
  readonly valve?: true
  /** belongs to the engine and stands in a fixed place on its picture */
  readonly engine?: true
}

const TABLE = {
  crankcase: { role: 'space', name: 'Crankcase', engine: true },
  cover: { role: 'space', name: 'Cover', engine: true },
  tank: { role: 'space', name: 'Oil tank' },
  tee: { role: 'space', name: 'Tee' },
  passage: { role: 'through', name: 'Passage', engine: true },
  pcv: { role: 'through', name: 'PCV valve', valve: true },
  check: { role: 'through', name: 'Check valve', valve: true },
  regulator: { role: 'through', name: 'Regulator', valve: true },
  relief: { role: 'through', name: 'Relief cap', valve: true },
  restrictor: { role: 'through', name: 'Restrictor' },
  can: { role: 'through', name: 'Can' },
  filter: { role: 'through', name: 'Filter' },
  sensor: { role: 'through', name: 'Sensor' },
  pump: { role: 'through', name: 'Pump' },
  manifold: { role: 'boundary', name: 'Intake manifold', intake: true, engine: true },
  inlet: { role: 'boundary', name: 'Inlet tract', intake: true, engine: true },
  blowerInlet: { role: 'boundary', name: 'Between throttle and blower', intake: true, engine: true },
  chargePipe: { role: 'boundary', name: 'Charge pipe', intake: true, engine: true },
  exhaust: { role: 'boundary', name: 'Exhaust collector', engine: true },
  atmosphere: { role: 'boundary', name: 'Open air' },
} as const satisfies Readonly<Record<PartKind, Kind>>
export const KINDS: Readonly<Record<PartKind, Kind>> = TABLE

/** Parts of the kinds that are this to the gas. What is made of each is set by kind, with no default: a new kind is a type error there. */
type PartOfRole<R extends Kind['role']> = Extract<
  Part,
  { kind: { [K in PartKind]: (typeof TABLE)[K]['role'] extends R ? K : never }[PartKind] }
>
export type ThroughPart = PartOfRole<'through'>
export type BoundaryPart = PartOfRole<'boundary'>
/** Whether gas runs through a part from `in` to `out`. */
export const isThroughPart = (part: Part): part is ThroughPart => KINDS[part.kind].role === 'through'
/** Whether a part holds a pressure of its own: manifold, inlet tract, charge pipe, atmosphere. */
export const isBoundaryPart = (part: Part): part is BoundaryPart => KINDS[part.kind].role === 'boundary'

/**
 * Gas runs through it from `in` to `out`; the other kinds are one space.
 *
 * @example
 * import { isThrough } from '@/plan/document/kinds'
 *
 * console.log([isThrough('can'), isThrough('crankcase')]) // [ true, false ]
 */
export const isThrough = (kind: PartKind): boolean => KINDS[kind].role === 'through'

/**
 * Whether a kind of part holds a pressure of its own: manifold, inlet tract, charge pipe, atmosphere.
 *
 * @example
 * import { isBoundary } from '@/plan/document/kinds'
 *
 * console.log([isBoundary('manifold'), isBoundary('can')]) // [ true, false ]
 */
export const isBoundary = (kind: PartKind): boolean => KINDS[kind].role === 'boundary'
/** Whether oil that gets to a kind of part is on its way into the engine. */
export const isIntake = (kind: PartKind): boolean => KINDS[kind].intake === true
/** Where fresh air can come from, and full-load gas goes: everything that holds a pressure but the places behind the throttle. */
export const isBreather = (kind: PartKind): boolean => kind === 'inlet' || kind === 'atmosphere'
