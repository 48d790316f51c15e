/**
 * Whether it is worth it, and which way of plumbing suits an engine and its use: each laid out, mended at one press,
 * analysed and told by its own numbers.
 */
import { fullLoadState } from '@/core/engine/states'
import { finish, type Job } from '@/core/job'
import { roadHours } from '@/core/service/rates'
import { analyse, withLearnedRates, type Analysis } from '../analyse'
import type { Build } from '../document/schema'
import { setBay } from '../bay/bay-builders'
import { drainWord } from '../bay/drains'
import { bayFor, readyBay } from '../catalogue/bays'
import { perform } from '../edit/edit-builders'
import { activeVariant, applyEdits } from '../edit/edit'
import { atState, lowered, teller, type Teller } from '../document/words'
import { pulsates } from '../model/engine'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { TRACE } from '../model/paths'
import { isSolved } from '../model/results'
import { pulse } from '../model/pulsation'
import { LIMITS } from '../model/limits'
import { rulePage } from '../verdicts/pages'
import type { Verdict } from '../verdicts/verdict'
import { yardstickOf } from '../catalogue/fresh-air'
import { SCHOOLS, variantOf, type School } from '../schools/schools'
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
  /** why it stands above the next; empty for the last */
  readonly because: string
}
export type Ranking = { readonly worth: Worth; readonly ranked: readonly Ranked[] }

const MOST_MENDS = 5

type Mended = { readonly build: Build; readonly analysis: Analysis; readonly made: readonly string[] }

/** A school's circuit with its one-press fixes made, stops and fixes alone. */
function mended(first: Build, today: string, evaluator: Evaluator): Mended {
  let build = first
  let analysis = analyse(build, today, evaluator)
  const made: string[] = []
  const urgent = (v: Verdict) =>
    (v.severity === 'stop' || v.severity === 'fix') && rulePage(v.rule).mendsSchool && v.fix
  for (let v = analysis.verdicts.find(urgent); v?.fix && made.length < MOST_MENDS; v = analysis.verdicts.find(urgent)) {
    const then = applyEdits(build, v.fix.edits)
    if (!then.ok) break
    made.push(lowered(v.fix.label))
    build = then.value
    analysis = analyse(build, today, evaluator)
  }
  const was = new Set(activeVariant(first).parts.map((p) => p.id))
  const added = activeVariant(build)
    .parts.filter((p) => !was.has(p.id))
    .map((p) => lowered(p.name))
  if (added.length === 0) return { build, analysis, made }
  const [variant] = build.variants
  const name = `${variant!.name}, with ${added.join(' and ')}`
  return { build: { ...build, variants: [{ ...variant!, name }] }, analysis, made }
}

/** What a plan is weighed by, each part lower where it suits better. */
type Weight = {
  readonly stops: number
  readonly unlawful: number
  readonly fixes: number
  /** the rest, in points: oil where nothing washes it off, watches, work, how often it must be looked at */
  readonly oil: number
  readonly watches: number
  readonly work: number
  readonly looks: number
}
const points = (w: Weight) => w.oil + w.watches + w.work + w.looks

/** Points for a millilitre in 1 000 km, a watch, a part, and for a can or separator that must be looked after (judgement, no source). */
const [POINTS_WATCH, POINTS_PART, POINTS_LOOK, POINTS_DRAIN] = [4, 0.8, 40, 15]

/** How much oil in the intake matters: fuel washes the valves of a port-injected engine. */
export const unwashedShare = ({ injection, induction }: Build['engine']): number =>
  injection === 'direct' ? 1 : injection === 'dual' || induction !== 'na' ? 0.6 : 0.15

type LaidOutSchool = {
  readonly school: School
  readonly mended: Mended
  readonly interval: number
  /** how what drains does so in a ready bay of this layout, or in the one that was measured; the worst of several */
  readonly drain: DrainWord | undefined
  readonly weight: Weight
  /** of a single or twin, at full load: what the pistons' pumping leaves in the crankcase on the mean, Pa gauge; its back-flow in kg/s */
  readonly pulse: { readonly mean: number; readonly back: number } | undefined
}

/** Singles and twins are judged by the mean of the turn, not by still flow. */
function pulseOf(build: Build, evaluator: Evaluator): LaidOutSchool['pulse'] {
  if (!pulsates(build.engine)) return undefined
  const p = finish(pulse(build, fullLoadState(build.engine.induction), evaluator))
  return p.ok ? { mean: p.value.mean - p.value.ambientPa, back: p.value.back } : undefined
}

type DrainWord = NonNullable<ReturnType<typeof drainWord>>
const WORST_FIRST: readonly DrainWord[] = ['never drains', 'drains at times', 'drains']

/** The build in its bay: as measured, the rest as a ready bay of its layout has it. */
const bayed = (build: Build): Build => {
  const there = perform(build, setBay(readyBay(build, activeVariant(build), bayFor(build.engine))))
  return there.ok ? there.value : build
}

/** A drain is no promise: it is judged where it would run. */
function drainIn(build: Build, { states }: Analysis): DrainWord | undefined {
  const inBay = bayed(build)
  const variant = activeVariant(inBay)
  const words = variant.parts.flatMap((p) =>
    p.kind === 'can' && p.drain ? [drainWord(inBay, variant, states, p.id)] : [],
  )
  return WORST_FIRST.find((w) => words.includes(w))
}

