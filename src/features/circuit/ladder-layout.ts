/** Where blocks, glyphs and labels stand on the pressure ladder. Pure: heights are pressures, so room is made sideways and by labels alone. */
import type { Joint, JointLink } from './joints'
import { boxAround, boxesAlong, cheapestBox, overlap, type LabelBox } from '@/ui/labels'
import type { Point2 } from './layout'

export type LadderLabel = { readonly x: number; readonly y: number; readonly rows: readonly string[] }
export type LadderLayout = {
  readonly width: number
  readonly at: ReadonlyMap<string, Point2>
  readonly glyphs: ReadonlyMap<string, Point2>
  readonly labels: ReadonlyMap<string, LadderLabel>
  /** names of cans, in the middle over this point */
  readonly names: ReadonlyMap<string, Point2>
}

/** half the width of a joint's block */
export const halfOf = (joint: Joint) => (joint.through ? 5 : joint.boundary ? 19 : 13)
const GLYPH = 11
/** between two neighbours, and what a valve or can between them takes */
const GAP = 8
const WITH_GLYPH = 2 * GLYPH + 6
const ROW = 12
const PER_LETTER = 5.6
const hasGlyph = (w: JointLink) => w.kind !== 'hose' && w.kind !== 'passage'

/** Places on a curve where its way is told by boxes. */
const SAMPLES = Array.from({ length: 13 }, (_, k) => k / 12)

/** Boxes of a size above and below a point, by turns further off. */
function beside([x, y]: Point2, [half, tall]: readonly [number, number], off: number, aboveFirst: boolean): LabelBox[] {
  return [0, ROW, 2 * ROW, 3 * ROW].flatMap((away): LabelBox[] => {
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
function onCurve([x1, y1]: Point2, [x2, y2]: Point2, t: number): Point2 {
  const s = 1 - t
  const bend = (x1 + x2) / 2
  return [
    s ** 3 * x1 + 3 * s * s * t * bend + 3 * s * t * t * bend + t ** 3 * x2,
    s ** 3 * y1 + 3 * s * s * t * y1 + 3 * s * t * t * y2 + t ** 3 * y2,
  ]
}

/** How high each joint stands in a picture of a height, and whether its label would rather stand above it. */
type Standing = {
  readonly y: (joint: string) => number
  readonly height: number
  readonly prefersAbove: (joint: Joint) => boolean
}

/** Glyphs go to the first free spot along their curve, labels to the cheapest above or below their block or can, within the picture. */
export function placeLadder(
  joints: readonly Joint[],
  ways: readonly JointLink[],
  { width, x }: ReturnType<typeof columnsOf>,
  { y, height, prefersAbove }: Standing,
): LadderLayout {
  const at = new Map<string, Point2>(joints.map((j) => [j.id, [x.get(j.id)!, y(j.id)]]))
  const taken: LabelBox[] = joints.map((j) => boxAround(at.get(j.id)!, [halfOf(j), j.through ? 5 : 10]))
  const glyphs = new Map<string, Point2>()
  for (const w of ways.filter(hasGlyph)) {
    const spots = [0.5, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8].map((t) => onCurve(at.get(w.from)!, at.get(w.to)!, t))
    const aside = [-26, 26, -50, 50].map((dy): Point2 => [spots[0]![0], spots[0]![1] + dy])
    const inside = ([, py]: Point2) => py > GLYPH && py < height - GLYPH
    const spot =
      [...spots, ...aside].find((p) => inside(p) && !taken.some((t) => overlap(t, boxAround(p, [GLYPH, GLYPH])))) ??
      spots[0]!
    glyphs.set(w.id, spot)
    taken.push(boxAround(spot, [GLYPH, GLYPH]))
  }
  const lines = ways.flatMap((w) => {
    const [from, to] = [at.get(w.from)!, at.get(w.to)!]
    return boxesAlong(
      SAMPLES.map((t) => onCurve(from, to, t)),
      3,
    )
  })
  /** The box of those offered that costs least, from now on taken. */
  function cheapest(offers: readonly LabelBox[]): LabelBox {
    const best = offers[cheapestBox(offers, taken, lines, [0, 2, width, height - 4]).index]!
    taken.push(best)
    return best
  }
  const labels = new Map<string, LadderLabel>()
  for (const j of joints) {
    if (j.through) continue
    const [px, py] = at.get(j.id)!
    const words = j.label.split(' ')
    const rows = words.length === 1 || j.label.length <= 9 ? [j.label] : [words.slice(0, -1).join(' '), words.at(-1)!]
    const half = (Math.max(...rows.map((r) => r.length), 5) * PER_LETTER) / 2
    const tall = (rows.length + 1) * ROW
    const middle = Math.min(width - half, Math.max(half, px))
    const [, top] = cheapest(beside([middle, py], [half, tall], 12, prefersAbove(j)))
    labels.set(j.id, { x: middle, y: top + 10, rows })
  }
  const names = new Map<string, Point2>()
  for (const w of ways) {
    if (w.kind !== 'can') continue
    const half = (w.name.length * PER_LETTER) / 2
    const [px, py] = glyphs.get(w.id)!
    const offers = [0, -14, 14].flatMap((dx) => beside([px + dx, py], [half, ROW], GLYPH + 2, true))
    const [x0, top] = cheapest(offers)
    names.set(w.id, [x0 + half, top + 10])
  }
  return { width, at, glyphs, labels, names }
}
