/** What was practised, as it is kept: answers of a lesson, or how a hunt went. */
import { fail, ok, type Result } from '@/core/result'

/** How far a lesson or hunt is, by its key: `lesson worth`, `hunt 12`. */
export type Progress =
  | { readonly kind: 'lesson'; readonly right: readonly boolean[] }
  | {
      readonly kind: 'hunt'
      readonly isRight: boolean
      readonly minutes: number
      readonly score: number
    }
export type KeptProgress = { readonly key: string; readonly progress: Progress; readonly at: string }

/**
 * Under which a lesson's progress is kept.
 *
 * @example
 * import { lessonKey } from '@/plan/practice/progress'
 *
 * console.log(lessonKey('idle')) // 'lesson idle'
 */
export const lessonKey = (id: string): string => `lesson ${id}`

/**
 * Under which a hunt is kept.
 *
 * @example
 * import { huntKey } from '@/plan/practice/progress'
 *
 * console.log(huntKey(12)) // 'hunt 12'
 */
export const huntKey = (seed: number): string => `hunt ${seed}`
const KEY = /^(lesson [a-z0-9-]{1,40}|hunt \d{1,9})$/
const MOST_QUESTIONS = 40

/** Progress from JSON; fails with what is wrong. */
export function readProgress(value: unknown): Result<{ readonly key: string; readonly progress: Progress }> {
  const { key, progress } = (value ?? {}) as { key?: unknown; progress?: Record<string, unknown> }
  if (typeof key !== 'string' || !KEY.test(key)) return fail('key names a lesson or a hunt.')
  if (progress?.kind === 'lesson' && key.startsWith('lesson ')) {
    const { right } = progress
    if (!Array.isArray(right) || right.length > MOST_QUESTIONS || !right.every((x) => typeof x === 'boolean'))
      return fail('right is a list of true and false.')
    return ok({ key, progress: { kind: 'lesson', right } })
  }
  if (progress?.kind === 'hunt' && key.startsWith('hunt ')) {
    const { isRight, minutes, score } = progress
    if (typeof isRight !== 'boolean' || !Number.isFinite(minutes) || !Number.isFinite(score))
      return fail('A hunt says isRight, minutes and score.')
    return ok({ key, progress: { kind: 'hunt', isRight, minutes: Number(minutes), score: Number(score) } })
  }
  return fail('progress is of a lesson or of a hunt.')
}
