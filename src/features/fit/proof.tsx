'use client'
/** What the crankcase should read in each state, and what it did: entered, it is judged and teaches the model. */
import Link from 'next/link'
import { useState } from 'react'
import { fromSi } from '@/core/units/units'
import { parseQuantity } from '@/core/units/parse'
import type { StateId } from '@/core/engine/states'
import { upsertLogEntry } from '@/plan/edit/edit-builders'
import { expectedIn } from '@/plan/studies/proof'
import { isCycleMean } from '@/plan/model/results'
import { STATE_NAMES, unitFormatter } from '@/plan/document/words'
import type { LogEntry } from '@/plan/document/schema'
import { quantityOf, valueOf } from '@/plan/service/readings'
import { useFollowingJob } from '../workspace/jobs/jobs'
import { LiveLogger } from '../recording/live-logger'
import { Figure } from '../workspace/figures/figure'
import { NO_ODOMETER, useOdometer } from './odometer'
import { useUnits, useWorkspace } from '../workspace/store'

export function Proof() {
  const build = useWorkspace((s) => s.build)
  const id = useWorkspace((s) => s.id)
  const ranges = useFollowingJob('ranges', build)
  const analysed = useWorkspace((s) => s.analysis.states)
  const say = unitFormatter(useUnits())
  const { km, field: odometer } = useOdometer()
  const mine = build.log.filter(
    (e) =>
      e.kind === 'reading' &&
      e.reading &&
      quantityOf(e.reading) === 'crankcase' &&
      (e.plan ?? build.variants[0]!.id) === build.active,
  )
  if (!ranges.value)
    return (
      <p role="status" className="text-soft">
        Working out what it should read, {Math.round((ranges.progress ?? 0) * 100)} %
      </p>
    )
  const { states, read } = ranges.value
  return (
    <div className="mt-2 space-y-1">
      <LiveLogger />
      {odometer}
      {states.map((s) => {
        const last = mine.filter((e) => e.reading!.state === s.id).at(-1)?.reading
        const pa = last && valueOf(build, last).value
        const shown = analysed.find((x) => x.id === s.id)
        const band = expectedIn(shown, s)
        const inside = pa === undefined || (pa >= band.low && pa <= band.high)
        const overCycle = shown?.solved === true && shown.cycle !== undefined
        return (
          <div key={s.id} className="border-b border-rule py-1">
            <p>
              <strong>{STATE_NAMES[s.id]}:</strong> expect <strong className="fig">{say.pressure(band.mid)}</strong>,
              between {say.pressure(band.low)} and {say.pressure(band.high)}
              {shown?.solved && (
                <>
                  {' '}
                  (by the plan <Figure of={{ kind: 'crankcase', state: s.id }} digits={2} />)
                </>
              )}
              .
            </p>
            {pa !== undefined && (
              <p className={inside ? 'text-ok' : 'font-bold text-fix'} role="status">
                Read {say.pressure(pa)}:{' '}
                {inside
                  ? `as expected${overCycle ? '' : '; what was estimated has narrowed by it'}.`
                  : 'not what this plan should give.'}
                {!inside && read?.fault ? ` It is what ${read.fault} would give.` : ''}
                {!inside && !read?.fault
                  ? ' Look for a hose off or folded, a valve the wrong way round, a cap left off.'
                  : ''}{' '}
                {!inside && (
                  <Link href={`/builds/${id}/faults`} prefetch={false} className="link-button no-print">
                    Find the fault
                  </Link>
                )}
              </p>
            )}
            <Reading state={s.id} km={km} />
          </div>
        )
      })}
      <p className="text-xs text-soft">
        Four readings in five fall between; minus is suction.
        {isCycleMean({ states: analysed }) && ' The pistons swing it at every turn: damp the gauge and read the mean.'}
      </p>
    </div>
  )
}

function Reading({ state, km }: { state: StateId; km: number | undefined }) {
  const units = useUnits()
  const act = useWorkspace((s) => s.act)
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const [text, setText] = useState('')
  const [way, setWay] = useState<'suction' | 'pressure'>('suction')
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const submit = () => {
    const parsed = parseQuantity(text.replace(/^[-−]/, ''), 'pressure', units)
    if (!parsed.ok) {
      setProblem(parsed.reason)
      return
    }
    const kpa = Number((fromSi('pressure', parsed.value, 'kPa') * (way === 'suction' ? -1 : 1)).toPrecision(6))
    if (kpa < -60 || kpa > 50) {
      setProblem('That is more than a crankcase holds: look at the unit.')
      return
    }
    if (km === undefined) {
      setProblem(NO_ODOMETER)
      return
    }
    const entry = {
      id: crypto.randomUUID(),
      date: today,
      kind: 'reading',
      odometerKm: km,
      plan: build.active,
      reading: { state, kpa },
      note: 'Read to prove the fitting.',
    } as LogEntry
    if (act(upsertLogEntry(entry), `Proof: ${STATE_NAMES[state].toLowerCase()} read`)) {
      setText('')
      setProblem(undefined)
    }
  }
  return (
    <form
      className="no-print flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        submit()
      }}
    >
      <input
        className="field min-h-11 !w-28"
        inputMode="decimal"
        autoComplete="off"
        aria-label={`${STATE_NAMES[state]}, read`}
        aria-invalid={problem !== undefined}
        placeholder={units.pressure}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <div role="radiogroup" aria-label={`${STATE_NAMES[state]}, which way`} className="flex">
        {(['suction', 'pressure'] as const).map((w) => (
          <button
            key={w}
            type="button"
            role="radio"
            aria-checked={way === w}
            className={`min-h-11 border-b-[3px] px-2 ${way === w ? 'border-blue font-bold text-blue' : 'border-transparent text-soft'}`}
            onClick={() => setWay(w)}
          >
            {w}
          </button>
        ))}
      </div>
      <button type="submit" className="button min-h-11" disabled={text.trim() === ''}>
        Enter
      </button>
      {problem && (
        <span role="alert" className="basis-full text-xs font-bold text-stop">
          {problem}
        </span>
      )}
    </form>
  )
}
