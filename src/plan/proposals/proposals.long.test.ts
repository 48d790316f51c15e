/** Proposals: the front of a small space is that of trying all of it; nothing offered breaks a wall or has a finding; same seed, same answer. */
import { finish } from '@/core/job'
import { frontOf } from '@/core/search/pareto'
import { analyse } from '../analyse'
import { PART_EFFORT } from '../catalogue/effort'
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { activeVariant, applyEdits } from '../edit/edit'
import { perform } from '../edit/edit-builders'
import { makeEvaluator } from '../model/evaluator'
import { newBuild } from '../schools/new-build'
import { compare } from '../studies/compare'
import { effortOf } from '../studies/effort'
import { rankSchools } from '../studies/rank'
import { badNumbers } from '../testing'
import { plansToJudge, chooseOffers } from './choose-offers'
import { GENES, plainGenome, planMaker, planSpace, type Gene, type Genome } from './genome'
import { joinFront, makeIsland, scoredOf } from './island'
import { judgePlan, placeOffer, withOnlyPlan, type PlanOffer } from './judge-plan'
import { mendPlan } from './mend-plan'
import {
  judgeInRounds,
  makeSearches,
  nextSearchStep,
  nextPlansToJudge,
  placingOf,
  propose,
  searchInSteps,
  type Searches,
  type SearchAsk,
} from './propose'
import { packTried, surveyOf, unpackTried, type TriedTable } from './survey'
import { takeOffer } from './take-offer'
import { brokenBy, isSound, planTrial, wallOf, type TriedPlan } from './tried-plan'
import { turnsTo } from './turn-choice'
import { assumedWishes, keepWishes, readWishes, wishesOf, type Wishes } from './wishes'

const TODAY = '2026-11-28'
const build = newBuild({ name: 'x', engineClass: 'i5-turbo', use: 'street', ambientC: 15, units: 'metric' })
const wishes: Wishes = { ...assumedWishes(build), refused: ['weld'], mostHours: 6 }
const PLANS = 900
const found = finish(propose(build, wishes, TODAY, { plans: PLANS, seed: 3 }))
/** All that is worth judging of what one search tried. */
const worthOf = (ask: SearchAsk, table: TriedTable) => {
  const { first, reserves } = finish(makeSearches().worthJudging(ask, [table]))
  return [...new Set([...first, ...reserves])]
}
const grave = (b: Build) => analyse(b, TODAY).verdicts.filter((v) => v.severity === 'stop' || v.severity === 'fix')

test('nothing that is offered breaks a wall or has a finding to mend; each is a build that can be analysed', () => {
  expect(found.offers.length).toBeGreaterThanOrEqual(3)
  for (const o of found.offers) {
    expect(validateBuild(JSON.parse(JSON.stringify(o.build)))).toMatchObject({ ok: true })
    expect([o.name, grave(o.build).map((v) => v.title)]).toEqual([o.name, []])
    const { effort, vented, highest } = o.measure.facts
    expect(effort.means).not.toContain('weld')
    expect(effort.hours).toBeLessThanOrEqual(6)
    expect(vented).toBe(0)
    expect(highest).toBeLessThanOrEqual(2000)
    expect(o.figures.looks).toBeLessThanOrEqual(wishes.mostLooks)
  }
  expect(badNumbers(found.offers.map((o) => o.figures))).toEqual([])
  expect(new Set(found.offers.map((o) => o.circuit)).size).toBe(found.offers.length)
  expect(found.offers.filter((o) => o.best.length > 0).length).toBeGreaterThan(1)
})

test('of some offers it is said what would be shown in their place if a fact were 2 % off; that is none of those shown', () => {
  const eight = newBuild({ name: 'x', engineClass: 'v8-na', use: 'fast-road', ambientC: 15, units: 'metric' })
  const { offers } = finish(propose(eight, assumedWishes(eight), TODAY, { plans: PLANS, seed: 1 }))
  const instead = offers.flatMap((o) => /“(.*)” would be shown in its place/.exec(o.replaced ?? '')?.slice(1) ?? [])
  expect(instead.length).toBeGreaterThan(0)
  for (const name of instead) expect(offers.map((o) => o.name)).not.toContain(name)
})

