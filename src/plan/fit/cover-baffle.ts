/** A cover's own baffle as it is made: what its passages leave of the outlet, what it catches and costs, and the drawing of its pieces. */
import { meanFreePath, STANDARD_PRESSURE } from '@/core/gas/air'
import { oilDensity } from '@/core/gas/oil'
import { fail, ok, type Result } from '@/core/result'
import { slipOn } from '@/core/separation/droplets'
import { stageEfficiency } from '@/core/separation/stages'
import { baffleDropKpa, baffleStages, coverBaffleOf, type CoverBaffle } from '../catalogue/cover-baffle'
import { DROP_REFERENCE } from '../catalogue/stages'
import { PORT_FIELDS, type Field } from '../document/fields'
import type { Build, Part, Port, Variant } from '../document/schema'
import { checkSquare, rectangle, type Drawing, type DrawingMark } from '../drawing/drawing'
import type { EditBuilder } from '../edit/edit-builders'
import { difference } from '../edit/diff'

/** Flow at which plates are compared, kg/s. */
export const PLATE_FLOW = DROP_REFERENCE.flow * DROP_REFERENCE.density
const EDGE_MM = 8

/** How holes stand on a plate, mm: in rows twice their diameter apart, nearly twice as long as wide. */
function platePattern(holes: number, holeMm: number) {
  const columns = Math.ceil(Math.sqrt(holes * 1.8))
  const rows = Math.ceil(holes / columns)
  const pitchMm = 2 * holeMm
  return {
    columns,
    rows,
    pitchMm,
    longMm: (columns - 1) * pitchMm + holeMm + 2 * EDGE_MM,
    wideMm: (rows - 1) * pitchMm + holeMm + 2 * EDGE_MM,
  }
}

/** Droplets that are looked at, m: below, none is caught by holes that can be drilled; above, none comes this far. */
const SIZES = { least: 0.1e-6, most: 100e-6 }

/** Droplet of which half is caught, m, by halving: the larger, the more is caught. Undefined where even the coarsest passes. */
function halfCaught(caught: (d: number) => number): number | undefined {
  let { least, most } = SIZES
  if (caught(most) < 0.5) return undefined
  while (most / least > 1 + 1e-9) {
    const middle = Math.sqrt(least * most)
    if (caught(middle) < 0.5) least = middle
    else most = middle
  }
  return most
}

export type OutletBaffle = {
  readonly part: Part
  readonly port: Port
  readonly baffle: CoverBaffle
  /** bore of what leads on from the outlet, mm */
  readonly outletMm: number
}

/** Bore of the hose that leads on from an outlet, mm; of the port where none does. */
export const outletBoreMm = (variant: Variant, part: string, port: Port): number =>
  variant.lines.find((l) => l.kind !== 'direct' && [l.from, l.to].some((e) => e.part === part && e.port === port.id))
    ?.boreMm ??
  port.boreMm ??
  12.7

/** Outlets of covers that gas leaves by: those that something ends at, but for passages from below. */
export const outletsOf = (variant: Variant): readonly { readonly part: Part; readonly port: Port }[] =>
  variant.parts.flatMap((part) =>
    part.kind === 'cover'
      ? part.ports.flatMap((port) =>
          variant.lines.some(
            (l) =>
              [l.from, l.to].some((e) => e.part === part.id && e.port === port.id) &&
              ![l.from, l.to].some((e) => variant.parts.find((p) => p.id === e.part)?.kind === 'passage'),
          )
            ? [{ part, port }]
            : [],
        )
      : [],
  )

/** Every baffle that the plan puts under a cover's outlet. */
export const coverBafflesOf = (variant: Variant): readonly OutletBaffle[] =>
  outletsOf(variant).flatMap(({ part, port }) => {
    const baffle = coverBaffleOf(port)
    return baffle ? [{ part, port, baffle, outletMm: outletBoreMm(variant, part.id, port) }] : []
  })

export type BaffleJudged = {
  /** least of its passages over the outlet, and which that is */
  readonly passage: number
  readonly least: 'holes' | 'channel'
  /** both faces of all plates, m2 */
  readonly surfaceM2: number
  readonly dropKpaAt100: number
  /** droplet of which half is kept at 100 l/min, m; undefined where even the coarsest passes */
  readonly d50: number | undefined
}

/**
 * What a baffle does between cover and outlet.
 *
 * @example
 * import { judgeBaffle } from '@/plan/fit/cover-baffle'
 *
 * const plates = { plates: 2, holes: 15, holeMm: 5, gapMm: 8, returns: 2, returnMm: 4 }
 * console.log(judgeBaffle(plates, 19).passage.toFixed(3)) // '1.039'
 */
