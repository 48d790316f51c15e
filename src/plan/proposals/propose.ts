/**
 * Many plans tried for one engine and its wishes, and the few worth choosing between (methods 15). In steps, so that two workers share them;
 * `propose` takes them one after another.
 */
import { finish, scaled, type Job } from '@/core/job'
import type { Build } from '../document/schema'
import { makeEvaluator } from '../model/evaluator'
import {
  bestIn,
  plansToJudge,
  chooseOffers,
  furtherPlansToJudge,
  isDominated,
  reservePlans,
  type Candidate,
} from './choose-offers'
import { planMaker, planSpace, type Genome, type PlanMaker } from './genome'
import { ISLANDS, makeIsland, type Island } from './island'
import { judgePlan, placeOffer, type Judged, type PlanOffer } from './judge-plan'
import { smallErrorEffects, replacementNotes, type SmallErrorEffects } from './small-errors'
import { packTried, surveyOf, unpackTried, type Survey, type TriedTable } from './survey'
import { turnsTo } from './turn-choice'
import { isSound, objectivesOf, roughPoints, type Objective } from './tried-plan'
import type { Wishes } from './wishes'

/** Plans that are considered at a press on the page, and with each press more. */
export const PLANS_PER_PRESS = 6000
/** Each time so many more were considered, a generation of each, the islands learn from each other. */
const PLANS_A_STEP = 500

/** What is asked: a build, what of it is held, and the wishes. */
export type SearchAsk = {
  readonly build: Build
  readonly wishes: Wishes
  /** `circuit`: the plan as it stands keeps its circuit, and its sizes are free */
  readonly hold?: 'circuit' | undefined
  readonly seed: number
  /** ISO date */
  readonly today: string
}
/** Of all that was tried: what is judged first, and what is where none of a circuit's passes. */
export type PlansWorthJudging = { readonly first: readonly Candidate[]; readonly reserves: readonly Candidate[] }

/** The searches of one worker, kept while the build stays: with other wishes, or for more plans, they go on where they stood. */
export type Searches = {
  /** tries on until an island has considered its share of so many plans, from what the others tried too. Yields the share done */
  readonly tryPlans: (ask: SearchAsk, nth: number, plans: number, others?: readonly TriedTable[]) => Job<TriedTable>
  /** what several searches came to, put together */
  readonly survey: (ask: SearchAsk, tables: readonly TriedTable[]) => Job<Survey>
  /** what is worth judging of what several searches tried */
  readonly worthJudging: (ask: SearchAsk, tables: readonly TriedTable[]) => Job<PlansWorthJudging>
  /** judges plans that were found. Yields the share done */
  readonly judgePlans: (ask: SearchAsk, genomes: readonly Genome[]) => Job<readonly Judged[]>
}

/** What makes another search necessary: engine, use and plans; a log or a photo does not. */
const subjectOf = ({ build: { engine, site, duty, bench, variants, active, bay }, hold, seed }: SearchAsk) =>
  JSON.stringify([engine, site, duty, bench, variants, active, bay, hold, seed])

/** Searches that know nothing yet. */
export function makeSearches(): Searches {
  let of: string | undefined
  let maker: PlanMaker | undefined
  const islands = new Map<number, Island>()
  function makerOf(ask: SearchAsk): PlanMaker {
    const subject = subjectOf(ask)
    if (subject !== of || !maker) {
      of = subject
      islands.clear()
      maker = planMaker(planSpace(ask.build, ask.hold))
    }
    return maker
  }
  return {
    *tryPlans(ask, nth, plans, others = []) {
      const { space } = makerOf(ask)
      let island = islands.get(nth)
      if (!island) islands.set(nth, (island = makeIsland(space, ask.seed, { nth, of: ISLANDS })))
      yield 0
      if (others.length > 0) island.learnFrom(others, ask.wishes)
      yield* island.tryOn(ask.wishes, Math.ceil(plans / ISLANDS))
      return packTried(island.tried(), island.considered())
    },
    *survey(ask, tables) {
      const of = makerOf(ask)
      yield 0
      return surveyOf(of, tables, ask.wishes)
    },
    *worthJudging(ask, tables) {
      yield 0
      return worthJudgingOf(ask, tables)
    },
    *judgePlans(ask, genomes) {
      const of = makerOf(ask)
      const evaluator = makeEvaluator()
      const judged: Judged[] = []
      for (const [k, genome] of genomes.entries())
        judged.push(yield* scaled(judgePlan(of, genome, ask, evaluator), k / genomes.length, 1 / genomes.length))
      return judged
    },
  }
}

