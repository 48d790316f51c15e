/**
 * What each failure does, as what it changes in the judgement: the same verdicts that stand beside the picture when it is tried. The
 * worst is named; what stood before the failure is not blamed on it.
 */
import { scaled, type Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import { withLearnedRates, type Analysis } from '../analyse'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { figuresOverCycle } from '../analyse-over-cycle'
import type { Build } from '../document/schema'
import { applyEdits } from '../edit/edit'
import { atState, unitFormatter, type UnitFormatter } from '../document/words'
import { crankcaseText, judgeState } from '../model/limits'
import type { Figures, StateResult } from '../model/results'
import { judge } from '../verdicts/judge'
import { changedVerdicts } from '../verdicts/outcome'
import { SEVERITIES, type Severity, type Verdict } from '../verdicts/verdict'
import { faultsOf, type Fault } from './faults'
import { withFault } from './graded-faults'

export type FaultOutcome = {
  readonly id: string
  readonly name: string
  readonly of: string
  readonly severity: Severity
  readonly says: string
  readonly state: StateId | undefined
  /** verdicts that it brings or worsens, worst first; none where it changes nothing that matters */
  readonly verdicts: readonly Verdict[]
  /** what it does to the crankcase, state by state, where that matters; the gravest first */
  readonly states: readonly StateEffect[]
}
/** A state whose crankcase a failure moves; Pa gauge, undefined where there is no answer. */
export type StateEffect = {
  readonly id: StateId
  readonly before: number | undefined
  readonly after: number | undefined
  readonly severity: Severity
}

/** More oil to the intake than this, in proportion and m3 per metre, is worth a word; so many times is to be mended. */
const MORE_OIL = 0.2
const MORE_OIL_LEAST = 3e-12
const MUCH_MORE_OIL = 2

/** Nearer than this to the pressure outside is neither suction nor pressure, Pa. */
const NEITHER = 50
/** Suction that is more than a trace, and a change that a gauge shows at a glance, Pa (estimates). */
const [REAL_SUCTION, A_CHANGE] = [1000, 300]

/** What a failure does to the crankcase in one state; undefined where that is nothing that matters. */
function stateEffect(was: StateResult, now: StateResult | undefined): StateEffect | undefined {
  if (!was.solved || !now) return undefined
  const before = was.crankcaseGauge
  if (!now.solved) return { id: was.id, before, after: undefined, severity: 'stop' }
  const after = now.crankcaseGauge
  const graded = (severity: Severity): StateEffect => ({ id: was.id, before, after, severity })
  const [judgedBefore, judged] = [judgeState(was), judgeState(now)]
  if (SEVERITIES.indexOf(judged) < SEVERITIES.indexOf(judgedBefore) && judged === 'stop') return graded('stop')
  // suction that turns to pressure is a function lost
  if (before < -NEITHER && after > NEITHER) return graded(before < -REAL_SUCTION ? 'fix' : 'watch')
  if (SEVERITIES.indexOf(judged) < SEVERITIES.indexOf(judgedBefore)) return graded('watch')
  const moved = Math.abs(after - before)
  return moved > A_CHANGE && moved > 0.5 * Math.abs(before) ? graded('watch') : undefined
}

/** States whose crankcase a failure moves, the gravest and most moved first. */
function stateEffects(before: Figures, after: Figures): readonly StateEffect[] {
  const size = (e: StateEffect) => (e.after === undefined ? Infinity : Math.abs(e.after - e.before!))
  return before.states
    .flatMap(
      (s) =>
        stateEffect(
          s,
          after.states.find((x) => x.id === s.id),
        ) ?? [],
    )
    .toSorted((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || size(b) - size(a))
}

type EvaluateFigures = (build: Build, evaluator: Evaluator) => Job<Figures>

/** Figures of a plan, judged as it stands: no log, no day, no fixes. */
function verdictsWithout(build: Build, figures: Figures, evaluator: Evaluator): readonly Verdict[] {
  const worked = { ...figures, cans: [], oilLearned: 1 }
  return judge(build, worked, evaluator).filter((v) => v.rule !== 'stuck-valve')
}

/** What a failure does to the oil that reaches the intake, where that is much. */
function moreOil(before: Figures, after: Figures, say: UnitFormatter): readonly Headline[] | undefined {
  const more = after.intakeOil - before.intakeOil
  if (more <= MORE_OIL * before.intakeOil || more <= MORE_OIL_LEAST) return undefined
  return [
    {
      severity: after.intakeOil > MUCH_MORE_OIL * before.intakeOil ? 'fix' : 'watch',
      state: undefined,
      says: `Oil to the intake rises from ${say.perDistance(before.intakeOil)} to ${say.perDistance(after.intakeOil)}.`,
    },
  ]
}

const NOTHING = {
  severity: 'ok',
  state: undefined,
  says: 'Nothing that matters: the rest of the circuit copes.',
} as const

/** A build before anything fails, and how it is worked out. */
type IntactPlan = {
  readonly build: Build
  readonly figures: Figures
  readonly verdicts: readonly Verdict[]
  readonly work: EvaluateFigures
  readonly evaluator: Evaluator
}

function* outcomeOf(sound: IntactPlan, { id, name, of, edits }: Fault): Job<FaultOutcome> {
  const fault = { id, name, of }
  const { build, work, evaluator } = sound
  const broken = applyEdits(build, edits)
  if (!broken.ok) return { ...fault, ...NOTHING, verdicts: [], states: [] }
  const say = unitFormatter(build.units)
  const figures = yield* work(broken.value, evaluator)
  const verdicts = changedVerdicts(sound.verdicts, verdictsWithout(broken.value, figures, evaluator))
  const states = stateEffects(sound.figures, figures)
  // of what follows the gravest is named, a rule before a bare pressure; that gas runs faster in a hose grieves nobody while nothing else moves
  const [worst, effect] = [verdicts.find((v) => v.rule !== 'velocity'), states[0]]
  const headlines: readonly Headline[] = [
    ...(worst ? [{ severity: worst.severity, state: worst.at.state, says: `${worst.title}.` }] : []),
    ...(effect ? [{ severity: effect.severity, state: effect.id, says: effectText(effect, say) }] : []),
    ...(moreOil(sound.figures, figures, say) ?? []),
    ...verdicts
      .filter((v) => v.rule === 'velocity')
      .map((v) => ({ severity: 'watch' as const, state: v.at.state, says: `${v.title}.` })),
  ]
  const gravest = headlines.toSorted((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity))[0]
  return { ...fault, ...(gravest ?? NOTHING), verdicts, states }
}

type Headline = Pick<FaultOutcome, 'severity' | 'says' | 'state'>

/** What happens to the crankcase in a state, as a sentence. */
export function effectText({ id, before, after }: StateEffect, say: UnitFormatter): string {
  const from = before === undefined ? '' : ` from ${crankcaseText(say, before)}`
  if (after === undefined) return `Crankcase ${atState(id)} goes${from} to where no answer holds.`
  return `Crankcase ${atState(id)} goes${from} to ${crankcaseText(say, after)}.`
}

const rank = (o: FaultOutcome): number => SEVERITIES.indexOf(o.severity)
const share = (o: FaultOutcome): number => o.verdicts[0]?.amount ?? 0

/**
 * Every failure of the active plan, worst first. Yields the share done.
 * @param work how a plan is worked out: as its engine has it, of a pumping one over the turn; a scan of thousands takes still flow
 *
 * @example
 * import { finish } from '@/core/job'
 * import { failures } from '@/plan/faults/what-if'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const [worst] = finish(failures(build))
 * console.log(worst.name) // 'Dirty line pulled off'
 */
export function* failures(build: Build, work: EvaluateFigures = figuresOverCycle): Job<readonly FaultOutcome[]> {
  const evaluator = makeEvaluator()
  const faults = faultsOf(build)
  const each = 1 / (faults.length + 1)
  const figures = yield* scaled(work(build, evaluator), 0, each)
  const sound = { build, figures, verdicts: verdictsWithout(build, figures, evaluator), work, evaluator }
  const all: FaultOutcome[] = []
  for (const [i, fault] of faults.entries()) {
    all.push(yield* scaled(outcomeOf(sound, fault), (i + 1) * each, each))
    yield (i + 2) * each
  }
  return all.toSorted(
    (a, b) =>
      rank(a) - rank(b) || b.verdicts.length - a.verdicts.length || share(b) - share(a) || a.id.localeCompare(b.id),
  )
}

/**
 * The analysis with a failure on still flow, for the screens at once; undefined when there is no such failure. No fix is offered: it
 * would mend a plan that is not.
 */
export function analyseFault(
  build: Build,
  id: string,
  today: string,
  evaluator: Evaluator = makeEvaluator(),
): Analysis | undefined {
  const then = withFault(build, id)
  return then && shownWith(then, figuresOf(then, evaluator), today, evaluator)
}

/** The same over the turn of an engine whose pistons pump. */
export function* analyseFaultOverCycle(build: Build, id: string, today: string): Job<Analysis | undefined> {
  const evaluator = makeEvaluator()
  const then = withFault(build, id)
  return then && shownWith(then, yield* figuresOverCycle(then, evaluator), today, evaluator)
}

function shownWith(broken: Build, figures: Figures, today: string, evaluator: Evaluator): Analysis {
  const worked = withLearnedRates(broken, figures, today, evaluator)
  const verdicts = judge(broken, worked, evaluator)
  // that the valve is stuck is what is being tried, not a slip of the plan
  return { ...worked, verdicts: verdicts.filter((v) => v.rule !== 'stuck-valve') }
}
