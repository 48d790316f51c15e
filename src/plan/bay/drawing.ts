/** The bay as a measured drawing from one side, with the figures that place each thing, for a file. */
import { heightAt } from '@/core/route/distance'
import type { Point3 } from '@/core/drain/profile'
import { rectangle, type Drawing, type DrawingMark } from '../drawing/drawing'
import type { Bay, Build, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { tubeRadius } from './clearance'
import { canBody, pointOf } from '../catalogue/bay-geometry'
import { layOf, wayOf } from './lay'

/** From the left: ahead to the right. From above: ahead to the right, left up. From the front: the car's left to the right. */
export const SIDES = ['left', 'above', 'front'] as const
export type Side = (typeof SIDES)[number]
export const SIDE_NAMES: Readonly<Record<Side, string>> = {
  left: 'From the left',
  above: 'From above',
  front: 'From the front',
}

/**
 * A point of the bay, m, as a view from `side` lays it on paper, m.
 *
 * @example
 * import { flat } from '@/plan/bay/drawing'
 *
 * console.log(flat('left', [0.1, -0.3, 0.45])) // [ 0.1, 0.45 ]
 */
export const flat = (side: Side, [x, y, z]: Point3): readonly [across: number, up: number] =>
  side === 'left' ? [x, z] : side === 'above' ? [x, y] : [y, z]

type KeepOut = Bay['keepOuts'][number]
type Body = Pick<KeepOut, 'longMm' | 'wideMm' | 'highMm'> & Partial<Pick<KeepOut, 'round' | 'lies'>>
/** How long and high a box or a round body is, seen from a side. */
export const seenFrom = (side: Side, b: Body) => {
  const long = b.round && b.lies === 'left' ? b.highMm : b.longMm
  const wide = !b.round || b.lies === 'left' ? b.wideMm : b.lies === 'ahead' ? b.highMm : b.longMm
  return { acrossMm: side === 'front' ? wide : long, upMm: side === 'above' ? wide : b.highMm }
}
/** Whether a body shows as a circle from a side: a round one along its axis. */
export const isCircleFrom = (side: Side, b: Body): boolean =>
  b.round === true && side === (b.lies === 'ahead' ? 'front' : b.lies === 'left' ? 'left' : 'above')

const SIZE = 9
const mm = ([a, b]: readonly [number, number]): readonly [number, number] => [a * 1000, b * 1000]

function hoseMarks(build: Build, variant: Variant, side: Side): DrawingMark[] {
  return variant.lines.flatMap((l): DrawingMark[] => {
    if (l.kind === 'direct') return []
    const lay = layOf(build.bay, variant, l)
    const middle = lay.ok ? lay.value.middle : wayOf(build.bay, variant, l)
    if (!middle) return []
    const points = middle.map((p) => mm(flat(side, p)))
    const half = points[points.length >> 1]!
    const length = lay.ok ? Math.round(lay.value.lengthM * 1000) : l.lengthMm
    const r = tubeRadius(l.boreMm) * 1000
    return [
      { kind: 'line', layer: 'hose', points },
      { kind: 'text', layer: 'dimension', at: [half[0] + r, half[1] + r], text: `${l.name}: ${length} mm`, size: SIZE },
    ]
  })
}

/** A view of the active plan in its bay; its origin is the datum. */
export function bayDrawing(build: Build, side: Side): Drawing {
  const variant = activeVariant(build)
  const { bay } = build
  const title = `${build.name}, ${SIDE_NAMES[side].toLowerCase()}`
  if (!bay) return { title, marks: [] }
  const at = (p: Point3) => mm(flat(side, p))
  const boxes = bay.keepOuts.flatMap((k): DrawingMark[] => {
    const [x, y] = at(pointOf(k))
    const { acrossMm, upMm } = seenFrom(side, k)
    return [
      isCircleFrom(side, k)
        ? { kind: 'circle', layer: 'keep-out', at: [x, y], r: acrossMm / 2 }
        : rectangle('keep-out', { x0: x - acrossMm / 2, y0: y - upMm / 2, x1: x + acrossMm / 2, y1: y + upMm / 2 }),
      { kind: 'text', layer: 'keep-out', at: [x - acrossMm / 2, y - upMm / 2 - 1.5 * SIZE], text: k.name, size: SIZE },
    ]
  })
  const cans = variant.parts.flatMap((p): DrawingMark[] => {
    const body = p.kind === 'can' ? canBody(bay, p) : undefined
    if (!body) return []
    const [x, y] = at(body.floor)
    const [r, h] = [body.radiusM * 1000, body.heightM * 1000]
    const [ahead, left, up] = body.floor.map((v) => Math.round(v * 1000))
    return [
      side === 'above'
        ? { kind: 'circle', layer: 'outline', at: [x, y], r }
        : rectangle('outline', { x0: x - r, y0: y, x1: x + r, y1: y + h }),
      {
        kind: 'text',
        layer: 'dimension',
        at: [x + r + 3, y],
        text: `${p.name}: ${ahead} ahead, ${left} left, ${up} up`,
        size: SIZE,
      },
    ]
  })
  const ports = bay.spots.flatMap((s): DrawingMark[] => {
    if (variant.parts.some((p) => p.id === s.id && p.kind === 'can')) return []
    const [x, y] = at(pointOf(s))
    return [
      { kind: 'circle', layer: 'outline', at: [x, y], r: 6 },
      { kind: 'text', layer: 'dimension', at: [x + 8, y - 4], text: `${s.forwardMm}, ${s.leftMm}, ${s.upMm}`, size: 6 },
    ]
  })
  const known = bay.bonnet.map(pointOf)
  const lid: DrawingMark[] =
    side === 'above' || known.length === 0
      ? []
      : [
          {
            kind: 'line',
            layer: 'bonnet',
            points: Array.from({ length: 25 }, (_, i) => {
              const k = side === 'left' ? 0 : 1
              const other = known.reduce((s, p) => s + p[1 - k]!, 0) / known.length
              const all = [...bay.spots.map(pointOf), ...known].map((p) => p[k]!)
              const a = Math.min(...all) + ((Math.max(...all) - Math.min(...all)) * i) / 24
              const height = heightAt(known, k === 0 ? a : other, k === 0 ? other : a) ?? 0
              return mm([a, height])
            }),
          },
        ]
  return {
    title,
    marks: [
      ...boxes,
      ...lid,
      ...hoseMarks(build, variant, side),
      ...ports,
      ...cans,
      {
        kind: 'line',
        layer: 'dimension',
        points: [
          [-12, 0],
          [12, 0],
        ],
      },
      {
        kind: 'line',
        layer: 'dimension',
        points: [
          [0, -12],
          [0, 12],
        ],
      },
      { kind: 'text', layer: 'dimension', at: [14, -14], text: `${bay.datum}: 0, 0, 0 (mm)`, size: SIZE },
    ],
  }
}