/** Chosen of each search, then of what they chose. */
function worthJudgingOf({ build, wishes }: SearchAsk, tables: readonly TriedTable[]): PlansWorthJudging {
  const candidates = tables.map((table) =>
    unpackTried(table)
      .filter((t) => isSound(t, wishes))
      .map(({ genome, figures }) => ({
        genome,
        figures: objectivesOf(figures, wishes),
        points: roughPoints(build, figures, wishes),
      })),
  )
  return {
    first: plansToJudge(candidates.flatMap(plansToJudge)),
    reserves: reservePlans(candidates.flatMap(reservePlans)),
  }
}

/** A step of a search: until how many plans are considered, and of each island what the others had tried before. */
export type SearchStep = { readonly until: number; readonly others: readonly (readonly TriedTable[])[] }
/**
 * The step that follows, so that two workers side by side find what one finds: in a step no island knows of what another tries in it.
 * @param before what the islands had come to, none before the first @param until where the step before ended
 */
export function nextSearchStep(before: readonly TriedTable[], until: number, plans: number): SearchStep {
  return {
    until: Math.min(until + PLANS_A_STEP, plans),
    others: Array.from({ length: ISLANDS }, (_, nth) => before.filter((_, k) => k !== nth)),
  }
}

/** All islands, one after another in each step. Yields the share done. */
export function* searchInSteps(searches: Searches, ask: SearchAsk, plans: number): Job<readonly TriedTable[]> {
  let found: readonly TriedTable[] = []
  for (let until = 0; until < plans;) {
    const step = nextSearchStep(found, until, plans)
    const now: TriedTable[] = []
    const [from, share] = [until / plans, (step.until - until) / plans]
    for (const [nth, others] of step.others.entries())
      now.push(
        yield* scaled(searches.tryPlans(ask, nth, step.until, others), from + (share * nth) / ISLANDS, share / ISLANDS),
      )
    found = now
    until = step.until
  }
  return found
}

/** A plan that was judged, and as what. */
export type JudgedPlan = { readonly genome: Genome; readonly as: Judged }
/** What is to be judged next, in rounds until nothing is left that may add an offer. @param done what was judged; none yet: the first round */
export function nextPlansToJudge(worth: PlansWorthJudging, done: readonly JudgedPlan[]): readonly Genome[] {
  const passed = done.flatMap(({ genome, as }) => ('offer' in as ? [genome] : []))
  const next =
    done.length === 0
      ? worth.first
      : furtherPlansToJudge(
          worth.reserves,
          done.map((d) => d.genome),
          passed,
        )
  return next.map((c) => c.genome)
}
/** Judges what was found, in rounds. Yields the share done. */
export function* judgeInRounds(
  searches: Searches,
  ask: SearchAsk,
  tables: readonly TriedTable[],
): Job<readonly JudgedPlan[]> {
  const worth = yield* scaled(searches.worthJudging(ask, tables), 0, 0)
  const done: JudgedPlan[] = []
  for (let next = nextPlansToJudge(worth, done); next.length > 0; next = nextPlansToJudge(worth, done)) {
    const all = done.length + next.length
    const judged = yield* scaled(searches.judgePlans(ask, next), done.length / all, next.length / all)
    done.push(...judged.map((as, k) => ({ genome: next[k]!, as })))
  }
  return done
}

/** Offers to be placed, or shown where all are; a plan that finds no place makes room for the next. */
export type OfferPlacing = {
  readonly judged: readonly PlanOffer[]
  readonly placed: ReadonlyMap<PlanOffer, Judged>
  /** what small errors do to offers as they were judged, as far as it was worked out */
  readonly effects?: ReadonlyMap<PlanOffer, SmallErrorEffects>
}
/** The best plan of a circuit that passed when judged in full: its points, and the offer that is better than it in all, where one is. */
export type CircuitBest = { readonly points: number; readonly dominatedBy: string | undefined }
/** The offers as far as they are placed. */
export type PlacedOffers = {
  readonly shown: readonly PlanOffer[]
  readonly toPlace: readonly PlanOffer[]
  /** by circuit */
  readonly best: Readonly<Record<string, CircuitBest>>
  /** of those shown, by name, what is said of one that a small error would replace */
  readonly replaced: ReadonlyMap<string, string>
}

