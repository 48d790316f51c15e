/** What a search has come to, for a picture and in numbers: every plan that was tried, and what stopped those that do not pass. */
import { LIMITS } from '../model/limits'
import { makeEvaluator } from '../model/evaluator'
import { MEANS_NAMES } from '../catalogue/effort'
import type { Build } from '../document/schema'
import { GENES, type Genome, type PlanMaker } from './genome'
import {
  objectivesOf,
  planTrial,
  priceWith,
  refusedMeans,
  wallOf,
  type Objective,
  type PlanFigures,
  type TriedPlan,
} from './tried-plan'
import { WALLS, type PlanWall, type Wishes } from './wishes'
import { joinWords } from '../document/words'

/** Plans that were tried, as numbers in a row each: so that they pass between workers in no time. */
export type TriedTable = { readonly rows: Float64Array; readonly considered: number }
const FIGURES = [
  'oil',
  'pressure',
  'looks',
  'hours',
  'price',
  'lowest',
  'likelyHigh',
  'likelyLow',
  'vented',
  'findings',
  'means',
  'cans',
  'stage',
] as const
const STAGE = FIGURES.indexOf('stage')
const WIDTH = GENES.length + FIGURES.length

/** Plans as a table of numbers. @param considered how many plans were looked at for them */
export function packTried(tried: readonly TriedPlan[], considered: number): TriedTable {
  const rows = new Float64Array(tried.length * WIDTH)
  tried.forEach(({ genome, figures }, i) => {
    rows.set(genome, i * WIDTH)
    FIGURES.forEach((f, k) => (rows[i * WIDTH + GENES.length + k] = figures[f]))
  })
  return { rows, considered }
}
/** The plans of a table again, in their order. @param isWanted left out, all are; what is not wanted costs little */
export function unpackTried(
  { rows }: Pick<TriedTable, 'rows'>,
  isWanted: (genome: Genome, stage: number) => boolean = () => true,
): readonly TriedPlan[] {
  const plans: TriedPlan[] = []
  for (let at = 0; at < rows.length; at += WIDTH) {
    const genome = [...rows.subarray(at, at + GENES.length)]
    if (!isWanted(genome, rows[at + GENES.length + STAGE]!)) continue
    const figures = Object.fromEntries(FIGURES.map((f, k) => [f, rows[at + GENES.length + k]!])) as PlanFigures
    plans.push({ genome, figures })
  }
  return plans
}

export type Dot = { readonly figures: Readonly<Record<Objective, number>>; readonly wall: PlanWall | undefined }
/** A wall, how many plans it stopped, and the nearest of them to passing. */
export type WallCount = {
  readonly wall: PlanWall
  readonly plans: number
  readonly nearest: { readonly name: string; readonly genome: Genome; readonly letIn: string }
}
/** A circuit, and how it fared. */
export type CircuitCount = {
  readonly key: string
  readonly name: string
  readonly tried: number
  readonly sound: number
  /** what stopped most of those that were stopped */
  readonly wall: PlanWall | undefined
}
export type Survey = {
  readonly considered: number
  readonly tried: number
  /** those that were worked out, not stopped before */
  readonly solved: number
  readonly sound: number
  readonly walls: readonly WallCount[]
  readonly circuits: readonly CircuitCount[]
  readonly dots: readonly Dot[]
}

/** Dots of a picture: all of a few, evenly taken of many. */
const MOST_DOTS = 2500

