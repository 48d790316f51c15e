/**
 * ./ivent docs proposals [SECTION]: how far the search gets beside trying plans by chance with ten times the budget, what it offers ten
 * customers, what a hundred asks offer, and whether offers hold when a fact is 2 % off. A section alone is printed; all are written.
 */
import { writeFileSync } from 'node:fs'
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { frontOf } from '@/core/search/pareto'
import { analyse } from '@/plan/analyse'
import { analyseOverCycle } from '@/plan/analyse-over-cycle'
import { ENGINE_CLASSES, type EngineClass } from '@/plan/catalogue/engines'
import { USES, type Use } from '@/plan/catalogue/uses'
import type { Build } from '@/plan/document/schema'
import { pulsates } from '@/plan/model/engine'
import { makeEvaluator } from '@/plan/model/evaluator'
import { chooseOffers } from '@/plan/proposals/choose-offers'
import { planMaker, planSpace, type Genome } from '@/plan/proposals/genome'
import { joinFront, mayJoinFront, scoredOf } from '@/plan/proposals/island'
import type { PlanOffer } from '@/plan/proposals/judge-plan'
import {
  judgeInRounds,
  makeSearches,
  PLANS_PER_PRESS,
  propose,
  searchInSteps,
  type SearchAsk,
} from '@/plan/proposals/propose'
import { smallErrorEffects, replacementNotes } from '@/plan/proposals/small-errors'
import { unpackTried } from '@/plan/proposals/survey'
import { isSound, planTrial, type TriedPlan } from '@/plan/proposals/tried-plan'
import { assumedWishes, WALL_NAMES, type Wishes } from '@/plan/proposals/wishes'
import { newBuild } from '@/plan/schools/new-build'
import { measurePlan } from '@/plan/studies/measure'
import { MARGIN } from '@/plan/studies/measure-parts'
import { rankSchools } from '@/plan/studies/rank'

const TODAY = '2026-11-30'
const build = (engineClass: EngineClass, use: Use, engine?: Partial<Build['engine']>): Build =>
  newBuild({ name: 'Ask', engineClass, use, ambientC: 15, units: 'metric', ...(engine ? { engine } : {}) })
const STREET_USES: readonly Use[] = ['street', 'fast-road', 'street-track']
const classOf = (k: number): EngineClass => ENGINE_CLASSES[k % ENGINE_CLASSES.length]!.key

// ---- how far the search gets
/** By chance so many times as many plans are drawn as the search works out, which is nearly half of what it considers. */
const TIMES_BY_CHANCE = 10
const [ASKS, DRAWS] = [20, 20_000]
type Point = readonly number[]

