/** Which offers hang on a fact that nobody knows to 2 %: with it a little otherwise another plan would be shown in their place. */
import type { Build } from '../document/schema'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { chooseOffers, isDominated } from './choose-offers'
import type { PlanOffer } from './judge-plan'
import { OBJECTIVES, objectivesOf, planTrial, roughPoints, wallOf, type Objective } from './tried-plan'
import { blowByEdits, distanceEdits } from './turn-choice'
import { WALL_NAMES, type Wishes } from './wishes'

type ByObjective = Readonly<Record<Objective, number>>
const byObjective = (of: (o: Objective) => number): ByObjective =>
  Object.fromEntries(OBJECTIVES.map((o) => [o, of(o)])) as ByObjective

/** A fact with a small error, in words, and the edits that make it. */
type SmallError = { readonly words: string; readonly edits: (build: Build) => readonly Edit[] }
const SMALL_ERRORS: readonly SmallError[] = [
  { words: 'blow-by 2 % higher', edits: (build) => blowByEdits(build, 1.02) },
  { words: 'blow-by 2 % lower', edits: (build) => blowByEdits(build, 0.98) },
  { words: '2 % more driven a year', edits: (build) => distanceEdits(build, 1.02) },
  { words: '2 % less driven a year', edits: (build) => distanceEdits(build, 0.98) },
]

/** What a small error adds to an offer's figures and points; or what would stop it, in words that follow "it would". */
type SmallErrorEffect = { readonly figures: ByObjective; readonly points: number } | { readonly stopped: string }
/** What each of the small errors does to an offer, in their order. */
export type SmallErrorEffects = readonly SmallErrorEffect[]

/** What small errors do to an offer, by the figures that the search goes by. */
export function smallErrorEffects(
  { build, genome }: Pick<PlanOffer, 'build' | 'genome'>,
  wishes: Wishes,
  evaluator: Evaluator = makeEvaluator(),
): SmallErrorEffects {
  const plan = activeVariant(build)
  const weighed = (of: Build) => {
    const trial = planTrial(of, evaluator)
    const { figures } = trial.goOn(trial.begin(genome, plan), plan, wishes)
    return {
      wall: wallOf(figures, wishes),
      objectives: objectivesOf(figures, wishes),
      points: roughPoints(of, figures, wishes),
      findings: figures.findings,
    }
  }
  const now = weighed(build)
  return SMALL_ERRORS.map((error) => {
    const wrong = applyEdits(build, error.edits(build))
    // at the end of what a fact may be it cannot be further off
    const then = wrong.ok ? weighed(wrong.value) : now
    if (then.wall) return { stopped: WALL_NAMES[then.wall] }
    if (then.findings > now.findings) return { stopped: 'have more to mend' }
    return {
      figures: byObjective((o) => then.objectives[o] - now.objectives[o]),
      points: then.points - now.points,
    }
  })
}

/** The offers that a small error does not stop, as they would be with it. @param k which of the errors */
function withError(
  offers: ReadonlyMap<PlanOffer, SmallErrorEffects | undefined>,
  k: number,
): ReadonlyMap<PlanOffer, PlanOffer> {
  const changed = new Map<PlanOffer, PlanOffer>()
  for (const [o, effects] of offers) {
    const effect = effects?.[k]
    if (!effect) changed.set(o, o)
    else if ('figures' in effect)
      changed.set(o, {
        ...o,
        figures: byObjective((name) => o.figures[name] + effect.figures[name]),
        measure: { ...o.measure, total: o.measure.total + effect.points },
      })
  }
  return changed
}

/**
 * An offer that is not shown once differences this many times as large count as none is a close call: with a fact a little otherwise the search
 * finds slightly other plans, and it may go the other way.
 */
const CLOSE_CALL = 2

/** What is said of an offer that is a close call. @param all those that are shown instead first, then all that might be shown */
function closeCallNote(offer: PlanOffer, all: readonly PlanOffer[]): string {
  const like = all.find((by) => isDominated(offer, by, CLOSE_CALL))
  return like
    ? `“${like.name}” is as good or nearly so in everything: with a fact 2 % off this might not be shown.`
    : 'It is a close call: with a fact 2 % off another plan might be shown in its place.'
}

/**
 * Of the offers that are shown those that a small error would replace by one of another circuit, or may, by name, each with what is said of it.
 * @param offers all that might be shown, each with what small errors do to it; one of which that is not known stays as it is
 */
export function replacementNotes(
  shown: readonly PlanOffer[],
  offers: ReadonlyMap<PlanOffer, SmallErrorEffects | undefined>,
): ReadonlyMap<string, string> {
  const notes = new Map<string, string>()
  const circuits = new Set(shown.map((o) => o.circuit))
  const noteMissing = (then: readonly PlanOffer[], noteOf: (offer: PlanOffer) => string) => {
    const left = new Set(then.map((o) => o.circuit))
    for (const o of shown) if (!left.has(o.circuit) && !notes.has(o.name)) notes.set(o.name, noteOf(o))
  }
  for (const [k, error] of SMALL_ERRORS.entries()) {
    const changed = withError(offers, k)
    const then = chooseOffers([...changed.values()])
    const instead = then.find((o) => !circuits.has(o.circuit))
    noteMissing(then, (o) => {
      const effect = offers.get(o)?.[k]
      const stops = effect && 'stopped' in effect ? `it would ${effect.stopped}` : undefined
      const itself = changed.get(o)
      const by = itself && then.find((other) => isDominated(itself, other))
      const comes = instead
        ? `“${instead.name}” would be shown in its place`
        : by && `“${by.name}” would be as good or better in everything`
      const says = [stops, comes].filter((x) => x !== undefined).join(': ')
      return `With ${error.words}${stops ? ' ' : ', '}${says || 'it would not be shown'}.`
    })
  }
  const all = [...offers.keys()]
  const then = chooseOffers(all, CLOSE_CALL)
  noteMissing(then, (o) => closeCallNote(o, [...then, ...all]))
  return notes
}
