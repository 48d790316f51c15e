/**
 * A search for plans that goes on where it stood: NSGA-II over choices from stock (Deb and others 2002), half of its children by crossing and
 * half by changing one choice. Of all children that it considers, those are worked out that promise most by what their like gave. Several run
 * side by side, each over its own share of the plans, and learn from each other between steps; what was tried is kept whatever is wished.
 */
import { uniforms } from '@/core/random'
import type { Job } from '@/core/job'
import { fitAdditive, type AdditiveModel } from '@/core/search/additive-model'
import { crowdingOf, dominates, frontOf, frontsOf, type Scored } from '@/core/search/pareto'
import type { Variant } from '../document/schema'
import { makeEvaluator } from '../model/evaluator'
import { LIMITS } from '../model/limits'
import { plainGenome, planMaker, type Genome, type PlanSpace } from './genome'
import { unpackTried, type TriedTable } from './survey'
import { brokenBy, isSound, OBJECTIVES, objectivesOf, planTrial, wallOf, type TriedPlan } from './tried-plan'
import type { Wishes } from './wishes'

/** Islands that a search is made of, so that two workers find what one finds. */
export const ISLANDS = 2
/** Which of how many islands one is: each tries its share of the plans, so that no plan is tried twice. */
export type IslandShare = { readonly nth: number; readonly of: number }
const ALONE: IslandShare = { nth: 0, of: 1 }
/** Whether a plan is of a share, by a polynomial hash of its choices modulo a prime: even whatever is chosen. */
const isOfShare = (genome: Genome, { nth, of }: IslandShare): boolean =>
  genome.reduce((hash, choice) => (hash * 31 + choice) % 1009, 7) % of === nth

/** A plan laid out, with what needs no solving. */
type BegunPlan = { readonly genome: Genome; readonly plan: Variant; readonly begun: TriedPlan }

export type Island = {
  /**
   * Tries on under some wishes until so many different plans were considered, or there are no more. Yields the share done; stopped early, what
   * was tried stays.
   */
  readonly tryOn: (wishes: Wishes, plans: number) => Job<void>
  /** takes over what another island tried: it is not tried here again, and what comes next starts from it too */
  readonly learnFrom: (others: readonly TriedTable[], wishes: Wishes) => void
  /** everything that was tried here, in the order in which it was */
  readonly tried: () => readonly TriedPlan[]
  /** different plans that were looked at here, those that promised too little to be tried among them */
  readonly considered: () => number
}

/** Of so many children of a generation so many are tried. */
const [CONSIDERED, TRIED] = [250, 92]
/** A space of fewer plans than this is tried whole: nothing in it is passed over. */
const SMALL = 1500
const POPULATION = 200
const [CROSSED, MUTATES] = [0.5, 0.06]
/** Children that are of no circuit drawn: the share whose parents stand on the front, the others come from the population. */
const OF_FRONT = 0.9
/** A parent is the one with most room about it on the front of so many drawn: where plans stand apart there is more to find between. */
const TOURNAMENT = 3
/** Children in a row that were known already, or are another island's, before a space counts as tried whole. */
const MOST_KNOWN = 1200
/**
 * Shares of children that are of a circuit drawn evenly: of all circuits, or of those whose nearest plans do not all pass yet, from the plans
 * that come nearest to passing; and of circuits on the front, from what stands there. Without them one circuit that passes easily takes all.
 */
const [OF_EACH, STOPPED, OF_EACH_ON_FRONT, NEAREST_OF_EACH] = [0.3, 0.5, 0.3, 8]
/** Tries of a circuit before its like can be predicted from them. */
const ENOUGH = 12

/** What of a plan the search weighs: less is better, and below the air outside a crankcase is as good as it gets. */
export const scoredOf = ({ figures }: TriedPlan, wishes: Wishes): Scored => {
  const weighed = objectivesOf(figures, wishes)
  const known = { ...weighed, pressure: Math.max(0, weighed.pressure) }
  return {
    objectives: OBJECTIVES.map((o) => (Number.isFinite(known[o]) ? known[o] : 1e9)),
    // a finding can be mended, at a price: a plan without one comes first
    broken: brokenBy(figures, wishes) + (figures.findings > 0 ? figures.findings / 1000 : 0),
  }
}

