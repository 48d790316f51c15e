/** Where blocks, glyphs and labels stand on the pressure ladder. Pure: heights are pressures, so room is made sideways and by labels alone. */
import type { StateResult } from '@/plan/model/results'
import type { Joint, JointLink } from './joints'
import {
  boxAround,
  boxesAlong,
  boxesFurther,
  cheapestBox,
  LABEL_SIZE,
  overlap,
  type Label,
  type LabelBox,
} from '@/ui/labels'
import { pressureScale } from '@/ui/pressure-scale'
import { textWidth } from '@/ui/text-width'
import type { Point2 } from './layout'

/** Text beside a block or a glyph: the middle of its first line, measured from where that stands, and a leader where it stands apart. */
export type LadderLabel = {
  readonly dx: number
  readonly dy: number
  readonly rows: readonly string[]
  readonly leader: Label['leader']
}
export type LadderLayout = {
  readonly at: ReadonlyMap<string, Point2>
  /** where a valve or can stands on its curve, 0 to 1, and how far aside */
  readonly glyphs: ReadonlyMap<string, GlyphSpot>
  readonly labels: ReadonlyMap<string, LadderLabel>
  /** names of cans, and of valves that hold */
  readonly names: ReadonlyMap<string, LadderLabel>
}
type GlyphSpot = { readonly t: number; readonly aside: number }

/** The picture: its width where a circuit needs no more, height, and what stays free on three sides for scale and words. */
export const LADDER = {
  leastWidth: 560,
  height: 400,
  left: 46,
  top: 34,
  bottom: 40,
  /** where the two words for the halves of the picture stand */
  corners: [
    [50, 21, 54, 14],
    [50, 369, 54, 14],
  ] as readonly LabelBox[],
}
/** Pressures below this stand close to the atmosphere line; a scale shows at least this much either way. Pa */
const [LINEAR_PA, LEAST_PA] = [150, 1500]

/** Height by gauge pressure, Pa, one for all states; with the lowest and highest pressure that is shown. */
export function ladderScale(states: readonly StateResult[], top: number, bottom: number) {
  const all = states.flatMap((s) => (s.solved ? Object.values(s.gauge) : []))
  const low = Math.min(-LEAST_PA, ...all)
  const high = Math.max(LEAST_PA, ...all)
  const scale = pressureScale(LINEAR_PA, [high * 1.25, low * 1.25], [top, bottom])
  return { scale, low, high }
}

/** half the width of a joint's block */
export const halfOf = (joint: Joint) => (joint.through ? 5 : joint.boundary ? 19 : 13)
const GLYPH = 11
/** between two neighbours, and what a valve or can between them takes */
const GAP = 8
const WITH_GLYPH = 2 * GLYPH + 6
/** From one row of text to the next. */
export const ROW_HEIGHT = 13.5
/** How far off a text may stand, with a leader. */
const REACH = 130
/** Room for a figure with its sign. */
const FIGURE = textWidth('+00.00', LABEL_SIZE)
const hasGlyph = (w: JointLink) => w.kind !== 'hose' && w.kind !== 'passage'

/** Places on a curve where its way is kept clear by boxes. */
const SAMPLES = Array.from({ length: 33 }, (_, k) => k / 32)

/** Boxes of a size above and below a point, by turns further off. */
function beside([x, y]: Point2, [half, tall]: readonly [number, number], off: number, aboveFirst: boolean): LabelBox[] {
  return [0, ROW_HEIGHT, 2 * ROW_HEIGHT, 3 * ROW_HEIGHT].flatMap((away): LabelBox[] => {
    const above: LabelBox = [x - half, y - off - away - tall, 2 * half, tall]
    const below: LabelBox = [x - half, y + off + away, 2 * half, tall]
    return aboveFirst ? [above, below] : [below, above]
  })
}

/** Columns from left to right, each as wide as its block and what stands between it and the next; what is left over is shared. */
export function columnsOf(
  joints: readonly Joint[],
  ways: readonly JointLink[],
  left: number,
  least: number,
): { readonly width: number; readonly x: ReadonlyMap<string, number> } {
  const between = (a: Joint, b: Joint) =>
    ways.some((w) => hasGlyph(w) && ((w.from === a.id && w.to === b.id) || (w.from === b.id && w.to === a.id)))
  const gaps = joints.slice(1).map((j, k) => (between(joints[k]!, j) ? WITH_GLYPH : GAP))
  const need = joints.reduce((sum, j) => sum + 2 * halfOf(j), 0) + gaps.reduce((a, b) => a + b, 0)
  const margin = 24
  const width = Math.max(least, left + 2 * margin + need)
  const spare = (width - left - 2 * margin - need) / Math.max(1, joints.length - 1)
  const x = new Map<string, number>()
  let at = left + margin
  joints.forEach((j, k) => {
    x.set(j.id, at + halfOf(j))
    at += 2 * halfOf(j) + (gaps[k] ?? 0) + spare
  })
  return { width, x }
}

/** The curve that joins two blocks, level at either end, as an SVG path. */
export const curve = ([x1, y1]: Point2, [x2, y2]: Point2): string =>
  `M${x1} ${y1}C${(x1 + x2) / 2} ${y1} ${(x1 + x2) / 2} ${y2} ${x2} ${y2}`

/** A point of that curve. */
export function onCurve([x1, y1]: Point2, [x2, y2]: Point2, t: number): Point2 {
  const s = 1 - t
  const bend = (x1 + x2) / 2
  return [
    s ** 3 * x1 + 3 * s * s * t * bend + 3 * s * t * t * bend + t ** 3 * x2,
    s ** 3 * y1 + 3 * s * s * t * y1 + 3 * s * t * t * y2 + t ** 3 * y2,
  ]
}

