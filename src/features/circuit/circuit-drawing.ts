/** The schematic as a drawing of lines and words, for paper: parts as boxes with their names, hoses with theirs. */
import type { Build, Variant } from '@/plan/document/schema'
import { rectangle, type Drawing, type DrawingMark } from '@/plan/drawing/drawing'
import { schematicLayout, type Point2 } from './layout'

/** Millimetres of a unit of the schematic, and half a part's box, in units. */
const [SCALE, HALF_WIDE, HALF_HIGH] = [0.4, 20, 12]

export function circuitDrawing(build: Build, variant: Variant): Drawing {
  const { parts, runs, joins } = schematicLayout(variant, build.engine)
  const mm = ([x, y]: Point2): readonly [number, number] => [x * SCALE, -y * SCALE]
  const line = (points: readonly Point2[]): DrawingMark => ({ kind: 'line', layer: 'hose', points: points.map(mm) })
  const words = (text: string, [x, y]: Point2): DrawingMark => ({
    kind: 'text',
    layer: 'dimension',
    at: mm([x, y]),
    text,
    size: 2.6,
  })
  return {
    title: 'The circuit',
    marks: [
      ...runs.flatMap(({ line: l, points }): DrawingMark[] => {
        const middle = points[Math.floor((points.length - 1) / 2)]!
        const next = points[Math.floor((points.length - 1) / 2) + 1] ?? middle
        return [line(points), words(l.name, [(middle[0] + next[0]) / 2 + 2, (middle[1] + next[1]) / 2 - 4])]
      }),
      ...joins.map((j) => line(j.points)),
      ...parts.flatMap(({ part, at: [x, y] }): DrawingMark[] => {
        const [x0, y1] = mm([x - HALF_WIDE, y - HALF_HIGH])
        const [x1, y0] = mm([x + HALF_WIDE, y + HALF_HIGH])
        return [rectangle('outline', { x0, y0, x1, y1 }), words(part.name, [x - HALF_WIDE, y + HALF_HIGH + 9])]
      }),
    ],
  }
}
