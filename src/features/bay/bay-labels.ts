/** Where the names of a bay's picture stand: clear of hoses, cans, marks and one another. Pure. */
import { boxAround, boxesAlong, densePoints, placeLabels, type LabelBox, type Label } from '@/ui/labels'

type Flat = readonly [x: number, y: number]

/** What a picture holds, in its own units. */
export type Drawn = {
  readonly picture: LabelBox
  readonly datum: { readonly at: Flat; readonly text: string }
  readonly cans: readonly { readonly id: string; readonly box: LabelBox; readonly text: string }[]
  /** what stands there; `plain` where its box is neither hatched nor dotted, so that its name may stand in it */
  readonly standing: readonly {
    readonly id: string
    readonly box: LabelBox
    readonly text: string
    readonly plain: boolean
  }[]
  readonly hoses: readonly { readonly points: readonly Flat[]; readonly half: number }[]
  /** ends of hoses and gaps that are too tight, as circles */
  readonly marks: readonly { readonly at: Flat; readonly radius: number }[]
  /** the bonnet's line; none from above */
  readonly bonnet: readonly Flat[]
}

const DATUM_RADIUS = 9

const edges = ([x, y, w, h]: LabelBox): LabelBox[] => [
  [x - 1, y - 1, w + 2, 2],
  [x - 1, y + h - 1, w + 2, 2],
  [x - 1, y, 2, h],
  [x + w - 1, y, 2, h],
]
const middle = ([x, y, w, h]: LabelBox): Flat => [x + w / 2, y + h / 2]
const halfOf = ([, , w, h]: LabelBox): Flat => [w / 2, h / 2]

/** Places of the names: of cans and what stands there by id, `datum` and `bonnet`. */
export function bayLabels({ picture, datum, cans, standing, hoses, marks, bonnet }: Drawn): ReadonlyMap<string, Label> {
  const around = (id: string, box: LabelBox, text: string, inside = false) => ({
    id,
    spots: [middle(box)],
    half: halfOf(box),
    text,
    inside,
  })
  const wanted = [
    ...cans.map((c) => around(c.id, c.box, c.text)),
    { id: 'datum', spots: [datum.at], half: [DATUM_RADIUS, DATUM_RADIUS] as const, text: datum.text },
    ...(bonnet.length > 0
      ? [
          {
            id: 'bonnet',
            spots: [0.85, 0.5, 0.15].map((t) => bonnet[Math.round(t * (bonnet.length - 1))]!),
            half: [0, 1] as const,
            text: 'bonnet',
          },
        ]
      : []),
    // rather no name than one over a hose or another: it is under the pointer, too
    ...standing.map((s) => ({ ...around(s.id, s.box, s.text, s.plain), optional: true as const })),
  ]
  const crossed = [
    ...hoses.flatMap((h) => boxesAlong(densePoints(h.points), h.half)),
    // a name is not read over hatching; in a plain box only its outline is in the way
    ...standing.flatMap((s) => (s.plain ? edges(s.box) : [s.box])),
    ...boxesAlong(bonnet, 1),
  ]
  const covered = [
    ...cans.map((c) => c.box),
    ...marks.map((m) => boxAround(m.at, [m.radius, m.radius])),
    boxAround(datum.at, [DATUM_RADIUS, DATUM_RADIUS]),
  ]
  return placeLabels(wanted, crossed, covered, picture)
}
