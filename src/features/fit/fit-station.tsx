'use client'
/** Fit: the card of this very plan, ticked at the car with a thumb; then the proof. */
import { Check, FileDown, Printer } from 'lucide-react'
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useEffect, useRef, useState } from 'react'
import { fittedPlan } from '@/plan/document/fitted-plan'
import { activeVariant } from '@/plan/edit/edit'
import { capital, dayText } from '@/plan/document/words'
import { jobCard, tickOf, type Card } from '@/plan/fit/card'
import { effortOf } from '@/plan/studies/effort'
import { cardHours, type CardHours } from '@/plan/fit/card-hours'
import { PHASES, type CardStep } from '@/plan/fit/steps/step'
import { lastLeakTest } from '@/plan/fit/leak'
import { tickStep } from '@/plan/fit/fit-builders'
import { carMark, IdeaNote } from '../workspace/on-car'
import { useWorkspace, useWorkspaceStore } from '../workspace/store'

import { photoOf } from '../workspace/photos/photo-of'
import { PhotoStrip } from '../workspace/photos/photo-strip'
import { saveJobCard } from '../workspace/frame/save-files'
import { useScreenOn } from './screen-on'
import { StepDrawing } from './step-drawing'

// its code is long, and only paper shows it
// what proves the fitting comes with its step
const Proof = dynamic(() => importWithRetry(() => import('./proof').then((m) => m.Proof)), { ssr: false })
const BlowTest = dynamic(() => importWithRetry(() => import('./proof-tests').then((m) => m.BlowTest)), { ssr: false })
const LeakTestPanel = dynamic(() => importWithRetry(() => import('./proof-tests').then((m) => m.LeakTestPanel)), {
  ssr: false,
})
const PrintedReadings = dynamic(() =>
  importWithRetry(() => import('./printed-readings').then((m) => m.PrintedReadings)),
)

/** A pause longer than this is not work on one step, s. */
const MOST_SECONDS = 4 * 3600

export function FitStation() {
  const build = useWorkspace((s) => s.build)
  const waiting = useWorkspace((s) => s.pending.length)
  const variant = activeVariant(build)
  const cans = useWorkspace((s) => s.analysis.cans)
  const states = useWorkspace((s) => s.analysis.states)
  const card = jobCard(build, variant, { states, cans })
  const ticks = new Map(card.steps.map((s) => [s.key, tickOf(build, variant.id, s)]))
  const mark = carMark(variant, fittedPlan(build))
  const done = card.steps.filter((s) => ticks.get(s.key)?.state === 'done')
  const changed = card.steps.filter((s) => ticks.get(s.key)?.state === 'changed')
  const next = card.steps.find((s) => ticks.get(s.key)?.state !== 'done')
  const hours = cardHours(build, {
    left: card.steps.length - done.length,
    all: card.steps.length,
    usualHours: effortOf(build, variant).hours,
  })
  const screenStaysOn = useScreenOn()
  const [open, setOpen] = useState<string | undefined>(undefined)
  const shown = open ?? next?.key
  const number = card.steps.findIndex((s) => s.key === shown) + 1
  const id = useWorkspace((s) => s.id)
  const store = useWorkspaceStore()
  useEffect(
    () => store.setState({ step: shown === undefined ? undefined : { key: shown, number } }),
    [store, shown, number],
  )
  const others = useWorkspace((s) => s.others)
  // when the step that is open was begun: a tick says how long it took
  const begun = useRef<{ readonly key: string; readonly at: number } | undefined>(undefined)
  useEffect(() => {
    if (shown !== undefined && begun.current?.key !== shown) begun.current = { key: shown, at: Date.now() }
  }, [shown])
  const gone = (build.fit?.ticks ?? []).filter(
    (t) => t.plan === variant.id && !card.steps.some((s) => s.key === t.step),
  )
  const seconds = (key: string) =>
    begun.current?.key === key ? Math.min(MOST_SECONDS, Math.round((Date.now() - begun.current.at) / 1000)) : undefined
  return (
    <div className="print-flow mx-auto max-w-[46rem] px-4 py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 className="head">
          Job card: {variant.name}
          {mark && <span className="font-normal text-soft">, {mark}</span>}
        </h2>
        <span className="text-xs text-soft" role="status">
          {done.length} of {card.steps.length}
          {hours && `, ${hoursText(hours)}`}
          {waiting > 0 ? ` · ${waiting} waiting to send` : ''}
          {screenStaysOn && ' · screen stays on'}
        </span>
      </div>
      <IdeaNote about="Once it is fitted, say so: forecast, reminder and garage follow the plan on the car." />
      <div className="no-print flex flex-wrap gap-x-4">
        <button type="button" className="link-button inline-flex items-center gap-1" onClick={() => print()}>
          <Printer size={16} aria-hidden /> Print
        </button>
        <button
          type="button"
          className="link-button inline-flex items-center gap-1"
          onClick={() => void saveJobCard(id, build, { states, cans })}
        >
          <FileDown size={16} aria-hidden /> As PDF
        </button>
      </div>
      {(changed.length > 0 || gone.length > 0) && (
        <p role="status" className="mt-2 border-l-4 border-watch px-2 py-1">
          The plan has changed since:{' '}
          {[
            ...(changed.length > 0
              ? [`${changed.length} ticked step${changed.length === 1 ? ' says' : 's say'} something else now`]
              : []),
            ...(gone.length > 0 ? [`${gone.length} ${gone.length === 1 ? 'is' : 'are'} no longer part of it`] : []),
          ].join('; ')}
          .
        </p>
      )}
      <details className="no-print mt-2" open={done.length === 0}>
        <summary className="min-h-11 py-2 font-bold">Tools, and what can hurt</summary>
        <Hurts card={card} />
      </details>
      {/* on paper it is always there */}
      <div className="hidden pt-2 print:block">
        <Hurts card={card} />
      </div>
      {PHASES.map((phase) => {
        const steps = card.steps.filter((s) => s.phase === phase)
        return steps.length === 0 ? null : (
          <section key={phase} aria-label={phase}>
            <h3 className="pt-4 pb-1 text-sm">{phase}</h3>
            <ol>
              {steps.map((s) => (
                <StepRow
                  key={s.key}
                  step={s}
                  drawn={s === card.steps.find((x) => x.drawing === s.drawing)}
                  plan={variant.id}
                  open={s.key === shown}
                  onOpen={() => setOpen(s.key)}
                  onDone={() => setOpen(undefined)}
                  seconds={seconds}
                  others={others.flatMap((p) => (p.station === 'fit' && p.at === s.key ? [p.name] : []))}
                />
              ))}
            </ol>
          </section>
        )
      })}
    </div>
  )
}

