/** A judgement: what is wrong, its number, why it matters and what would put it right. */
import type { StateId } from '@/core/engine/states'
import type { Analysis, SolvedState, StateResult } from '../model/results'
import type { Build, Part, Variant } from '../document/schema'
import type { Edit } from '../edit/edit'
import type { GasResult } from '../model/states'

export const SEVERITIES = ['stop', 'fix', 'watch', 'ok'] as const
export type Severity = (typeof SEVERITIES)[number]

export type Verdict = {
  /** rule that gave it; stable, and unique with `subject` */
  readonly rule: string
  readonly subject: string
  readonly severity: Severity
  readonly title: string
  readonly why: string
  readonly at: {
    readonly station: 'engine' | 'circuit' | 'log'
    readonly line?: string
    readonly part?: string
    readonly state?: StateId
  }
  readonly fix?: { readonly label: string; readonly edits: readonly Edit[] }
}

/** What a rule sees. */
export type Case = {
  readonly build: Build
  readonly variant: Variant
  readonly analysis: Omit<Analysis, 'verdicts'>
  readonly solved: readonly SolvedState[]
  readonly state: (id: StateId) => SolvedState | undefined
  readonly part: (id: string) => Part | undefined
  /** solves one state again after edits, for a fix that is computed; undefined when it does not solve */
  readonly tryOut: (edits: readonly Edit[], state: StateId) => GasResult | undefined
}

export type Rule = { readonly id: string; readonly judge: (c: Case) => readonly Omit<Verdict, 'rule'>[] }

export const STATE_NAMES: Readonly<Record<StateId, string>> = {
  idle: 'Idle',
  cruise: 'Cruise',
  pull: 'Pull',
  spool: 'Spool',
  boost: 'Boost',
  overrun: 'Overrun',
}
export const isSolved = (s: StateResult): s is SolvedState => s.solved
