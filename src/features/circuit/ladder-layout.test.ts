/** The pressure ladder: no block, valve, hose or text of it lies under a text, in any class, school and state. */
import { ENGINE_CLASSES } from '@/plan/catalogue/engines'
import { activeVariant } from '@/plan/edit/edit'
import { figuresOf } from '@/plan/model/figures'
import { newBuild } from '@/plan/schools/new-build'
import { SCHOOLS } from '@/plan/schools/schools'
import { boxAround, boxesAlong, LABEL_SIZE, overlap, type LabelBox } from '@/ui/labels'
import { textWidth } from '@/ui/text-width'
import { jointsOf } from './joints'
import {
  columnsOf,
  glyphAt,
  halfOf,
  LADDER,
  ladderScale,
  onCurve,
  placeLadder,
  ROW_HEIGHT,
  type LadderLabel,
} from './ladder-layout'
import { flowWidth, isShut } from './look'
import type { Point2 } from './layout'

const { left, height, leastWidth } = LADDER

/** The rows of a text as a browser boxes them, and its figure where it has one. */
const boxesOf = ({ dx, dy, rows }: LadderLabel, [x, y]: Point2, figure: string | undefined): LabelBox[] =>
  [...rows, ...(figure === undefined ? [] : [figure])].map((row, i) => {
    const w = textWidth(row, LABEL_SIZE)
    return [x + dx - w / 2, y + dy + i * ROW_HEIGHT - 10.6, w, 13.3]
  })

const buildOf = (school: string, engineClass: (typeof ENGINE_CLASSES)[number]['key']) =>
  newBuild({ name: 'Test', engineClass, use: 'street', ambientC: 10, units: 'metric', school })

test.each(ENGINE_CLASSES.map((c) => c.key))('on %s', (engineClass) => {
  const found: string[] = []
  for (const { key: school } of SCHOOLS) {
    const b = buildOf(school, engineClass)
    const { joints, ways } = jointsOf(activeVariant(b))
    const columns = columnsOf(joints, ways, left, leastWidth)
    const { states } = figuresOf(b)
    const { scale } = ladderScale(states, LADDER.top, height - LADDER.bottom)
    for (const s of states) {
      if (!s.solved) continue
      const y = (id: string) => scale(s.gauge[id] ?? 0)
      const half = (id: string) => (isShut(s.passages[id]) ? 1.25 : flowWidth(s.passages[id]!.flow) / 2 + 1)
      const { at, glyphs, labels, names } = placeLadder(joints, ways, columns, {
        y,
        prefersAbove: (j) => joints.indexOf(j) % 2 === 0,
        half: (w) => half(w.id),
        isShut: (w) => isShut(s.passages[w.id]),
      })
      const glyphPoint = (id: string) => {
        const w = ways.find((x) => x.id === id)!
        return glyphAt(at.get(w.from)!, at.get(w.to)!, glyphs.get(id)!)
      }
      const texts = [
        ...[...labels].map(([id, l]) => ({ id, boxes: boxesOf(l, at.get(id)!, '-00.0') })),
        ...[...names].map(([id, l]) => ({ id, boxes: boxesOf(l, glyphPoint(id), undefined) })),
      ]
      const things = [
        ...joints.map((j) => ({ id: j.id, box: boxAround(at.get(j.id)!, [halfOf(j), j.through ? 5 : 10]) })),
        ...[...glyphs.keys()].map((id) => ({ id, box: boxAround(glyphPoint(id), [10, 10]) })),
        ...ways.flatMap((w) => {
          const points = Array.from({ length: 61 }, (_, k) => onCurve(at.get(w.from)!, at.get(w.to)!, k / 60))
          return boxesAlong(points, half(w.id)).map((box) => ({ id: w.id, box }))
        }),
      ]
      for (const [i, t] of texts.entries()) {
        for (const [x, top, w, h] of t.boxes)
          if (x < left || x + w > columns.width || top < 0 || top + h > height)
            found.push(`${school}, ${s.id}: ${t.id} out of the picture`)
        const others = [...things, ...texts.slice(i + 1).flatMap((o) => o.boxes.map((box) => ({ id: o.id, box })))]
        for (const o of others)
          if (t.boxes.some((box) => overlap(box, o.box))) found.push(`${school}, ${s.id}: ${t.id} on ${o.id}`)
      }
    }
  }
  expect([...new Set(found)]).toEqual([])
})

test('all at one pressure: no block or valve covers another, every text in the picture', () => {
  for (const school of SCHOOLS) {
    const { joints, ways } = jointsOf(activeVariant(buildOf(school.key, 'i5-turbo')))
    const columns = columnsOf(joints, ways, left, leastWidth)
    for (const level of [LADDER.top, 200, height - LADDER.bottom]) {
      const { at, glyphs, labels } = placeLadder(joints, ways, columns, {
        y: () => level,
        prefersAbove: () => true,
        half: () => 4,
        isShut: () => false,
      })
      const boxes = [
        ...joints.map((j) => ({ id: j.id, box: boxAround(at.get(j.id)!, [halfOf(j), 5]) })),
        ...[...glyphs].map(([id, spot]) => {
          const w = ways.find((x) => x.id === id)!
          return { id, box: boxAround(glyphAt(at.get(w.from)!, at.get(w.to)!, spot), [10, 10]) }
        }),
      ]
      for (const [i, a] of boxes.entries())
        for (const b of boxes.slice(i + 1))
          expect([school.key, a.id, b.id, overlap(a.box, b.box)]).toEqual([school.key, a.id, b.id, false])
      for (const [id, l] of labels)
        for (const [, top, , h] of boxesOf(l, at.get(id)!, '-00.0')) {
          expect(top).toBeGreaterThanOrEqual(0)
          expect(top + h).toBeLessThanOrEqual(height)
        }
    }
  }
})
