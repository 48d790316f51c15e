/** What a can costs in pressure, from the very jets, hole rows, media and nipples that separate in it: one geometry, one drop. */
import { circleArea } from '../circle'
import { airViscosity } from '../gas/air'
import type { Stage } from './stages'

/** Discharge of a drilled hole; of a nipple that jets into the can alone, the head that it loses there. */
export const JET_CD = 0.62
/** Heads lost at the nipples: all of it where gas leaves into the can, half where it enters the outlet. */
export const NIPPLE_HEADS = 1.5
/** Inlet velocity heads that a cyclone of ordinary shape costs (Shepherd & Lapple, 1939). */
const CYCLONE_HEADS = 8
/** A fibre bed that is wet with oil costs about twice what it does dry (estimate, 1.5-3). */
const WET = 2

/**
 * Share of a stage that is still open where it costs `times` what it does clean: holes by the square of the flow, media in step with it.
 *
 * @example
 * import { openShare } from '@/core/separation/drop'
 *
 * console.log(openShare({ type: 'impactor', jets: 8, jetDiameter: 0.002 }, 4)) // 0.5
 */
export function openShare(stage: Stage, times: number): number {
  // a floor does not clog, nor does the one jet that is the nipple itself
  if (stage.type === 'settling' || (stage.type === 'impactor' && stage.jets <= 1)) return 1
  return stage.type === 'fibre' ? 1 / times : 1 / Math.sqrt(times)
}

/**
 * A stage clogged until it costs `times` what it does clean: so many holes, so much of the media or inlet shut. What is left runs faster: it
 * catches finer by impact, and coarser where droplets need time.
 * @param times 1 or more
 *
 * @example
 * import { clogged } from '@/core/separation/drop'
 *
 * console.log(clogged({ type: 'impactor', jets: 8, jetDiameter: 0.002 }, 4).jets) // 4
 */
export function clogged(stage: Stage, times: number): Stage {
  const open = openShare(stage, times)
  switch (stage.type) {
    case 'impactor':
      return { ...stage, jets: stage.jets * open }
    case 'cyclone':
      return { ...stage, inletHeight: stage.inletHeight * open }
    case 'fibre':
      return { ...stage, area: stage.area * open }
    case 'settling':
      return stage
  }
}

/** dp = a Q + b rho Q^2: Pa s/m3, and 1/m4. */
export type DropLaw = { readonly a: number; readonly b: number }

/**
 * Drop of a can's stages and its nipples at gas of `tK`. Hole rows: (Q/(Cd A))^2 rho/2; a single jet is the inlet
 * nipple itself. Fibre: Davies,
 * 64 mu U t a^1.5 (1 + 56 a^3)/df^2 (1952), doubled for oil in it. Settling costs nothing.
 * @param nippleM bore of inlet and outlet nipple, m
 *
 * @example
 * import { dropLaw } from '@/core/separation/drop'
 *
 * console.log(dropLaw([{ type: 'impactor', jets: 6, jetDiameter: 0.005 }], 0.0127, 343.15).b) // 140455910.10457093
 */
export function dropLaw(stages: readonly Stage[], nippleM: number, tK: number): DropLaw {
  let a = 0
  let b = NIPPLE_HEADS / 2 / circleArea(nippleM) ** 2
  for (const s of stages) {
    if (s.type === 'impactor' && s.jets > 1) b += 1 / 2 / (JET_CD * s.jets * circleArea(s.jetDiameter)) ** 2
    if (s.type === 'cyclone') b += CYCLONE_HEADS / 2 / (s.inletWidth * s.inletHeight) ** 2
    if (s.type === 'fibre')
      a +=
        (WET * 64 * airViscosity(tK) * s.thickness * s.solidity ** 1.5 * (1 + 56 * s.solidity ** 3)) /
        s.fibreDiameter ** 2 /
        s.area
  }
  return { a, b }
}
