/** A ready bay opened for a plan: its cans placed, what hangs in hoses between them, and every hose led. */
import { scaled, type Job } from '@/core/job'
import type { Result } from '@/core/result'
import { readyBay } from '../catalogue/bays'
import { spotIn } from '../catalogue/bay-geometry'
import type { Bay, Build, PartOf } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { StateResult } from '../model/results'
import { leadLines, linesRound, type Led } from './lead-lines'
import { withLooseParts, withSpots } from './loose-parts'
import { putAt, spotsFor, type FreeSpot } from './best-spots'
import { withLengths } from './lay'
import { sitsOnEngine } from './place'

/** How many places of a can are tried where a hose of the first finds no way. */
const TRIED = 20

export type OpenedBay = Led & {
  /** cans that nothing holds, and why */
  readonly unplaced: readonly { readonly part: PartOf<'can'>; readonly reason: string }[]
}

/** Places for a can from which it drains, else any: that it does not drain is said by its verdict. */
function* placesFor(build: Build, states: readonly StateResult[], can: string): Job<Result<readonly FreeSpot[]>> {
  const draining = yield* scaled(spotsFor(build, states, can, { most: TRIED, drained: true }), 0, 0.5)
  if (draining.ok) return draining
  return yield* scaled(spotsFor(build, states, can, { most: TRIED, drained: false }), 0.5, 0.5)
}

/**
 * The build in a ready bay; measured ends stay. What no way or place was found for is listed. Yields the share done.
 * @param around bonnet and what stands in the bay, where they are the builder's own
 */
export function* openBay(
  build: Build,
  states: readonly StateResult[],
  key: string,
  around: Partial<Pick<Bay, 'bonnet' | 'keepOuts'>> = {},
): Job<OpenedBay> {
  const bay = { ...readyBay(build, activeVariant(build), key), ...around }
  const bare: Build = { ...build, bay, variants: build.variants.map((v) => withLengths(bay, v)) }
  const variant = activeVariant(bare)
  const seated = variant.parts.filter((p) => p.kind === 'can' && sitsOnEngine(variant, p.id)).map((p) => p.id)
  const cans = variant.parts.filter(
    (p): p is PartOf<'can'> => p.kind === 'can' && !seated.includes(p.id) && !spotIn(bay, p.id)?.measured,
  )
  const placed = new Set(
    variant.parts.flatMap((p) => (p.kind === 'can' && !cans.some((c) => c.id === p.id) ? [p.id] : [])),
  )
  const lines = new Set(variant.lines.map((l) => l.id))
  const unplaced: { part: PartOf<'can'>; reason: string }[] = []
  let now = withLooseParts(bare, placed)
  for (const [i, can] of cans.entries()) {
    const spots = yield* scaled(placesFor(now, states, can.id), (0.3 * i) / cans.length, 0.3 / cans.length)
    placed.add(can.id)
    if (spots.ok) now = withLooseParts(withSpots(now, new Map([[can.id, spots.value[0]!.floor]])), placed)
    else unplaced.push({ part: can, reason: spots.reason })
  }
  let best = yield* scaled(leadLines(now, lines), 0.3, 0.3)
  // another place for a can whose hoses find no way
  for (const [i, can] of cans.entries()) {
    const isStuck = () => best.stuck.some(({ line }) => [line.from, line.to].some((e) => e.part === can.id))
    if (!isStuck() || unplaced.some((u) => u.part === can)) continue
    const spots = yield* placesFor(best.build, states, can.id)
    for (const [k, { floor }] of (spots.ok ? spots.value : []).entries()) {
      const from = 0.6 + (0.4 * (i + k / TRIED)) / cans.length
      const reroutedLines = linesRound(best.build, can.id)
      const others = best.stuck.filter((s) => !reroutedLines.has(s.line.id))
      const mostStuck = best.stuck.length - others.length - 1
      const led = yield* scaled(putAt(best.build, can.id, floor, mostStuck), from, 0.4 / TRIED / cans.length)
      if (led.stuck.length <= mostStuck) best = { build: led.build, stuck: [...others, ...led.stuck] }
      if (!isStuck()) break
    }
  }
  return { ...best, unplaced }
}
