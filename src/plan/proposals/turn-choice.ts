/** How near a choice stands: the least change of one fact of engine or use that would make another plan the better one. */
import { analyse } from '../analyse'
import type { Build } from '../document/schema'
import { applyEdits, type Edit } from '../edit/edit'
import { makeEvaluator } from '../model/evaluator'
import { quickTotal } from '../studies/measure'

type Fact = {
  /** the build with it so far on the way: 1 leaves it, 0 is the least and 2 the most */
  readonly edits: (build: Build, times: number) => readonly Edit[]
  /** in words: "blow-by were 1.4 times what is taken" */
  readonly says: (build: Build, times: number) => string
  readonly least: number
  readonly most: number
}

/** Blow-by so many times what is taken, within what a build may have. */
export const blowByEdits: Fact['edits'] = (build, times) => [
  {
    op: 'set',
    path: ['engine', 'blowByTimes'],
    value: Math.min(10, Math.max(0.1, (build.engine.blowByTimes ?? 1) * times)),
  },
]
/** So many times the distance a year. */
export const distanceEdits: Fact['edits'] = ({ duty }, times) => [
  { op: 'set', path: ['duty', 'kmPerYear'], value: Math.max(100, duty.kmPerYear * times) },
]

const FACTS: readonly Fact[] = [
  {
    edits: blowByEdits,
    says: (_, times) => `blow-by were ${times.toPrecision(2)} times what is taken`,
    least: 0.4,
    most: 3,
  },
  {
    edits: distanceEdits,
    says: ({ duty }, times) => `you drove ${Math.round((duty.kmPerYear * times) / 100) * 100} km a year`,
    least: 0.2,
    most: 5,
  },
  {
    edits: ({ duty }, times) => [{ op: 'set', path: ['duty', 'hours', 'track'], value: duty.hours.track * times }],
    says: ({ duty }, times) =>
      `you were on track ${times > 1 ? `${times.toPrecision(2)} times as long` : `${Math.round(100 * times)} % as long`}${duty.hours.track === 0 ? ' (never now)' : ''}`,
    least: 0.1,
    most: 8,
  },
]
/** Shares of the way to an end at which it is looked for a turn. */
const STEPS = [0.05, 0.2, 0.5, 1] as const
/** Halvings of the way to where it turns. */
const HALVINGS = 6

/** Of a plan, what is asked here: the build with it alone, and its points by the whole measure. */
type Weighed = { readonly build: Build; readonly measure: { readonly total: number } }

/**
 * What would have to be otherwise, in words, for another plan to be better than one; undefined where nothing within reason does. What a change
 * does is worked out without bands and failures, over and above what the whole measure says of both as they are.
 * @param best the plan that stands ahead @param other the one that would have to win
 */
export function turnsTo(best: Weighed, other: Weighed, today: string): string | undefined {
  const evaluator = makeEvaluator()
  const quick = (build: Build, edits: readonly Edit[]) => {
    const moved = applyEdits(build, edits)
    return moved.ok ? quickTotal(moved.value, analyse(moved.value, today, evaluator)) : Number.NaN
  }
  const now = { best: quick(best.build, []), other: quick(other.build, []) }
  /** points by which the best is behind with a fact changed */
  const behind = (fact: Fact, times: number): number => {
    const changed = (p: Weighed, was: number) => p.measure.total + quick(p.build, fact.edits(p.build, times)) - was
    return changed(best, now.best) - changed(other, now.other)
  }
  let found: { readonly says: string; readonly change: number } | undefined
  for (const fact of FACTS)
    for (const end of [fact.least, fact.most]) {
      // the first of some steps on the way at which it turns
      const step = STEPS.find((share) => behind(fact, end ** share) > 0)
      if (step === undefined) continue
      const before = STEPS[STEPS.indexOf(step) - 1] ?? 0
      let [near, far] = [end ** before, end ** step]
      for (let k = 0; k < HALVINGS; k++) {
        const middle = Math.sqrt(near * far)
        if (behind(fact, middle) > 0) far = middle
        else near = middle
      }
      const change = Math.abs(Math.log(far))
      if (!found || change < found.change) found = { says: fact.says(best.build, far), change }
    }
  return found?.says
}
