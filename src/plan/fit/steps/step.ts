/** One step of the job card, and what its writers share. */
import type { Build, Variant } from '../../document/schema'
import { lowered, type UnitFormatter } from '../../document/words'
import { dashOf } from '../../catalogue/forms'
import type { BracketPlan } from '../bracket'
import type { Drilling } from '../lists'
import type { StockComparison } from '../stock'
import type { Coupling } from '../couplings'
import type { Bung } from '../bungs'
import type { Strip, StripEnd } from '../strips'

export const PHASES = ['Before you begin', 'Take off', 'Mock up', 'Make', 'Fit', 'Put back', 'Prove it'] as const
export type Phase = (typeof PHASES)[number]
/** Words where a small drawing says more. */
export const STEP_DRAWINGS = ['clamp', 'socket', 'flare', 'p-clamp', 'clocking', 'tape'] as const
export type CardStep = {
  /** the same for the same builder while the plan is edited */
  readonly key: string
  readonly phase: Phase
  /** begins with a verb */
  readonly says: string
  readonly caution?: string
  /** tightness: a figure where it is defined, else how it feels */
  readonly tight?: string
  readonly part?: string
  readonly line?: string
  readonly drawing?: (typeof STEP_DRAWINGS)[number]
  /** of the drawing: what the ends are turned to each other, degrees */
  readonly clockingDeg?: number
  /** a step of proof that a figure is entered for */
  readonly proof?: 'leak' | 'blow' | 'reading' | 'rub'
}

/** What every writer of steps looks at. */
export type CardGround = {
  readonly build: Build
  readonly variant: Variant
  readonly say: UnitFormatter
  readonly against: StockComparison
  readonly made: readonly Strip[]
  readonly couplings: readonly Coupling[]
  readonly bungs: readonly Bung[]
  readonly drills: readonly Drilling[]
  /** brackets of new cans by can, of those that have a place in the bay */
  readonly brackets: ReadonlyMap<string, BracketPlan>
}

/** "catch can, in" */
export const endName = (e: Pick<StripEnd, 'part' | 'port'>): string => `${lowered(e.part.name)}, ${lowered(e.port)}`

/** "22.6 to 39.5 N m" of a flare of that dash. */
export function flareTorque(dash: number, say: UnitFormatter): string {
  const { leastNm: low, mostNm: high } = dashOf(dash)!
  return `${say.torque(low)} to ${say.torque(high)}`
}

/** Whether a part is new to the engine: on the bench before it is fitted, and not in its place already. */
export const isNew = ({ against }: CardGround, partId: string): boolean => against.added.some((p) => p.id === partId)