function Hurts({ card }: { card: Card }) {
  return (
    <>
      <ul className="list-disc pl-5">
        {card.cautions.map((c) => (
          <li key={c}>
            <strong>{c}</strong>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-soft">Tools: {card.tools.join('; ')}.</p>
    </>
  )
}

/** "2 to 5 h"; under an hour to the quarter. */
function hoursText({ low, high, fromTicks }: CardHours): string {
  const round = (h: number) => (h < 1 ? Math.max(0.25, Math.round(h * 4) / 4) : Math.round(h))
  const [a, b] = [round(low), round(high)]
  return `${a === b ? `about ${a}` : `${a} to ${b}`} h left${fromTicks ? ' at your pace' : ''}`
}

/** The head of a step and what follows it. */
function split(says: string): readonly [string, string] {
  const cut = /[:.;] /.exec(says)
  if (!cut) return [says.replace(/\.$/, ''), '']
  return [says.slice(0, cut.index), capital(says.slice(cut.index + 2))]
}
const took = (s: number | undefined) =>
  s === undefined || s < 30 ? '' : s < 90 ? ', a minute' : `, ${Math.round(s / 60)} min`

function StepRow({
  step,
  drawn,
  plan,
  open,
  onOpen,
  onDone,
  seconds,
  others,
}: {
  step: CardStep
  /** its drawing is the first of its kind: on paper one is enough */
  drawn: boolean
  plan: string
  open: boolean
  onOpen: () => void
  onDone: () => void
  seconds: (key: string) => number | undefined
  /** devices that are at this step */
  others: readonly string[]
}) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const tick = tickOf(build, plan, step)
  const isDone = tick?.state === 'done'
  // its judgement stays in sight when the step is shut
  const leak = step.proof === 'leak' ? lastLeakTest(build, plan) : undefined
  const [head, rest] = split(step.says)
  const frame = isDone ? 'border-ink text-ok' : step.proof ? 'border-vacuum' : 'border-ink'
  const set = (on: boolean) => {
    act(
      tickStep(plan, step, on ? new Date().toISOString() : undefined, on ? seconds(step.key) : undefined),
      on ? `Done: ${head.toLowerCase()}` : `Not done: ${head.toLowerCase()}`,
    )
    if (on) onDone()
  }
  return (
    <li
      // a gloved finger on one tick does not reach the next
      className={`flex gap-3 border-b border-rule py-2 pointer-coarse:min-h-24 ${open && !isDone ? '-mx-2 bg-blue-wash px-2' : ''}`}
    >
      <button
        type="button"
        role="checkbox"
        aria-checked={isDone}
        aria-label={head}
        className={`mt-0.5 flex size-12 shrink-0 items-center justify-center border-2 bg-sheet ${frame}`}
        onClick={() => set(!isDone)}
      >
        {isDone && <Check size={22} aria-hidden />}
      </button>
      <div className="min-w-0 flex-1">
        <button
          type="button"
          className="w-full text-left pointer-coarse:min-h-12"
          aria-expanded={open}
          onClick={onOpen}
        >
          <span className={isDone ? 'text-soft' : 'font-bold'}>{head}</span>
        </button>
        {others.length > 0 && <p className="no-print text-xs font-bold text-blue">{others.join(', ')} here</p>}
        {isDone && tick && (
          <p className="text-xs text-soft">
            {dayText(tick.at.slice(0, 10))}
            {took(tick.seconds)}
          </p>
        )}
        {leak && (
          <p role="status" className="font-bold">
            {leak.says} <span className="text-xs font-normal text-soft">{dayText(leak.date)}</span>
          </p>
        )}
        {tick?.state === 'changed' && <p className="text-xs font-bold text-watch">Ticked when it said: {tick.said}</p>}
        <div className={open && !isDone ? '' : 'hidden print:block'}>
          {rest && <p>{rest}</p>}
          {step.tight && <p className="text-soft">Tight: {step.tight}.</p>}
          {step.caution && <p className="font-bold text-fix">{step.caution}</p>}
          <StepDrawing step={step} onPaper={drawn} />
          {step.proof === 'reading' && open && <Proof />}
          {step.proof === 'reading' && (
            <div className="hidden print:block">
              <PrintedReadings />
            </div>
          )}
          {step.proof === 'blow' && open && <BlowTest onGood={() => set(true)} />}
          {step.proof === 'leak' && open && <LeakTestPanel step={step} plan={plan} />}
          {open && <PhotoStrip of={photoOf.step(plan, step.key)} what={head.toLowerCase()} />}
          <button type="button" className="button button-main no-print mt-2 min-h-12 w-full" onClick={() => set(true)}>
            Done
          </button>
        </div>
      </div>
    </li>
  )
}
