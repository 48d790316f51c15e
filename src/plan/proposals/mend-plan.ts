/** The nearest plan with no finding, from a plan as it stands: its one-press fixes, each a step of its own, the fewest that do it. */
import { analyse, type Analysis } from '../analyse'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { makeEvaluator } from '../model/evaluator'
import { effortOf, type PlanEffort } from '../studies/effort'
import { quickTotal } from '../studies/measure'

export type MendStep = { readonly label: string; readonly edits: readonly Edit[] }
export type MendedPlan = {
  /** one after another; each can be undone alone, last first */
  readonly steps: readonly MendStep[]
  /** findings that are left: what no press mends */
  readonly left: readonly string[]
  /** hours and price more than before */
  readonly hours: number
  readonly price: number
}

const MOST_STEPS = 8

/** What is to be mended in a plan. */
export const graveFindings = ({ verdicts }: Pick<Analysis, 'verdicts'>): Analysis['verdicts'] =>
  verdicts.filter((v) => v.severity === 'stop' || v.severity === 'fix')

/** Mends the active plan of a build as far as fixes do: at each step the fix that makes it best by the measure. */
export function mendPlan(first: Build, today: string): MendedPlan {
  const evaluator = makeEvaluator()
  const effort = (b: Build): PlanEffort => effortOf(b, activeVariant(b))
  const steps: MendStep[] = []
  let build = first
  let analysis = analyse(build, today, evaluator)
  const grave = () => graveFindings(analysis)
  while (grave().length > 0 && steps.length < MOST_STEPS) {
    const tried = grave().flatMap((v) => {
      const then = v.fix ? applyEdits(build, v.fix.edits) : undefined
      if (!v.fix || !then?.ok) return []
      const after = analyse(then.value, today, evaluator)
      const open = graveFindings(after).length
      return [
        {
          label: v.fix.label,
          edits: v.fix.edits,
          build: then.value,
          after,
          open,
          total: quickTotal(then.value, after),
        },
      ]
    })
    const best = tried
      .filter((t) => t.open < grave().length)
      .toSorted((a, b) => a.open - b.open || a.total - b.total)[0]
    if (!best) break
    steps.push({ label: best.label, edits: best.edits })
    build = best.build
    analysis = best.after
  }
  const [was, now] = [effort(first), effort(build)]
  return { steps, left: grave().map((v) => v.title), hours: now.hours - was.hours, price: now.price - was.price }
}
