/** How large a can has to be for this engine and use, and which media pay for their drop. */
import type { Job } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import { CANS } from '../catalogue/cans'
import { evaluate } from '../analyse'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import type { Build, PartOf, StageSpec } from '../document/schema'
import { editsOf, perform, setPart } from '../edit/edit-builders'
import { activeVariant, type Edit } from '../edit/edit'
import { isSolved, oilSum } from '../model/results'
import { dropOf } from '../catalogue/stages'

export type CanSize = {
  readonly key: string
  readonly name: string
  /** inside, m; and the bowl, m3, to the next look, and with one look missed */
  readonly diameterM: number
  readonly heightM: number
  readonly bowlM3: number
  readonly bowlMissedM3: number
  /** oil that still passes to the intake on the duty, m3 per metre; highest crankcase, Pa gauge */
  readonly intakeOil: number
  readonly highestPa: number
  /** lowest share that its face keeps at the worst gas, and the share of the oil that it catches at full load */
  readonly kept: number
  readonly caught: number
  readonly edits: readonly Edit[]
}
export type CanSizing = {
  readonly sizes: readonly CanSize[]
  /** as it is now */
  readonly now: { readonly intakeOil: number; readonly highestPa: number }
  /** the one that keeps most for its pressure */
  readonly pays: string | undefined
}

/** A can keeps what it caught when no more than this share fades at the worst gas (estimate). */
const KEPT = 0.97
/** Faces that are tried, cm2, and the room over the bowl, m (estimate). */
const FACES = [16, 20, 28, 36, 46, 60, 78, 100, 130, 170, 220, 280]
const HEAD_M = 0.06
/** A pascal of crankcase pressure weighs as so much oil, m3 per metre: a kilopascal as much as 10 ml in 1 000 km (judgement, no source). */
const PER_PA = 1e-11 / 1000
/** Bowls smaller than this are not made, m3. */
const LEAST_BOWL = 50e-6

/** Stages with their faces and floors as wide as the can. */
const widened = (stages: readonly StageSpec[], faceCm2: number): StageSpec[] =>
  stages.map((s) => (s.type === 'fibre' ? { ...s, faceCm2 } : s.type === 'settling' ? { ...s, floorCm2: faceCm2 } : s))

const highestOf = (build: Build, evaluator: Evaluator): number =>
  Math.max(
    ...figuresOf(build, evaluator)
      .states.filter(isSolved)
      .map((s) => s.crankcaseGauge),
    -Infinity,
  )

/**
 * Each ready design at the least face that keeps what it catches, with the bowl that the use asks for. Yields the share done.
 * @returns fails where the plan has no answer in a state that it is driven in
 *
 * @example
 * import { finish } from '@/core/job'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { sizeCan } from '@/plan/studies/size-can'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const sized = finish(sizeCan(build, 'no such can', '2026-11-24'))
 * console.log(sized.ok) // false
 */
export function* sizeCan(build: Build, canId: string, today: string): Job<Result<CanSizing>> {
  const can = activeVariant(build).parts.find((p): p is PartOf<'can'> => p.id === canId && p.kind === 'can')
  if (!can) return fail('There is no such can in this plan.')
  const evaluator = makeEvaluator()
  const before = evaluate(build, today, evaluator)
  const forecast = before.cans.find((c) => c.part === canId)
  if (before.states.some((s) => !s.solved) || (forecast && !forecast.known))
    return fail('The circuit has no answer in every state yet: see the verdicts.')
  const nippleMm = Math.max(can.ports.find((p) => p.id === 'in')?.boreMm ?? 0, 12.7)
  const sizes: CanSize[] = []
  for (const [i, design] of CANS.entries()) {
    const size = smallestThatKeeps({ build, can, nippleMm, today, evaluator }, design)
    if (size) sizes.push(size)
    yield (i + 1) / CANS.length
  }
  const now = { intakeOil: before.intakeOil, highestPa: highestOf(build, evaluator) }
  const cost = (s: Pick<CanSize, 'intakeOil' | 'highestPa'>) => s.intakeOil + PER_PA * Math.max(0, s.highestPa)
  const sorted = sizes.toSorted((a, b) => cost(a) - cost(b))
  return ok({ sizes: sorted, now, pays: sorted[0]?.key })
}

/** The can that another takes the place of. */
type ReplacedCan = {
  readonly build: Build
  readonly can: PartOf<'can'>
  readonly nippleMm: number
  readonly today: string
  readonly evaluator: Evaluator
}

/** One design as small as it may be. */
function smallestThatKeeps(
  { build, can, nippleMm, today, evaluator }: ReplacedCan,
  design: (typeof CANS)[number],
): CanSize | undefined {
  const every = build.duty.checkEveryKm * 1000
  for (const faceCm2 of FACES) {
    const stages = widened(design.spec.stages, faceCm2)
    const change = { ...design.spec, stages, faceCm2, ...dropOf(stages, nippleMm), model: 'own' }
    const tried = perform(build, setPart(can.id, change))
    if (!tried.ok) return undefined
    const figures = figuresOf(tried.value, evaluator)
    const solved = figures.states.filter(isSolved)
    if (solved.length < figures.states.length) return undefined
    const kept = Math.min(...solved.map((s) => s.cans[can.id]?.kept ?? 1))
    if (kept < KEPT && faceCm2 !== FACES.at(-1)) continue
    const worked = evaluate(tried.value, today, evaluator)
    const rate = worked.cans.find((c) => c.part === can.id)
    // what a heavy case in ten gathers from look to look
    const perMetre =
      rate && Number.isFinite(rate.distance.low) && rate.distance.low > 0 ? rate.bowlM3 / rate.distance.low : 0
    const bowlM3 = Math.max(LEAST_BOWL, perMetre * every)
    const bowlMissedM3 = Math.max(LEAST_BOWL, perMetre * 2 * every)
    const face = faceCm2 * 1e-4
    const full = solved.toSorted((a, b) => b.blowBy - a.blowBy)[0]!.cans[can.id]
    const final = { ...change, bowlMl: Math.min(20_000, Math.ceil((bowlMissedM3 * 1e6) / 10) * 10) }
    const edits = editsOf(build, setPart(can.id, final))
    return {
      key: design.key,
      name: design.name,
      diameterM: 2 * Math.sqrt(face / Math.PI),
      heightM: bowlMissedM3 / face + HEAD_M,
      bowlM3,
      bowlMissedM3,
      intakeOil: worked.intakeOil,
      highestPa: Math.max(...solved.map((s) => s.crankcaseGauge)),
      kept,
      caught: full && oilSum(full.oilIn) > 0 ? oilSum(full.caught) / oilSum(full.oilIn) : 0,
      edits: edits.ok ? edits.value : [],
    }
  }
  return undefined
}