/** The best of all, by fronts, the roomiest of the last first. */
function survivors(all: readonly TriedPlan[], wishes: Wishes): readonly TriedPlan[] {
  const scored = all.map((t) => scoredOf(t, wishes))
  const kept: TriedPlan[] = []
  for (const front of frontsOf(scored)) {
    const room = crowdingOf(front.map((i) => scored[i]!))
    for (const k of [...front.keys()].toSorted((x, y) => room[y]! - room[x]!)) {
      if (kept.length >= POPULATION) return kept
      kept.push(all[front[k]!]!)
    }
  }
  return kept
}

/** Those that none of some others is better than. */
function notOutdone(plans: readonly TriedPlan[], by: readonly TriedPlan[], wishes: Wishes): readonly TriedPlan[] {
  const points = by.map((t) => scoredOf(t, wishes))
  return plans.filter((t) => {
    const scored = scoredOf(t, wishes)
    return !points.some((p) => dominates(p, scored))
  })
}
/** A front with more plans joined to it: those that pass and were worked out whole. */
export function joinFront(front: readonly TriedPlan[], more: Iterable<TriedPlan>, wishes: Wishes): TriedPlan[] {
  const passed = [...more].filter((t) => isSound(t, wishes))
  // few of what comes stand on a front of many, which is looked at once more beside those alone
  const beside = notOutdone(passed, front, wishes)
  const fresh = frontOf(beside.map((t) => scoredOf(t, wishes))).map((i) => beside[i]!)
  return [...notOutdone(front, fresh, wishes), ...fresh]
}

/**
 * Tells whether a plan may stand on a front, by its likely figures: its bad end is never better than what is likely, so one that is worse
 * already stays so.
 */
export function mayJoinFront(front: readonly TriedPlan[], wishes: Wishes): (tried: TriedPlan) => boolean {
  const points = front.map((t) => scoredOf(t, wishes)).filter((p) => p.broken === 0)
  return (tried) => {
    const scored = { ...scoredOf(tried, wishes), broken: 0 }
    return !points.some((p) => dominates(p, scored))
  }
}

/** Figures that follow from choices by much the same steps: on which scale, and from which stage on they are known. */
const FITTED = {
  oil: { stage: 2, to: (x: number) => Math.log(Math.max(1e-16, x)), from: Math.exp },
  looks: { stage: 2, to: (x: number) => Math.log(x + 0.05), from: (y: number) => Math.exp(y) - 0.05 },
  pressure: { stage: 0, to: (x: number) => Math.asinh(x / 300), from: (y: number) => 300 * Math.sinh(y) },
  findings: { stage: 4, to: (x: number) => x, from: (y: number) => Math.max(0, y) },
} as const
type FittedFigure = keyof typeof FITTED
const FITTED_FIGURES = Object.keys(FITTED) as readonly FittedFigure[]
type Models = Readonly<Record<FittedFigure, AdditiveModel | undefined>>
/** Points of findings from which a plan is likely to have one. */
const LIKELY_FINDING = 4
/** What is likely past the limit of the crankcase promises less than any finding does. */
const PAST_LIMIT = 1000

/** Plans by their circuit, each list in the order given. */
function byCircuitOf<T extends { readonly genome: Genome }>(all: Iterable<T>): ReadonlyMap<number, readonly T[]> {
  const byCircuit = new Map<number, T[]>()
  for (const t of all) {
    const like = byCircuit.get(t.genome[0]!)
    if (like) like.push(t)
    else byCircuit.set(t.genome[0]!, [t])
  }
  return byCircuit
}

