/** The few that are shown, of offers with figures made up for the purpose. */
import { newBuild } from '../schools/new-build'
import { bestIn, chooseOffers, furtherPlansToJudge, plansToJudge, reservePlans, type Candidate } from './choose-offers'
import { GENES } from './genome'
import type { PlanOffer } from './judge-plan'
import { placingOf, refusedOf } from './propose'

const build = newBuild({ name: 'Ask', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
/** An offer of a circuit, in a size, with its points and its figures in the order of the objectives, oil in ml per 1 000 km. */
function offer(circuit: number, size: number, total: number, figures: readonly number[]): PlanOffer {
  const [ml, pressure, looks, hours, price] = figures as [number, number, number, number, number]
  return {
    genome: [circuit, size, size],
    circuit: `c${circuit}`,
    name: `Circuit ${circuit}, size ${size}`,
    differs: [],
    build,
    figures: { oil: ml * 1e-12, pressure, looks, hours, price },
    measure: { total } as PlanOffer['measure'],
    findings: [],
    place: undefined,
  }
}
const best = offer(0, 0, 10, [10, 500, 2, 5, 200])
const cheap = offer(1, 0, 30, [40, 900, 4, 1, 50])
const calm = offer(2, 0, 25, [30, 100, 4, 6, 300])
const rare = offer(3, 0, 40, [30, 900, 0, 7, 400])

test('one that another outdoes in all that is weighed is not shown where three are without it', () => {
  // as the best, but an hour longer and 35 more
  const outdone = offer(4, 0, 10.2, [9.8, 480, 2, 6, 235])
  expect(chooseOffers([outdone, rare, cheap, best, calm])).toEqual([best, calm, cheap, rare])
  // less of anything, and it is a choice
  const choice = offer(4, 0, 10.2, [8, 500, 2, 6, 235])
  expect(chooseOffers([choice, rare, cheap, best, calm])).toContain(choice)
})

test('what is better in all than a plan that is judged is judged too, the best of it, where none of that is yet', () => {
  const candidate = (o: PlanOffer): Candidate => ({ genome: o.genome, figures: o.figures, points: o.measure.total })
  const [first, second] = [best, offer(0, 1, 12, [8, 520, 2, 5, 210])]
  // the third of its circuit by points, and the least of nothing: it would not be judged by itself
  const [third, fourth] = [offer(0, 2, 14, [25, 700, 2.5, 5.5, 230]), offer(0, 3, 15, [27, 750, 2.5, 5.5, 230])]
  const behind = offer(4, 0, 16, [28, 800, 3, 6, 260])
  const all = [first, second, third, fourth, cheap, calm, rare]
  const judgedOf = (of: readonly PlanOffer[]) => plansToJudge(of.map(candidate)).map((c) => c.genome.join())
  expect(judgedOf([...all, behind])).not.toContain(third.genome.join())
  // what is judged outdoes it no more: those that do are the third and the fourth
  const dear = (o: PlanOffer): PlanOffer => ({ ...o, figures: { ...o.figures, price: 270 } })
  const withThird = judgedOf([dear(first), dear(second), third, fourth, cheap, calm, rare, behind])
  expect(withThird).toContain(third.genome.join())
  expect(withThird).not.toContain(fourth.genome.join())
})

test('where all of a circuit that were judged are stopped, its best with other valves at the manifold are judged next', () => {
  const plan = (circuit: number, pcv: number, can: number, points: number): Candidate => ({
    genome: GENES.map((g) => ({ circuit, pcv, can })[g as string] ?? 0),
    figures: best.figures,
    points,
  })
  const [first, second] = [plan(0, 1, 0, 5), plan(0, 1, 1, 6)]
  const [small, otherSmall, large, largest] = [plan(0, 2, 0, 9), plan(0, 2, 1, 8), plan(0, 3, 0, 20), plan(0, 4, 0, 30)]
  const calmest = { ...plan(0, 3, 1, 40), figures: { ...best.figures, pressure: 90 } }
  const passing = [1, 2, 3].map((circuit) => plan(circuit, 1, 0, 1))
  const other = plan(1, 2, 0, 2)
  const reserves = reservePlans([first, second, small, otherSmall, large, largest, calmest, ...passing, other])
  expect(new Set(reserves)).toEqual(new Set([first, second, otherSmall, large, largest, calmest, ...passing, other]))
  const genomes = (of: readonly Candidate[]) => of.map((c) => c.genome)
  const judged = [first, second, ...passing]
  const next = (of: readonly Candidate[], passed: readonly Candidate[]) =>
    furtherPlansToJudge(reserves, genomes(of), genomes(passed))
  // the best of two valves first; nothing more of a circuit that has one that passed
  expect(next(judged, passing)).toEqual([otherSmall, large])
  const more = [...judged, otherSmall, large]
  expect(next(more, passing)).toEqual([largest, calmest])
  expect(next(more, [...passing, large])).toEqual([])
  expect(next([...more, largest, calmest], passing)).toEqual([])
  // two are too few to choose between: more of their circuits too
  expect(next(judged, passing.slice(1))).toContain(other)
})

test('two that differ by nothing to choose by do not put each other out', () => {
  const twin = offer(4, 0, 10.2, [9.5, 520, 2.1, 5, 200.4])
  expect(chooseOffers([best, twin, cheap])).toHaveLength(3)
})

test('to make three, other sizes of a circuit come before what is outdone', () => {
  const otherSizes = offer(0, 1, 12, [8, 500, 2, 5, 210])
  const outdone = offer(4, 0, 11, [10, 500, 2, 6, 235])
  expect(chooseOffers([best, outdone, cheap, otherSizes])).toEqual([best, otherSizes, cheap])
  expect(chooseOffers([best, outdone, cheap])).toEqual([best, outdone, cheap])
})

test('an offer is weighed as it stands in its place: what it outdid before may come in, and is placed then', () => {
  const second = offer(4, 0, 11, [10, 600, 2, 5.5, 220])
  const judged = [best, second, cheap, calm, rare]
  const first = placingOf({ judged, placed: new Map() })
  expect(first.toPlace).not.toContain(second)
  // its hoses are longer than was assumed
  const placedBest = { ...best, figures: { ...best.figures, hours: 6, price: 260 } }
  const next = placingOf({ judged, placed: new Map([[best, { offer: placedBest }]]) })
  expect(next.shown).toContain(placedBest)
  expect(next.shown).not.toContain(best)
  expect(next.toPlace).toContain(second)
  expect(next.toPlace).not.toContain(best)
  expect(bestIn(cheap, next.shown)).toEqual(['hours', 'price'])
})

test('of each circuit the best that passed is told, and the shown offer that is better in all', () => {
  const behind = offer(4, 0, 11, [10, 500, 2, 6, 235])
  const worse = offer(4, 1, 50, [60, 500, 2, 5, 180])
  // better in all is one that is shown, and before it by points one that is not
  const dear = offer(5, 0, 60, [45, 950, 5, 2, 60])
  const notShown = offer(1, 1, 20, [44, 940, 4.5, 1.5, 55])
  const noRoom = { wall: 'bay', circuit: 'c2', name: calm.name, because: 'no room' } as const
  const judged = [best, worse, behind, cheap, calm, rare, dear, notShown]
  const { best: byCircuit, shown } = placingOf({ judged, placed: new Map([[calm, noRoom]]) })
  expect(shown).toContain(cheap)
  for (const o of [calm, notShown]) expect(shown).not.toContain(o)
  expect(byCircuit).toEqual({
    c0: { points: 10, dominatedBy: undefined },
    c1: { points: 20, dominatedBy: undefined },
    c3: { points: 40, dominatedBy: undefined },
    c4: { points: 11, dominatedBy: best.name },
    c5: { points: 60, dominatedBy: cheap.name },
  })
  expect(refusedOf([{ offer: best }, noRoom])).toEqual([noRoom])
})