/** The front of so many plans drawn evenly; the bad end of one that others outdo already is not worked out. */
function byChance(of: Build, wishes: Wishes, plans: number, seed: number): readonly TriedPlan[] {
  const space = planSpace(of)
  const maker = planMaker(space)
  const trial = planTrial(of, makeEvaluator(), maker.alike)
  const uniform = uniforms(seed)
  const known = new Set<string>()
  let front: readonly TriedPlan[] = []
  let worth = mayJoinFront(front, wishes)
  for (let drawn = 0; drawn < plans; drawn++) {
    const genome = maker.canonical(space.sizes.map((n) => Math.floor(n * uniform())))
    if (known.has(genome.join())) continue
    known.add(genome.join())
    const plan = maker.plan(genome)
    const tried = trial.goOn(trial.begin(genome, plan), plan, wishes, worth)
    if (tried.figures.stage < 4) continue
    front = joinFront(front, [tried], wishes)
    worth = mayJoinFront(front, wishes)
  }
  return front
}
function frontPoints(all: readonly TriedPlan[], wishes: Wishes): readonly Point[] {
  const sound = all.filter((t) => isSound(t, wishes))
  const scored = sound.map((t) => scoredOf(t, wishes)).filter((s) => s.broken === 0)
  return frontOf(scored).map((i) => scored[i]!.objectives)
}
/** Share of a box that points dominate, by counting drawn corners, the same for all that are compared. */
function hypervolumes(fronts: readonly (readonly Point[])[], seed: number): readonly number[] {
  const all = fronts.flat()
  const ends = (all[0] ?? []).map((_, k) => {
    const sorted = all.map((p) => p[k]!).toSorted((a, b) => a - b)
    return [sorted[0]!, sorted[Math.floor(0.95 * (sorted.length - 1))]!] as const
  })
  const uniform = uniforms(seed)
  const counts = fronts.map(() => 0)
  for (let n = 0; n < DRAWS; n++) {
    const corner = ends.map(([low, high]) => low + (high - low) * uniform())
    fronts.forEach((front, f) => {
      if (front.some((p) => p.every((x, k) => x <= corner[k]!))) counts[f]!++
    })
  }
  return counts.map((c) => c / DRAWS)
}
function hypervolumeSection(): string {
  const asks = Array.from({ length: ASKS }, (_, k) => [classOf(k), STREET_USES[k % STREET_USES.length]!] as const)
  const rows = asks.map(([engineClass, use]) => {
    const of = build(engineClass, use)
    const wishes = assumedWishes(of)
    const ask: SearchAsk = { build: of, wishes, seed: 1, today: TODAY }
    const tables = finish(searchInSteps(makeSearches(), ask, PLANS_PER_PRESS))
    const searched = tables.flatMap((table) => unpackTried(table))
    const considered = tables.reduce((sum, t) => sum + t.considered, 0)
    const fronts = [
      frontPoints(searched, wishes),
      frontPoints(byChance(of, wishes, TIMES_BY_CHANCE * searched.length, 2), wishes),
    ]
    const [search, chance] = hypervolumes(fronts, 3)
    console.error(engineClass, use, search, chance)
    return { engineClass, use, search: search!, chance: chance!, tried: searched.length, considered }
  })
  const atLeast = rows.filter((r) => r.search >= r.chance).length
  const found = rows.filter((r) => r.chance > 0)
  const mean = found.reduce((sum, r) => sum + r.search / r.chance, 0) / found.length
  return `## Beside chance

About ${PLANS_PER_PRESS} plans considered, of which nearly half is worked out, beside ${TIMES_BY_CHANCE} times as many drawn by chance; the share of a box about both
fronts that each dominates, in all five objectives (more is better). The search reaches at least as much in ${atLeast} of ${rows.length} asks, ${mean.toFixed(3)} times as
much in the mean of the ${found.length} in which chance finds a plan that passes.

| ask | considered | worked out | search | by chance |
|---|---|---|---|---|
${rows.map((r) => `| ${r.engineClass}, ${r.use} | ${r.considered} | ${r.tried} | ${r.search.toFixed(3)} | ${r.chance.toFixed(3)} |`).join('\n')}
`
}

// ---- ten customers
const CUSTOMERS: readonly (readonly [string, EngineClass, Use])[] = [
  ['a daily four, turbo, direct injection', 'i4-turbo', 'street'],
  ['a five with track days', 'i5-turbo', 'street-track'],
  ['a strong six on mountain roads', 'i6-strong', 'fast-road'],
  ['a flat four, street and track', 'f4-turbo', 'street-track'],
  ['an eight, port injection, street', 'v8-na', 'street'],
  ['an eight, direct injection', 'v8-direct', 'street'],
  ['a six, turbo, towing', 'v6-turbo', 'towing'],
  ['a supercharged four', 'i4-super', 'fast-road'],
  ['a six for sessions only', 'i6-turbo', 'track'],
  ['a four without boost', 'i4-na', 'street'],
]
function customerSection(): string {
  const rows = CUSTOMERS.map(([who, engineClass, use]) => {
    const of = build(engineClass, use)
    const found = finish(propose(of, assumedWishes(of), TODAY, { plans: PLANS_PER_PRESS, seed: 1 }))
    const best = finish(rankSchools(of, TODAY)).ranked.find((r) => !r.yardstick)!
    const at = found.offers.find((o) => o.circuit === best.key)
    const refused = found.refused.findLast((r) => r.circuit === best.key)
    const count = found.circuits.find((c) => c.key === best.key)
    const passed = found.best[best.key]
    const shown = found.offers.map((o) => Math.round(o.measure.total))
    const why = at
      ? 'offered'
      : passed
        ? `not offered: its best costs ${Math.round(passed.points)} points, ${passed.dominatedBy ? `and “${passed.dominatedBy}” is better or as good in all that is shown` : `those shown ${Math.min(...shown)} to ${Math.max(...shown)}`}`
        : refused
          ? `not offered: ${refused.because}`
          : count && count.sound === 0 && count.wall
            ? `not offered: all of its plans ${WALL_NAMES[count.wall]}`
            : 'not offered: none of its plans stands at the front'
    console.error(who, best.name, why)
    return { who, offers: found.offers.map((o) => o.name), best: best.name, why }
  })
  return `## Ten customers

What ranking has first (of what is built on), and whether its circuit is among the offers. Ranking weighs a crankcase at the bad end; proposals
cross it out above +2 kPa.

${rows.map((r) => `- **${r.who}**. Ranking: ${r.best}; ${r.why}. Offers: ${r.offers.join('; ') || 'none'}.`).join('\n')}
`
}

