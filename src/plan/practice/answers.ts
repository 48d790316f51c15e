/** Whether a learner's answer is right. Apart from the lessons, since pages ask it. */
import type { FigureAnswer } from './lesson-figures'
import type { LessonQuestion } from './lesson-schema'

/** How far a learner's number may be off where the question does not say, share of the answer. */
const USUAL_WITHIN = 0.25
/** Whether an answer is right, by the model's own. */
export function isRightAnswer(q: LessonQuestion, model: FigureAnswer, given: FigureAnswer): boolean {
  if (typeof model === 'string') return given === model
  if (typeof given !== 'number' || !Number.isFinite(given)) return false
  return Math.abs(given - model) <= Math.max((q.within ?? USUAL_WITHIN) * Math.abs(model), q.orWithin ?? 0)
}
