/** A judgement: what is wrong, its number, why it matters and what would put it right. */
import type { StateId } from '@/core/engine/states'
import type { Build, Part, Variant } from '../document/schema'
import type { EditBuilder } from '../edit/edit-builders'
import type { Edit } from '../edit/edit'
import type { UnitFormatter } from '../document/words'
import type { Paths } from '../model/paths'
import type { GasResult, SolvedState, Worked } from '../model/results'
import type { RuleId } from './pages'

export const SEVERITIES = ['stop', 'fix', 'watch', 'ok'] as const
export type Severity = (typeof SEVERITIES)[number]

export type Verdict = {
  /** rule that gave it; stable, and unique with `subject` */
  readonly rule: RuleId
  readonly subject: string
  readonly severity: Severity
  readonly title: string
  readonly why: string
  readonly at: {
    readonly station: 'engine' | 'circuit' | 'bay' | 'log'
    readonly line?: string
    readonly part?: string
    readonly state?: StateId
  }
  /** how much of it, in its own unit: a finding that was there before is worse when this has grown by half */
  readonly amount?: number
  readonly fix?: Fix
}
export type Fix = {
  readonly label: string
  readonly edits: readonly Edit[]
  /** share of the cans' catch that it costs, where that is much */
  readonly costsCatch?: number
}
/** What a rule finds: a verdict without the rule's name. */
export type Finding = Omit<Verdict, 'rule'>

/** What a rule sees. */
export type Case = {
  readonly build: Build
  readonly variant: Variant
  readonly analysis: Worked
  /** tells figures in the build's units */
  readonly say: UnitFormatter
  readonly solved: readonly SolvedState[]
  readonly state: (id: StateId) => SolvedState | undefined
  readonly part: (id: string) => Part | undefined
  /** the circuit as the maker of the engine laid it */
  readonly makers: () => Variant
  /** where gas of each origin goes in a state */
  readonly paths: (s: SolvedState) => Paths
  /** whether fixes are looked for; where not, none is thought out */
  readonly offers: boolean
  /** solves one state again with an edit builder applied, for a fix that is computed; undefined when it does not fit or does not solve */
  readonly tryOut: (builder: EditBuilder, state: StateId) => GasResult | undefined
  /** a fix of these edit builders; undefined when they do not fit */
  readonly fix: (label: string, ...builders: readonly EditBuilder[]) => Fix | undefined
}

export type Rule = {
  readonly id: RuleId
  readonly judge: (c: Case) => readonly Finding[]
}