export function judgeBaffle(b: CoverBaffle, outletMm: number): BaffleJudged {
  const outlet = outletMm ** 2
  const holes = (b.holes * b.holeMm ** 2) / outlet
  const { longMm, wideMm } = platePattern(b.holes, b.holeMm)
  // behind a plate the gas runs along it, across its shorter side
  const channel = (b.gapMm * wideMm) / ((Math.PI / 4) * outlet)
  const carrier = {
    flow: DROP_REFERENCE.flow,
    pPa: STANDARD_PRESSURE,
    tK: DROP_REFERENCE.gasK,
    oilDensity: oilDensity(DROP_REFERENCE.gasK),
  }
  const path = meanFreePath(STANDARD_PRESSURE, DROP_REFERENCE.gasK)
  const stages = baffleStages(b).map((s) => stageEfficiency(s, carrier))
  const kept = (d: number) => 1 - stages.reduce((passes, e) => passes * (1 - e(d, slipOn(path, d))), 1)
  return {
    passage: Math.min(holes, channel),
    least: holes <= channel ? 'holes' : 'channel',
    surfaceM2: (2 * b.plates * longMm * wideMm) / 1e6,
    dropKpaAt100: baffleDropKpa(b),
    d50: halfCaught(kept),
  }
}

const within = ({ min, max }: Field, v: number) => v >= min && v <= max

/**
 * Fewest holes whose sum passes what the outlet does.
 * @returns fails where holes are no smaller than the outlet, cannot be drilled, or are too many
 */
export function holesFor(outletMm: number, holeMm: number): Result<number> {
  if (!(within(PORT_FIELDS.baffleHoleMm, holeMm) && holeMm < outletMm))
    return fail('Holes that can be drilled, and smaller than the outlet: else it is no baffle.')
  const holes = Math.ceil((outletMm / holeMm) ** 2)
  if (!within(PORT_FIELDS.baffleHoles, holes)) return fail(`${holes} holes: larger ones, or wire mesh.`)
  return ok(holes)
}

/** Gap between drawn pieces, mm. */
const APART = 12

/** All pieces at 1:1: each plate, its holes between those of the plate before, its oil returns at the lower edge; and its two side walls. */
export function coverBaffleDrawing({ part, port, baffle: b }: OutletBaffle): Drawing {
  const { columns, longMm, wideMm, pitchMm } = platePattern(b.holes, b.holeMm)
  const marks: DrawingMark[] = []
  for (let plate = 0; plate < b.plates; plate++) {
    const y = plate * (wideMm + APART)
    // a jet strikes metal, not the next hole
    const shift = plate % 2 === 0 ? 0 : pitchMm / 2
    marks.push(rectangle('outline', { x0: 0, y0: y, x1: longMm + pitchMm / 2, y1: y + wideMm }))
    for (let i = 0; i < b.holes; i++)
      marks.push({
        kind: 'circle',
        layer: 'hole',
        at: [
          EDGE_MM + b.holeMm / 2 + shift + (i % columns) * pitchMm,
          y + EDGE_MM + b.holeMm / 2 + Math.floor(i / columns) * pitchMm,
        ],
        r: b.holeMm / 2,
      })
    // half-round notches in the lower edge: oil runs out where it stands
    for (let k = 0; k < b.returns; k++)
      marks.push({
        kind: 'circle',
        layer: 'hole',
        at: [((k + 0.5) * (longMm + pitchMm / 2)) / b.returns, y],
        r: b.returnMm / 2,
      })
    marks.push({
      kind: 'text',
      layer: 'dimension',
      at: [longMm + pitchMm / 2 + 4, y + wideMm / 2],
      text: `plate ${plate + 1}`,
      size: 3,
    })
  }
  const top = b.plates * (wideMm + APART)
  const high = b.plates * b.gapMm
  for (const k of [0, 1]) {
    const y = top + k * (high + APART)
    marks.push(rectangle('outline', { x0: 0, y0: y, x1: longMm + pitchMm / 2, y1: y + high }), {
      kind: 'text',
      layer: 'dimension',
      at: [longMm + pitchMm / 2 + 4, y + high / 2],
      text: `wall ${k + 1}`,
      size: 3,
    })
  }
  return {
    title: `Baffle under the ${part.name.toLowerCase()}, ${port.name.toLowerCase()}`,
    marks: [
      ...marks,
      {
        kind: 'text',
        layer: 'dimension',
        at: [0, -8],
        text: `${b.plates} of ${(longMm + pitchMm / 2).toFixed(1)} x ${wideMm.toFixed(1)} mm, ${b.holes} x ${b.holeMm} mm, gap ${b.gapMm} mm, returns ${b.returns} x ${b.returnMm} mm`,
        size: 4,
      },
      ...checkSquare(0, -66),
    ],
  }
}

/** Puts a baffle under an outlet of the active plan, changes it, or takes it away. */
export const setCoverBaffle =
  (partId: string, portId: string, baffle: CoverBaffle | undefined): EditBuilder =>
  (build: Build) => {
    const fields = {
      baffles: baffle?.plates,
      baffleHoles: baffle?.holes,
      baffleHoleMm: baffle?.holeMm,
      baffleGapMm: baffle?.gapMm,
      baffleReturns: baffle?.returns,
      baffleReturnMm: baffle?.returnMm,
    }
    const changed = (p: Part): Part =>
      p.id === partId ? ({ ...p, ports: p.ports.map((q) => (q.id === portId ? { ...q, ...fields } : q)) } as Part) : p
    return difference(build, {
      ...build,
      variants: build.variants.map((v) => (v.id === build.active ? { ...v, parts: v.parts.map(changed) } : v)),
    })
  }
