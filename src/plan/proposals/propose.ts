/**
 * Many plans tried for one engine and its wishes, and the few worth choosing between: NSGA-II over choices from stock, started from the schools
 * (Deb and others 2002; methods 15).
 */
import { uniforms } from '@/core/random'
import { scaled, type Job } from '@/core/job'
import { crowdingOf, farApart, frontsOf, type Scored } from '@/core/search/pareto'
import { analyse } from '../analyse'
import { analyseOverCycle } from '../analyse-over-cycle'
import type { Build } from '../document/schema'
import { lowered } from '../document/words'
import { applyEdits } from '../edit/edit'
import { pulsates } from '../model/engine'
import { makeEvaluator } from '../model/evaluator'
import { measurePlan } from '../studies/measure'
import type { PlanMeasure } from '../studies/measure-parts'
import { gasSolver } from '../finder/gas-states'
import { differencesIn, genesOf, planFromGenome, type Genome } from './genome'
import { graveFindings, mendPlan } from './mend-plan'
import { turnsTo } from './turn-choice'
import { OBJECTIVES, tryPlan, type Objective, type TriedPlan } from './tried-plan'
import { WALLS, type PlanWall, type Wishes } from './wishes'

export type ProposeOptions = {
  /** plans looked at, those that a wall stops before anything is solved among them */
  readonly plans: number
  readonly seed: number
}
/** A plan worth choosing, as a build of its own. */
export type PlanOffer = {
  readonly name: string
  /** what it has otherwise than its school */
  readonly differs: readonly string[]
  readonly build: Build
  readonly figures: Readonly<Record<Objective, number>>
  /** the measure by which ranking and Compare weigh it too */
  readonly measure: PlanMeasure
  readonly findings: readonly string[]
  /** what would have to be otherwise for it to be better than the first; undefined of the first, and where nothing within reason does */
  readonly wins: string | undefined
}
export type Dot = { readonly figures: Readonly<Record<Objective, number>>; readonly wall: PlanWall | undefined }
export type WallCount = {
  readonly wall: PlanWall
  readonly plans: number
  /** the nearest plan that it stopped: the one that would send least oil, else take least hours */
  readonly nearest: { readonly name: string; readonly figures: Readonly<Record<Objective, number>> } | undefined
}
export type Proposals = {
  readonly considered: number
  readonly solved: number
  readonly walls: readonly WallCount[]
  readonly dots: readonly Dot[]
  readonly offers: readonly PlanOffer[]
}

const [POPULATION, MUTATES, OTHER_SCHOOL] = [120, 0.25, 0.12]
/** Offers that are shown, and front members from which they are chosen. */
const [MOST_OFFERS, CANDIDATES] = [5, 20]
const MOST_DOTS = 3000

const scoredOf = (t: TriedPlan): Scored => ({
  objectives: OBJECTIVES.map((o) => (Number.isFinite(t.figures[o]) ? t.figures[o] : 1e9)),
  broken: t.wall === undefined ? 0 : WALLS.length - WALLS.indexOf(t.wall),
})

/** A search under way: every plan is tried once, whatever leads to it. */
class Search {
  readonly tried = new Map<string, TriedPlan>()
  considered = 0
  readonly genes
  readonly #uniform
  constructor(
    readonly build: Build,
    readonly wishes: Wishes,
    seed: number,
  ) {
    this.genes = genesOf(build.engine)
    this.#uniform = uniforms(seed)
  }
  readonly #evaluator = makeEvaluator()
  readonly #solveGas = gasSolver(this.#evaluator)

