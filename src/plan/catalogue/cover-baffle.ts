/** The baffle that a builder puts under an outlet of a cover: plates with rows of holes, one behind the other. */
import { dropLaw } from '@/core/separation/drop'
import type { Stage } from '@/core/separation/stages'
import type { Port } from '../document/schema'
import { DROP_REFERENCE } from './stages'

export type CoverBaffle = {
  readonly plates: number
  /** of each plate */
  readonly holes: number
  readonly holeMm: number
  /** between a plate and the next, or the cover */
  readonly gapMm: number
  readonly returns: number
  readonly returnMm: number
}

/** 5 mm by habit (common practice, no source). */
export const BAFFLE_DEFAULTS = { holeMm: 5, gapMm: 8, returns: 2, returnMm: 4 } as const

/** The baffle under an outlet; undefined where the plan puts none there. */
export function coverBaffleOf(port: Port): CoverBaffle | undefined {
  const { baffles = 0, baffleHoles, baffleHoleMm = BAFFLE_DEFAULTS.holeMm } = port
  if (baffles < 1 || baffleHoles === undefined) return undefined
  return {
    plates: baffles,
    holes: baffleHoles,
    holeMm: baffleHoleMm,
    gapMm: port.baffleGapMm ?? BAFFLE_DEFAULTS.gapMm,
    returns: port.baffleReturns ?? BAFFLE_DEFAULTS.returns,
    returnMm: port.baffleReturnMm ?? BAFFLE_DEFAULTS.returnMm,
  }
}

/** A plate is a row of jets on the next one. */
export const baffleStages = ({ plates, holes, holeMm }: CoverBaffle): readonly Stage[] =>
  Array.from({ length: plates }, () => ({ type: 'impactor', jets: holes, jetDiameter: holeMm / 1000 }) as const)

/** Nipple whose own loss counts for nothing, m: the port's is told apart. */
const NO_NIPPLE = 1

/**
 * Drop of the plates at 100 l/min, kPa: orifices in parallel on each plate, plate after plate (ISO 5167's 0.62).
 *
 * @example
 * import { baffleDropKpa } from '@/plan/catalogue/cover-baffle'
 *
 * console.log(baffleDropKpa({ plates: 1, holes: 12, holeMm: 5, gapMm: 8, returns: 2, returnMm: 4 }).toFixed(3)) // '0.078'
 */
export function baffleDropKpa(b: CoverBaffle): number {
  const { flow, density, gasK } = DROP_REFERENCE
  return (dropLaw(baffleStages(b), NO_NIPPLE, gasK).b * density * flow ** 2) / 1000
}