/** What is shown of the offers that were judged: those that were placed by their figures in their place. */
export function placingOf({ judged, placed, effects }: OfferPlacing): PlacedOffers {
  const inPlace = new Map<PlanOffer, PlanOffer>()
  for (const o of judged) {
    const p = placed.get(o)
    if (p === undefined) inPlace.set(o, o)
    else if ('offer' in p) inPlace.set(p.offer, o)
  }
  const all = [...inPlace.keys()].toSorted((a, b) => a.measure.total - b.measure.total)
  const shown = chooseOffers(all)
  const best: Record<string, CircuitBest> = {}
  for (const o of all)
    best[o.circuit] ??= {
      points: o.measure.total,
      dominatedBy: [...shown, ...all].find((by) => isDominated(o, by))?.name,
    }
  return {
    shown,
    toPlace: shown.filter((o) => !placed.has(inPlace.get(o)!)),
    best,
    replaced: effects ? replacementNotes(shown, new Map(all.map((o) => [o, effects.get(inPlace.get(o)!)]))) : new Map(),
  }
}

/** An offer as it is shown. */
export type ShownOffer = PlanOffer & {
  /** objectives in which it is the best of those that are shown */
  readonly best: readonly Objective[]
  /** the least change of one fact that would make it better than the first; undefined of the first, and where nothing within reason does */
  readonly wins: string | undefined
  /** what would be shown in its place if a fact were 2 % off, in a sentence; undefined where it stays */
  readonly replaced: string | undefined
}
/** What stopped plans that were judged in full. */
export type Refused = Exclude<Judged, { readonly offer: PlanOffer }>
export type Proposals = Survey & {
  readonly offers: readonly ShownOffer[]
  readonly refused: readonly Refused[]
  /** of each circuit that passed when judged in full, by its key */
  readonly best: Readonly<Record<string, CircuitBest>>
}

/** Those that were stopped, of plans that were judged or placed. */
export const refusedOf = (judged: Iterable<Judged>): readonly Refused[] =>
  [...judged].flatMap((j) => ('wall' in j ? [j] : []))

/** Offers with what each is best in, what would make it win, and what would take its place. */
export function shownOffers(
  { shown, replaced }: Pick<PlacedOffers, 'shown' | 'replaced'>,
  wins: ReadonlyMap<string, string | undefined>,
): readonly ShownOffer[] {
  return shown.map((o) => ({ ...o, best: bestIn(o, shown), wins: wins.get(o.name), replaced: replaced.get(o.name) }))
}

export type ProposeOptions = {
  /** plans considered, those that promise too little to be tried among them */
  readonly plans: number
  readonly hold?: 'circuit' | undefined
  readonly seed: number
}
/**
 * Tries plans and offers a few that are really different in design, best by the measure first; none of them breaks a wall or has a finding to
 * mend. Same build, wishes and seed: same offers. Yields the share done.
 */
export function* propose(
  build: Build,
  wishes: Wishes,
  today: string,
  { plans, hold, seed }: ProposeOptions,
): Job<Proposals> {
  const searches = makeSearches()
  const ask: SearchAsk = { build, wishes, hold, seed, today }
  const tables = yield* scaled(searchInSteps(searches, ask, plans), 0, 0.6)
  const judged = (yield* scaled(judgeInRounds(searches, ask, tables), 0.6, 0.2)).map((j) => j.as)
  const offers = judged.flatMap((j) => ('offer' in j ? [j.offer] : []))
  const placed = new Map<PlanOffer, Judged>()
  for (
    let next = placingOf({ judged: offers, placed });
    next.toPlace.length > 0;
    next = placingOf({ judged: offers, placed })
  )
    for (const o of next.toPlace) {
      placed.set(o, finish(placeOffer(o, wishes, today)))
      yield 0.8 + 0.2 * (placed.size / (placed.size + 3))
    }
  const effects = new Map(offers.map((o) => [o, smallErrorEffects(o, wishes)]))
  const placing = placingOf({ judged: offers, placed, effects })
  const { shown, best } = placing
  const wins = new Map(shown.slice(1).map((o) => [o.name, turnsTo(shown[0]!, o, today)]))
  const survey = yield* scaled(searches.survey(ask, tables), 1, 0)
  return {
    ...survey,
    offers: shownOffers(placing, wins),
    best,
    refused: refusedOf([...judged, ...placed.values()]),
  }
}