test('what was looked at adds up; each wall tells how many it stopped, the nearest, and what would let it in', () => {
  expect(found.considered).toBeGreaterThanOrEqual(PLANS)
  expect(found.tried).toBeLessThan(found.considered)
  const stopped = found.walls.reduce((sum, w) => sum + w.plans, 0)
  expect(stopped + found.sound).toBe(found.tried)
  expect(found.circuits.reduce((sum, c) => sum + c.tried, 0)).toBe(found.tried)
  const says = new Map(found.walls.map((w) => [w.wall, w.nearest.letIn]))
  expect(says.get('means')).toContain('welding')
  expect(found.circuits.find((c) => c.key === 'vented-can')).toMatchObject({ sound: 0, wall: 'law' })
})

test('what lets the nearest in over the pressure wall, does: with that blow-by it passes', () => {
  const maker = planMaker(planSpace(build))
  const trialOf = (b: Build) => planTrial(b, makeEvaluator(), maker.alike)
  const nearest = found.walls.find((w) => w.wall === 'pressure')!.nearest
  const times = Number(/blow-by were ([\d.]+) times/.exec(nearest.letIn)![1])
  const wallAt = (blowByTimes: number) => {
    const trial = trialOf({ ...build, engine: { ...build.engine, blowByTimes } })
    const plan = maker.plan(nearest.genome)
    return wallOf(trial.goOn(trial.begin(nearest.genome, plan), plan, wishes).figures, wishes)
  }
  expect([wallAt(times * 0.98), wallAt(1)]).toEqual([undefined, 'pressure'])
})

test('a search goes on where it stood: in two steps as in one; with other wishes what was tried is kept', () => {
  const ask: SearchAsk = { build, wishes: assumedWishes(build), seed: 5, today: TODAY }
  const whole = finish(makeSearches().tryPlans(ask, 0, 900))
  const searches = makeSearches()
  // a first step that ends within the circuits as they are, then on
  finish(searches.tryPlans(ask, 0, 300))
  const inSteps = finish(searches.tryPlans(ask, 0, 900))
  expect(unpackTried(inSteps).map((t) => t.genome.join())).toEqual(unpackTried(whole).map((t) => t.genome.join()))
  const cheap = { ...ask, wishes: { ...ask.wishes, mostPrice: 150 } }
  const sorted = finish(searches.tryPlans(cheap, 0, 0))
  expect(sorted.rows).toHaveLength(inSteps.rows.length)
  const cheapWorth = worthOf(cheap, sorted)
  expect(cheapWorth.length).toBeGreaterThan(0)
  for (const c of cheapWorth) expect(c.figures.price).toBeLessThanOrEqual(150)
  // and back: nothing that passed before is lost
  expect(worthOf(ask, finish(searches.tryPlans(ask, 0, 0))).length).toBeGreaterThanOrEqual(worthOf(ask, whole).length)
})

const SPACES: readonly (readonly [string, string, readonly Gene[]])[] = [
  ['i5-turbo', 'vacuum-side-can', ['can', 'narrowBores', 'manifoldCheck', 'pcv']],
  ['v8-na', 'both-sides', ['can', 'secondCan', 'wideBores']],
  ['i4-turbo', 'two-outlets', ['can', 'restrictors', 'checks']],
  ['f4-turbo', 'separator-return', ['can', 'wideBores', 'baffles', 'pcv']],
  ['i6-na', 'breather-side-can', ['can', 'narrowBores', 'wideBores', 'baffles']],
]
test.each(SPACES)(
  'a small space tried whole has the front that the search finds (%s, %s)',
  (engineClass, school, free) => {
    const small = newBuild({
      name: 'x',
      engineClass: engineClass as 'i5-turbo',
      use: 'street',
      ambientC: 15,
      units: 'metric',
      school,
    })
    const open: Wishes = { ...assumedWishes(small), mostLooks: Infinity }
    const space = planSpace(small, 'circuit', free)
    const maker = planMaker(space)
    const trial = planTrial(small, makeEvaluator(), maker.alike)
    const all = new Map<string, TriedPlan>()
    const each = (genome: Genome): void => {
      if (genome.length < GENES.length) {
        for (let k = 0; k < space.sizes[genome.length]!; k++) each([...genome, k])
        return
      }
      const own = maker.canonical(genome)
      if (all.has(own.join())) return
      const plan = maker.plan(own)
      all.set(own.join(), trial.goOn(trial.begin(own, plan), plan, open))
    }
    each([])
    const frontAmong = (tried: readonly TriedPlan[]) => {
      const sound = tried.filter((t) => isSound(t, open))
      const scored = sound.map((t) => scoredOf(t, open))
      const least = Math.min(...scored.map((s) => s.broken))
      const lowest = scored.filter((s) => s.broken === least)
      return new Set(frontOf(lowest).map((i) => lowest[i]!.objectives.map((x) => x.toPrecision(6)).join()))
    }
    const whole = frontAmong([...all.values()])
    const island = makeIsland(space, 1)
    finish(island.tryOn(open, all.size))
    expect(whole.size).toBeGreaterThan(1)
    expect(frontAmong(island.tried())).toEqual(whole)
  },
)

