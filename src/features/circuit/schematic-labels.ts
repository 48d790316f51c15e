/** Where names and flows stand on the schematic: on no hose, pipe or part and on no other, in every state. Pure. */
import { formatQuantity } from '@/core/units/format'
import type { UnitChoice } from '@/core/units/units'
import type { Engine, PartKind } from '@/plan/document/schema'
import type { Passage } from '@/plan/model/results'
import {
  boxAround,
  boxesAlong,
  overlap,
  placeLabels,
  spotsAlong,
  straightRuns,
  LABEL_SIZE,
  type Label,
} from '@/ui/labels'
import { textWidth } from '@/ui/text-width'
import { bodyOf, engineBoxes } from './engine-boxes'
import { shortName } from './joints'
import { VIEW, type PlacedPart, type Point2, type SchematicLayout } from './layout'
import { isShut } from './look'

type Passages = Readonly<Record<string, Passage>>
export function flowText(kg: number, units: UnitChoice): string {
  const f = formatQuantity(Math.abs(kg), 'gasFlow', units, 2)
  return `${f.text} ${f.unit}`
}

/** Half the width of the widest hose as drawn, chosen, with a little air: names stand where they do in every state. */
const HOSE_HALF = 10
/** How far off a name or a flow may stand, with a leader. */
const REACH = { name: 170, flow: 40 }

/** Names of parts and flows of hoses, clear of parts, hoses and each other. */
export function labelsOf(layout: SchematicLayout, engine: Engine, passages: Passages, units: UnitChoice) {
  const flowLabels = layout.runs.flatMap(({ line, points }) => {
    const p = passages[line.id]
    if (line.kind === 'drain' || p === undefined || isShut(p)) return []
    return [
      {
        id: `flow ${line.id}`,
        line: line.id,
        spots: spotsAlong(points),
        half: [HOSE_HALF, HOSE_HALF] as const,
        text: `${arrow(points, p.flow)} ${flowText(p.flow, units)}`,
        optional: true as const,
        reach: REACH.flow,
      },
    ]
  })
  const named = layout.parts.filter((p) => p.part.kind !== 'passage')
  const outside = named.filter((p) => !p.onEngine)
  const wordOf = ({ part, onEngine }: PlacedPart) => (onEngine ? shortName(part) : part.name)
  const bodies = new Map(named.map((p) => [p.part.id, p.onEngine ? bodyOf(p) : undefined]))
  const pipes = [
    ...layout.runs.flatMap((r) => boxesAlong(r.points, r.line.kind === 'drain' ? 3 : HOSE_HALF)),
    ...layout.joins.flatMap((j) => boxesAlong(j.points, 4)),
  ]
  const marked = outside.map((p) => boxAround(p.at, markHalf(p.part.kind)))
  // a name stands in the body that is drawn of its part, where it fits and nothing crosses it
  const within = named.flatMap((p) => {
    const body = bodies.get(p.part.id)
    const half = textWidth(wordOf(p), LABEL_SIZE) / 2
    if (!body?.holdsName || half > body.half[0]) return []
    const [x, y] = body.at
    if ([...pipes, ...marked].some((box) => overlap(box, [x - half, y - 6, 2 * half, 13]))) return []
    return [{ id: p.part.id, label: { anchor: 'middle' as const, x, y: y + 4 } }]
  })
  const settled = new Set(within.map((w) => w.id))
  const names = named
    .filter((p) => !settled.has(p.part.id))
    .map((p) => ({
      id: p.part.id,
      spots: [bodies.get(p.part.id)?.at ?? p.at],
      half: bodies.get(p.part.id)?.half ?? markHalf(p.part.kind),
      text: wordOf(p),
      reach: REACH.name,
    }))
  const bodyMarks = [...bodies.values()].flatMap((body) => (body ? [boxAround(body.at, body.half)] : []))
  const picture = [0, layout.top, VIEW.width, VIEW.height - layout.top] as const
  const placed = placeLabels(
    [...names, ...flowLabels],
    [...pipes, ...engineBoxes(engine)],
    [...marked, ...bodyMarks],
    picture,
  )
  return { flowLabels, labels: new Map<string, Label>([...within.map((w) => [w.id, w.label] as const), ...placed]) }
}

/** Half the width and height of what marks a part. */
const markHalf = (kind: PartKind): readonly [number, number] =>
  kind === 'can' ? [19, 24] : kind === 'tank' ? [22, 28] : [13, 13]

/** Direction in a word of one sign, along the longest straight. */
function arrow(points: readonly Point2[], flow: number): string {
  const [[ax, ay], [bx, by]] = straightRuns(points)[0] ?? [
    [0, 0],
    [0, 0],
  ]
  const [dx, dy] = flow > 0 ? [bx - ax, by - ay] : [ax - bx, ay - by]
  return Math.abs(dx) > Math.abs(dy) ? (dx > 0 ? '→' : '←') : dy > 0 ? '↓' : '↑'
}