// ---- a hundred asks
type Judged = { readonly ask: SearchAsk; readonly offers: readonly PlanOffer[]; readonly genomes: readonly Genome[] }
/** A search with its front judged, not placed. */
function judgedOf(of: Build, wishes: Wishes, plans: number, seed: number): Judged {
  const searches = makeSearches()
  const ask: SearchAsk = { build: of, wishes, seed, today: TODAY }
  const found = finish(searchInSteps(searches, ask, plans))
  const judged = finish(judgeInRounds(searches, ask, found))
  return {
    ask,
    offers: judged.flatMap(({ as }) => ('offer' in as ? [as.offer] : [])),
    genomes: judged.map((j) => j.genome),
  }
}
function scanSection(): string {
  let [asks, members, passed, broken, grave, none] = [0, 0, 0, 0, 0, 0]
  for (let k = 0; asks < 100; k++) {
    const uniform = uniforms(1000 + k)
    const use = USES[Math.floor(uniform() * USES.length)]!.key as Use
    const of = build(classOf(k), use, { blowByTimes: 0.6 + uniform() })
    // followed over the turn a single takes a minute: it is left out here
    if (pulsates(of.engine)) continue
    asks++
    const wishes: Wishes = {
      ...assumedWishes(of),
      refused: uniform() < 0.3 ? ['weld'] : [],
      mostHours: uniform() < 0.3 ? 5 : Infinity,
      mostPrice: uniform() < 0.3 ? 250 : Infinity,
    }
    // three searches of each find more of its front; what several found counts once
    const found = [k, k + 1000, k + 2000].map((seed) => judgedOf(of, wishes, 800, seed))
    const genomes = new Set(found.flatMap((f) => f.genomes.map((g) => g.join())))
    const offers = [...new Map(found.flatMap((f) => f.offers.map((o) => [o.genome.join(), o]))).values()]
    members += genomes.size
    passed += offers.length
    if (offers.length === 0) none++
    for (const o of offers) {
      const own = { ...o.build, bay: undefined }
      const analysis = pulsates(of.engine) ? finish(analyseOverCycle(own, TODAY)) : analyse(own, TODAY)
      if (analysis.verdicts.some((v) => v.severity === 'stop' || v.severity === 'fix')) grave++
      const { facts } = finish(measurePlan(o.build, TODAY, analysis, makeEvaluator()))
      const breaks =
        facts.effort.means.some((m) => wishes.refused.includes(m)) ||
        facts.effort.hours > wishes.mostHours ||
        facts.effort.price > wishes.mostPrice ||
        (wishes.sealed && facts.vented > 0) ||
        facts.highest === undefined ||
        facts.highest > 2000
      if (breaks) broken++
    }
    console.error(k, classOf(k), use, genomes.size, offers.length, broken, grave)
  }
  return `## A hundred asks

Engine classes, uses, blow-by and wishes drawn; engines whose pistons pump left out; three searches of each. ${members} members of the fronts
judged, ${passed} of them would be offered. Of these, worked out once more from their own file: ${broken} break a wall, ${grave} have a finding to mend. ${none} asks have no offer.
`
}

