/** Where texts stand on a picture so that they cover nothing: boxes, hoses as boxes, and the cheapest of the places around a spot. Pure. */
import { textWidth } from './text-width'

type LabelPoint = readonly [x: number, y: number]
export type LabelBox = readonly [x: number, y: number, w: number, h: number]
export const overlap = (a: LabelBox, b: LabelBox) =>
  a[0] < b[0] + b[2] && b[0] < a[0] + a[2] && a[1] < b[1] + b[3] && b[1] < a[1] + a[3]

export type Label = {
  readonly x: number
  readonly y: number
  readonly anchor: 'start' | 'end' | 'middle'
  /** from the text to what it names, where it stands further off */
  readonly leader?: readonly [LabelPoint, LabelPoint] | undefined
}

/** Size of the letters of a label, and how far they reach over and under their line (B612). */
export const LABEL_SIZE = 11
const [ASCENT, DESCENT] = [0.965 * LABEL_SIZE, 0.25 * LABEL_SIZE]

export const boxAround = ([x, y]: LabelPoint, [w, h]: readonly [number, number]): LabelBox => [
  x - w,
  y - h,
  2 * w,
  2 * h,
]

/** Boxes along a hose, for what must keep clear of it. */
export function boxesAlong(points: readonly LabelPoint[], half: number): LabelBox[] {
  return points.slice(1).map((b, k) => {
    const a = points[k]!
    return [
      Math.min(a[0], b[0]) - half,
      Math.min(a[1], b[1]) - half,
      Math.abs(a[0] - b[0]) + 2 * half,
      Math.abs(a[1] - b[1]) + 2 * half,
    ]
  })
}

/** Points of a slanting hose close enough together that boxes between them lie on it and little else. */
export function densePoints(points: readonly LabelPoint[], piece = 8): LabelPoint[] {
  return points.flatMap((b, k) => {
    const a = points[k - 1]
    if (!a) return [b]
    const n = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / piece))
    return Array.from({ length: n }, (_, i): LabelPoint => {
      const t = (i + 1) / n
      return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
    })
  })
}

type Wanted = {
  readonly id: string
  /** where it may stand: the first is the best */
  readonly spots: readonly LabelPoint[]
  readonly half: readonly [w: number, h: number]
  readonly text: string
  /** best of all in the middle of what it names, where it is wide enough */
  readonly inside?: boolean
  /** rather left out than laid over anything */
  readonly optional?: true
  /** how far off it may stand, with a leader, where nothing beside it is free */
  readonly reach?: number
}
/** What a label on a part or another text costs; what one across a hose, and across as many as there may be, less than that; off the picture. */
const ON_PART = 100
const [ON_HOSE, ON_HOSES] = [12, 60]
const OFF_PICTURE = 1000
/** of equals the first: less in all than a hose */
const NEXT_BEST = 1e-3

/**
 * The box of those offered that lies on the least of parts, texts and hoses and within the picture, the first among equals: which, and what
 * it costs.
 */
export function cheapestBox(
  boxes: readonly LabelBox[],
  taken: readonly LabelBox[],
  hoses: readonly LabelBox[],
  [left, top, width, height]: LabelBox,
): { readonly index: number; readonly cost: number } {
  let [index, least] = [0, Infinity]
  for (const [k, box] of boxes.entries()) {
    const off = box[0] < left || box[0] + box[2] > left + width || box[1] < top || box[1] + box[3] > top + height
    const laid =
      (off ? OFF_PICTURE : 0) +
      ON_PART * taken.filter((t) => overlap(t, box)).length +
      Math.min(ON_HOSES, ON_HOSE * hoses.filter((h) => overlap(h, box)).length)
    if (laid + k * NEXT_BEST < least) [index, least] = [k, laid + k * NEXT_BEST]
    // what comes after one that is clear is no better
    if (laid === 0) break
  }
  return { index, cost: least }
}

/**
 * A place for each text beside what it names: the one that lies on the least of parts, texts and hoses, the nearest among equals.
 * @param picture what no text may leave
 */
export function placeLabels(
  wanted: readonly Wanted[],
  hoses: readonly LabelBox[],
  marks: readonly LabelBox[],
  picture: LabelBox,
): ReadonlyMap<string, Label> {
  const taken: LabelBox[] = [...marks]
  const placed = new Map<string, Label>()
  /** The cheapest of some places, and what it costs. */
  const cheapest = (options: readonly Place[]) => {
    const { index, cost } = cheapestBox(
      options.map(([, box]) => box),
      taken,
      hoses,
      picture,
    )
    return { place: options[index]!, cost }
  }
  for (const { id, spots, half, text, inside, optional, reach } of wanted) {
    const width = textWidth(text, LABEL_SIZE) + 2
    const fits = inside && width < 2 * half[0] && half[1] > 7
    let best = cheapest(
      spots.flatMap((spot) => [
        ...(fits ? [labelPlace(['middle', spot[0], spot[1] + 4], width)] : []),
        ...placesAround(spot, half, width),
      ]),
    )
    if (reach !== undefined && best.cost >= ON_HOSE) {
      const far = cheapest(placesFurther(spots[0]!, half, width, reach))
      if (far.cost < best.cost) best = far
    }
    if (optional && best.cost >= ON_HOSE) continue
    taken.push(best.place[1])
    placed.set(id, best.place[0])
  }
  return placed
}

