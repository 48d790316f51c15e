/** Every computed figure that a screen shows, by name: what it is and its value now. */
import { OIL_POURED } from '@/core/gas/oil'
import type { StateId } from '@/core/engine/states'
import { multiplierAt } from '@/core/service/calibrate'
import type { Dimension } from '@/core/units/units'
import type { Analysis, SolvedState } from '../model/results'
import { activeVariant } from '../edit/edit'
import type { Build } from '../document/schema'
import { bypassShare } from '../verdicts/rules'
import { isSolved } from '../verdicts/verdict'

export type Quantity = { readonly si: number; readonly dimension: Dimension | 'number' }

/** Names a figure that is shown somewhere. */
export type FigureRef =
  | {
      readonly kind: 'crankcase' | 'blowBy' | 'capacity' | 'air' | 'inletDepression' | 'manifold'
      readonly state: StateId
    }
  | { readonly kind: 'flow' | 'velocity' | 'drop' | 'oil'; readonly id: string; readonly state: StateId }
  | { readonly kind: 'kept'; readonly id: string; readonly state: StateId }
  | { readonly kind: 'fillNow' | 'distance' | 'multiplier'; readonly id: string }
  | { readonly kind: 'bypass' | 'intakeOil' }

export const solvedIn = (a: Omit<Analysis, 'verdicts'>, id: StateId): SolvedState | undefined =>
  a.states.filter(isSolved).find((s) => s.id === id)
export const oilSum = (o: { mist: number; splash: number } | undefined) => (o ? o.mist + o.splash : 0)

/** The figure's value in SI; undefined when its state has no answer. */
export function readFigure(build: Build, a: Omit<Analysis, 'verdicts'>, ref: FigureRef): number | undefined {
  switch (ref.kind) {
    case 'crankcase':
      return solvedIn(a, ref.state)?.crankcaseGauge
    case 'blowBy':
      return a.states.find((s) => s.id === ref.state)?.blowBy
    case 'capacity':
      return a.capacity[ref.state]
    case 'air':
      return a.states.find((s) => s.id === ref.state)?.operating.airKgS
    case 'inletDepression':
      return a.states.find((s) => s.id === ref.state)?.operating.inletDepressionPa
    case 'manifold': {
      const s = a.states.find((x) => x.id === ref.state)
      return s && s.operating.manifoldPa - a.engine.amb.pressurePa
    }
    case 'flow':
      return solvedIn(a, ref.state)?.passages[ref.id]?.flow
    case 'velocity':
      return solvedIn(a, ref.state)?.passages[ref.id]?.velocity
    case 'drop': {
      const p = solvedIn(a, ref.state)?.passages[ref.id]
      return p && p.gaugeFrom - p.gaugeTo
    }
    case 'oil':
      return solvedIn(a, ref.state) && oilSum(solvedIn(a, ref.state)!.passages[ref.id]?.oil) / OIL_POURED
    case 'kept': {
      const c = solvedIn(a, ref.state)?.cans[ref.id]
      return c && oilSum(c.oilIn) > 0 ? oilSum(c.caught) / oilSum(c.oilIn) : undefined
    }
    case 'fillNow':
      return a.cans.find((c) => c.part === ref.id)?.now.mid
    case 'distance':
      return a.cans.find((c) => c.part === ref.id)?.distance.mid
    case 'multiplier': {
      const c = a.cans.find((x) => x.part === ref.id)
      return c && multiplierAt(c.multiplier, 0.5)
    }
    case 'bypass': {
      const s = solvedIn(a, 'idle')
      return s && bypassShare(s, activeVariant(build).parts)
    }
    case 'intakeOil':
      return a.intakeOil
  }
}