// ---- a fact that is 2 % off
function stabilitySection(): string {
  const classes = ENGINE_CLASSES.filter((c) => c.cylinders > 2)
  // each class twice, for another use the second time
  const asks = [0, 1].flatMap((shift) =>
    classes.map(({ key }, k) => [key, STREET_USES[(k + shift) % STREET_USES.length]!] as const),
  )
  const rows = asks.map(([key, use]) => {
    const judged = (of: Build) => judgedOf(of, assumedWishes(of), PLANS_PER_PRESS, 1)
    const of = build(key, use)
    const { ask, offers } = judged(of)
    const before = chooseOffers(offers)
    const replaced = replacementNotes(before, new Map(offers.map((o) => [o, smallErrorEffects(o, ask.wishes)])))
    const firstOf = (after: readonly PlanOffer[]) => {
      if (before.length === 0 && after.length === 0) return 'none'
      if (before[0] && after[0] && before[0].circuit === after[0].circuit) return 'the same'
      const near = before[1] && before[0] && before[1].measure.total - before[0].measure.total < MARGIN
      return near ? 'another, said to be as good' : 'another'
    }
    const kept = (changed: Build) => {
      const after = chooseOffers(judged(changed).offers)
      const circuits = new Set(after.map((o) => o.circuit))
      const lost = before.filter((o) => !circuits.has(o.circuit))
      return {
        same: before.length - lost.length,
        said: lost.filter((o) => replaced.has(o.name)).length,
        first: firstOf(after),
      }
    }
    const blowBy = kept({ ...of, engine: { ...of.engine, blowByTimes: 1.02 } })
    const distance = kept({ ...of, duty: { ...of.duty, kmPerYear: of.duty.kmPerYear * 1.02 } })
    console.error(key, use, before.length, replaced, blowBy, distance)
    return { key, use, offers: before.length, said: replaced.size, blowBy, distance }
  })
  const sumOf = (figure: (row: (typeof rows)[number]) => number) => rows.reduce((sum, r) => sum + figure(r), 0)
  const stayOf = ({ same, said }: { readonly same: number; readonly said: number }) =>
    said > 0 ? `${same}, ${said} said to go` : String(same)
  return `## A fact that is 2 % off

Circuits that stay among the offers, and the first of them, with blow-by and distance 2 % higher; of those that go, how many say so; and how
many of the offers say that they might. In all ${sumOf((r) => 2 * r.offers - r.blowBy.same - r.distance.same)} of ${sumOf((r) => 2 * r.offers)} go, ${sumOf((r) => r.blowBy.said + r.distance.said)} of these say so, and ${sumOf((r) => r.said)} of ${sumOf((r) => r.offers)} offers say that they might.

| ask | offers | say so | blow-by: stay | first | distance: stay | first |
|---|---|---|---|---|---|---|
${rows.map((r) => `| ${r.key}, ${r.use} | ${r.offers} | ${r.said} | ${stayOf(r.blowBy)} | ${r.blowBy.first} | ${stayOf(r.distance)} | ${r.distance.first} |`).join('\n')}
`
}

const SECTIONS = {
  chance: hypervolumeSection,
  customers: customerSection,
  scan: scanSection,
  stability: stabilitySection,
} as const
const wanted = process.argv[2]
if (wanted !== undefined && !Object.hasOwn(SECTIONS, wanted)) {
  console.error(`${wanted} is no section: ${Object.keys(SECTIONS).join(', ')}`)
  process.exitCode = 2
} else if (wanted !== undefined) console.log(SECTIONS[wanted as keyof typeof SECTIONS]())
else
  writeFileSync(
    'docs/proposals.md',
    `# Proposals, tried\n\nWritten by \`./ivent docs proposals\`.\n\n${Object.values(SECTIONS)
      .map((section) => section())
      .join('\n')}`,
  )
