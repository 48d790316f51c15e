/**
 * Whether it is worth it, and which way of plumbing suits an engine and its use: each laid out, mended at one press,
 * analysed and shown by its own numbers.
 */
import { fullLoadState } from '@/core/engine/states'
import { scaled, type Job } from '@/core/job'
import { analyse, type Analysis } from '../analyse'
import { analyseOverCycle } from '../analyse-over-cycle'
import { MEANS_NAMES } from '../catalogue/effort'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { atState, joinWords, lowered, unitFormatter } from '../document/words'
import { pulsates } from '../model/engine'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { TRACE } from '../model/paths'
import { isSolved } from '../model/results'
import { rulePage } from '../verdicts/pages'
import type { Verdict } from '../verdicts/verdict'
import { yardstickOf } from '../catalogue/fresh-air'
import { SCHOOLS, variantOf, type School } from '../schools/schools'
import { measurePlan, quickTotal } from './measure'
import type { PlanMeasure } from './measure-parts'
import { because, equals, type Measured } from './reasons'
import { worthOf, type Worth } from './worth'

export type Ranked = {
  /** key of the school */
  readonly key: string
  readonly name: string
  readonly about: string
  readonly sealed: boolean
  /** as the maker laid it: what the others are measured against */
  readonly yardstick: boolean
  /** the build with this school as its only plan, its one-press fixes made */
  readonly build: Build
  readonly analysis: Pick<Analysis, 'verdicts' | 'intakeOil'>
  /** crankcase in any state, Pa gauge; undefined where no state has an answer */
  readonly highest: number | undefined
  readonly lowest: number | undefined
  /** metres to the first full can; Infinity with nothing to empty */
  readonly interval: number
  /** what was mended, and what else is to be known */
  readonly notes: readonly string[]
  /** its measure, and whether it is as good as the first */
  readonly measure: PlanMeasure
  readonly equal: boolean
  /** why it stands above the next; empty for the last */
  readonly because: string
}
export type Ranking = { readonly worth: Worth; readonly ranked: readonly Ranked[] }

const MOST_MENDS = 5

type Mended = { readonly build: Build; readonly analysis: Analysis; readonly made: readonly string[] }

/**
 * A school's circuit with the one-press fixes made that make it better by the measure: where a finding begins to be grave is no edge, since a
 * lighter one is mended too where that is worth its work.
 */
function mended(first: Build, today: string, evaluator: Evaluator): Mended {
  let build = first
  let analysis = analyse(build, today, evaluator)
  const made: string[] = []
  const tried = new Set<string>()
  const mends = (v: Verdict) =>
    v.severity !== 'ok' &&
    (v.severity !== 'watch' || v.rule === 'crankcase-pressure') &&
    rulePage(v.rule).mendsSchool &&
    v.fix !== undefined &&
    // one that leads the gas past the can leaves the school behind
    v.fix.costsCatch === undefined &&
    !tried.has(v.fix.label)
  for (let v = analysis.verdicts.find(mends); v?.fix && made.length < MOST_MENDS; v = analysis.verdicts.find(mends)) {
    tried.add(v.fix.label)
    const then = applyEdits(build, v.fix.edits)
    if (!then.ok) break
    const after = analyse(then.value, today, evaluator)
    if (quickTotal(then.value, after) >= quickTotal(build, analysis)) continue
    made.push(lowered(v.fix.label))
    build = then.value
    analysis = after
  }
  const was = new Set(activeVariant(first).parts.map((p) => p.id))
  const added = activeVariant(build)
    .parts.filter((p) => !was.has(p.id))
    .map((p) => lowered(p.name))
  if (added.length === 0) return { build, analysis, made }
  const [variant] = build.variants
  const name = `${variant!.name}, with ${joinWords(added)}`
  return { build: { ...build, variants: [{ ...variant!, name }] }, analysis, made }
}

type LaidOutSchool = {
  readonly school: School
  readonly mended: Mended
  /** over the turn where the pistons pump */
  readonly analysis: Analysis
  readonly measure: PlanMeasure
}

function* layOut(build: Build, school: School, today: string, evaluator: Evaluator): Job<LaidOutSchool> {
  const laid: Build = { ...build, active: 'a', variants: [variantOf(school, build.engine, 'a')] }
  // the yardstick is what the maker laid, not what it could be made
  const m =
    school.key === yardstickOf(build.engine)
      ? { build: laid, analysis: analyse(laid, today, evaluator), made: [] }
      : mended(laid, today, evaluator)
  const analysis = pulsates(build.engine)
    ? yield* scaled(analyseOverCycle(m.build, today, evaluator), 0, 0.5)
    : m.analysis
  const measure = yield* scaled(measurePlan(m.build, today, analysis, evaluator), 0.5, 0.5)
  return { school, mended: m, analysis, measure }
}

const named = (l: LaidOutSchool): Measured => ({ name: l.mended.build.variants[0]!.name, measure: l.measure })

function rankedOf(laid: LaidOutSchool, next: LaidOutSchool | undefined, first: LaidOutSchool): Ranked {
  const { school, mended: m, analysis, measure } = laid
  const { build } = m
  const say = unitFormatter(build.units)
  const { facts } = measure
  const gauges = analysis.states.filter(isSolved).map((s) => s.crankcaseGauge)
  const full = analysis.states.find((s) => s.id === fullLoadState(build.engine.induction))
  const cycle = full?.solved ? full.cycle : undefined
  return {
    key: school.key,
    name: build.variants[0]!.name,
    about: school.about,
    sealed: school.sealed,
    yardstick: school.key === yardstickOf(build.engine),
    build,
    analysis: { verdicts: analysis.verdicts, intakeOil: facts.intakeOil },
    highest: gauges.length > 0 ? Math.max(...gauges) : undefined,
    lowest: gauges.length > 0 ? Math.min(...gauges) : undefined,
    interval: facts.interval,
    measure,
    equal: laid !== first && equals(measure, first.measure),
    notes: [
      ...m.made,
      ...(facts.vented > 0 ? ['vented: not for the road'] : []),
      ...(facts.refused.length > 0
        ? [`asks for ${joinWords(facts.refused.map((x) => MEANS_NAMES[x].doing))}, which you will not do`]
        : []),
      ...(facts.drain ? [`${facts.drain} in ${build.bay ? 'your bay' : 'a ready bay of this layout'}`] : []),
      ...(full && !full.solved ? ['no answer at full load'] : []),
      ...(cycle
        ? [
            cycle.back > TRACE
              ? `${say.flow(cycle.back)} breathed back in ${atState(full!.id)}`
              : 'nothing breathed back in',
          ]
        : []),
    ],
    because: next ? because(named(laid), named(next), say) : '',
  }
}

/** Ranks the schools for `build`'s engine and duty, best first, and says whether any is worth it. Yields the share done. */
export function* rankSchools(build: Build, today: string): Job<Ranking> {
  const schools = SCHOOLS.filter((s) => s.fits(build.engine))
  const evaluator = makeEvaluator()
  const laid: LaidOutSchool[] = []
  for (const [i, school] of schools.entries()) {
    laid.push(yield* scaled(layOut(build, school, today, evaluator), i / schools.length, 1 / schools.length))
    yield (i + 1) / schools.length
  }
  const sorted = laid.toSorted((a, b) => a.measure.total - b.measure.total)
  const stock = laid.find((l) => l.school.key === yardstickOf(build.engine))!
  const best = sorted[0]!
  return {
    worth: worthOf(stock.mended.build, stock.analysis, named(stock), sorted.map(named)),
    ranked: sorted.map((l, k) => rankedOf(l, sorted[k + 1], best)),
  }
}
