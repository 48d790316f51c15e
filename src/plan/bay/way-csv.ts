/** The ways of a plan's lines as a table: read in another program, changed there and read in again. */
import { fail, ok, type Result } from '@/core/result'
import { byLine, csvOf, readCsv } from '../files/csv'
import type { Build, Line } from '../document/schema'
import { MAX_WAY } from '../document/bounds'
import { SPOT_FIELDS } from '../document/bay-fields'
import { activeVariant } from '../edit/edit'
import { chain, type EditBuilder } from '../edit/edit-builders'
import { setWay } from './bay-builders'

const COLUMNS = ['line', 'point', 'ahead_mm', 'left_mm', 'up_mm'] as const

/** A row a point, in the order of the way; a line that is led straight has none. */
export const waysCsv = (build: Build): string =>
  csvOf([
    COLUMNS,
    ...activeVariant(build).lines.flatMap((l) =>
      (l.way ?? []).map((p, i) => [l.id, i + 1, p.forwardMm, p.leftMm, p.upMm]),
    ),
  ])

/** What leads the lines that a table names by its points, all or none; fails with every line of it that is wrong. */
export function readWays(build: Build, text: string): Result<EditBuilder> {
  const read = readCsv(text, COLUMNS)
  if (!read.ok) return read
  const known = new Map(activeVariant(build).lines.map((l) => [l.id, l]))
  const problems: { line: number; says: string }[] = []
  const ways = new Map<string, { order: number; place: NonNullable<Line['way']>[number] }[]>()
  for (const { line, cells } of read.value) {
    const id = cells['line']!
    if (!known.has(id)) problems.push({ line, says: `this plan has no line ${id || '(none named)'}.` })
    const numbers = [cells['point'], cells['ahead_mm'], cells['left_mm'], cells['up_mm']].map((c) =>
      c ? Number(c) : NaN,
    )
    const [order, forwardMm, leftMm, upMm] = numbers as [number, number, number, number]
    const limits = [SPOT_FIELDS.forwardMm, SPOT_FIELDS.leftMm, SPOT_FIELDS.upMm]
    const out = [forwardMm, leftMm, upMm].findIndex((v, i) => !(v >= limits[i]!.min && v <= limits[i]!.max))
    if (!Number.isFinite(order) || out >= 0)
      problems.push({ line, says: `${out >= 0 ? COLUMNS[out + 2] : 'point'} is not a number within its limits.` })
    ways.set(id, [...(ways.get(id) ?? []), { order, place: { forwardMm, leftMm, upMm } }])
  }
  for (const [id, points] of ways)
    if (points.length > MAX_WAY)
      problems.push({ line: 1, says: `${id} has ${points.length} points; at most ${MAX_WAY}.` })
  if (problems.length > 0) return fail(byLine(problems))
  if (ways.size === 0) return fail('The table holds no points.')
  return ok(
    chain(
      ...[...ways].map(([id, points]) =>
        setWay(
          id,
          points.toSorted((a, b) => a.order - b.order).map((p) => p.place),
        ),
      ),
    ),
  )
}