test('islands share the plans: none is tried by two, and what another tried counts as known', () => {
  const ask: SearchAsk = { build, wishes, seed: 5, today: TODAY }
  const searches = makeSearches()
  const found = finish(searchInSteps(searches, ask, 1200))
  const [one, other] = found.map((table) => unpackTried(table).map((t) => t.genome.join()))
  expect(one!.length).toBeGreaterThan(200)
  expect(other!.length).toBeGreaterThan(200)
  expect(one!.filter((g) => other!.includes(g))).toEqual([])
  // the same answer in one thread as in two: each has its searches, and they meet between steps
  const [first, second] = [makeSearches(), makeSearches()]
  let apart: readonly TriedTable[] = []
  for (let until = 0; until < 1200;) {
    const step = nextSearchStep(apart, until, 1200)
    apart = [second, first]
      .map((own, k) => finish(own.tryPlans(ask, 1 - k, step.until, step.others[1 - k])))
      .toReversed()
    until = step.until
  }
  expect(apart).toEqual(found)
})

test('an island goes on from what another tried, and does not try it again', () => {
  const space = planSpace(build)
  const teacher = makeIsland(space, 1)
  finish(teacher.tryOn(wishes, 900))
  const learner = makeIsland(space, 2)
  const alone = makeIsland(space, 2)
  for (const island of [learner, alone]) finish(island.tryOn(wishes, 700))
  learner.learnFrom([packTried(teacher.tried(), teacher.considered())], wishes)
  expect(learner.considered()).toBe(alone.considered())
  const before = new Set([...teacher.tried(), ...learner.tried()].map((t) => t.genome.join()))
  const had = learner.tried().length
  for (const island of [learner, alone]) finish(island.tryOn(wishes, 1000))
  const after = learner.tried().slice(had)
  expect(after.length).toBeGreaterThan(50)
  expect(after.filter((t) => before.has(t.genome.join()))).toEqual([])
  // what it tries next lies nearer to the best of what the other tried
  const best = joinFront([], teacher.tried(), wishes)
  const near = (tried: readonly TriedPlan[]) =>
    tried.filter((t) => best.some((b) => b.genome.filter((x, k) => x !== t.genome[k]).length === 1)).length
  expect(near(after)).toBeGreaterThan(1.3 * near(alone.tried().slice(had)))
})

test('a circuit that passes only with several choices at once is found beside one that passes as it is', () => {
  const of = newBuild({ name: 'x', engineClass: 'v6-na', use: 'street-track', ambientC: 15, units: 'metric' })
  const wished = assumedWishes(of)
  const tried = finish(searchInSteps(makeSearches(), { build: of, wishes: wished, seed: 1, today: TODAY }, 2500))
  const sound = tried.flatMap((table) => unpackTried(table)).filter((t) => scoredOf(t, wished).broken === 0)
  const changes = (genome: Genome) => genome.filter((x, k) => k > 0 && x !== 0).length
  const leastOf = new Map<number, number>()
  for (const { genome } of sound)
    leastOf.set(genome[0]!, Math.min(leastOf.get(genome[0]!) ?? Infinity, changes(genome)))
  expect(Math.min(...leastOf.values())).toBe(0)
  expect(Math.max(...leastOf.values())).toBeGreaterThanOrEqual(2)
})

