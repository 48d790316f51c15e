/** Hoses led through the bay one after the other, each clear of all that have their ways. */
import { scaled, type Job } from '@/core/job'
import { distanceBetween } from '@/core/route/distance'
import { endPlace } from '../catalogue/bay-geometry'
import type { Build, Line } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { withWay } from './bay-builders'
import { tightGapsOf } from './clearance'
import { findLineWay, passingWay } from './find-way'
import { layOf } from './lay'
import { looseParts, piecesOn, withPiecesAtMouths } from './loose-parts'

export type Led = {
  readonly build: Build
  /** hoses that no way was found for, and why */
  readonly stuck: readonly { readonly line: Line; readonly reason: string }[]
}

/** How often lines that found no way are led before the others. */
const ORDERS = 3

/**
 * Leads some lines of the active plan, drains first, then the shortest: each keeps clear of all that have their ways. Those that find none
 * are led first in a next round. Yields the share done.
 * @param mostStuck with more than so many the answer is of no use: a round is given up there, its lines led in part
 */
export function* leadLines(build: Build, ids: ReadonlySet<string>, mostStuck = Infinity): Job<Led> {
  const variant = activeVariant(build)
  const span = (l: Line) => {
    const [a, b] = [endPlace(build.bay, variant, l.from)?.at, endPlace(build.bay, variant, l.to)?.at]
    return a && b ? distanceBetween(a, b) : 0
  }
  let order = variant.lines
    .filter((l) => ids.has(l.id) && l.kind !== 'direct')
    .toSorted((a, b) => Number(b.kind === 'drain') - Number(a.kind === 'drain') || span(a) - span(b))
  let best: Led | undefined
  for (let round = 0; round < ORDERS; round++) {
    const led = yield* scaled(leadInOrder(build, order, mostStuck), round / ORDERS, 1 / ORDERS)
    if (!best || led.stuck.length < best.stuck.length) best = led
    if (best.stuck.length === 0) break
    const stuck = new Set(led.stuck.map((s) => s.line.id))
    const next = [...order.filter((l) => stuck.has(l.id)), ...order.filter((l) => !stuck.has(l.id))]
    if (next.every((l, i) => l.id === order[i]!.id)) break
    order = next
  }
  return best!
}

function* leadInOrder(build: Build, lines: readonly Line[], mostStuck: number): Job<Led> {
  const unled = new Set(lines.map((l) => l.id))
  const stuck: { line: Line; reason: string }[] = []
  let now = build
  for (const line of lines) now = withWay(now, line.id, undefined)
  now = withPiecesAtMouths(now)
  for (const [i, line] of lines.entries()) {
    const found = yield* scaled(findLineWay(now, line.id, { unled }), i / lines.length, 1 / lines.length)
    if (found.ok) now = withWay(now, line.id, found.value)
    else {
      // a drain that cannot fall is led clear of what stands there all the same: its verdict says that it does not drain
      const clear = line.kind === 'drain' ? yield* findLineWay(now, line.id, { unled, falls: false }) : found
      if (clear.ok) now = withWay(now, line.id, clear.value)
      else {
        stuck.push({ line, reason: found.reason })
        if (stuck.length > mostStuck) return { build: now, stuck }
        const past = yield* passingWay(now, line, { unled, falls: false })
        if (past.ok) now = withWay(now, line.id, past.value)
      }
    }
    unled.delete(line.id)
  }
  // the lid of a can turns as its hoses are led: what lay well before may not now
  const variant = activeVariant(now)
  for (const { id } of lines) {
    if (stuck.some((s) => s.line.id === id)) continue
    const line = variant.lines.find((l) => l.id === id)!
    const lay = layOf(now.bay, variant, line)
    const met = tightGapsOf(now, variant, id)[0]?.to
    if (!lay.ok) stuck.push({ line, reason: lay.reason })
    else if (met !== undefined) stuck.push({ line, reason: `It comes too near to ${met}.` })
  }
  return { build: now, stuck }
}

/** Lines that have to be led again when a can is moved: its own, and those of what is screwed to it or vents it. */
export function linesRound(build: Build, can: string): Set<string> {
  const variant = activeVariant(build)
  const moved = new Set([can, ...piecesOn(variant, can).map((o) => o.part.id)])
  for (const part of looseParts(build, variant)) moved.add(part.id)
  return new Set(
    variant.lines
      .filter((l) => l.kind !== 'direct' && (moved.has(l.from.part) || moved.has(l.to.part)))
      .map((l) => l.id),
  )
}
