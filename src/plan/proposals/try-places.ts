/** The plan as it stands, its sizes held and its places free: where else its cans could stand, and what the plan then gives. */
import { fail, ok, type Result } from '@/core/result'
import { scaled, type Job } from '@/core/job'
import { analyseOverCycle } from '../analyse-over-cycle'
import { bestSpots } from '../bay/best-spots'
import type { Build } from '../document/schema'
import { difference } from '../edit/diff'
import { activeVariant, type Edit } from '../edit/edit'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { measurePlan } from '../studies/measure'
import type { PlanMeasure } from '../studies/measure-parts'

export type TriedPlace = {
  /** name of the can; undefined for all as they stand now */
  readonly can: string | undefined
  /** floor of the can, mm ahead, left and up of the datum */
  readonly floorMm: readonly [number, number, number] | undefined
  /** hose of the whole plan, m */
  readonly hoseM: number
  readonly measure: PlanMeasure
  /** lines that no way was found for */
  readonly stuck: readonly string[]
  /** what puts it there, as edits of the build that was asked about */
  readonly edits: readonly Edit[]
}

const hoseOf = (build: Build) =>
  activeVariant(build).lines.reduce((sum, l) => sum + (l.kind === 'direct' ? 0 : l.lengthMm / 1000), 0)

/** Tries other places for each can of the active plan; the best by the measure first. Fails where no bay is measured. Yields the share done. */
export function* tryPlaces(build: Build, today: string): Job<Result<readonly TriedPlace[]>> {
  if (!build.bay) return fail('Measure the bay first, or open a ready one at Bay.')
  const cans = activeVariant(build).parts.filter((p) => p.kind === 'can')
  if (cans.length === 0) return fail('This plan has no can to place.')
  const evaluator = makeEvaluator()
  const { states } = figuresOf(build, evaluator)
  function* judged(then: Build, of: Pick<TriedPlace, 'can' | 'floorMm' | 'stuck'>): Job<TriedPlace> {
    const analysis = yield* scaled(analyseOverCycle(then, today, evaluator), 0, 0.5)
    const measure = yield* scaled(measurePlan(then, today, analysis, evaluator), 0.5, 0.5)
    return { ...of, hoseM: hoseOf(then), measure, edits: difference(build, then) }
  }
  const tried = [yield* scaled(judged(build, { can: undefined, floorMm: undefined, stuck: [] }), 0, 0.1)]
  const reasons: string[] = []
  for (const [k, can] of cans.entries()) {
    const [from, share] = [0.1 + (0.9 * k) / cans.length, 0.9 / cans.length]
    const spots = yield* scaled(bestSpots(build, states, can.id), from, 0.7 * share)
    if (!spots.ok) {
      reasons.push(`${can.name}: ${spots.reason}`)
      continue
    }
    for (const [n, { floor, led }] of spots.value.entries()) {
      const at = {
        can: can.name,
        floorMm: [Math.round(floor[0] * 1000), Math.round(floor[1] * 1000), Math.round(floor[2] * 1000)] as const,
        stuck: led.stuck.map((s) => s.line.name),
      }
      const begun = from + share * (0.7 + (0.3 * n) / spots.value.length)
      tried.push(yield* scaled(judged(led.build, at), begun, (0.3 * share) / spots.value.length))
    }
  }
  if (tried.length === 1 && reasons.length > 0) return fail(reasons.join(' '))
  return ok(tried.toSorted((a, b) => a.stuck.length - b.stuck.length || a.measure.total - b.measure.total))
}
