/** A worked plan judged: every rule looks at the same case. */
import type { Build } from '../document/schema'
import { editsOf, perform } from '../edit/edit-builders'
import { activeVariant, applyEdits } from '../edit/edit'
import { unitFormatter } from '../document/words'
import { pathsOf, type Paths } from '../model/paths'
import { figuresOf } from '../model/figures'
import type { Evaluator } from '../model/evaluator'
import { isSolved, isCycleMean, type SolvedState, type Worked } from '../model/results'
import { solveGas } from '../model/gas-alone'
import type { Oil } from '@/core/separation/carriage'
import { hourly, NO_OIL, perMetre } from '../model/duty'
import { makersCircuit } from '../schools/schools'
import { forecasts } from '../service/forecast'
import { putBackFixes } from './put-back'
import { RULES } from './rules'
import { changedVerdicts } from './outcome'
import { SEVERITIES, type Case, type Finding, type Fix, type Rule, type Verdict } from './verdict'

/** Fixes are tried out by solving; a circuit with more faults than this has other worries. */
const MOST_TRIES = 100

/** Verdicts on a plan, worst first, without fixes: while something is dragged, and for a failure that is only tried. */
export const judge = (build: Build, analysis: Worked, evaluator: Evaluator): readonly Verdict[] =>
  findings(build, analysis, evaluator, false)

/**
 * The same with the fix of each: looked for, tried out on the build with its cans, and offered only if it helps and brings nothing as grave.
 * @param today ISO date: what a mended can will hold is counted from then on
 */
export function judgeWithFixes(
  build: Build,
  today: string,
  analysis: Worked,
  evaluator: Evaluator,
): readonly Verdict[] {
  const found = findings(build, analysis, evaluator, true)
  // a fix changes the circuit and not what was logged: plans are held against each other by the model alone, on still flow
  const workOut = (b: Build): Worked => {
    const figures = figuresOf(b, evaluator)
    return { ...figures, cans: forecasts({ ...b, log: [] }, figures, today, evaluator), oilLearned: 1 }
  }
  let before: Before | undefined
  const tried = (v: Verdict, fix: Fix): Fix | undefined => {
    if (!before) {
      const worked = workOut(build)
      before = { build, worked, found: findings(build, worked, evaluator, false), evaluator, workOut }
    }
    return helpful(before, v, fix)
  }
  let putBack: readonly Fix[] | undefined
  return found.map((v) => {
    const { fix, ...bare } = v
    if (v.severity === 'ok') return bare
    const own = fix && tried(v, fix)
    if (own) return { ...bare, fix: own }
    putBack ??= putBackFixes(caseOf(build, analysis, evaluator, true))
    for (const other of putBack) {
      const helping = tried(v, other)
      if (helping) return { ...bare, fix: helping }
    }
    return bare
  })
}

/** A build as it was found before a fix is tried, and how it is worked out with one. */
type Before = {
  readonly build: Build
  readonly worked: Worked
  readonly found: readonly Verdict[]
  readonly evaluator: Evaluator
  readonly workOut: (build: Build) => Worked
}

/** A fix that ends its finding, or makes it a lighter one or much less, and brings none as grave, but for watches over what it puts in; undefined for any other. */
function helpful({ build, worked, found, evaluator, workOut }: Before, v: Verdict, fix: Fix): Fix | undefined {
  const then = applyEdits(build, fix.edits)
  if (!then.ok) return undefined
  const mended = workOut(then.value)
  const after = findings(then.value, mended, evaluator, false)
  const rank = (x: Verdict) => SEVERITIES.indexOf(x.severity)
  const same = (x: Verdict) => x.rule === v.rule && x.subject === v.subject
  // of what only the log tells, a plan without it says nothing
  const was = found.find(same)
  const still = after.find(same)
  if (still && rank(still) <= rank(was ?? v) && !eased(was, still)) return undefined
  const there = new Set([...activeVariant(build).parts, ...activeVariant(build).lines].map((x) => x.id))
  const isNew = (id: string | undefined) => id !== undefined && !there.has(id)
  const sound = changedVerdicts(found, after).every(
    (x) => same(x) || rank(x) > rank(v) || (x.severity === 'watch' && (isNew(x.at.part) || isNew(x.at.line))),
  )
  if (!sound) return undefined
  return withCatch(fix, caughtOf(build, worked), caughtOf(then.value, mended))
}

/** Much less of the same, short of being gone. */
const eased = (was: Verdict | undefined, still: Verdict): boolean =>
  was?.amount !== undefined &&
  still.amount !== undefined &&
  was.severity === still.severity &&
  still.amount <= EASED * was.amount
const EASED = 0.6

/** Oil that all cans take out on the duty, m3 a metre. */
function caughtOf(build: Build, { states }: Worked): number {
  const oilOf = (s: SolvedState): Oil =>
    Object.values(s.cans).reduce(
      (sum, c) => ({ mist: sum.mist + c.caught.mist, splash: sum.splash + c.caught.splash }),
      NO_OIL,
    )
  return perMetre(build, (a) => hourly(build, states, a, { oilOf, waterOf: () => 0 }))?.oil ?? 0
}

/** A fix that costs the cans much of their catch says so. */
function withCatch(fix: Fix, before: number, after: number): Fix {
  const left = before > 0 ? after / before : 1
  return left > CATCH_LEFT
    ? fix
    : {
        ...fix,
        costsCatch: 1 - left,
        label: `${fix.label}; the cans then catch ${Math.round(100 * (1 - left))} % less`,
      }
}
/** Share of the catch that is left, above which nothing is said of it. */
const CATCH_LEFT = 0.8

/** A finding under its rule's name; written out, since it runs for every finding of every change. */
function ruledBy({ id }: Rule, { subject, severity, title, why, at, amount, fix }: Finding): Verdict {
  const bare = { rule: id, subject, severity, title, why, at }
  if (amount === undefined) return fix ? { ...bare, fix } : bare
  return fix
    ? { rule: id, subject, severity, title, why, at, amount, fix }
    : { rule: id, subject, severity, title, why, at, amount }
}

function findings(build: Build, analysis: Worked, evaluator: Evaluator, offer: boolean): readonly Verdict[] {
  const c = caseOf(build, analysis, evaluator, offer)
  const found: Verdict[] = []
  for (const rule of RULES) for (const v of rule.judge(c)) found.push(ruledBy(rule, v))
  return SEVERITIES.flatMap((severity) => found.filter((v) => v.severity === severity))
}

/** What the rules see of a worked plan. */
function caseOf(build: Build, analysis: Worked, evaluator: Evaluator, offer: boolean): Case {
  const { engine } = analysis
  const variant = activeVariant(build)
  const solved = analysis.states.filter(isSolved)
  const resolved = evaluator.resolve(variant)
  const paths = new Map<SolvedState, Paths>()
  let tries = 0
  return {
    build,
    variant,
    analysis,
    say: unitFormatter(build.units),
    solved,
    state: (id) => solved.find((s) => s.id === id),
    part: (id) => resolved.parts.get(id),
    makers: () => evaluator.once(makersCircuit, build.engine),
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
}
