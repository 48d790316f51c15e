/** The outcome of a change: the verdicts that it brings or makes worse. */
import { SEVERITIES, type Verdict } from './verdict'

/** How much a finding must have grown to be worse than it was, in proportion. */
const GROWN = 1.5

const rank = (v: Verdict) => SEVERITIES.indexOf(v.severity)

/**
 * Verdicts of `after` that were not there before, or are graver, or tell of half as much again; worst first. What is in order is none.
 *
 * @example
 * import { changedVerdicts } from '@/plan/verdicts/outcome'
 *
 * const verdict = (severity: 'watch' | 'fix') => ({
 *   rule: 'fill' as const,
 *   subject: 'can',
 *   severity,
 *   title: '',
 *   why: '',
 *   at: { station: 'log' as const },
 * })
 * console.log(changedVerdicts([verdict('watch')], [verdict('fix')]).map((v) => v.severity)) // [ 'fix' ]
 */
export function changedVerdicts(before: readonly Verdict[], after: readonly Verdict[]): readonly Verdict[] {
  return after
    .filter((v) => {
      if (v.severity === 'ok') return false
      const was = before.find((b) => b.rule === v.rule && b.subject === v.subject)
      if (!was || rank(v) < rank(was)) return true
      return rank(v) === rank(was) && v.amount !== undefined && v.amount > GROWN * Math.max(0, was.amount ?? 0)
    })
    .toSorted((a, b) => rank(a) - rank(b))
}
