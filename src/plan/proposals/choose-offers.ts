/** Of everything that was tried, the plans to judge in full; of those that pass, the few worth choosing between. */
import { OBJECTIVES, type Objective, type PlanFigures } from './tried-plan'
import { choiceOf, type Genome } from './genome'
import type { PlanOffer } from './judge-plan'

/** A sound plan that may be worth judging, with its points as far as the search knows them. */
export type Candidate = {
  readonly genome: Genome
  readonly figures: Readonly<Pick<PlanFigures, Objective>>
  readonly points: number
}

/** Of each circuit, and by each objective, so many are judged. */
const [OF_CIRCUIT, OF_OBJECTIVE] = [2, 2]
/** Figures that differ by less than this share of what all of them span are as good as each other. */
const ALIKE = 0.03
const MOST_OFFERS = 5
const LEAST_OFFERS = 3

/** Differences that nobody would choose by: oil as m3 a metre (1 ml per 1 000 km), pressure in Pa; and of points. */
const NO_DIFFERENCE: Readonly<Record<Objective, number>> = {
  oil: 1e-12,
  pressure: 50,
  looks: 0.2,
  hours: 0.05,
  price: 1,
}
const SAME_POINTS = 0.5

type Weighed = Pick<Candidate, 'figures' | 'points'>
/**
 * Whether another is as good in every objective and by points, and better in one of them.
 * @param tolerance how many times what makes no difference counts as none
 */
function isBehind(one: Weighed, by: Weighed, tolerance = 1): boolean {
  const behind = [
    (one.points - by.points) / SAME_POINTS,
    ...OBJECTIVES.map((name) => (one.figures[name] - by.figures[name]) / NO_DIFFERENCE[name]),
  ]
  return behind.every((x) => x >= -tolerance) && behind.some((x) => x > tolerance)
}
/**
 * Whether another offer is as good in every objective and by the measure, and better in one of them.
 * @param tolerance how many times what makes no difference counts as none
 */
export const isDominated = (offer: PlanOffer, by: PlanOffer, tolerance = 1): boolean =>
  isBehind({ ...offer, points: offer.measure.total }, { ...by, points: by.measure.total }, tolerance)

/** Those that are about as good as any by one objective, the best of them by points first. */
function leastBy<T>(all: readonly T[], figure: (x: T) => number, points: (x: T) => number): readonly T[] {
  const values = all.map(figure)
  const least = Math.min(...values)
  const most = Math.max(...values)
  return all.filter((_, k) => values[k]! <= least + ALIKE * (most - least)).toSorted((a, b) => points(a) - points(b))
}

/**
 * What is judged in full: the best of each circuit by points, and by each objective; and of each of these the best that is better in all, so
 * that nothing is offered that another outdoes which was tried. What came of several searches is put together first.
 */
export function plansToJudge(sound: readonly Candidate[]): readonly Candidate[] {
  const one = new Map(sound.map((c) => [c.genome.join(), c]))
  const all = [...one.values()]
  const circuits = [...new Set(all.map((c) => c.genome[0]!))].toSorted((a, b) => a - b)
  const chosen = [
    ...circuits.flatMap((circuit) =>
      all
        .filter((c) => c.genome[0] === circuit)
        .toSorted((a, b) => a.points - b.points)
        .slice(0, OF_CIRCUIT),
    ),
    ...OBJECTIVES.flatMap((o) =>
      leastBy(
        all,
        (c) => c.figures[o],
        (c) => c.points,
      ).slice(0, OF_OBJECTIVE),
    ),
  ]
  const better = chosen.flatMap((c) => {
    const ahead = all.filter((by) => isBehind(c, by))
    return ahead.length === 0 || ahead.some((by) => chosen.includes(by))
      ? []
      : [ahead.reduce((a, b) => (b.points < a.points ? b : a))]
  })
  return [...new Set([...chosen, ...better])]
}

/**
 * What is judged where those chosen first are stopped after all: the best by points of each circuit with each valve at its manifold and with each
 * can, and the one whose crankcase stands lowest at the bad end.
 */
