/** How the bay becomes places in a picture. */
import type { Point3 } from '@/core/drain/profile'
import { heightAt } from '@/core/route/distance'
import { canBody, pointOf } from '@/plan/catalogue/bay-geometry'
import { flat, seenFrom, type Side } from '@/plan/bay/drawing'
import type { Bay, PartOf } from '@/plan/document/schema'
import type { LabelBox } from '@/ui/labels'

export type Frame = {
  readonly x: (m: number) => number
  readonly y: (m: number) => number
  /** picture units to the metre */
  readonly scale: number
}

/** The frame that shows all points in a picture of this size, the same scale both ways. */
export function frameFor(
  points: readonly (readonly [number, number])[],
  width: number,
  height: number,
  margin = 26,
): Frame {
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)]
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)]
  const scale = Math.min((width - 2 * margin) / Math.max(0.2, x1 - x0), (height - 2 * margin) / Math.max(0.2, y1 - y0))
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2]
  return { x: (m) => width / 2 + (m - cx) * scale, y: (m) => height / 2 - (m - cy) * scale, scale }
}

/** Where a point of the bay stands in a picture from one side. */
export const place = (frame: Frame, side: Side, p: Point3): readonly [number, number] => {
  const [a, u] = flat(side, p)
  return [frame.x(a), frame.y(u)]
}

/** A hose as wide as it is outside, m, in the picture's units. */
export const hoseWidth = (frame: Frame, boreMm: number) => Math.max(3, (boreMm / 1000 + 0.007) * frame.scale)

/** Hatched where it is hot, dotted where it moves. */
export const isMarked = ({ kind }: Bay['keepOuts'][number]): boolean => kind === 'hot' || kind === 'moving'

/** Whose names a view holds, the first before the last: what harms, then the engine; of all else the name is under the pointer and in the table. */
const NAMED: readonly Bay['keepOuts'][number]['kind'][] = ['hot', 'moving', 'brake', 'fuel', 'electrical', 'engine']
export const isNamed = ({ kind }: Bay['keepOuts'][number]): boolean => NAMED.includes(kind)
export const namedFirst = (a: Bay['keepOuts'][number], b: Bay['keepOuts'][number]): number =>
  NAMED.indexOf(a.kind) - NAMED.indexOf(b.kind)

/** What is nearer to the eye covers what is further; panels cover nothing. */
export const byDepth = (side: Side) => (a: Bay['keepOuts'][number], b: Bay['keepOuts'][number]) =>
  Number(b.kind === 'panel') - Number(a.kind === 'panel') ||
  (side === 'above'
    ? a.upMm + a.highMm / 2 - b.upMm - b.highMm / 2
    : side === 'front'
      ? a.forwardMm + a.longMm / 2 - b.forwardMm - b.longMm / 2
      : a.leftMm + a.wideMm / 2 - b.leftMm - b.wideMm / 2)

export function keepOutBox(frame: Frame, side: Side, k: Bay['keepOuts'][number]): LabelBox {
  const [x, y] = place(frame, side, pointOf(k))
  const seen = seenFrom(side, k)
  const [w, h] = [(seen.acrossMm / 1000) * frame.scale, (seen.upMm / 1000) * frame.scale]
  return [x - w / 2, y - h / 2, w, h]
}

/** A can's outline; from above a circle. */
export function canBox(frame: Frame, side: Side, bay: Bay, can: PartOf<'can'>): LabelBox | undefined {
  const body = canBody(bay, can)
  if (!body) return undefined
  const r = body.radiusM * frame.scale
  const [x, y] = place(frame, side, body.floor)
  const height = side === 'above' ? 2 * r : body.heightM * frame.scale
  return [x - r, side === 'above' ? y - r : y - height, 2 * r, height]
}

/** The bonnet's line as it is seen; none from above. */
export function lidLine(frame: Frame, side: Side, bay: Bay): readonly (readonly [number, number])[] {
  if (side === 'above' || bay.bonnet.length === 0) return []
  const known = bay.bonnet.map(pointOf)
  const k = side === 'front' ? 1 : 0
  const across = [...bay.spots, ...bay.bonnet].map((p) => pointOf(p)[k])
  const [from, to] = [Math.min(...across) - 0.05, Math.max(...across) + 0.05]
  const other = known.reduce((s, p) => s + p[1 - k]!, 0) / known.length
  return Array.from({ length: 24 }, (_, i) => {
    const a = from + ((to - from) * i) / 23
    return [frame.x(a), frame.y(heightAt(known, k === 0 ? a : other, k === 0 ? other : a) ?? 0)] as const
  })
}
