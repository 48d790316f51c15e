'use client'
/** A fault hunt: a complaint, tools that take minutes, what is known, and a name for it; then looked back on. */
import { useEffect, useState } from 'react'
import { formatNumber } from '@/core/units/format'
import type { HuntStep, HuntTool } from '@/plan/practice/hunt-tools'
import type { HuntView } from '@/plan/practice/hunt-view'
import { huntKey } from '@/plan/practice/progress'
import { Select } from '@/ui/select'
import { useJob } from '../workspace/jobs/jobs'
import { HuntReviewed } from './hunt-reviewed'
import { OpenBuild } from './open-build'
import { PracticeFrame } from './practice-frame'
import { ToolList } from './tool-list'
import { useProgress } from './use-progress'

type Kept = { readonly steps: readonly HuntStep[]; readonly named: string | undefined }
const NOTHING_DONE: Kept = { steps: [], named: undefined }
const placeOf = (seed: number) => `practice-car-${seed}`

/** What was done on this car in this window: a page that is loaded again goes on. */
function readKept(seed: number): Kept {
  try {
    const kept = JSON.parse(sessionStorage.getItem(placeOf(seed)) ?? '') as Kept
    return Array.isArray(kept.steps) ? kept : NOTHING_DONE
  } catch {
    return NOTHING_DONE
  }
}

export function HuntPage({ seed }: { seed: number }) {
  const [{ steps, named }, setKept] = useState<Kept>(() => readKept(seed))
  const { value, progress: share, failed, start } = useJob('hunt')
  const progress = useProgress()
  const { keep } = progress
  useEffect(() => start(seed, steps, named), [start, seed, steps, named])
  const change = (next: Kept) => {
    sessionStorage.setItem(placeOf(seed), JSON.stringify(next))
    setKept(next)
  }
  const review = value?.review
  useEffect(() => {
    if (review)
      keep(huntKey(seed), { kind: 'hunt', isRight: review.isRight, minutes: review.spent, score: review.score })
  }, [review, seed, keep])
  if (!value)
    return (
      <PracticeFrame title={`Car ${seed}`}>
        <p role="status" className="py-4">
          {failed === undefined
            ? `The car is being brought in, ${Math.round(100 * (share ?? 0))} %`
            : `It could not be worked out: ${failed}`}
        </p>
      </PracticeFrame>
    )
  const left = value.minutes - value.spent
  return (
    <PracticeFrame
      title={`Car ${seed}`}
      right={
        <span className="fig" role="timer" aria-live="polite">
          <strong>{formatNumber(Math.max(0, left), 3, 0)}</strong> of {value.minutes} minutes left
        </span>
      }
    >
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-6 pt-3 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <div>
          <p className="text-lg">“{value.complaint}”</p>
          <p className="text-soft">
            {value.car}. {value.plan}. The engine is {value.isHot ? 'hot' : 'cold'}.
          </p>
          {review ? (
            <HuntReviewed review={review} />
          ) : (
            <ToolList
              view={value}
              onTake={(tool: HuntTool, care) => change({ steps: [...steps, { tool: tool.id, ...care }], named })}
            />
          )}
        </div>
        <div className="space-y-6">
          <Known view={value} />
          {!review && <NameIt view={value} onName={(id) => change({ steps, named: id })} />}
          <p className="flex flex-wrap gap-4">
            <OpenBuild build={value.build} station="circuit" label="See its plan in the stations" />
            {steps.length > 0 && (
              <button type="button" className="link-button no-print" onClick={() => change(NOTHING_DONE)}>
                Begin it again
              </button>
            )}
          </p>
          {progress.trouble && (
            <p role="alert" className="border-l-4 border-watch pl-2">
              {progress.trouble}
            </p>
          )}
        </div>
      </div>
    </PracticeFrame>
  )
}

/** What was learned, step by step. */
function Known({ view }: { view: HuntView }) {
  return (
    <section aria-labelledby="known">
      <h2 id="known" className="head flex justify-between border-b-[1.5px] border-ink pb-1">
        You know <span className="fig font-normal text-soft">{view.spent} min spent</span>
      </h2>
      {view.taken.length === 0 && <p className="py-2 text-soft">Only what the driver says.</p>}
      <ol>
        {view.taken.map((t, k) => (
          <li key={`${t.tool} ${k}`} className="border-b border-rule py-1.5">
            <span className="flex justify-between gap-4">
              <span>{t.name}</span>
              <span className="fig shrink-0 text-soft">{t.minutes} min</span>
            </span>
            <strong className="fig">{t.says}</strong>
            {t.predicted && <span className="text-soft"> · a sound car: {t.predicted}</span>}
            {t.danger && <span className="block font-bold text-stop">{t.danger}</span>}
          </li>
        ))}
      </ol>
    </section>
  )
}

const NOT_CHOSEN = ''
function NameIt({ view, onName }: { view: HuntView; onName: (id: string) => void }) {
  const [chosen, setChosen] = useState(NOT_CHOSEN)
  return (
    <section aria-labelledby="name-it">
      <h2 id="name-it" className="head border-b-[1.5px] border-ink pb-1">
        What is it?
      </h2>
      <Select
        label="What is wrong"
        className="mt-1 w-full"
        value={chosen}
        options={[{ value: NOT_CHOSEN, name: 'choose…' }, ...view.suspects.map((s) => ({ value: s.id, name: s.name }))]}
        onChange={setChosen}
      />
      <button
        type="button"
        className="button button-main mt-2"
        disabled={chosen === NOT_CHOSEN}
        onClick={() => onName(chosen)}
      >
        That is it
      </button>
    </section>
  )
}
