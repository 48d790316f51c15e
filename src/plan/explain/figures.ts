/** Every kind of figure by name: its dimension and where it is read. Workings, which are long, are in `workings.ts`. */
import { OIL_POURED } from '@/core/gas/oil'
import { multiplierAt } from '@/core/service/multiplier'
import type { StateId } from '@/core/engine/states'
import { drainInBay } from '../bay/drains'
import type { Build } from '../document/schema'
import { isBoundary, isBreather } from '../document/kinds'
import { activeVariant } from '../edit/edit'
import { capacityOf } from '../model/capacity'
import type { Evaluator } from '../model/evaluator'
import { bypassShare, oilSum, solvedIn, type SolvedState, type Worked } from '../model/results'
import {
  stateIn,
  type BoundarySide,
  type FigureDefinition,
  type FigureKind,
  type FigureRef,
  type FlowDirection,
} from './figure'

export type { FigureRef, FigureQuantity, BoundarySide, FlowDirection } from './figure'

/** The drain of a separator in a state, where the bay was measured. */
export const columnIn = (build: Build, a: Worked, { id, state }: { readonly id: string; readonly state: StateId }) =>
  drainInBay(build, activeVariant(build), a.states, id)?.states.find((s) => s.id === state)

/** Gas that passes each place of a circuit's boundary in a state, kg/s: by which part, how much, which way. */
export function boundaryFlows(
  build: Build,
  s: SolvedState,
): readonly {
  readonly part: string
  readonly side: BoundarySide
  readonly direction: FlowDirection
  readonly flow: number
}[] {
  return activeVariant(build).parts.flatMap((p) => {
    const flow = s.into[p.id]?.gas ?? 0
    if (!isBoundary(p.kind) || flow === 0) return []
    const side = isBreather(p.kind) ? 'breather' : 'vacuum'
    return [{ part: p.name, side, direction: flow > 0 ? 'out' : 'in', flow: Math.abs(flow) }]
  })
}

const canOf = (a: Worked, id: string) => a.cans.find((c) => c.part === id)

const FIGURES: { readonly [K in FigureKind]: FigureDefinition<K> } = {
  crankcase: {
    dimension: 'pressure',
    read: (_, a, ref) => solvedIn(a, ref.state)?.crankcaseGauge,
  },
  blowBy: {
    dimension: 'gasFlow',
    read: (_, a, ref) => stateIn(a, ref.state)?.blowBy,
  },
  capacity: {
    dimension: 'gasFlow',
    read: (build, _, ref, evaluator) => evaluator.once(capacityOf, build)[ref.state],
  },
  air: {
    dimension: 'gasFlow',
    read: (_, a, ref) => stateIn(a, ref.state)?.operating.airKgS,
  },
  inletDepression: {
    dimension: 'pressure',
    read: (_, a, ref) => stateIn(a, ref.state)?.operating.inletDepressionPa,
  },
  manifold: {
    dimension: 'pressure',
    read: (_, a, ref) => {
      const s = stateIn(a, ref.state)
      return s && s.operating.manifoldPa - a.engine.amb.pressurePa
    },
  },
  flow: {
    dimension: 'gasFlow',
    read: (_, a, ref) => solvedIn(a, ref.state)?.passages[ref.id]?.flow,
  },
  velocity: {
    dimension: 'speed',
    read: (_, a, ref) => solvedIn(a, ref.state)?.passages[ref.id]?.velocity,
  },
  drop: {
    dimension: 'pressure',
    read: (_, a, ref) => {
      const p = solvedIn(a, ref.state)?.passages[ref.id]
      return p && p.gaugeFrom - p.gaugeTo
    },
  },
  oil: {
    dimension: 'liquidRate',
    read: (_, a, ref) => {
      const s = solvedIn(a, ref.state)
      return s && oilSum(s.passages[ref.id]?.oil) / OIL_POURED
    },
  },
  gauge: {
    dimension: 'pressure',
    read: (_, a, ref) => solvedIn(a, ref.state)?.gauge[ref.id],
  },
  column: {
    dimension: 'length',
    read: (build, a, ref) => columnIn(build, a, ref)?.columnM,
  },
  caught: {
    dimension: 'liquidRate',
    read: (_, a, ref) => {
      const c = solvedIn(a, ref.state)?.cans[ref.id]
      return c && oilSum(c.caught) / OIL_POURED
    },
  },
  kept: {
    dimension: 'share',
    read: (_, a, ref) => {
      const c = solvedIn(a, ref.state)?.cans[ref.id]
      return c && oilSum(c.oilIn) > 0 ? oilSum(c.caught) / oilSum(c.oilIn) : undefined
    },
  },
  fillNow: {
    dimension: 'volume',
    read: (_, a, ref) => canOf(a, ref.id)?.now.mid,
  },
  distance: {
    dimension: 'distance',
    read: (_, a, ref) => canOf(a, ref.id)?.distance.mid,
  },
  checkBy: {
    dimension: 'distance',
    read: (_, a, ref) => canOf(a, ref.id)?.checkBy,
  },
  multiplier: {
    dimension: 'number',
    read: (_, a, ref) => {
      const c = canOf(a, ref.id)
      return c && multiplierAt(c.multiplier, 0.5)
    },
  },
  exchange: {
    dimension: 'gasFlow',
    read: (build, a, ref) => {
      const s = solvedIn(a, ref.state)
      return (
        s &&
        boundaryFlows(build, s)
          .filter((x) => x.side === ref.side && x.direction === ref.direction)
          .reduce((sum, x) => sum + x.flow, 0)
      )
    },
  },
  bypass: {
    dimension: 'share',
    read: (build, a) => {
      const s = solvedIn(a, 'idle')
      return s && bypassShare(s, activeVariant(build).parts)
    },
  },
  intakeOil: {
    dimension: 'perDistance',
    read: (_, a) => a.intakeOil,
  },
}
/** The table's types follow the name; a single name loses that. */
const figureOf = (ref: FigureRef) => FIGURES[ref.kind] as FigureDefinition

/** The dimension that a figure is shown in. */
export const dimensionOf = (ref: FigureRef): FigureDefinition['dimension'] => figureOf(ref).dimension

/** Whether the figure follows from a can's log, and so from the day. */
export const isOfCan = (ref: FigureRef): boolean =>
  ref.kind === 'fillNow' || ref.kind === 'distance' || ref.kind === 'checkBy' || ref.kind === 'multiplier'

/**
 * The figure's value in SI; undefined when its state has no answer.
 *
 * @example
 * import { evaluate } from '@/plan/analyse'
 * import { readFigure } from '@/plan/explain/figures'
 * import { makeEvaluator } from '@/plan/model/evaluator'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const evaluator = makeEvaluator()
 * const worked = evaluate(build, '2026-11-24', evaluator)
 * console.log(readFigure(build, worked, { kind: 'crankcase', state: 'idle' }, evaluator)) // -32.549234060468734
 */
export const readFigure = (build: Build, a: Worked, ref: FigureRef, evaluator: Evaluator): number | undefined =>
  figureOf(ref).read(build, a, ref as never, evaluator)