test('of plans that one wall stops, the one less past it is nearer to passing', () => {
  const maker = planMaker(planSpace(build))
  const { genome } = found.walls.find((w) => w.wall === 'pressure')!.nearest
  const trial = planTrial(build, makeEvaluator())
  const high = trial.goOn(trial.begin(genome, maker.plan(genome)), maker.plan(genome), wishes).figures
  const at = (pascal: number) => brokenBy({ ...high, pressure: pascal, likelyHigh: pascal }, wishes)
  expect(at(2100)).toBeLessThan(at(5000))
  expect(at(5000)).toBeLessThan(at(60_000))
  // but no pressure is worse than what needs no solving to be stopped
  expect(at(60_000)).toBeLessThan(brokenBy({ ...high, hours: wishes.mostHours + 0.1 }, wishes))
})

test('a plan is its choices: nothing chosen is the school as it is, what changes nothing is left out, what is chosen is said', () => {
  const maker = planMaker(planSpace(build))
  const at = maker.space.circuits.findIndex((s) => s.key === 'vacuum-side-can')
  expect(maker.differences(plainGenome(at))).toEqual([])
  const genome = GENES.map(
    (g) => ({ circuit: at, can: 5, secondCan: 3, narrowBores: 1, baffles: 1, manifoldCheck: 1 })[g as 'can'] ?? 0,
  )
  // it has no second can; and with more baffles it is a school of its own
  expect(maker.canonical(genome)[GENES.indexOf('secondCan')]).toBe(0)
  expect(maker.canonical(genome)[GENES.indexOf('baffles')]).toBe(0)
  const said = maker.differences(maker.canonical(genome))
  expect(said).toContain('fine-fibre separator')
  expect(said).toContain('a check at the manifold')
  expect(said.some((s) => s.endsWith('lines'))).toBe(true)
  const other = maker.space.circuits.findIndex((s) => s.key === 'breather-side-can')
  const baffled = genome.with(0, other)
  expect(maker.differences(maker.canonical(baffled)).at(-1)).toBe('more baffles in the cover')
})

test('held to its circuit, the plan as it stands is sized; free, it is among the circuits', () => {
  const changed = perform(build, (b) => [
    { op: 'set', path: ['variants', 'a', 'parts', 'can', 'bowlMl'], value: activeVariant(b).parts.length * 100 },
  ])
  if (!changed.ok) throw new Error(changed.reason)
  expect(planSpace(changed.value).circuits.at(-1)!.key).toBe('present')
  const held = planSpace(changed.value, 'circuit')
  expect(held.circuits.map((c) => c.key)).toEqual(['present'])
  const wished = assumedWishes(build)
  const sized = finish(propose(changed.value, wished, TODAY, { plans: 300, seed: 1, hold: 'circuit' }))
  expect(sized.offers.length).toBeGreaterThan(0)
  for (const o of sized.offers) expect(activeVariant(o.build).school).toBe('vacuum-side-can')
})

test('where nothing that was judged of a circuit passes, more of it is judged, until one does or none is left', () => {
  const ask: SearchAsk = { build, wishes, seed: 1, today: TODAY }
  const searches = makeSearches()
  const found = finish(searchInSteps(searches, ask, 900))
  /** what is judged in each round, where the first so many rounds are stopped whole */
  const roundsWith = (stopped: number) => {
    const rounds: (readonly Genome[])[] = []
    const strict: Searches = {
      ...searches,
      *judgePlans(_, genomes) {
        rounds.push(genomes)
        yield 1
        const stops = { wall: 'pressure', circuit: '', name: '', because: '' } as const
        return genomes.map((genome) => (rounds.length <= stopped ? stops : { offer: { genome } as PlanOffer }))
      },
    }
    const done = finish(judgeInRounds(strict, ask, found))
    expect(nextPlansToJudge(finish(searches.worthJudging(ask, found)), done)).toEqual([])
    expect(done.map((d) => d.genome)).toEqual(rounds.flat())
    return rounds
  }
  expect(roundsWith(0)).toHaveLength(1)
  const [first, second, ...more] = roundsWith(1)
  expect(more).toEqual([])
  expect(second!.length).toBeGreaterThan(2)
  const all = roundsWith(Infinity).flat()
  expect(all.length).toBeGreaterThan(first!.length + second!.length)
  expect(new Set(all.map((g) => g.join())).size).toBe(all.length)
})

test('same build, wishes and seed: the same plans tried, and judged the same', () => {
  const once = () => {
    const searches = makeSearches()
    const ask: SearchAsk = { build, wishes, seed: 3, today: TODAY }
    const table = finish(searches.tryPlans(ask, 0, PLANS))
    const worth = finish(searches.worthJudging(ask, [table]))
    const judged = finish(
      searches.judgePlans(
        ask,
        worth.first.map((c) => c.genome),
      ),
    )
    return { tried: unpackTried(table), worth, judged }
  }
  const first = once()
  expect(first.judged.length).toBeGreaterThan(0)
  expect(once()).toEqual(first)
})