type Place = readonly [Label, LabelBox]

/** Steps of a search further off, the nearest first; from how far off a leader is wanted; what is no nearer than what stands beside. */
const [STEP_X, STEP_Y, LEADER_FROM, NEAREST] = [9, 6, 12, 3]

/**
 * Boxes of a size all around a mark within reach, the nearest first, each with a leader from the mark to it where it stands apart.
 * @param half of the mark
 */
export function boxesFurther(
  [x, y]: LabelPoint,
  [w, h]: readonly [number, number],
  [width, height]: readonly [number, number],
  reach: number,
): readonly { readonly box: LabelBox; readonly leader: Label['leader'] }[] {
  const found: { readonly far: number; readonly box: LabelBox; readonly leader: Label['leader'] }[] = []
  const [across, up] = [Math.floor((reach + w + width / 2) / STEP_X), Math.floor((reach + h + height / 2) / STEP_Y)]
  for (let i = -across; i <= across; i++)
    for (let k = -up; k <= up; k++) {
      const box: LabelBox = [x + i * STEP_X - width / 2, y + k * STEP_Y - height / 2, width, height]
      // from the nearest point of the mark to that of the box
      const end: LabelPoint = [between(x, box[0], box[0] + width), between(y, box[1], box[1] + height)]
      const start: LabelPoint = [between(end[0], x - w, x + w), between(end[1], y - h, y + h)]
      // Math.hypot takes ten times as long
      const [dx, dy] = [end[0] - start[0], end[1] - start[1]]
      const far = Math.sqrt(dx * dx + dy * dy)
      if (far > NEAREST && far <= reach) found.push({ far, box, leader: far > LEADER_FROM ? [start, end] : undefined })
    }
  return found.toSorted((a, b) => a.far - b.far)
}

/** Places for one line of text further off. */
const placesFurther = (
  at: LabelPoint,
  half: readonly [number, number],
  width: number,
  reach: number,
): readonly Place[] =>
  boxesFurther(at, half, [width, ASCENT + DESCENT], reach).map(({ box, leader }) => [
    { anchor: 'middle', x: box[0] + width / 2, y: box[1] + ASCENT, leader },
    box,
  ])

const between = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v))

function placesAround([x, y]: LabelPoint, [w, h]: readonly [number, number], width: number): readonly Place[] {
  const places = [
    ['start', x + w + 4, y + 4],
    ['middle', x, y - h - 5],
    ['middle', x, y + h + 12],
    ['end', x - w - 4, y + 4],
    ['start', x + w + 2, y - h],
    ['end', x - w - 2, y - h],
    ['start', x + w + 2, y + h + 8],
    ['end', x - w - 2, y + h + 8],
    ['start', x - w, y - h - 5],
    ['start', x - w, y + h + 12],
    ['end', x + w, y - h - 5],
    ['end', x + w, y + h + 12],
    ['middle', x, y - h - 18],
    ['start', x - w, y - h - 18],
    ['end', x + w, y - h - 18],
    ['middle', x, y + h + 25],
  ] as const
  return places.map((place) => labelPlace(place, width))
}

const labelPlace = ([anchor, x, y]: readonly [Label['anchor'], number, number], width: number): Place => [
  { anchor, x, y },
  [anchor === 'start' ? x : anchor === 'end' ? x - width : x - width / 2, y - ASCENT, width, ASCENT + DESCENT],
]

/** Straights of a hose, the longest first. */
export const straightRuns = (points: readonly LabelPoint[]): readonly (readonly [LabelPoint, LabelPoint])[] =>
  points
    .slice(1)
    .map((b, k) => [points[k]!, b] as const)
    .toSorted(([a, b], [c, d]) => Math.hypot(d[0] - c[0], d[1] - c[1]) - Math.hypot(b[0] - a[0], b[1] - a[1]))

/** Middles of the straights of a hose, each with two more a little along. */
export const spotsAlong = (points: readonly LabelPoint[]): readonly LabelPoint[] =>
  straightRuns(points).flatMap(([a, b]) =>
    [0.5, 0.3, 0.7].map((t): LabelPoint => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]),
  )