/** What plans of each circuit are likely to give, from those that were worked out. */
function modelsOf(all: Iterable<TriedPlan>): ReadonlyMap<number, Models> {
  const byCircuit = byCircuitOf(all)
  const fit = (tried: readonly TriedPlan[], o: FittedFigure): AdditiveModel | undefined => {
    const known = tried.filter((t) => t.figures.stage >= FITTED[o].stage && Number.isFinite(t.figures[o]))
    return known.length < ENOUGH
      ? undefined
      : fitAdditive(
          known.map((t) => t.genome),
          known.map((t) => FITTED[o].to(t.figures[o])),
        )
  }
  return new Map(
    [...byCircuit].map(([circuit, tried]) => [
      circuit,
      {
        oil: fit(tried, 'oil'),
        looks: fit(tried, 'looks'),
        pressure: fit(tried, 'pressure'),
        findings: fit(tried, 'findings'),
      },
    ]),
  )
}

/** A search of its own over a space, or over a share of it. */
export function makeIsland(space: PlanSpace, seed: number, share = ALONE): Island {
  const { sizes } = space
  const maker = planMaker(space)
  const trial = planTrial(space.build, makeEvaluator(), maker.alike)
  const uniform = uniforms(seed * ISLANDS + share.nth)
  const known = new Map<string, TriedPlan>()
  /** of the known, those that another island tried */
  const learned = new Set<string>()
  const passedOver = new Set<string>()
  const isSmall = sizes.reduce((all, size) => all * size, 1) < SMALL
  const starts = startsOf(sizes)
    .map(maker.canonical)
    .filter((genome) => isOfShare(genome, share))
  let begun = 0
  let population: readonly TriedPlan[] = []
  /** the wishes under which both were taken */
  let under: string | undefined
  /** all that none is better than, however many */
  let front: TriedPlan[] = []
  /** of each circuit those that come nearest to passing: one whose plans have a finding yet stays alive beside one whose have none */
  let nearestOfEach: readonly (readonly TriedPlan[])[] = []
  /** those of them that do not all pass */
  let stoppedOfEach: readonly (readonly TriedPlan[])[] = []
  let frontOfEach: readonly (readonly TriedPlan[])[] = []
  /** crowding distance of those on the front */
  let room: ReadonlyMap<TriedPlan, number> = new Map()

  const considered = () => known.size - learned.size + passedOver.size
  const below = (n: number) => Math.floor(uniform() * n)
  const pick = <T>(of: readonly T[]): T => of[below(of.length)]!
  const roomOf = (t: TriedPlan) => room.get(t) ?? 0
  const parentOf = (all: readonly TriedPlan[]): Genome =>
    Array.from({ length: TOURNAMENT }, () => pick(all)).reduce((a, b) => (roomOf(b) > roomOf(a) ? b : a)).genome

  /** A genome with one choice drawn anew. */
  const oneChanged = (genome: Genome, at: number): Genome => genome.map((x, k) => (k === at ? below(sizes[k]!) : x))
  function childOfOne(like: readonly TriedPlan[]): Genome {
    const [a, b] = [parentOf(like), parentOf(like)]
    const at = 1 + below(sizes.length - 1)
    if (uniform() >= CROSSED) return oneChanged(a, at)
    const crossed = a.map((x, k) => (uniform() < 0.5 ? x : b[k]!))
    return crossed.map((x, k) => (k === at || (k > 0 && uniform() < MUTATES) ? below(sizes[k]!) : x))
  }
  function child(): Genome {
    const from = uniform()
    if (from < OF_EACH && nearestOfEach.length > 1)
      return childOfOne(pick(stoppedOfEach.length > 0 && uniform() < STOPPED ? stoppedOfEach : nearestOfEach))
    if (from < OF_EACH + OF_EACH_ON_FRONT && frontOfEach.length > 1) return childOfOne(pick(frontOfEach))
    const a = parentOf(front.length > 0 && uniform() < OF_FRONT ? front : population)
    if (uniform() < CROSSED) {
      const b = parentOf(front.length > 0 ? front : population)
      return sizes.map((size, k) => (uniform() < MUTATES ? below(size) : (uniform() < 0.5 ? a : b)[k]!))
    }
    return oneChanged(a, below(sizes.length))
  }
  function begin(genome: Genome): BegunPlan {
    const plan = maker.plan(genome)
    return { genome, plan, begun: trial.begin(genome, plan) }
  }
  function take({ genome, plan, begun }: BegunPlan, wishes: Wishes, worth = mayJoinFront(front, wishes)): TriedPlan {
    const tried = trial.goOn(begun, plan, wishes, worth)
    const key = genome.join()
    passedOver.delete(key)
    known.set(key, tried)
    return tried
  }
  /** Children that were not tried yet, as many as there are up to a number. */
  function children(most: number): readonly Genome[] {
    const found = new Map<string, Genome>()
    for (let repeats = 0; found.size < most && repeats < MOST_KNOWN;) {
      const genome = maker.canonical(child())
      const key = genome.join()
      if (known.has(key) || found.has(key) || !isOfShare(genome, share)) repeats++
      else {
        found.set(key, genome)
        repeats = 0
      }
    }
    return [...found.values()]
  }
  /** What a plan promises: how much better it is likely to be than what comes nearest to being better in all; more is better. */
  function promiseOf(wishes: Wishes): (begun: TriedPlan) => number {
    const models = modelsOf(known.values())
    const points = front.map((t) => scoredOf(t, wishes).objectives)
    const reach = OBJECTIVES.map((_, k) => {
      const values = points.map((p) => p[k]!)
      return Math.max(1e-12, Math.max(...values) - Math.min(...values))
    })
    return ({ genome, figures }) => {
      const model = models.get(genome[0]!)
      // too little is known of its like: it is worth a look
      if (!model?.oil || points.length === 0) return Infinity
      const likely = Object.fromEntries(
        FITTED_FIGURES.map((o) => [o, model[o] ? FITTED[o].from(model[o].predict(genome)) : 0]),
      )
      const { objectives } = scoredOf({ genome, figures: { ...figures, ...likely } }, wishes)
      if (wishes.badEnd && likely.pressure! > LIMITS.crankcaseHigh) return -PAST_LIMIT - likely.pressure!
      if (likely.findings! > LIKELY_FINDING && front[0]!.figures.findings === 0) return -likely.findings!
      if (wallOf(figures, wishes) !== undefined) return -Infinity
      return points.reduce(
        (least, p) =>
          Math.min(
            least,
            p.reduce((most, x, k) => Math.max(most, (x - objectives[k]!) / reach[k]!), -Infinity),
          ),
        Infinity,
      )
    }
  }

  /** Front and nearest plans by circuit, the nearest of some plans; and how much room there is about each on the front. */
  function group(of: Iterable<TriedPlan>, wishes: Wishes): void {
    nearestOfEach = nearestByCircuit(of, wishes)
    stoppedOfEach = nearestOfEach.filter((like) => like.some((t) => scoredOf(t, wishes).broken > 0))
    frontOfEach = [...byCircuitOf(front).values()]
    const distances = crowdingOf(front.map((t) => scoredOf(t, wishes)))
    room = new Map(front.map((t, k) => [t, distances[k]!]))
  }
  /** Population and front anew, of all that was tried. */
  function takeStock(wishes: Wishes): void {
    population = survivors([...known.values()], wishes)
    front = joinFront([], known.values(), wishes)
    group(known.values(), wishes)
  }
  /** Population and front with more plans. */
  function takeIn(more: readonly TriedPlan[], wishes: Wishes): void {
    population = survivors([...population, ...more], wishes)
    front = joinFront(front, more, wishes)
    group([...nearestOfEach.flat(), ...more], wishes)
  }
  function* tryOn(wishes: Wishes, plans: number): Job<void> {
    if (JSON.stringify(wishes) !== under) {
      // other wishes may let through what was stopped before it was worked out
      takeStock(wishes)
      const worth = mayJoinFront(front, wishes)
      for (const [key, tried] of known) {
        // what another tried it works out itself
        if (tried.figures.stage === 0 || tried.figures.stage === 4 || learned.has(key)) continue
        const then = trial.goOn(tried, maker.plan(tried.genome), wishes, worth)
        if (then === tried) continue
        known.set(key, then)
        yield considered() / Math.max(plans, considered())
      }
      takeStock(wishes)
      under = JSON.stringify(wishes)
    }
    while (begun < starts.length && considered() < plans) {
      const genome = starts[begun++]!
      if (!known.has(genome.join())) take(begin(genome), wishes)
      if (begun === starts.length) takeStock(wishes)
      yield considered() / plans
    }
    // whole generations, so that a search in steps finds what one at once does
    while (begun === starts.length && considered() < plans && population.length > 0) {
      const found = children(CONSIDERED)
      if (found.length === 0) break
      const promise = promiseOf(wishes)
      const order = found
        .map(begin)
        .map((child) => ({ ...child, worth: promise(child.begun) }))
        .toSorted((a, b) => b.worth - a.worth)
      const most = isSmall ? order.length : Math.ceil((order.length * TRIED) / CONSIDERED)
      const taken = promising(order, most)
      for (const o of order) if (!taken.has(o)) passedOver.add(o.genome.join())
      const made: TriedPlan[] = []
      const worth = mayJoinFront(front, wishes)
      for (const child of taken) {
        made.push(take(child, wishes, worth))
        yield Math.min(1, considered() / plans)
      }
      takeIn(made, wishes)
    }
  }
  function learnFrom(others: readonly TriedTable[], wishes: Wishes): void {
    const isNew = (genome: Genome, stage: number): boolean => {
      const key = genome.join()
      const before = known.get(key)
      return !before || (learned.has(key) && before.figures.stage !== stage)
    }
    const fresh = others.flatMap((table) => unpackTried(table, isNew))
    for (const tried of fresh) {
      const key = tried.genome.join()
      known.set(key, tried)
      learned.add(key)
    }
    // before all starts were tried there is no stock yet
    if (begun === starts.length) takeIn(fresh, wishes)
  }
  return {
    tryOn,
    learnFrom,
    tried: () => [...known].flatMap(([key, t]) => (learned.has(key) ? [] : [t])),
    considered,
  }
}