test('what was tried passes between workers as numbers, and comes back as it was', () => {
  const island = makeIsland(planSpace(build), 2)
  finish(island.tryOn(wishes, 40))
  const back = unpackTried(packTried(island.tried(), 40))
  expect(back).toEqual(island.tried().map((t) => ({ ...t, genome: [...t.genome] })))
  const survey = surveyOf(planMaker(planSpace(build)), [packTried(island.tried(), 40)], wishes)
  expect(survey.tried).toBe(island.tried().length)
})

test('who gives way on the bad end is offered what keeps its limits as it is likely', () => {
  const strong = newBuild({ name: 'x', engineClass: 'v8-direct', use: 'street', ambientC: 15, units: 'metric' })
  const searches = makeSearches()
  const ask = { build: strong, wishes: assumedWishes(strong), seed: 1, today: TODAY }
  const strict = worthOf(ask, finish(searches.tryPlans(ask, 0, 700)))
  const without = { ...ask, wishes: { ...ask.wishes, badEnd: false } }
  const eased = worthOf(without, finish(searches.tryPlans(without, 0, 700)))
  expect(eased.length).toBeGreaterThan(strict.length)
  expect(eased.some((c) => c.figures.pressure > 2000)).toBe(true)
})

test('a can in the drawer is used and costs nothing', () => {
  const kept = { ...assumedWishes(build), keepCan: 'mesh' }
  const searches = makeSearches()
  const ask: SearchAsk = { build, wishes: kept, seed: 1, today: TODAY }
  const table = finish(searches.tryPlans(ask, 0, 600))
  const candidates = worthOf(ask, table)
  const maker = planMaker(planSpace(build))
  expect(candidates.length).toBeGreaterThan(0)
  for (const { genome, figures } of candidates) {
    const plan = maker.plan(genome)
    expect(plan.parts.some((p) => p.kind === 'can' && p.model === 'mesh')).toBe(true)
    expect(figures.price).toBeCloseTo(effortOf(build, plan).price - PART_EFFORT.can.price, 6)
  }
  expect(surveyOf(maker, [table], kept).walls.some((w) => w.wall === 'drawer')).toBe(true)
})

test('ranking, Compare and proposals say the same of the same plan', () => {
  const maker = planMaker(planSpace(build))
  const asJudged = finish(rankSchools(build, TODAY)).ranked.flatMap((ranked) => {
    const plan = activeVariant(ranked.build)
    const same = { ...maker, plan: () => plan, name: () => plan.name, differences: () => [] }
    const at = maker.space.circuits.findIndex((c) => c.key === ranked.key)
    const judged = finish(judgePlan(same, plainGenome(at), { wishes: assumedWishes(build), today: TODAY }))
    return 'offer' in judged && judged.offer.differs.length === 0 ? [{ ranked, offer: judged.offer }] : []
  })
  expect(asJudged.length).toBeGreaterThan(0)
  for (const { ranked, offer } of asJudged) expect(offer.measure.points).toEqual(ranked.measure.points)
  const [{ ranked, offer }] = asJudged as [(typeof asJudged)[0]]
  const [compared] = finish(compare(offer.build, TODAY))
  expect(compared!.measure.points).toEqual(ranked.measure.points)
})

test('an offer that finds no place in the bay makes room for the next', () => {
  const [a, b, c] = found.offers
  const judged = [a!, b!, c!]
  const first = placingOf({ judged, placed: new Map() })
  expect(first.toPlace).toHaveLength(3)
  const without = placingOf({
    judged,
    placed: new Map([[a!, { wall: 'bay', circuit: a!.circuit, name: a!.name, because: 'no room' }]]),
  })
  expect(without.shown.map((o) => o.name)).toEqual([b!.name, c!.name])
  // a bay so full that nothing fits is the builder's own: it stops the plan that has a can to place, and says why
  const withCan = found.offers.find((o) => activeVariant(o.build).parts.some((p) => p.kind === 'can'))!
  const cramped: Build = {
    ...withCan.build,
    bay: {
      datum: 'x',
      spots: [],
      keepOuts: [],
      bonnet: [{ id: 'b', forwardMm: 0, leftMm: 0, upMm: -2000, measured: true }],
    },
  }
  const judgedIn = finish(placeOffer({ ...withCan, build: cramped }, wishes, TODAY))
  expect(judgedIn).toMatchObject({ wall: 'bay' })
})