/** Puts tables of several searches together, under some wishes. */
export function surveyOf(maker: PlanMaker, tables: readonly TriedTable[], wishes: Wishes): Survey {
  const one = new Map<string, TriedPlan>()
  for (const table of tables) for (const t of unpackTried(table)) one.set(t.genome.join(), t)
  const all = [...one.values()].map((t) => ({ ...t, wall: wallOf(t.figures, wishes) }))
  const stride = Math.max(1, Math.ceil(all.length / MOST_DOTS))
  const { circuits } = maker.space
  return {
    considered: tables.reduce((sum, t) => sum + t.considered, 0),
    tried: all.length,
    solved: all.filter((t) => t.figures.stage !== 1).length,
    sound: all.filter((t) => t.wall === undefined).length,
    walls: WALLS.flatMap((wall): WallCount[] => {
      const stopped = all.filter((t) => t.wall === wall)
      if (stopped.length === 0) return []
      const nearest = stopped.reduce((a, b) =>
        excessOf(b.figures, wall, wishes) < excessOf(a.figures, wall, wishes) ? b : a,
      )
      return [
        {
          wall,
          plans: stopped.length,
          nearest: {
            name: maker.name(nearest.genome),
            genome: nearest.genome,
            letIn: whatLetsIn(maker, nearest, wall, wishes),
          },
        },
      ]
    }),
    circuits: circuits.map(({ key, name }, c) => {
      const its = all.filter((t) => t.genome[0] === c)
      const counts = WALLS.map((w) => its.filter((t) => t.wall === w).length)
      const most = Math.max(...counts)
      return {
        key,
        name,
        tried: its.length,
        sound: its.filter((t) => t.wall === undefined).length,
        wall: most > 0 ? WALLS[counts.indexOf(most)] : undefined,
      }
    }),
    dots: all
      .filter((_, k) => k % stride === 0)
      .map(({ figures, wall }) => ({
        figures: objectivesOf(figures, wishes),
        wall,
      })),
  }
}

/** By how much a plan breaks a wall; of those that break it alike, the one that takes least. */
function excessOf(f: PlanFigures, wall: PlanWall, wishes: Wishes): number {
  const work = f.hours + f.price / 100
  switch (wall) {
    case 'price':
      return priceWith(f, wishes)
    case 'hours':
      return f.hours
    case 'looks':
      return f.looks
    case 'law':
      return f.vented * 1000 + work / 100
    case 'pressure':
      return wishes.badEnd
        ? Math.max(f.pressure - LIMITS.crankcaseHigh, LIMITS.crankcaseTooLow - f.lowest)
        : Math.max(f.likelyHigh - LIMITS.crankcaseHigh, LIMITS.crankcaseTooLow - f.likelyLow)
    case 'means':
      return refusedMeans(f, wishes.refused).length * 1000 + work
    default:
      return work
  }
}

const rounded = (x: number) => (x < 10 ? Number(x.toPrecision(2)) : Math.round(x))

/** What would let a stopped plan in, in words. */
function whatLetsIn(maker: PlanMaker, { genome, figures: f }: TriedPlan, wall: PlanWall, wishes: Wishes): string {
  switch (wall) {
    case 'means':
      return `it would do with ${joinWords(refusedMeans(f, wishes.refused).map((m) => MEANS_NAMES[m].doing))}`
    case 'price':
      return `it would do for ${Math.ceil(priceWith(f, wishes))} in parts, ${Math.ceil(priceWith(f, wishes) - wishes.mostPrice)} more`
    case 'hours':
      return `it would do in ${rounded(f.hours)} h, ${rounded(f.hours - wishes.mostHours)} more`
    case 'drawer':
      return 'it would do with another can than the one in the drawer'
    case 'looks':
      return `it would do with ${Math.ceil(f.looks)} looks a year`
    case 'law':
      return 'it would do if it might vent: closed courses only'
    case 'pressure':
      return pressureLetsIn(maker, genome, wishes)
    default:
      return 'no change of one wish does it'
  }
}

/** The blow-by at which a plan's bad end would stand, by halving; a measured one lets in what a guess keeps out. */
function pressureLetsIn(maker: PlanMaker, genome: Genome, wishes: Wishes): string {
  const evaluator = makeEvaluator()
  const { build } = maker.space
  const plan = maker.plan(genome)
  const passes = (times: number): boolean => {
    const engine = { ...build.engine, blowByTimes: (build.engine.blowByTimes ?? 1) * times }
    const trial = planTrial({ ...build, engine } satisfies Build, evaluator, maker.alike)
    return wallOf(trial.goOn(trial.begin(genome, plan), plan, wishes).figures, wishes) === undefined
  }
  if (build.engine.blowBy) return 'wider lines or another can would have to cost less pressure'
  const least = 0.3
  if (!passes(least)) return 'less blow-by alone does not do it'
  let [good, bad] = [least, 1]
  for (let k = 0; k < 7; k++) {
    const middle = Math.sqrt(good * bad)
    if (passes(middle)) good = middle
    else bad = middle
  }
  return `it would do if blow-by were ${good.toFixed(2)} times what is taken: measure it`
}
