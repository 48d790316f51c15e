/** The lessons in the order of the work, each read from its file; and what is worked out of one. */
import type { Job } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import { ValidationError } from 'yup'
import { openBay } from '../bay/open-bay'
import { bayFor } from '../catalogue/bays'
import type { EngineClass } from '../catalogue/engines'
import type { Use } from '../catalogue/uses'
import type { Build } from '../document/schema'
import { applyEdits, type Edit } from '../edit/edit'
import { withFault } from '../faults/graded-faults'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { figureOf, type FigureAnswer } from './lesson-figures'
import { lessonSchema, type Lesson } from './lesson-schema'
import worth from './lessons/01-worth.json'
import school from './lessons/02-school.json'
import openPort from './lessons/03-open-port.json'
import breather from './lessons/04-breather.json'
import drain from './lessons/05-drain.json'
import place from './lessons/06-place.json'
import clocking from './lessons/07-clocking.json'
import dryCan from './lessons/08-dry-can.json'
import reading from './lessons/09-reading.json'
import winter from './lessons/10-winter.json'
import trackDay from './lessons/11-track-day.json'
import hunt from './lessons/12-hunt.json'

const FILES: readonly unknown[] = [
  worth,
  school,
  openPort,
  breather,
  drain,
  place,
  clocking,
  dryCan,
  reading,
  winter,
  trackDay,
  hunt,
]

/** A lesson from JSON; fails with what is wrong, and where. */
export function readLesson(value: unknown): Result<Lesson> {
  try {
    return ok(lessonSchema.validateSync(value, { strict: true, abortEarly: true }) as unknown as Lesson)
  } catch (error) {
    if (error instanceof ValidationError) return fail(`${error.path ?? 'lesson'} ${error.errors[0] ?? 'does not fit'}`)
    throw error
  }
}

/** Every lesson, in the order of the work. */
export const LESSONS: readonly Lesson[] = FILES.map((file) => {
  const read = readLesson(file)
  if (!read.ok) throw new Error(read.reason)
  return read.value
}).toSorted((a, b) => a.order - b.order)

/** The build of a lesson. Fails with what of it does not fit. Yields the share done. */
export function* lessonBuild(lesson: Lesson): Job<Result<Build>> {
  const { engineClass, use, school: key, ambientC = 15, kmPerYear, engine, bay, fault, edits } = lesson.build
  let build = newBuild({
    name: `Lesson: ${lesson.title}`,
    engineClass: engineClass as EngineClass,
    use: use as Use,
    school: key,
    ambientC,
    units: 'metric',
    ...(kmPerYear === undefined ? {} : { kmPerYear }),
    ...(engine === undefined ? {} : { engine }),
  })
  yield 0.1
  if (bay === 'ready') build = (yield* openBay(build, figuresOf(build).states, bayFor(build.engine))).build
  if (edits) {
    const then = applyEdits(build, edits as unknown as readonly Edit[])
    if (!then.ok) return then
    build = then.value
  }
  if (fault !== undefined) {
    const broken = withFault(build, fault)
    if (!broken) return fail(`It has no fault ${fault}.`)
    build = broken
  }
  return ok(build)
}

export type WorkedLesson = { readonly build: Build; readonly answers: readonly FigureAnswer[] }
/** A lesson's build, and what the model answers to each question. Yields the share done. */
export function* workLesson(lesson: Lesson, today: string): Job<Result<WorkedLesson>> {
  const built = yield* lessonBuild(lesson)
  if (!built.ok) return built
  const answers: FigureAnswer[] = []
  for (const [k, q] of lesson.questions.entries()) {
    yield 0.5 + (0.5 * k) / lesson.questions.length
    try {
      answers.push(figureOf(built.value, q.from, lesson.build.fault, today))
    } catch (error) {
      return fail(`${q.ask} ${error instanceof Error ? error.message : 'It cannot be worked out.'}`)
    }
  }
  return ok({ build: built.value, answers })
}

/** How far an author's number may be from the model's: figures in a lesson are rounded. */
const ROUNDED = 0.06
/** What the model has against a lesson; empty where they agree. */
export function contradictions(lesson: Lesson, { answers }: WorkedLesson): readonly string[] {
  return lesson.questions.flatMap((q, k) => {
    const model = answers[k]!
    if (typeof model === 'number') {
      if (typeof q.answer !== 'number' || q.choices) return [`${q.ask} The model gives a number, ${model}.`]
      const far = Math.abs(q.answer - model) > ROUNDED * Math.max(Math.abs(model), 0.1)
      return far ? [`${q.ask} The lesson says ${q.answer}, the model ${model}.`] : []
    }
    if (!q.choices?.some(({ id }: { readonly id: string }) => id === model))
      return [`${q.ask} ${model} is not among the choices.`]
    return q.answer === model ? [] : [`${q.ask} The lesson says ${q.answer}, the model ${model}.`]
  })
}
