/** How gas looks: width by flow, colour by oil, pace by velocity. Shared by both pictures. */
import { NO_FLOW, type Passage } from '@/plan/model/results'

/** Oil in kg per kg of gas at which a line is drawn as fully laden; twice a full-load mist. */
const LADEN = 3e-3

export const isShut = (p: Passage | undefined): boolean => p === undefined || Math.abs(p.flow) < NO_FLOW

export function oilShare(p: Passage): number {
  const oil = p.oil.mist + p.oil.splash
  return Math.abs(p.flow) > NO_FLOW ? Math.min(1, Math.sqrt(oil / Math.abs(p.flow) / LADEN)) : 0
}

/** Fresh air is slate, oily gas goes from straw to dark amber. */
export function gasColour(p: Passage): string {
  const share = oilShare(p)
  if (isShut(p)) return 'var(--rule-strong)'
  return share < 0.02
    ? 'var(--air)'
    : `color-mix(in oklab, var(--oil-laden) ${Math.round(share * 100)}%, var(--oil-clean))`
}

/** Width in px of a flow in kg/s: 3 at a trickle, 15 at 250 l/min. */
export const flowWidth = (flow: number): number => 3 + 12 * Math.min(1, Math.sqrt(Math.abs(flow) / 5e-3))

/** Seconds in which the dashes move one step. */
export const pace = (p: Passage): string => `${Math.min(4, Math.max(0.25, 5 / Math.max(p.velocity, 0.8))).toFixed(2)}s`
