/** ./ivent docs proposals: how far the search gets beside trying plans by chance with ten times the budget, and what it offers ten customers. */
import { writeFileSync } from 'node:fs'
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { frontsOf } from '@/core/search/pareto'
import type { EngineClass } from '@/plan/catalogue/engines'
import type { Use } from '@/plan/catalogue/uses'
import { makeEvaluator } from '@/plan/model/evaluator'
import { gasSolver } from '@/plan/finder/gas-states'
import { genesOf, planFromGenome } from '@/plan/proposals/genome'
import { propose } from '@/plan/proposals/propose'
import { tryPlan, type TriedPlan } from '@/plan/proposals/tried-plan'
import { assumedWishes } from '@/plan/proposals/wishes'
import { newBuild } from '@/plan/schools/new-build'
import { rankSchools } from '@/plan/studies/rank'

const TODAY = '2026-11-28'
const [PLANS, TIMES] = [Number(process.argv[2] ?? 600), 10]
const ASKS: readonly (readonly [EngineClass, Use])[] = [
  ['i4-turbo', 'street'],
  ['i5-turbo', 'street-track'],
  ['v8-na', 'street'],
  ['f4-turbo', 'street-track'],
  ['i6-turbo', 'fast-road'],
]

type Point = readonly [hours: number, oil: number]
/** Area that points dominate under a corner, as a share of the whole. */
function hypervolume(points: readonly Point[], corner: Point): number {
  const front = points
    .filter((p) => p[0] <= corner[0] && p[1] <= corner[1])
    .toSorted((a, b) => a[0] - b[0] || a[1] - b[1])
  let [area, least] = [0, corner[1]]
  for (const [hours, oil] of front) {
    if (oil >= least) continue
    area += (corner[0] - hours) * (least - oil)
    least = oil
  }
  return area / (corner[0] * corner[1])
}
const pointOf = ({ figures }: Pick<TriedPlan, 'figures'>): Point => [figures.hours, figures.oil * 1e12]

function byChance(build: ReturnType<typeof newBuild>, plans: number, seed: number): readonly Point[] {
  const { schools, sizes } = genesOf(build.engine)
  const uniform = uniforms(seed)
  const evaluator = makeEvaluator()
  const trial = { build, wishes: assumedWishes(build), evaluator, solveGas: gasSolver(evaluator) }
  const points: Point[] = []
  for (let k = 0; k < plans; k++) {
    const genome = sizes.map((n) => Math.floor(n * uniform()))
    const tried = tryPlan(trial, genome, planFromGenome(genome, build.engine, schools))
    if (tried.wall === undefined) points.push(pointOf(tried))
  }
  return points
}

const rows = ASKS.map(([engineClass, use]) => {
  const build = newBuild({ name: 'Ask', engineClass, use, ambientC: 15, units: 'metric' })
  const found = finish(propose(build, assumedWishes(build), TODAY, { plans: PLANS, seed: 1 }))
  const searched = found.dots.filter((d) => d.wall === undefined).map(pointOf)
  const chance = byChance(build, TIMES * PLANS, 2)
  const all = [...searched, ...chance]
  const corner: Point = [Math.max(...all.map((p) => p[0])) + 1, Math.max(...all.map((p) => p[1])) * 1.1]
  const best = finish(rankSchools(build, TODAY)).ranked.filter((r) => !r.yardstick)[0]!
  const [front] = frontsOf(searched.map((objectives) => ({ objectives, broken: 0 })))
  return {
    ask: `${engineClass}, ${use}`,
    search: hypervolume(searched, corner),
    chance: hypervolume(chance, corner),
    front: front?.length ?? 0,
    offers: found.offers.map((o) => o.name),
    ranked: best.name,
    isOffered: found.offers.some((o) => o.build.variants[0]!.school === best.key),
  }
})

const text = `# Proposals, tried

Written by \`./ivent docs proposals\`: ${PLANS} plans searched beside ${TIMES * PLANS} drawn by chance; the area under hours and oil to the intake that is
dominated, as a share (more is better).

| ask | search | by chance, ten times the budget |
|---|---|---|
${rows.map((r) => `| ${r.ask} | ${r.search.toFixed(3)} | ${r.chance.toFixed(3)} |`).join('\n')}

## What is offered
${rows.map((r) => `- **${r.ask}**: ${r.offers.join('; ')}. Ranking has “${r.ranked}” first of what is built on: ${r.isOffered ? 'its school is among them' : 'its school is not among them'}.`).join('\n')}
`
writeFileSync('docs/proposals.md', text)
console.log(text)