export function reservePlans(sound: readonly Candidate[]): readonly Candidate[] {
  const best = new Map<string, Candidate>()
  const keepLess = (key: string, c: Candidate, figure: (x: Candidate) => number) => {
    const before = best.get(key)
    if (!before || figure(c) < figure(before)) best.set(key, c)
  }
  for (const c of sound) {
    const circuit = c.genome[0]!
    keepLess(
      `${circuit} valves ${choiceOf(c.genome, 'pcv')} ${choiceOf(c.genome, 'manifoldCheck')}`,
      c,
      (x) => x.points,
    )
    keepLess(`${circuit} can ${choiceOf(c.genome, 'can')}`, c, (x) => x.points)
    keepLess(`${circuit} lowest`, c, (x) => x.figures.pressure)
  }
  return [...new Set(best.values())]
}
/**
 * Of the circuits of which nothing that was judged passed, the next to judge, the best by points first: what the search weighs by the outermost
 * states is judged in all. Of every circuit where too few passed to choose between. None once each circuit has one that passed, or no more.
 * @param judged plans that were judged @param passed those of them that passed
 */
export function furtherPlansToJudge(
  reserves: readonly Candidate[],
  judged: readonly Genome[],
  passed: readonly Genome[],
): readonly Candidate[] {
  const done = new Set(judged.map((g) => g.join()))
  const settled = new Set(passed.length < LEAST_OFFERS ? [] : passed.map((g) => g[0]!))
  const left = reserves.filter((c) => !settled.has(c.genome[0]!) && !done.has(c.genome.join()))
  return [...new Set(left.map((c) => c.genome[0]!))].flatMap((circuit) =>
    left
      .filter((c) => c.genome[0] === circuit)
      .toSorted((a, b) => a.points - b.points)
      .slice(0, OF_CIRCUIT),
  )
}

/** How unlike two offers are by design: another circuit counts more than all sizes together. */
const unlike = (a: PlanOffer, b: PlanOffer): number =>
  a.genome.reduce((sum, g, k) => sum + (g === b.genome[k] ? 0 : k === 0 ? 8 : 1), 0)
/** Unlikeness that is asked for first, and what will do where there are not three such. */
const [ANOTHER_CIRCUIT, OTHER_SIZES] = [8, 2]

/** The order in which offers are shown: the best by the measure, the best by each objective, then the rest by the measure. */
function inOrder(offers: readonly PlanOffer[]): readonly PlanOffer[] {
  const total = (o: PlanOffer) => o.measure.total
  const byTotal = offers.toSorted((a, b) => total(a) - total(b))
  const best = OBJECTIVES.flatMap((o) => leastBy(offers, (x) => x.figures[o], total).slice(0, 1))
  return [...new Set([...byTotal.slice(0, 1), ...best, ...byTotal])]
}

/**
 * Three to five offers that are really different, the best by the measure first. One that another outdoes in all that is weighed is shown only
 * where there are not three without it.
 * @param tolerance how many times what makes no difference counts as none
 */
export function chooseOffers(offers: readonly PlanOffer[], tolerance = 1): readonly PlanOffer[] {
  const front = offers.filter((o) => !offers.some((by) => isDominated(o, by, tolerance)))
  const chosen: PlanOffer[] = []
  const take = (from: readonly PlanOffer[], most: number, apart: number) => {
    for (const o of inOrder(from)) {
      if (chosen.length >= most) return
      if (!chosen.includes(o) && chosen.every((c) => unlike(c, o) >= apart)) chosen.push(o)
    }
  }
  take(front, MOST_OFFERS, ANOTHER_CIRCUIT)
  take(front, LEAST_OFFERS, OTHER_SIZES)
  take(offers, LEAST_OFFERS, ANOTHER_CIRCUIT)
  take(offers, LEAST_OFFERS, OTHER_SIZES)
  return chosen.toSorted((a, b) => a.measure.total - b.measure.total)
}

/** In which objectives an offer is the best of those that are shown. */
export const bestIn = (offer: PlanOffer, shown: readonly PlanOffer[]): readonly Objective[] =>
  OBJECTIVES.filter((o) => shown.every((x) => x === offer || x.figures[o] > offer.figures[o]))
