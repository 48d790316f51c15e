/** What a figure is: a computed number that a screen shows, read from the analysis, with its working beside it. */
import type { StateId } from '@/core/engine/states'
import type { Build } from '../document/schema'
import type { Evaluator } from '../model/evaluator'
import type { StateResult, Worked } from '../model/results'
import { STATE_NAMES } from '../document/words'
import type { Draft, FigureQuantity } from './draft'

export type { FigureQuantity, Origin } from './draft'

type OfState = 'crankcase' | 'blowBy' | 'capacity' | 'air' | 'inletDepression' | 'manifold'
/** Of a line, a part or a port in a state, by its id. */
type OfPassage = 'flow' | 'velocity' | 'drop' | 'oil' | 'kept' | 'caught' | 'gauge' | 'column'
type OfCan = 'fillNow' | 'distance' | 'checkBy' | 'multiplier'
export type FigureKind = OfState | OfPassage | OfCan | 'exchange' | 'bypass' | 'intakeOil'

/** Where gas leaves a circuit, or comes in: where fresh air can come from, or behind the throttle. */
export type BoundarySide = 'breather' | 'vacuum'
/** Which way gas passes the boundary, as the engine sees it. */
export type FlowDirection = 'out' | 'in'

/** Names a figure of one kind: which state, which line, part or can. */
export type RefOf<K extends FigureKind> = { readonly kind: K } & (K extends OfState
  ? { readonly state: StateId }
  : K extends OfPassage
    ? { readonly id: string; readonly state: StateId }
    : K extends OfCan
      ? { readonly id: string }
      : K extends 'exchange'
        ? { readonly state: StateId; readonly side: BoundarySide; readonly direction: FlowDirection }
        : unknown)
/** Names a figure that is shown somewhere. */
export type FigureRef = { [K in FigureKind]: RefOf<K> }[FigureKind]

/** A kind of figure. */
export type FigureDefinition<K extends FigureKind = FigureKind> = {
  readonly dimension: FigureQuantity['dimension']
  /** its value in SI; undefined when its state has no answer */
  readonly read: (build: Build, a: Worked, ref: RefOf<K>, evaluator: Evaluator) => number | undefined
}

/** What a working says beside its lines. */
export type WorkingText = {
  readonly title: string
  /** symbol of the line that is the figure */
  readonly result: string
  /** where no formula gives it: what is solved, by which equations */
  readonly solved?: string
  readonly source: string
  readonly note?: string
}
/** Writes the lines of a kind of figure into a draft; asked only when it has a value. */
export type WorkingOf<K extends FigureKind = FigureKind> = (
  at: WorkingContext,
  ref: RefOf<K>,
  draft: Draft,
) => WorkingText

export type WorkingContext = { readonly build: Build; readonly a: Worked; readonly evaluator: Evaluator }

/** A state of an analysis by its id; undefined where the engine has none such. */
export const stateIn = (a: Worked, id: StateId): StateResult | undefined => a.states.find((s) => s.id === id)
/** "idle", within a sentence */
export const named = (id: StateId): string => STATE_NAMES[id].toLowerCase()

export const SOLVER =
  'Mass balance at every joint, solved to 1e-9 kg/s. Hose losses: Colebrook; Rennels & Hudson, Pipe Flow, 2012. Valves: isentropic nozzle (Heywood, app. C).'
