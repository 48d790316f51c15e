/** Which offers hang on a fact that nobody knows to 2 %: with it a little otherwise another plan would be shown in their place. */
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { chooseOffers } from './choose-offers'
import type { PlanOffer } from './judge-plan'
import { OBJECTIVES, objectivesOf, planTrial, roughPoints, wallOf, type Objective } from './tried-plan'
import type { Wishes } from './wishes'

/** A fact with a small error, in words, and the build with it. */
type SmallError = { readonly words: string; readonly with: (build: Build) => Build }
const withBlowBy = (build: Build, times: number): Build => ({
  ...build,
  engine: { ...build.engine, blowByTimes: (build.engine.blowByTimes ?? 1) * times },
})
const withDistance = (build: Build, times: number): Build => ({
  ...build,
  duty: { ...build.duty, kmPerYear: build.duty.kmPerYear * times },
})
const SMALL_ERRORS: readonly SmallError[] = [
  { words: 'blow-by 2 % higher', with: (build) => withBlowBy(build, 1.02) },
  { words: 'blow-by 2 % lower', with: (build) => withBlowBy(build, 0.98) },
  { words: '2 % more driven a year', with: (build) => withDistance(build, 1.02) },
  { words: '2 % less driven a year', with: (build) => withDistance(build, 0.98) },
]

/** What a small error adds to an offer's figures and points; undefined where it stops the offer. */
type Shift = { readonly figures: Readonly<Record<Objective, number>>; readonly points: number } | undefined
/** What each of the small errors does to an offer, in their order. */
export type OfferShifts = readonly Shift[]

/** What small errors do to an offer, by the figures that the search goes by. */
export function shiftsOf(
  { build, genome }: Pick<PlanOffer, 'build' | 'genome'>,
  wishes: Wishes,
  evaluator: Evaluator = makeEvaluator(),
): OfferShifts {
  const plan = activeVariant(build)
  const weighed = (of: Build) => {
    const trial = planTrial(of, evaluator)
    const { figures } = trial.goOn(trial.begin(genome, plan), plan, wishes)
    if (wallOf(figures, wishes) !== undefined) return undefined
    return {
      objectives: objectivesOf(figures, wishes),
      points: roughPoints(of, figures, wishes),
      findings: figures.findings,
    }
  }
  const now = weighed(build)
  return SMALL_ERRORS.map((error) => {
    const then = weighed(error.with(build))
    if (!now || !then || then.findings > now.findings) return undefined
    return {
      figures: Object.fromEntries(OBJECTIVES.map((o) => [o, then.objectives[o] - now.objectives[o]])) as Record<
        Objective,
        number
      >,
      points: then.points - now.points,
    }
  })
}

const shifted = (offer: PlanOffer, shift: Shift): readonly PlanOffer[] =>
  shift
    ? [
        {
          ...offer,
          figures: Object.fromEntries(
            OBJECTIVES.map((o) => [o, offer.figures[o] + shift.figures[o]]),
          ) as PlanOffer['figures'],
          measure: { ...offer.measure, total: offer.measure.total + shift.points },
        },
      ]
    : []

/**
 * Of the offers that are shown those that a small error would replace by one of another circuit, by name, each with what is said of it.
 * @param offers all that might be shown, each with its shifts; one whose shifts are not known stays as it is
 */
export function replacedOffers(
  shown: readonly PlanOffer[],
  offers: ReadonlyMap<PlanOffer, OfferShifts | undefined>,
): ReadonlyMap<string, string> {
  const says = new Map<string, string>()
  const circuits = new Set(shown.map((o) => o.circuit))
  for (const [k, error] of SMALL_ERRORS.entries()) {
    const all = [...offers].flatMap(([o, shifts]) => (shifts ? shifted(o, shifts[k]) : [o]))
    const then = chooseOffers(all)
    const instead = then.filter((o) => !circuits.has(o.circuit))
    const left = new Set(then.map((o) => o.circuit))
    for (const o of shown.filter((s) => !left.has(s.circuit) && !says.has(s.name)))
      says.set(
        o.name,
        instead[0]
          ? `With ${error.words}, “${instead[0].name}” would be shown in its place.`
          : `With ${error.words} it would not be shown.`,
      )
  }
  return says
}