function layOut(build: Build, school: School, today: string, evaluator: Evaluator): LaidOutSchool {
  const laid: Build = { ...build, active: 'a', variants: [variantOf(school, build.engine, 'a')] }
  const m = mended(laid, today, evaluator)
  const { analysis } = m
  const { parts } = activeVariant(m.build)
  const count = (severity: string, law = false) =>
    analysis.verdicts.filter((v) => v.severity === severity && (v.rule === 'vented-street') === law).length
  const drain = drainIn(m.build, analysis)
  const cans =
    drain === 'never drains' ? withLearnedRates(bayed(m.build), analysis, today, evaluator).cans : analysis.cans
  const interval = cans.reduce((s, c) => Math.min(s, c.distance.low), Infinity)
  const pulsed = pulseOf(m.build, evaluator)
  const pumped = pulsed !== undefined && pulsed.mean > LIMITS.crankcaseHigh ? 1 : 0
  return {
    school,
    mended: m,
    interval,
    drain,
    pulse: pulsed,
    weight: {
      stops: count('stop') + pumped,
      unlawful: count('fix', true),
      fixes: count('fix'),
      oil: unwashedShare(build.engine) * analysis.intakeOil * 1e12,
      watches: POINTS_WATCH * count('watch'),
      work: POINTS_PART * parts.length,
      looks: Number.isFinite(interval)
        ? Math.min(POINTS_LOOK, 2e7 / Math.max(1, interval))
        : drain === 'drains at times'
          ? POINTS_DRAIN
          : 0,
    },
  }
}

const byWeight = ({ weight: a }: LaidOutSchool, { weight: b }: LaidOutSchool): number =>
  a.stops - b.stops || a.unlawful - b.unlawful || a.fixes - b.fixes || points(a) - points(b)

/** Why one stands above the next: the first thing that decides, with its figures. */
function because(a: LaidOutSchool, b: LaidOutSchool, say: Teller): string {
  const next = lowered(b.mended.build.variants[0]!.name)
  const open = (n: number, word: string) =>
    n === 0 ? `no ${word}` : `${n} ${word}${n === 1 ? '' : word === 'fix' ? 'es' : 's'}`
  if (a.weight.stops !== b.weight.stops)
    return `${open(a.weight.stops, 'stop')} open, against ${open(b.weight.stops, 'stop')} of ${next}`
  if (a.weight.unlawful !== b.weight.unlawful) return `sealed, as the road asks; ${next} is not`
  if (a.weight.fixes !== b.weight.fixes)
    return `${open(a.weight.fixes, 'fix')} open, against ${open(b.weight.fixes, 'fix')} of ${next}`
  const gains = (['oil', 'watches', 'work', 'looks'] as const).map((k) => ({ k, by: b.weight[k] - a.weight[k] }))
  const { k } = gains.toSorted((x, y) => y.by - x.by)[0]!
  const oil = (l: LaidOutSchool) => l.mended.analysis.intakeOil
  if (k === 'oil')
    return oil(a) > 0
      ? `oil to the intake ${say.perDistance(oil(a))}, against ${say.perDistance(oil(b))} of ${next}`
      : `no oil to the intake, against ${say.perDistance(oil(b))} of ${next}`
  if (k === 'watches') return `fewer things to watch than ${next}`
  if (k === 'work') return `fewer parts than ${next}, for much the same result`
  return `looked after less often than ${next}`
}

function rankedOf(laid: LaidOutSchool, next: LaidOutSchool | undefined, build: Build): Ranked {
  const { school, mended: m, interval } = laid
  const say = teller(build.units)
  const gauges = m.analysis.states.filter(isSolved).map((s) => s.crankcaseGauge)
  const full = m.analysis.states.find((s) => s.id === fullLoadState(build.engine.induction))
  return {
    key: school.key,
    name: m.build.variants[0]!.name,
    about: school.about,
    sealed: school.sealed,
    yardstick: school.key === yardstickOf(build.engine),
    build: m.build,
    analysis: { verdicts: m.analysis.verdicts, intakeOil: m.analysis.intakeOil },
    highest: gauges.length > 0 ? Math.max(...gauges) : undefined,
    lowest: gauges.length > 0 ? Math.min(...gauges) : undefined,
    interval,
    notes: [
      ...m.made,
      ...(school.sealed || roadHours(build.duty.hours) === 0 ? [] : ['vented: not for the road']),
      ...(laid.drain ? [`${laid.drain} in ${build.bay ? 'your bay' : 'a ready bay of this layout'}`] : []),
      ...(full && !full.solved ? ['no answer at full load'] : []),
      ...(laid.pulse
        ? [
            `with the pistons’ pumping ${say.signed(laid.pulse.mean)} ${atState(full!.id)}, ${laid.pulse.back > TRACE ? `${say.flow(laid.pulse.back)} breathed back in` : 'nothing breathed back in'}`,
          ]
        : []),
    ],
    because: next ? because(laid, next, say) : '',
  }
}

/** Ranks the schools for `build`'s engine and duty, best first, and says whether any is worth it. Yields the share done. */
export function* rankSchools(build: Build, today: string): Job<Ranking> {
  const schools = SCHOOLS.filter((s) => s.fits(build.engine))
  const evaluator = makeEvaluator()
  const laid: LaidOutSchool[] = []
  for (const [i, school] of schools.entries()) {
    laid.push(layOut(build, school, today, evaluator))
    yield (i + 1) / schools.length
  }
  const sorted = laid.toSorted(byWeight)
  const stock = laid.find((l) => l.school.key === yardstickOf(build.engine))!
  // what can be had: the one that keeps most of those that stand open to nothing graver than the first
  const sound = sorted.filter((l) => l.weight.stops === sorted[0]!.weight.stops && l.weight.unlawful === 0)
  const best = sound.toSorted((a, b) => a.weight.oil - b.weight.oil)[0] ?? stock
  return {
    worth: worthOf(stock.mended.build, stock.mended.analysis, best.mended.analysis, unwashedShare(build.engine)),
    ranked: sorted.map((l, i) => rankedOf(l, sorted[i + 1], build)),
  }
}
