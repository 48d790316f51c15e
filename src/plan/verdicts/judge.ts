/** A worked plan judged: every rule looks at the same case. */
import type { Build } from '../document/schema'
import { editsOf, perform } from '../edit/edit-builders'
import { activeVariant, applyEdits } from '../edit/edit'
import { teller } from '../document/words'
import { pathsOf, type Paths } from '../model/paths'
import { figuresOf } from '../model/figures'
import type { Evaluator } from '../model/evaluator'
import { isSolved, isCycleMean, type SolvedState, type Worked } from '../model/results'
import { solveGas } from '../model/gas-alone'
import { RULES } from './rules'
import { changedVerdicts } from './outcome'
import { SEVERITIES, type Case, type Finding, type Fix, type Rule, type Verdict } from './verdict'

/** Fixes are tried out by solving; a circuit with more faults than this has other worries. */
const MOST_TRIES = 100

/** Verdicts on a plan, worst first, without fixes: while something is dragged, and for a failure that is only tried. */
export const judge = (build: Build, analysis: Worked, evaluator: Evaluator): readonly Verdict[] =>
  findings(build, analysis, evaluator, false)

/** The same with the fix of each: looked for, tried out on the build, and offered only if it helps and brings nothing as grave. */
export function judgeWithFixes(build: Build, analysis: Worked, evaluator: Evaluator): readonly Verdict[] {
  const found = findings(build, analysis, evaluator, true)
  // a mended build is worked out on still flow: so is what it is held against
  const still = isCycleMean(analysis)
    ? findings(build, { ...analysis, ...figuresOf(build, evaluator) }, evaluator, false)
    : found
  return found.map((v) => {
    const { fix, ...bare } = v
    const was = still.find((x) => x.rule === v.rule && x.subject === v.subject)
    return fix && was && helps({ build, found: still, evaluator }, was, fix) ? v : bare
  })
}

/** A build as it was found before a fix is tried. */
type Before = { readonly build: Build; readonly found: readonly Verdict[]; readonly evaluator: Evaluator }

/** Whether a fix ends or lowers its finding and brings none as grave, but for watches over what it puts in. */
function helps({ build, found, evaluator }: Before, v: Verdict, fix: Fix): boolean {
  const then = applyEdits(build, fix.edits)
  if (!then.ok) return false
  // what a can will hold is told when it is fitted: no fix makes its gas another
  const worked = { ...figuresOf(then.value, evaluator), cans: [], oilLearned: 1 }
  const after = findings(then.value, worked, evaluator, false)
  const rank = (x: Verdict) => SEVERITIES.indexOf(x.severity)
  const same = (x: Verdict) => x.rule === v.rule && x.subject === v.subject
  const still = after.find(same)
  if (still && rank(still) <= rank(v)) return false
  const was = new Set([...activeVariant(build).parts, ...activeVariant(build).lines].map((x) => x.id))
  const isNew = (id: string | undefined) => id !== undefined && !was.has(id)
  return changedVerdicts(found, after).every(
    (x) => same(x) || rank(x) > rank(v) || (x.severity === 'watch' && (isNew(x.at.part) || isNew(x.at.line))),
  )
}

/** A finding under its rule's name; written out, since it is told of every finding of every change. */
function ruledBy({ id }: Rule, { subject, severity, title, why, at, amount, fix }: Finding): Verdict {
  const bare = { rule: id, subject, severity, title, why, at }
  if (amount === undefined) return fix ? { ...bare, fix } : bare
  return fix
    ? { rule: id, subject, severity, title, why, at, amount, fix }
    : { rule: id, subject, severity, title, why, at, amount }
}

function findings(build: Build, analysis: Worked, evaluator: Evaluator, offer: boolean): readonly Verdict[] {
  const { engine } = analysis
  const variant = activeVariant(build)
  const solved = analysis.states.filter(isSolved)
  const resolved = evaluator.resolve(variant)
  const paths = new Map<SolvedState, Paths>()
  let tries = 0
  const c: Case = {
    build,
    variant,
    analysis,
    say: teller(build.units),
    solved,
    state: (id) => solved.find((s) => s.id === id),
    part: (id) => resolved.parts.get(id),
    paths: (s) => {
      const known = paths.get(s) ?? pathsOf(resolved, s)
      paths.set(s, known)
      return known
    },
    offers: offer,
    tryOut: (builder, id) => {
      // what a change does to a turn takes a second to find out: nothing is tried on still flow in its stead
      if (!offer || isCycleMean(analysis) || tries++ >= MOST_TRIES) return undefined
      const then = perform(build, builder)
      const operating = engine.states.find((s) => s.id === id)
      return then.ok && operating ? solveGas(activeVariant(then.value), engine, operating, evaluator) : undefined
    },
    fix: (label, ...builders) => {
      const edits = offer ? editsOf(build, ...builders) : undefined
      return edits?.ok ? { label, edits: edits.value } : undefined
    },
  }
  const found: Verdict[] = []
  for (const rule of RULES) for (const v of rule.judge(c)) found.push(ruledBy(rule, v))
  return SEVERITIES.flatMap((severity) => found.filter((v) => v.severity === severity))
}
