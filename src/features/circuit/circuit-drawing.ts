/** The schematic as a drawing of lines and words, for paper: parts as boxes with their names, hoses with theirs. */
import type { Build, Variant } from '@/plan/document/schema'
import { rectangle, type Drawing, type DrawingMark } from '@/plan/drawing/drawing'
import { schematicLayout, type Point2 } from './layout'

/** Millimetres of a unit of the schematic, and half a part's box, in units. */
const [SCALE, HALF_WIDE, HALF_HIGH] = [0.4, 20, 12]

export function circuitDrawing(build: Build, variant: Variant): Drawing {
  const { parts, runs, joins } = schematicLayout(variant, build.engine)
  // drillings in the block are inside
  const shown = parts.filter((p) => p.part.kind !== 'passage')
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
    // words last: nothing covers them
    marks: [
      ...runs.map((r) => line(r.points)),
      ...joins.map((j) => line(j.points)),
      ...shown.map(({ at: [x, y] }) => {
        const [x0, y1] = mm([x - HALF_WIDE, y - HALF_HIGH])
        const [x1, y0] = mm([x + HALF_WIDE, y + HALF_HIGH])
        return rectangle('outline', { x0, y0, x1, y1 })
      }),
      ...runs.map(({ line: l, points }) => {
        const k = Math.floor((points.length - 1) / 2)
        const [from, to] = [points[k]!, points[k + 1] ?? points[k]!]
        return words(l.name, [(from[0] + to[0]) / 2 + 2, (from[1] + to[1]) / 2 - 4])
      }),
      ...shown.map(({ part, at: [x, y] }) => words(part.name, [x - HALF_WIDE, y + HALF_HIGH + 9])),
    ],
  }
}