  take(genome: Genome): TriedPlan {
    this.considered++
    const variant = planFromGenome(genome, this.build.engine, this.genes.schools)
    // two genomes may be one plan: a gene of a part that a school has not
    const key = JSON.stringify([variant.school, variant.pickUp, variant.parts, variant.lines])
    const known = this.tried.get(key)
    if (known) return known
    const made = this.again(genome, variant)
    this.tried.set(key, made)
    return made
  }
  /** A plan tried, whether it was before or not. */
  again(genome: Genome, variant: TriedPlan['variant']): TriedPlan {
    return tryPlan(
      { build: this.build, wishes: this.wishes, evaluator: this.#evaluator, solveGas: this.#solveGas },
      genome,
      variant,
    )
  }
  /** Each school as it is, then with one choice moved. */
  *starts(): Generator<Genome> {
    for (const s of this.genes.schools.keys()) yield [s, 0, 0, 0, 0, 0, 0, 0]
    for (const s of this.genes.schools.keys())
      for (let g = 1; g < this.genes.sizes.length; g++)
        yield this.genes.sizes.map((_, k) => (k === 0 ? s : k === g ? 1 : 0))
  }
  child(a: Genome, b: Genome): Genome {
    const u = this.#uniform
    const { sizes } = this.genes
    return sizes.map((size, k) => {
      if (k === 0) return u() < OTHER_SCHOOL ? Math.floor(u() * size) : a[0]!
      if (u() < MUTATES) return Math.floor(u() * size)
      return u() < 0.5 ? a[k]! : b[k]!
    })
  }
  pick<T>(of: readonly T[]): T {
    return of[Math.floor(this.#uniform() * of.length)]!
  }
}

/** The best of all, by fronts, the roomiest of the last first. */
function survivors(all: readonly TriedPlan[]): readonly TriedPlan[] {
  const scored = all.map(scoredOf)
  const kept: TriedPlan[] = []
  for (const front of frontsOf(scored)) {
    const room = crowdingOf(front.map((i) => scored[i]!))
    const order = [...front.keys()].toSorted((x, y) => room[y]! - room[x]!)
    for (const k of order) {
      if (kept.length >= POPULATION) return kept
      kept.push(all[front[k]!]!)
    }
  }
  return kept
}

/** How unlike two plans are by design: another school counts more than all sizes together. */
const unlike = (a: TriedPlan, b: TriedPlan): number =>
  a.genome.reduce((sum, g, k) => sum + (g === b.genome[k] ? 0 : k === 0 ? 8 : 1), 0)

const differencesOf = (search: Search, { genome }: TriedPlan): readonly string[] =>
  differencesIn(genome, search.build.engine, search.genes.schools)
function nameOf(search: Search, t: TriedPlan, differs = differencesOf(search, t)): string {
  const school = search.genes.schools[t.genome[0]!]!.name
  return differs.length === 0 ? school : `${school}, with ${differs.join(', ')}`
}

function wallsOf(search: Search, all: readonly TriedPlan[]): readonly WallCount[] {
  return WALLS.flatMap((wall): WallCount[] => {
    const stopped = all.filter((t) => t.wall === wall)
    if (stopped.length === 0) return []
    const by = (t: TriedPlan) => (Number.isFinite(t.figures.oil) ? t.figures.oil * 1e12 : 1e6 + t.figures.hours)
    const nearest = stopped.reduce((best, t) => (by(t) < by(best) ? t : best))
    return [{ wall, plans: stopped.length, nearest: { name: nameOf(search, nearest), figures: nearest.figures } }]
  })
}

/** Dots of a picture: all of a few, evenly taken of many. */
function dotsOf(all: readonly TriedPlan[]): readonly Dot[] {
  const stride = Math.max(1, Math.ceil(all.length / MOST_DOTS))
  return all.filter((_, k) => k % stride === 0).map(({ figures, wall }) => ({ figures, wall }))
}

/**
 * Tries plans and offers a few that are really different in design, best by the measure first; none of them breaks a wall or has a finding to
 * mend. Same build, wishes and seed: same offers. Yields the share done; stopped early, nothing is lost but time.
 */
export function* propose(build: Build, wishes: Wishes, today: string, { plans, seed }: ProposeOptions): Job<Proposals> {
  const search = new Search(build, wishes, seed)
  for (const genome of search.starts()) {
    if (search.considered >= plans) break
    search.take(genome)
    yield (0.8 * search.considered) / plans
  }
  let population = survivors([...search.tried.values()])
  while (search.considered < plans) {
    const children = new Set<TriedPlan>(population)
    for (let k = 0; k < POPULATION && search.considered < plans; k++) {
      children.add(search.take(search.child(search.pick(population).genome, search.pick(population).genome)))
      yield (0.8 * search.considered) / plans
    }
    population = survivors([...children])
  }
  const all = [...search.tried.values()]
  const sound = all.filter((t) => t.wall === undefined)
  const [front = []] = sound.length > 0 ? frontsOf(sound.map(scoredOf)) : []
  const candidates = farApart(
    front.map((i) => sound[i]!).toSorted((a, b) => a.figures.oil - b.figures.oil),
    CANDIDATES,
    unlike,
  )
  const offers: PlanOffer[] = []
  for (const [k, t] of candidates.entries()) {
    const offer = yield* scaled(offerOf(search, t, today), 0.8 + (0.2 * k) / candidates.length, 0.2 / candidates.length)
    if (offer) offers.push(offer)
  }
  const best = offers.toSorted((a, b) => a.measure.total - b.measure.total)
  const shown = farApart(best, MOST_OFFERS, (a, b) =>
    a.build.variants[0]!.school === b.build.variants[0]!.school ? 1 : 8,
  )
  const [first, ...others] = shown.toSorted((a, b) => a.measure.total - b.measure.total)
  const judged = first ? [first, ...others.map((o) => ({ ...o, wins: turnsTo(first.build, o.build, today) }))] : []
  return {
    considered: search.considered,
    solved: all.filter((t) => Number.isFinite(t.figures.pressure)).length,
    walls: wallsOf(search, all),
    dots: dotsOf(all),
    offers: judged,
  }
}

/** A plan with its findings mended at a press each, as ranking has its schools; undefined where that leaves one, or breaks a wall. */
function mended(
  search: Search,
  t: TriedPlan,
  build: Build,
  today: string,
): { tried: TriedPlan; made: readonly string[] } | undefined {
  const { steps, left } = mendPlan(build, today)
  if (left.length > 0) return undefined
  if (steps.length === 0) return { tried: t, made: [] }
  const then = applyEdits(
    build,
    steps.flatMap((s) => s.edits),
  )
  if (!then.ok) return undefined
  const tried = search.again(t.genome, then.value.variants[0]!)
  return tried.wall === undefined ? { tried, made: steps.map((s) => lowered(s.label)) } : undefined
}

/** A plan judged and measured as ranking does; undefined where something is to be mended in it. */
function* offerOf(search: Search, t: TriedPlan, today: string): Job<PlanOffer | undefined> {
  const evaluator = makeEvaluator()
  const buildOf = (variant: TriedPlan['variant'], name: string): Build => ({
    ...search.build,
    active: 'a',
    learned: undefined,
    fitted: undefined,
    cases: undefined,
    log: [],
    variants: [{ ...variant, id: 'a', name: name.slice(0, 60) }],
  })
  const sound = mended(search, t, buildOf(t.variant, nameOf(search, t)), today)
  yield 0.2
  if (!sound) return undefined
  const { tried, made } = sound
  const differs = [...differencesOf(search, t), ...made]
  const name = nameOf(search, t, differs)
  const build = buildOf(tried.variant, name)
  const analysis = pulsates(build.engine)
    ? yield* scaled(analyseOverCycle(build, today, evaluator), 0.2, 0.3)
    : analyse(build, today, evaluator)
  if (graveFindings(analysis).length > 0) return undefined
  const measure = yield* scaled(measurePlan(build, today, analysis, evaluator), 0.5, 0.5)
  return {
    name,
    differs,
    build,
    figures: tried.figures,
    measure,
    findings: analysis.verdicts.filter((v) => v.severity === 'watch').map((v) => v.title),
    wins: undefined,
  }
}
