/** What each failure does: tried on the plan, told by the worst of what it does, never saved. */
import type { Job } from '@/core/job'
import { analyse, figuresOf, type Analysis } from '../analyse'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { atState, teller, type Teller } from '../explain/words'
import { bypassShare, isSolved, solvedIn, type Figures, type SolvedState } from '../model/results'
import { LIMITS } from '../verdicts/limits'
import type { Severity } from '../verdicts/verdict'
import { faultsOf, withFault, type Fault } from './faults'

export type Outcome = {
  readonly id: string
  readonly name: string
  readonly of: string
  readonly severity: Severity
  readonly says: string
  /** for ordering, larger is worse */
  readonly weight: number
  readonly state: SolvedState['id'] | undefined
}
type Effect = Pick<Outcome, 'severity' | 'says' | 'weight' | 'state'>

/** What a failure does to one state. */
function effectsIn(s: SolvedState, broken: Build, was: SolvedState | undefined, whole: Build, say: Teller): Effect[] {
  const { parts } = activeVariant(broken)
  const found: Effect[] = []
  const boost = Math.max(0, ...parts.filter((p) => (s.gauge[p.id] ?? 0) > 1000).map((p) => -(s.into[p.id]?.gas ?? 0)))
  const gauge = s.crankcaseGauge
  if (boost > 1e-5)
    found.push({
      severity: 'stop',
      weight: 700 + 1e4 * boost,
      state: s.id,
      says: `${say.flow(boost)} of boost blows into the crankcase, which comes to ${say.signed(gauge)}; it carries oil to the inlet tract.`,
    })
  if (gauge > LIMITS.crankcaseHigh)
    found.push({
      severity: 'stop',
      weight: 500 + Math.min(150, gauge / 500),
      state: s.id,
      says: `The crankcase rises to ${say.signed(gauge)} ${atState(s.id)}: seals are blown out.`,
    })
  if (gauge < LIMITS.crankcaseTooLow)
    found.push({
      severity: 'stop',
      weight: 300 - gauge / 1000,
      state: s.id,
      says: `The crankcase is sucked down to ${say.signed(gauge)} ${atState(s.id)}: lip seals turn inwards.`,
    })
  if (s.id !== 'idle') return found
  const bypass = bypassShare(s, parts)
  if (bypass > LIMITS.idleBypass && (!was || bypass > bypassShare(was, activeVariant(whole).parts) + 0.05))
    found.push({
      severity: 'fix',
      weight: 200 + 100 * bypass,
      state: 'idle',
      says: `${Math.round(100 * bypass)} % of idle air passes the throttle by: idle surges, trims go lean.`,
    })
  return found
}

/** What a failure does over all states. */
function effectsOf(build: Build, before: Figures, broken: Build, say: Teller): Effect[] {
  const after = figuresOf(broken)
  const solved = after.states.filter(isSolved)
  const found = solved.flatMap((s) => effectsIn(s, broken, solvedIn(before, s.id), build, say))
  const lost = after.states.find((s) => !s.solved)
  if (lost)
    found.push({
      severity: 'stop',
      weight: 900,
      state: lost.id,
      says: `Gas has no way out ${atState(lost.id)}: the weakest seal becomes the vent.`,
    })
  const more = after.intakeOil - before.intakeOil
  if (more > 0.2 * before.intakeOil && more * 1e12 > 3)
    found.push({
      severity: 'fix',
      weight: 100 + more * 1e12,
      state: undefined,
      says: `Oil to the intake rises from ${say.perDistance(before.intakeOil)} to ${say.perDistance(after.intakeOil)}.`,
    })
  const opened = solved.find((s) => Object.entries(s.into).some(([id, x]) => id.endsWith('-open') && x.gas > 1e-6))
  if (opened)
    found.push({
      severity: 'watch',
      weight: 60,
      state: opened.id,
      says: 'Oily gas blows into the engine bay: smell, then drips, on hot exhaust a fire.',
    })
  return found
}

function outcomeOf(build: Build, before: Figures, { edits, ...fault }: Fault, say: Teller): Outcome {
  const broken = applyEdits(build, edits)
  const found = broken.ok ? effectsOf(build, before, broken.value, say) : []
  const worst = found.toSorted((a, b) => b.weight - a.weight)[0]
  const nothing: Effect = {
    severity: 'ok',
    weight: 0,
    state: undefined,
    says: 'Nothing that matters: the rest of the circuit copes.',
  }
  return { ...fault, ...(worst ?? nothing) }
}

/** Every failure of the active plan, worst first. Yields the share done. */
export function* failures(build: Build): Job<readonly Outcome[]> {
  const say = teller(build.units)
  const before = figuresOf(build)
  const faults = faultsOf(build)
  const all: Outcome[] = []
  for (const [i, fault] of faults.entries()) {
    all.push(outcomeOf(build, before, fault, say))
    yield (i + 1) / faults.length
  }
  return all.toSorted((a, b) => b.weight - a.weight)
}

/** The analysis with a failure, for the screens; undefined when there is no such failure. */
export function analyseFault(build: Build, id: string, today: string): Analysis | undefined {
  const then = withFault(build, id)
  if (!then) return undefined
  const analysis = analyse(then, today)
  // that the valve is stuck is what is being tried, not a slip of the plan
  return { ...analysis, verdicts: analysis.verdicts.filter((v) => v.rule !== 'stuck-valve') }
}
