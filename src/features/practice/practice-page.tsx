'use client'
/** Practice: lessons in the order of the work, and cars with a fault to find. */
import Link from 'next/link'
import { useState } from 'react'
import { formatNumber } from '@/core/units/format'
import { huntKey, lessonKey, type KeptProgress } from '@/plan/practice/progress'
import { day } from '@/ui/dates'
import { PracticeFrame } from './practice-frame'
import { useProgress } from './use-progress'

/** A lesson as the list shows it. */
export type LessonHead = {
  readonly id: string
  readonly title: string
  readonly says: string
  readonly questions: number
}

const MOST_SEED = 999_999

export function PracticePage({ lessons }: { lessons: readonly LessonHead[] }) {
  const progress = useProgress()
  const { kept = [], forget, trouble } = progress
  const hunts = kept.filter((k) => k.progress.kind === 'hunt')
  const lessonsKept = kept.filter((k) => k.progress.kind === 'lesson')
  return (
    <PracticeFrame title="Practice">
      <p className="max-w-[46rem] py-3">
        Learn on a car that is not there before you learn on one that is. Every answer is worked out by the same model
        that judges your builds.
      </p>
      {trouble && (
        <p role="alert" className="border-l-4 border-watch pl-2">
          {trouble}
        </p>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section aria-labelledby="lessons">
          <h2 id="lessons" className="head border-b-[1.5px] border-ink pb-1">
            Lessons, in the order of the work
          </h2>
          <ol>
            {lessons.map((l, k) => (
              <LessonRow key={l.id} lesson={l} nth={k + 1} kept={lessonsKept.find((x) => x.key === lessonKey(l.id))} />
            ))}
          </ol>
        </section>
        <section aria-labelledby="hunts">
          <h2 id="hunts" className="head border-b-[1.5px] border-ink pb-1">
            Fault hunts
          </h2>
          <NextPracticeCar next={nextSeed(hunts)} />
          {hunts.length > 0 && (
            <ul aria-label="Hunts so far">
              {hunts.map((h) => (
                <HuntRow key={h.key} kept={h} />
              ))}
            </ul>
          )}
          {kept.length > 0 && (
            <button type="button" className="link-button mt-4" onClick={() => forget()}>
              Take all progress away
            </button>
          )}
        </section>
      </div>
    </PracticeFrame>
  )
}

const seedOf = (key: string) => Number(key.slice(huntKey(0).length - 1))
const nextSeed = (hunts: readonly KeptProgress[]) => 1 + hunts.reduce((most, h) => Math.max(most, seedOf(h.key)), 0)

function LessonRow({ lesson, nth, kept }: { lesson: LessonHead; nth: number; kept: KeptProgress | undefined }) {
  const right = kept?.progress.kind === 'lesson' ? kept.progress.right.filter(Boolean).length : undefined
  const isDone = right === lesson.questions
  return (
    <li className="border-b border-rule">
      <Link
        href={`/practice/lessons/${lesson.id}`}
        prefetch={false}
        className="grid grid-cols-[2rem_minmax(0,1fr)_auto] gap-x-3 py-2 hover:bg-blue-wash"
      >
        <span
          aria-hidden
          className={`grid size-7 place-items-center rounded-full border-[1.5px] border-blue text-xs font-bold ${isDone ? 'bg-blue text-on-blue' : 'text-blue'}`}
        >
          {nth}
        </span>
        <span>
          <span className="block font-bold">{lesson.title}</span>
          <span className="line-clamp-2 text-soft">{lesson.says}</span>
        </span>
        <span className="text-soft">
          {right === undefined ? '' : isDone ? 'done' : `${right} of ${lesson.questions}`}
        </span>
      </Link>
    </li>
  )
}

function NextPracticeCar({ next }: { next: number }) {
  const [typed, setTyped] = useState('')
  const seed = typed === '' ? next : Number(typed)
  const isSeed = Number.isInteger(seed) && seed >= 0 && seed <= MOST_SEED
  return (
    <div className="py-2">
      <p>
        A car with a complaint and not much time. Measure, open, blow, drive on; then name what is wrong. The same
        number deals the same car.
      </p>
      <div className="flex flex-wrap items-end gap-4 pt-2">
        <label>
          <span className="block text-xs text-soft">Car number</span>
          <input
            className="field !w-28"
            inputMode="numeric"
            autoComplete="off"
            placeholder={String(next)}
            value={typed}
            aria-invalid={!isSeed}
            onChange={(e) => setTyped(e.target.value.trim())}
          />
        </label>
        {isSeed ? (
          <Link href={`/practice/cars/${seed}`} prefetch={false} className="button button-main">
            Deal car {seed}
          </Link>
        ) : (
          <p role="alert" className="font-bold text-stop">
            A whole number, {formatNumber(MOST_SEED, 6, 0)} at most.
          </p>
        )}
      </div>
    </div>
  )
}

function HuntRow({ kept: { key, progress, at } }: { kept: KeptProgress }) {
  if (progress.kind !== 'hunt') return null
  return (
    <li className="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-rule py-2">
      <Link href={`/practice/cars/${seedOf(key)}`} prefetch={false} className="link-button">
        Car {seedOf(key)}
      </Link>
      <span>{progress.isRight ? 'found' : 'not found'}</span>
      <span className="fig">{Math.round(progress.minutes)} min</span>
      <span className="fig">{formatNumber(progress.score, 4, 0)} points</span>
      <span className="text-soft">{day(at.slice(0, 10))}</span>
    </li>
  )
}
