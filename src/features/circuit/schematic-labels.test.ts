/** Names and flows on the schematic: on no hose, pipe, part or other text, in any class, school and state. */
import { ENGINE_CLASSES } from '@/plan/catalogue/engines'
import { activeVariant } from '@/plan/edit/edit'
import { figuresOf } from '@/plan/model/figures'
import { newBuild } from '@/plan/schools/new-build'
import { SCHOOLS } from '@/plan/schools/schools'
import { boxAround, boxesAlong, LABEL_SIZE, overlap, type Label, type LabelBox } from '@/ui/labels'
import { textWidth } from '@/ui/text-width'
import { enginePipes } from './engine-boxes'
import { shortName } from './joints'
import { schematicLayout, VIEW } from './layout'
import { flowWidth, isShut } from './look'
import { labelsOf } from './schematic-labels'

/** A text as a browser boxes it. */
function boxOf(text: string, { anchor, x, y }: Label): LabelBox {
  const w = textWidth(text, LABEL_SIZE)
  return [anchor === 'start' ? x : anchor === 'end' ? x - w : x - w / 2, y - 10.6, w, 13.3]
}

test.each(ENGINE_CLASSES.map((c) => c.key))('on %s', (engineClass) => {
  const found: string[] = []
  for (const { key: school } of SCHOOLS) {
    const b = newBuild({ name: 'Test', engineClass, use: 'street', ambientC: 10, units: 'metric', school })
    const layout = schematicLayout(activeVariant(b), b.engine)
    for (const s of figuresOf(b).states) {
      if (!s.solved) continue
      const { labels, flowLabels } = labelsOf(layout, b.engine, s.passages, b.units)
      const texts = [
        ...layout.parts
          .filter((p) => p.part.kind !== 'passage')
          .map((p) => ({ id: p.part.id, text: p.onEngine ? shortName(p.part) : p.part.name })),
        ...flowLabels.filter((l) => labels.has(l.id)),
      ].map(({ id, text }) => ({ id, box: boxOf(text, labels.get(id)!) }))
      const things = [
        ...layout.runs.flatMap(({ line, points }) => {
          const p = s.passages[line.id]
          const half = line.kind === 'drain' ? 1.5 : isShut(p) ? 3.5 : flowWidth(p!.flow) / 2 + 1.25
          return boxesAlong(points, half).map((box) => ({ id: line.id, box }))
        }),
        ...layout.joins.flatMap((j) => boxesAlong(j.points, 3).map((box) => ({ id: j.id, box }))),
        ...enginePipes(b.engine).flatMap((p) => boxesAlong(p, 7.5).map((box) => ({ id: 'the intake', box }))),
        ...layout.parts
          .filter((p) => !p.onEngine && p.part.kind !== 'passage')
          .map((p) => ({ id: p.part.id, box: boxAround(p.at, [10, 10]) })),
      ]
      for (const [i, t] of texts.entries()) {
        const [x, y, w, h] = t.box
        if (x < 0 || x + w > VIEW.width || y < layout.top || y + h > VIEW.height)
          found.push(`${school}, ${s.id}: ${t.id} out of the picture`)
        for (const o of [...things, ...texts.slice(i + 1)])
          if (overlap(t.box, o.box)) found.push(`${school}, ${s.id}: ${t.id} on ${o.id}`)
      }
    }
  }
  expect(found).toEqual([])
})
