/** A plan near the front judged in full: mended as ranking mends, weighed by the measure of ranking and Compare, placed in the bay. */
import { scaled, type Job } from '@/core/job'
import { analyse } from '../analyse'
import { analyseOverCycle } from '../analyse-over-cycle'
import { openBay } from '../bay/open-bay'
import { bayFor } from '../catalogue/bays'
import type { Build, Variant } from '../document/schema'
import { lowered } from '../document/words'
import { activeVariant, applyEdits } from '../edit/edit'
import { pulsates } from '../model/engine'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { LIMITS } from '../model/limits'
import { measurePlan } from '../studies/measure'
import type { PlanMeasure } from '../studies/measure-parts'
import { nameWith, type Genome, type PlanMaker } from './genome'
import { graveFindings, mendPlan } from './mend-plan'
import { objectivesOf, planTrial, wallOf, type Objective } from './tried-plan'
import type { PlanWall, Wishes } from './wishes'

/** Where an offer would stand and run. */
export type OfferPlace = {
  /** whether the bay is the builder's own, or one that is ready for engines of this layout */
  readonly own: boolean
  /** hose in all, m */
  readonly hoseM: number
  /** what no place or way was found for, and why */
  readonly left: readonly string[]
}
/** A plan worth choosing, as a build of its own. */
export type PlanOffer = {
  readonly genome: Genome
  readonly circuit: string
  readonly name: string
  /** what it has otherwise than its circuit */
  readonly differs: readonly string[]
  readonly build: Build
  /** as the search weighs them; price with what is in the drawer */
  readonly figures: Readonly<Record<Objective, number>>
  /** the measure by which ranking and Compare weigh it too */
  readonly measure: PlanMeasure
  readonly findings: readonly string[]
  readonly place: OfferPlace | undefined
}
/** A plan judged: an offer, or what stops it after all. */
export type Judged =
  | { readonly offer: PlanOffer }
  | { readonly wall: PlanWall; readonly circuit: string; readonly name: string; readonly because: string }

/** The build with one plan alone: what else is known of the car stays. */
export const withOnlyPlan = (build: Build, plan: Variant, name: string): Build => ({
  ...build,
  active: plan.id,
  fitted: undefined,
  cases: undefined,
  variants: [{ ...plan, name: name.slice(0, 60) }],
})

/** Judges a plan of a space. Yields the share done. */
export function* judgePlan(
  maker: PlanMaker,
  genome: Genome,
  { wishes, today }: { readonly wishes: Wishes; readonly today: string },
  evaluator: Evaluator = makeEvaluator(),
): Job<Judged> {
  const circuit = maker.space.circuits[genome[0]!]!
  // where its cans would stand is tried of what is offered: the bay has no say yet
  const bare = withOnlyPlan({ ...maker.space.build, bay: undefined }, maker.plan(genome), maker.name(genome))
  const made = mended(bare, today)
  yield 0.2
  const differs = [...maker.differences(genome), ...made.says]
  const name = nameWith(circuit.name, differs)
  const build = withOnlyPlan(maker.space.build, activeVariant(made.build), name)
  return yield* scaled(
    judgeBuild({ genome, circuit: circuit.key, name, differs, build, place: undefined }, wishes, today, evaluator),
    0.2,
    0.8,
  )
}

type Unjudged = Pick<PlanOffer, 'genome' | 'circuit' | 'name' | 'differs' | 'build' | 'place'>

function* judgeBuild(of: Unjudged, wishes: Wishes, today: string, evaluator: Evaluator): Job<Judged> {
  const { build, name, genome } = of
  const stopped = (wall: PlanWall, because: string): Judged => ({ wall, circuit: of.circuit, name, because })
  const variant = activeVariant(build)
  const trial = planTrial(build, evaluator)
  const { figures } = trial.goOn(trial.begin(genome, variant), variant, wishes)
  const wall = wallOf(figures, wishes)
  if (wall) return stopped(wall, 'with what mends it')
  const judgedIn = of.place ? build : { ...build, bay: undefined }
  const analysis = pulsates(build.engine)
    ? yield* scaled(analyseOverCycle(judgedIn, today, evaluator), 0, 0.4)
    : analyse(judgedIn, today, evaluator)
  const [grave] = graveFindings(analysis)
  if (grave) return stopped('finding', grave.title)
  const measure = yield* scaled(measurePlan(build, today, analysis, evaluator), 0.4, 0.6)
  // the bad end of every state, not of the highest alone; and what is vented there
  const { highest, lowest = 0, vented } = measure.facts
  const isHigh = highest === undefined || highest > LIMITS.crankcaseHigh || lowest < LIMITS.crankcaseTooLow
  if (wishes.badEnd && isHigh) return stopped('pressure', 'at the bad end of its band')
  if (wishes.sealed && vented > 0) return stopped('law', 'its cap opens in one car of ten')
  return {
    offer: {
      ...of,
      figures: objectivesOf({ ...figures, pressure: highest ?? LIMITS.sealsLetGo }, wishes),
      measure,
      findings: analysis.verdicts.filter((v) => v.severity === 'watch').map((v) => v.title),
    },
  }
}

/** A plan with its findings mended at a press each, as far as they go. */
function mended(build: Build, today: string): { readonly build: Build; readonly says: readonly string[] } {
  const { steps } = mendPlan(build, today)
  const then = applyEdits(
    build,
    steps.flatMap((s) => s.edits),
  )
  return then.ok ? { build: then.value, says: steps.map((s) => lowered(s.label)) } : { build, says: [] }
}

/**
 * An offer in its bay, the builder's own or a ready one: places for its cans, ways for its hoses, and all figures anew with their lengths. In a
 * bay of the builder's own, what finds no place or way stops it. Yields the share done.
 */
export function* placeOffer(
  offer: PlanOffer,
  wishes: Wishes,
  today: string,
  evaluator: Evaluator = makeEvaluator(),
): Job<Judged> {
  const { build, name } = offer
  const own = build.bay !== undefined
  const { states } = analyse(build, today, evaluator)
  const { bonnet = [], keepOuts = [] } = build.bay ?? {}
  const around = { ...(bonnet.length > 0 && { bonnet }), ...(keepOuts.length > 0 && { keepOuts }) }
  const opened = yield* scaled(openBay(build, states, bayFor(build.engine), around), 0, 0.8)
  const left = [
    ...opened.unplaced.map((u) => `${u.part.name}: ${u.reason}`),
    ...opened.stuck.map((s) => `${s.line.name}: ${s.reason}`),
  ]
  if (own && left.length > 0) return { wall: 'bay', circuit: offer.circuit, name, because: left.join('; ') }
  const { lines } = activeVariant(opened.build)
  const hoseM = lines.reduce((sum, l) => sum + (l.kind === 'direct' ? 0 : l.lengthMm / 1000), 0)
  const place = { own, hoseM, left }
  // a ready bay says what is likely, and does not become the builder's own by being looked at
  if (!own) return { offer: { ...offer, place } }
  const placed = withOnlyPlan(opened.build, activeVariant(opened.build), name)
  return yield* scaled(judgeBuild({ ...offer, build: placed, place }, wishes, today, evaluator), 0.8, 0.2)
}
