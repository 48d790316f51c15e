/** A drawing to scale: lines, circles and words in millimetres, up is up. What makes files of it knows nothing of what it shows. */
export type Layer = 'outline' | 'hose' | 'keep-out' | 'bonnet' | 'dimension' | 'hole' | 'bend' | 'check'
export type DrawingMark =
  | {
      readonly kind: 'line'
      readonly layer: Layer
      readonly points: readonly (readonly [number, number])[]
      readonly closed?: boolean
    }
  | { readonly kind: 'circle'; readonly layer: Layer; readonly at: readonly [number, number]; readonly r: number }
  | {
      readonly kind: 'text'
      readonly layer: Layer
      readonly at: readonly [number, number]
      readonly text: string
      /** height of a capital, mm */
      readonly size: number
    }
export type Drawing = { readonly title: string; readonly marks: readonly DrawingMark[] }

/** A rectangle from corner to corner. */
export const rectangle = (layer: Layer, { x0, y0, x1, y1 }: Bounds): DrawingMark => ({
  kind: 'line',
  layer,
  closed: true,
  points: [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ],
})

/** A square of known side to hold a ruler to: a printer that fits to the page spoils the scale. */
export const checkSquare = (x: number, y: number, side = 50): readonly DrawingMark[] => [
  rectangle('check', { x0: x, y0: y, x1: x + side, y1: y + side }),
  { kind: 'text', layer: 'check', at: [x + 3, y + side / 2], text: `${side} mm: check`, size: 4 },
]

export type Bounds = { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number }

/** Share of a capital's height that a letter is wide, roughly. */
const LETTER = 0.7

/** What a drawing covers, words included; undefined for an empty one. */
export function boundsOf({ marks }: Drawing): Bounds | undefined {
  const points = marks.flatMap((m): readonly (readonly [number, number])[] => {
    if (m.kind === 'line') return m.points
    if (m.kind === 'text') return [m.at, [m.at[0] + m.text.length * m.size * LETTER, m.at[1] + m.size]]
    return [
      [m.at[0] - m.r, m.at[1] - m.r],
      [m.at[0] + m.r, m.at[1] + m.r],
    ]
  })
  if (points.length === 0 || !points.every((p) => p.every(Number.isFinite))) return undefined
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) }
}
