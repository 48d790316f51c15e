/** A baffle plate for under a cover or in a can: hole rows that pass no less than the outlet, what they catch and what they cost. */
import { DROP_REFERENCE } from '../catalogue/stages'
import { meanFreePath, STANDARD_PRESSURE } from '@/core/gas/air'
import { oilDensity } from '@/core/gas/oil'
import { fail, ok, type Result } from '@/core/result'
import { slipOn } from '@/core/separation/droplets'
import { stageEfficiency } from '@/core/separation/stages'
import { rectangle, checkSquare, type Drawing, type DrawingMark } from '../drawing/drawing'
import { dropOf, stageOf } from '../catalogue/stages'
import type { Field } from '../document/fields'

export type Baffle = {
  readonly holes: number
  readonly outletMm: number
  readonly rows: number
  readonly columns: number
  readonly holeMm: number
  readonly pitchMm: number
  readonly longMm: number
  readonly wideMm: number
  /** open area over that of the outlet, 1 or more */
  readonly passage: number
  /** gap behind the plate: no less than the outlet passes round its rim, mm */
  readonly gapMm: number
  /** droplet of which half is caught at 100 l/min, m; undefined where even the coarsest passes */
  readonly d50: number | undefined
  readonly dropKpaAt100: number
}

/** Flow at which plates are compared, kg/s. */
export const PLATE_FLOW = DROP_REFERENCE.flow * DROP_REFERENCE.density
const EDGE_MM = 8

/** What a plate is asked for by: the bore that it serves, and its holes. */
export const PLATE_FIELDS = {
  outletMm: { label: 'Outlet, bore', kept: 'Mm', min: 4, max: 60, hose: true },
  holeMm: { label: 'Holes of', kept: 'Mm', min: 1.5, max: 30 },
} as const satisfies Record<string, Field>
const within = ({ min, max }: Field, v: number) => v >= min && v <= max

/**
 * @param holeMm diameter of each hole; smaller holes catch finer droplets and cost more
 * @returns fails where the holes are no smaller than the outlet, or too many to drill
 *
 * @example
 * import { bafflePlate } from '@/plan/fit/baffle'
 *
 * console.log(bafflePlate(15.9, 4).value.holes) // 16
 */
export function bafflePlate(outletMm: number, holeMm: number): Result<Baffle> {
  if (!within(PLATE_FIELDS.outletMm, outletMm)) return fail('Too small or too large an outlet for a plate of holes.')
  if (!(within(PLATE_FIELDS.holeMm, holeMm) && holeMm < outletMm))
    return fail('Holes that can be drilled, and smaller than the outlet: else it is no baffle.')
  const holes = Math.ceil((outletMm / holeMm) ** 2)
  if (holes > 300) return fail(`${holes} holes: larger ones, or wire mesh.`)
  const { columns, rows, pitchMm, longMm, wideMm } = platePattern(holes, holeMm)
  const stage = { type: 'impactor', jets: holes, jetDiameterMm: holeMm } as const
  const efficiency = stageEfficiency(stageOf(stage), {
    flow: DROP_REFERENCE.flow,
    pPa: STANDARD_PRESSURE,
    tK: DROP_REFERENCE.gasK,
    oilDensity: oilDensity(DROP_REFERENCE.gasK),
  })
  const path = meanFreePath(STANDARD_PRESSURE, DROP_REFERENCE.gasK)
  const caught = (d: number) => efficiency(d, slipOn(path, d))
  return ok({
    holes,
    outletMm,
    rows,
    columns,
    holeMm,
    pitchMm,
    longMm,
    wideMm,
    passage: (holes * holeMm * holeMm) / (outletMm * outletMm),
    // a ring of this height round the outlet is as open as the outlet itself
    gapMm: Math.ceil(outletMm / 4),
    d50: halfCaught(caught),
    dropKpaAt100: dropOf([stage], outletMm).dropKpaAt100,
  })
}

/** How holes stand on a plate, mm: in rows twice their diameter apart, nearly twice as long as wide. */
export function platePattern(holes: number, holeMm: number) {
  const columns = Math.ceil(Math.sqrt(holes * 1.8))
  const rows = Math.ceil(holes / columns)
  const pitchMm = 2 * holeMm
  return {
    columns,
    rows,
    pitchMm,
    edgeMm: EDGE_MM,
    longMm: (columns - 1) * pitchMm + holeMm + 2 * EDGE_MM,
    wideMm: (rows - 1) * pitchMm + holeMm + 2 * EDGE_MM,
  }
}

/** Droplets that are looked at, m: below, none is caught by holes that can be drilled; above, none comes this far. */
const SIZES = { least: 0.1e-6, most: 100e-6 }

/** Droplet of which half is caught, m, by halving: the larger, the more is caught. Undefined where even the coarsest passes. */
export function halfCaught(caught: (d: number) => number): number | undefined {
  let { least, most } = SIZES
  if (caught(most) < 0.5) return undefined
  while (most / least > 1 + 1e-9) {
    const middle = Math.sqrt(least * most)
    if (caught(middle) < 0.5) least = middle
    else most = middle
  }
  return most
}

/** The plate at 1:1, its holes row by row, the last row as far as they go. */
export function baffleDrawing(b: Baffle): Drawing {
  const holes = Array.from({ length: b.holes }, (_, i): DrawingMark => ({
    kind: 'circle',
    layer: 'hole',
    at: [
      EDGE_MM + b.holeMm / 2 + (i % b.columns) * b.pitchMm,
      EDGE_MM + b.holeMm / 2 + Math.floor(i / b.columns) * b.pitchMm,
    ],
    r: b.holeMm / 2,
  }))
  return {
    title: `Baffle plate, ${b.holes} holes of ${b.holeMm} mm`,
    marks: [
      rectangle('outline', { x0: 0, y0: 0, x1: b.longMm, y1: b.wideMm }),
      ...holes,
      {
        kind: 'text',
        layer: 'dimension',
        at: [0, -6],
        text: `${b.longMm.toFixed(1)} x ${b.wideMm.toFixed(1)} mm, ${b.holes} x ${b.holeMm} mm, pitch ${b.pitchMm} mm, gap behind ${b.gapMm} mm`,
        size: 4,
      },
      ...checkSquare(0, -64),
    ],
  }
}