/** Of each circuit those that break least, the first tried first. */
function nearestByCircuit(all: Iterable<TriedPlan>, wishes: Wishes): readonly (readonly TriedPlan[])[] {
  const byCircuit = byCircuitOf(all)
  return [...byCircuit.values()].map((like) =>
    like
      .map((t) => ({ t, broken: scoredOf(t, wishes).broken }))
      .toSorted((a, b) => a.broken - b.broken)
      .slice(0, NEAREST_OF_EACH)
      .map(({ t }) => t),
  )
}

/**
 * Of what is tried, the share that is taken from each circuit in turn, and the share that is tried whatever it promises: what two choices do
 * together is predicted only where their like was tried.
 */
const [IN_TURN, EVENLY] = [0.4, 0.1]
type Considered = { readonly genome: Genome; readonly worth: number }
/** Those that are tried: most of them by what they promise, the rest by circuit and evenly. @param order the best first */
function promising<T extends Considered>(order: readonly T[], most: number): ReadonlySet<T> {
  const first = Math.ceil(most * (1 - IN_TURN - EVENLY))
  const taken = new Set(order.slice(0, first))
  const rest = order.slice(first).filter((o) => o.worth > -Infinity)
  const queues = [...byCircuitOf(rest).values()]
  const turns = Math.ceil(most * (1 - EVENLY))
  for (let k = 0; taken.size < turns && queues.some((q) => k < q.length); k++)
    for (const q of queues) if (k < q.length && taken.size < turns) taken.add(q[k]!)
  const others = rest.filter((o) => !taken.has(o))
  const stride = Math.max(1, Math.floor(others.length / Math.max(1, most - taken.size)))
  for (let k = 0; k < others.length && taken.size < most; k += stride) taken.add(others[k]!)
  return taken
}

/** Each circuit as it is, then with one choice moved. */
function startsOf(sizes: readonly number[]): readonly Genome[] {
  const circuits = Array.from({ length: sizes[0]! }, (_, k) => k)
  const moved = circuits.flatMap((c) =>
    sizes.flatMap((size, gene) =>
      gene === 0
        ? []
        : Array.from({ length: size - 1 }, (_, k) => plainGenome(c).map((x, g) => (g === gene ? k + 1 : x))),
    ),
  )
  return [...circuits.map(plainGenome), ...moved]
}
