/** How well a command's name answers what was typed. */

const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => w !== '')

/** What changes the plan stands behind what only shows or prints, m.m. equal. */
const EDITS = 0.5

/**
 * 0 where some typed word begins no word of the name or its other words; else up to 1: the whole name first, then a name that begins so,
 * then the more of the name the typed words are.
 * @param other words that mean the same ("units" for "Metric units")
 *
 * @example
 * import { matchScore } from '@/ui/match-words'
 *
 * console.log(matchScore('undo', { name: 'Turn the PCV valve round' })) // 0
 */
export function matchScore(
  typed: string,
  { name, other = '', edits = false }: { readonly name: string; readonly other?: string; readonly edits?: boolean },
): number {
  const asked = wordsOf(typed)
  if (asked.length === 0) return 1
  const own = wordsOf(name)
  const all = [...own, ...wordsOf(other)]
  if (!asked.every((a) => all.some((w) => w.startsWith(a)))) return 0
  const inName = asked.filter((a) => own.some((w) => w.startsWith(a))).length / asked.length
  const whole = own.join(' ') === asked.join(' ') ? 1 : 0
  const begins = own.join(' ').startsWith(asked.join(' ')) ? 1 : 0
  const share = Math.min(1, asked.join('').length / Math.max(1, own.join('').length))
  return (0.1 + 0.4 * whole + 0.2 * begins + 0.2 * inName + 0.1 * share) * (edits ? EDITS : 1)
}