/** Where a valve or can stands between its ends. */
export const glyphAt = (from: Point2, to: Point2, { t, aside }: GlyphSpot): Point2 => {
  const [x, y] = onCurve(from, to, t)
  return [x, y + aside]
}

/** How high each joint stands in the picture, whether its label would rather stand above it, and how a way is drawn. */
type Standing = {
  readonly y: (joint: string) => number
  readonly prefersAbove: (joint: Joint) => boolean
  /** half the width that a way is drawn with */
  readonly half: (way: JointLink) => number
  readonly isShut: (way: JointLink) => boolean
}

/** What a text stands beside. */
type Mark = { readonly at: Point2; readonly half: Point2; readonly aboveFirst: boolean }

/** A valve that holds says so where its ends stand this far apart. */
const HOLDS_FROM = 70
const holds = (way: JointLink, shut: boolean, [, y1]: Point2, [, y2]: Point2) =>
  shut && (way.kind === 'check' || way.kind === 'pcv') && Math.abs(y1 - y2) > HOLDS_FROM

/** Glyphs go to the first free spot along their curve, texts to the cheapest near their block, valve or can, within the picture. */
export function placeLadder(
  joints: readonly Joint[],
  ways: readonly JointLink[],
  { width, x }: ReturnType<typeof columnsOf>,
  { y, prefersAbove, half, isShut }: Standing,
): LadderLayout {
  const { left, height, corners } = LADDER
  const at = new Map<string, Point2>(joints.map((j) => [j.id, [x.get(j.id)!, y(j.id)]]))
  const endsOf = (w: JointLink) => [at.get(w.from)!, at.get(w.to)!] as const
  const taken: LabelBox[] = [
    ...corners,
    ...joints.map((j) => boxAround(at.get(j.id)!, [halfOf(j), j.through ? 6 : 10])),
  ]
  const glyphs = new Map<string, GlyphSpot>()
  for (const w of ways.filter(hasGlyph)) {
    const spots = [0.5, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8].map((t): GlyphSpot => ({ t, aside: 0 }))
    const beyond = [-26, 26, -50, 50].map((aside): GlyphSpot => ({ t: 0.5, aside }))
    const boxOf = (spot: GlyphSpot) => boxAround(glyphAt(...endsOf(w), spot), [GLYPH, GLYPH])
    const inside = ([, top]: LabelBox) => top > 0 && top + 2 * GLYPH < height
    const spot =
      [...spots, ...beyond].find((s) => inside(boxOf(s)) && !taken.some((t) => overlap(t, boxOf(s)))) ?? spots[0]!
    glyphs.set(w.id, spot)
    taken.push(boxOf(spot))
  }
  const lines = ways.flatMap((w) => {
    const [from, to] = endsOf(w)
    return boxesAlong(
      SAMPLES.map((t) => onCurve(from, to, t)),
      half(w) + 1,
    )
  })
  const picture: LabelBox = [left, 2, width - left, height - 4]
  /** The best place for rows of text around a mark, from now on taken. */
  function place(rows: readonly string[], wide: number, mark: Mark): LadderLabel {
    const size = [wide + 2, rows.length * ROW_HEIGHT + 2] as const
    const middle = Math.min(width - size[0] / 2, Math.max(left + size[0] / 2, mark.at[0]))
    const near = beside([middle, mark.at[1]], [size[0] / 2, size[1]], mark.half[1] + 2, mark.aboveFirst).map((box) => ({
      box,
      leader: undefined,
    }))
    const offers = [...near, ...boxesFurther(mark.at, mark.half, size, REACH)]
    const { index } = cheapestBox(
      offers.map((o) => o.box),
      taken,
      lines,
      picture,
    )
    const { box, leader } = offers[index]!
    taken.push(box)
    const moved = (p: Point2): Point2 => [p[0] - mark.at[0], p[1] - mark.at[1]]
    return {
      dx: box[0] + size[0] / 2 - mark.at[0],
      dy: box[1] + ROW_HEIGHT - 1 - mark.at[1],
      rows,
      leader: leader && [moved(leader[0]), moved(leader[1])],
    }
  }
  const widest = (rows: readonly string[]) => Math.max(...rows.map((r) => textWidth(r, LABEL_SIZE)))
  const labels = new Map<string, LadderLabel>()
  for (const j of joints) {
    if (j.through) continue
    const rows = rowsOf(j.label)
    // its figure is the last row
    const label = place([...rows, ''], Math.max(widest(rows), FIGURE), {
      at: at.get(j.id)!,
      half: [halfOf(j), 10],
      aboveFirst: prefersAbove(j),
    })
    labels.set(j.id, { ...label, rows })
  }
  const names = new Map<string, LadderLabel>()
  for (const w of ways) {
    const ends = endsOf(w)
    const rows = w.kind === 'can' ? rowsOf(w.name) : holds(w, isShut(w), ...ends) ? rowsOf(`${w.name} holds`) : []
    if (rows.length > 0)
      names.set(
        w.id,
        place(rows, widest(rows), { at: glyphAt(...ends, glyphs.get(w.id)!), half: [GLYPH, GLYPH], aboveFirst: true }),
      )
  }
  return { at, glyphs, labels, names }
}

/** A name in one row, or in two of which the second is the last word. */
function rowsOf(name: string): readonly string[] {
  const words = name.split(' ')
  return words.length === 1 || name.length <= 9 ? [name] : [words.slice(0, -1).join(' '), words.at(-1)!]
}