test('an offer becomes a plan of its build, and a second one too; nothing of the others moves', () => {
  const first = perform(build, takeOffer(found.offers[0]!.build))
  if (!first.ok) throw new Error(first.reason)
  const second = perform(first.value, takeOffer(found.offers[1]!.build))
  if (!second.ok) throw new Error(second.reason)
  expect(second.value.variants.map((v) => v.id)).toEqual(['a', 'b', 'c'])
  expect(second.value.active).toBe('c')
  expect(second.value.variants[0]).toEqual(build.variants[0])
  expect(validateBuild(JSON.parse(JSON.stringify(second.value)))).toMatchObject({ ok: true })
})

test('the nearest plan without a finding: steps that each make a build, fewer findings after than before', () => {
  const poor = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 15,
    units: 'metric',
    school: 'vacuum-side-can',
  })
  const before = grave(poor)
  const mended = mendPlan(poor, TODAY)
  expect(before.length).toBeGreaterThan(0)
  expect(mended.steps.length).toBeGreaterThan(0)
  let now = poor
  for (const s of mended.steps) {
    const then = applyEdits(now, s.edits)
    if (!then.ok) throw new Error(then.reason)
    now = then.value
  }
  expect(grave(now).map((v) => v.title)).toEqual(mended.left)
  expect(mended.left.length).toBeLessThan(before.length)
  expect(mended.hours).toBeGreaterThan(0)
})

test('what would turn a choice is more than nothing: as the facts are, the first is the better one', () => {
  const [first, ...others] = found.offers
  const says = others.map((o) => turnsTo(first!, o, TODAY))
  for (const s of says) expect(s === undefined || /blow-by were|you drove|you were on track/.test(s)).toBe(true)
  // a plan that stands a hair behind is turned to by little; one that is far behind by much or not at all
  const near = turnsTo(first!, { build: others[0]!.build, measure: { total: first!.measure.total + 1e-6 } }, TODAY)
  expect(near).toMatch(/(0\.9|1\.0)\d* times|km a year|track/)
})

test('of candidates the best of each circuit and by each objective are judged; of offers three to five that differ', () => {
  const at = (circuit: number, points: number, hours: number) => ({
    genome: [circuit, points],
    figures: { oil: points, pressure: 0, looks: 0, hours, price: 0 },
    points,
  })
  const chosen = plansToJudge([at(0, 5, 9), at(0, 6, 8), at(0, 7, 7), at(1, 90, 1), at(0, 5, 9)])
  expect(chosen.map((c) => c.points).toSorted((a, b) => a - b)).toEqual([5, 6, 90])
  expect(chooseOffers(found.offers)[0]!.measure.total).toBe(Math.min(...found.offers.map((o) => o.measure.total)))
  expect(withOnlyPlan(build, activeVariant(found.offers[0]!.build), 'A').variants).toHaveLength(1)
})

test('what is asked is kept with the build, and told again', () => {
  const asked = { ...assumedWishes(build), refused: ['weld' as const], mostPrice: 300, mostLooks: Infinity }
  const kept = perform(build, keepWishes(asked))
  if (!kept.ok) throw new Error(kept.reason)
  expect(validateBuild(JSON.parse(JSON.stringify(kept.value)))).toMatchObject({ ok: true })
  expect(wishesOf(kept.value)).toEqual(asked)
  expect(wishesOf(build)).toEqual(assumedWishes(build))
})

test.each([
  [{ sealed: 'yes' }, 'sealed'],
  [{ badEnd: 1 }, 'badEnd'],
  [{ refused: ['fly'] }, 'refused'],
  [{ mostPrice: -1 }, 'mostPrice'],
  [{ colour: 'blue' }, 'colour'],
  [{ keepCan: 'bucket' }, 'keepCan'],
  [null, 'object'],
  [[1], 'object'],
])('wishes %j are refused with their reason', (value, says) => {
  const read = readWishes(value, build)
  expect(read.ok ? '' : read.reason).toContain(says)
})
