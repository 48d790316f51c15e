'use client'
/** One lesson: what it is about, its questions, and what the model answers. */
import Link from 'next/link'
import { useEffect, useId, useState } from 'react'
import { formatNumber } from '@/core/units/format'
import type { FigureAnswer } from '@/plan/practice/lesson-figures'
import type { Lesson, LessonQuestion } from '@/plan/practice/lesson-schema'
import { isRightAnswer } from '@/plan/practice/answers'
import { lessonKey } from '@/plan/practice/progress'
import { useJob } from '../workspace/jobs/jobs'
import { OpenBuild } from './open-build'
import { PracticeFrame } from './practice-frame'
import { useProgress } from './use-progress'

export function LessonPage({
  lesson,
  next,
  today,
}: {
  lesson: Lesson
  next: { readonly id: string; readonly title: string } | undefined
  today: string
}) {
  const { value, progress: share, failed, start } = useJob('lesson')
  const progress = useProgress()
  useEffect(() => start(lesson.id, today), [start, lesson.id, today])
  const worked = value?.ok ? value.value : undefined
  const known = progress.kept?.find((k) => k.key === lessonKey(lesson.id))?.progress
  const [right, setRight] = useState<readonly boolean[]>([])
  // what was answered before stands until something is answered now
  const answered = right.length > 0 ? right : known?.kind === 'lesson' ? known.right : []
  const check = (k: number, isRight: boolean) => {
    const all = lesson.questions.map((_, n) => (n === k ? isRight : (answered[n] ?? false)))
    setRight(all)
    progress.keep(lessonKey(lesson.id), { kind: 'lesson', right: all })
  }
  const done = answered.filter(Boolean).length
  return (
    <PracticeFrame
      title={`Lesson ${lesson.order}: ${lesson.title}`}
      right={
        <span className="text-soft">
          {done} of {lesson.questions.length} right
        </span>
      }
    >
      <div className="max-w-[46rem]">
        {lesson.says.map((p: string) => (
          <p key={p} className="pt-3">
            {p}
          </p>
        ))}
        <div className="flex flex-wrap items-center gap-4 py-4">
          {worked ? (
            <OpenBuild build={worked.build} station={lesson.station} label="Open its build in the stations" />
          ) : (
            <p role="status" className="text-soft">
              {failed ??
                (value && !value.ok ? value.reason : `Working its build out, ${Math.round(100 * (share ?? 0))} %`)}
            </p>
          )}
        </div>
        {progress.trouble && (
          <p role="alert" className="border-l-4 border-watch pl-2">
            {progress.trouble}
          </p>
        )}
        <ol className="space-y-6">
          {lesson.questions.map((q, k) => (
            <li key={q.ask}>
              <Question
                question={q}
                nth={k + 1}
                model={worked?.answers[k]}
                wasRight={answered[k] === true}
                onCheck={(isRight) => check(k, isRight)}
              />
            </li>
          ))}
        </ol>
        {done === lesson.questions.length && (
          <p className="pt-6 font-bold text-good" role="status">
            All of it is right.{' '}
            {next ? (
              <Link className="link-button" prefetch={false} href={`/practice/lessons/${next.id}`}>
                Next: {next.title}
              </Link>
            ) : (
              <Link className="link-button" prefetch={false} href="/practice">
                Now deal a car of your own
              </Link>
            )}
          </p>
        )}
      </div>
    </PracticeFrame>
  )
}

function Question({
  question: q,
  nth,
  model,
  wasRight,
  onCheck,
}: {
  question: LessonQuestion
  nth: number
  model: FigureAnswer | undefined
  wasRight: boolean
  onCheck: (isRight: boolean) => void
}) {
  const id = useId()
  const [given, setGiven] = useState('')
  const [checked, setChecked] = useState<string | undefined>(undefined)
  const answer: FigureAnswer = q.choices ? given : Number(given.trim().replace(',', '.').replace('−', '-'))
  const isChecked = checked === given && checked !== undefined
  const isRight = isChecked && model !== undefined && isRightAnswer(q, model, answer)
  const unreadable = !q.choices && given.trim() !== '' && !Number.isFinite(answer as number)
  return (
    <form
      className="border-t-[1.5px] border-ink pt-2"
      onSubmit={(e) => {
        e.preventDefault()
        if (model === undefined || given.trim() === '' || unreadable) return
        setChecked(given)
        onCheck(isRightAnswer(q, model, answer))
      }}
    >
      <fieldset>
        <legend className="font-bold">
          {nth}. {q.ask}
          {wasRight && !isChecked && <span className="ml-2 font-normal text-good">answered before</span>}
        </legend>
        {q.choices ? (
          <div className="py-1">
            {q.choices.map((c: { readonly id: string; readonly says: string }) => (
              <label key={c.id} className="flex min-h-11 items-center gap-2.5">
                <input
                  type="radio"
                  className="size-4"
                  name={id}
                  value={c.id}
                  checked={given === c.id}
                  onChange={() => setGiven(c.id)}
                />
                {c.says}
              </label>
            ))}
          </div>
        ) : (
          <label className="flex items-baseline gap-2 py-2">
            <span className="sr-only">{q.ask}</span>
            <input
              className="field !w-32 text-right"
              inputMode="text"
              autoComplete="off"
              value={given}
              aria-invalid={unreadable}
              onChange={(e) => setGiven(e.target.value)}
            />
            <span className="text-soft">{q.unit}</span>
          </label>
        )}
      </fieldset>
      {unreadable && (
        <p role="alert" className="font-bold text-stop">
          A number is asked for.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-4">
        <button type="submit" className="button" disabled={model === undefined || given.trim() === ''}>
          {model === undefined ? 'Wait…' : 'Check'}
        </button>
        <details className="no-print">
          <summary className="min-h-9 cursor-pointer content-center text-soft">Hint</summary>
          <p>{q.hint}</p>
        </details>
      </div>
      {isChecked && (
        <div role="status" className={`mt-2 border-l-4 pl-3 ${isRight ? 'border-good' : 'border-stop'}`}>
          <p className={`font-bold ${isRight ? 'text-good' : 'text-stop'}`}>
            {isRight ? 'Right.' : 'Not so.'}
            {isRight && typeof model === 'number' && (
              <span className="font-normal text-ink">
                {' '}
                The model says {formatNumber(model, 2)} {q.unit}.
              </span>
            )}
          </p>
          {isRight ? <p>{q.why}</p> : <p>Look again: the hint says where.</p>}
        </div>
      )}
    </form>
  )
}
