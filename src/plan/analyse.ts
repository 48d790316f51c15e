/** The one door from screens, API and command line to the numbers. */
import type { Build, Variant } from './document/schema'
import { editsOf, perform } from './edit/deeds'
import { activeVariant } from './edit/edit'
import { teller } from './explain/words'
import { engineModel } from './model/engine'
import { isSolved, type Figures, type Worked } from './model/results'
import { solveGas, solveStates } from './model/states'
import { intakeOil, metresPerHour } from './service/duty'
import { forecasts, learnedOil } from './service/forecast'
import { RULES } from './verdicts/rules'
import { SEVERITIES, type Case, type Verdict } from './verdicts/verdict'

/** A build worked out and judged, as of a day. */
export type Analysis = Worked & { readonly verdicts: readonly Verdict[] }

/**
 * Analyses the active plan of a valid build: every state solved, oil and water carried, cans forecast, verdicts given.
 * Pure: the same build and day give the same answer. About a tenth of a millisecond a state.
 * @param today ISO date (2026-11-24) that "now" is; forecasts run from the log's last entry to it
 */
export function analyse(build: Build, today: string): Analysis {
  const worked = work(build, today)
  return { ...worked, verdicts: verdictsOf(build, activeVariant(build), worked) }
}

/** The active plan in every state: what depends on the build alone. No day, no log, no judgement. */
export function figuresOf(build: Build): Figures {
  const variant = activeVariant(build)
  const engine = engineModel(build)
  const solved = solveStates(build, variant, engine)
  return {
    engine,
    ...solved,
    intakeOil: intakeOil(build, variant, solved.states),
    metresPerHour: metresPerHour(build),
  }
}

/** The figures with what the log has taught and when each can will be full: the analysis without its judgement. */
export function work(build: Build, today: string): Worked {
  const figures = figuresOf(build)
  const cans = forecasts(build, figures, today, figuresOf)
  const oilLearned = learnedOil(cans)
  return { ...figures, cans, oilLearned, intakeOil: figures.intakeOil * oilLearned }
}

/** Fixes are tried out by solving; a circuit with more faults than this has other worries. */
const MOST_TRIES = 100

function verdictsOf(build: Build, variant: Variant, analysis: Worked): readonly Verdict[] {
  const { engine } = analysis
  const solved = analysis.states.filter(isSolved)
  let tries = 0
  const c: Case = {
    build,
    variant,
    analysis,
    say: teller(build.units),
    solved,
    state: (id) => solved.find((s) => s.id === id),
    part: (id) => variant.parts.find((p) => p.id === id),
    tryOut: (deed, id) => {
      if (tries++ >= MOST_TRIES) return undefined
      const then = perform(build, deed)
      const operating = engine.states.find((s) => s.id === id)
      return then.ok && operating ? solveGas(activeVariant(then.value), engine, operating) : undefined
    },
    fix: (label, ...deeds) => {
      const edits = editsOf(build, ...deeds)
      return edits.ok ? { label, edits: edits.value } : undefined
    },
  }
  return RULES.flatMap((rule) => rule.judge(c).map((v) => ({ rule: rule.id, ...v }))).toSorted(
    (a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity),
  )
}
