/** The figure that a verdict tells of, so that its working opens from there; undefined for what is no single figure. */
import type { FigureRef } from '@/plan/explain/figures'
import type { Verdict } from '@/plan/verdicts/verdict'

export function figureOfVerdict({ rule, at: { state, line, part } }: Verdict): FigureRef | undefined {
  switch (rule) {
    case 'crankcase-pressure':
      return state && { kind: 'crankcase', state }
    case 'velocity':
      return state && line ? { kind: 'velocity', id: line, state } : undefined
    case 'breather-unprotected':
      return state && line ? { kind: 'flow', id: line, state } : undefined
    case 'idle-bypass':
      return { kind: 'bypass' }
    case 'can-sees-boost':
      return state && part ? { kind: 'gauge', id: `${part}.out`, state } : undefined
    case 'can-swapped':
    case 'relief-open':
      return state && part ? { kind: 'flow', id: part, state } : undefined
    case 'torn-off':
      return state && part ? { kind: 'kept', id: part, state } : undefined
    case 'drain-back':
      return state && part ? { kind: 'column', id: part, state } : undefined
    case 'fill':
      return part ? { kind: 'distance', id: part } : undefined
    case 'open-end':
      return state && line ? { kind: 'flow', id: line, state } : undefined
    default:
      return undefined
  }
}
