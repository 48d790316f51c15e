/** ./ivent docs proposals: how far the search gets beside trying plans by chance with ten times the budget, and what it offers ten customers. */
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { frontOf } from '@/core/search/pareto'
import { ENGINE_CLASSES, type EngineClass } from '@/plan/catalogue/engines'
import type { Use } from '@/plan/catalogue/uses'
import type { Build } from '@/plan/document/schema'
import { makeEvaluator } from '@/plan/model/evaluator'
import { planMaker, planSpace } from '@/plan/proposals/genome'
import { makeIsland, scoredOf } from '@/plan/proposals/island'
import { planTrial, wallOf, type TriedPlan } from '@/plan/proposals/tried-plan'
import { assumedWishes, type Wishes } from '@/plan/proposals/wishes'
import { newBuild } from '@/plan/schools/new-build'

const TIMES = 10
type Point = readonly number[]

function byChance(build: Build, wishes: Wishes, plans: number, seed: number): readonly TriedPlan[] {
  const space = planSpace(build)
  const maker = planMaker(space)
  const trial = planTrial(build, makeEvaluator(), maker.alike)
  const uniform = uniforms(seed)
  return Array.from({ length: plans }, () => {
    const genome = maker.canonical(space.sizes.map((n) => Math.floor(n * uniform())))
    const plan = maker.plan(genome)
    return trial.goOn(trial.begin(genome, plan), plan, wishes)
  })
}
const frontPoints = (all: readonly TriedPlan[], wishes: Wishes): readonly Point[] => {
  const sound = all.filter((t) => wallOf(t.figures, wishes) === undefined).map((t) => scoredOf(t, wishes))
  return frontOf(sound).map((i) => sound[i]!.objectives)
}

/** Share of a box that points dominate, by counting drawn corners (the same for all that are compared). */
export function hypervolumes(fronts: readonly (readonly Point[])[], draws: number, seed: number): readonly number[] {
  const all = fronts.flat()
  const width = all[0]?.length ?? 0
  const ends = Array.from({ length: width }, (_, k) => {
    const sorted = all.map((p) => p[k]!).toSorted((a, b) => a - b)
    return [sorted[0]!, sorted[Math.floor(0.95 * (sorted.length - 1))]!] as const
  })
  const uniform = uniforms(seed)
  const counts = fronts.map(() => 0)
  for (let n = 0; n < draws; n++) {
    const corner = ends.map(([low, high]) => low + (high - low) * uniform())
    fronts.forEach((front, f) => {
      if (front.some((p) => p.every((x, k) => x <= corner[k]!))) counts[f]!++
    })
  }
  return counts.map((c) => c / draws)
}
const PLANS = Number(process.argv[2] ?? 1000)
const uses: Use[] = ['street', 'street-track', 'fast-road', 'street']
for (const [k, c] of ENGINE_CLASSES.filter((x) => x.cylinders > 2)
  .slice(Number(process.argv[4] ?? 0), Number(process.argv[3] ?? 5))
  .entries()) {
  const build = newBuild({
    name: 'Ask',
    engineClass: c.key as EngineClass,
    use: uses[k % 4]!,
    ambientC: 15,
    units: 'metric',
  })
  const wishes = assumedWishes(build)
  const islands = [0, 1].map((nth) => makeIsland(planSpace(build), 1, nth))
  for (const i of islands) {
    finish(i.tryOn(wishes, PLANS * Number(process.env.M ?? 1.25)))
    console.log(i.considered(), i.tried().length)
  }
  const searched = islands.flatMap((i) => i.tried())
  const chance = byChance(build, wishes, PLANS * TIMES, 2)
  const fronts = [frontPoints(searched, wishes), frontPoints(chance, wishes)]
  const hv = hypervolumes(fronts, 20000, 3)
  const two = fronts.map((f) => f.map((p) => [p[0]!, p[3]!]))
  console.log(
    c.key,
    fronts.map((f) => f.length),
    hv.map((x) => x.toFixed(4)),
    '2D',
    hypervolumes(two, 20000, 3).map((x) => x.toFixed(4)),
  )
}
