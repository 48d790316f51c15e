'use client'
/** What if a valve sticks, a filter blocks, a hose comes off: tried at one press, never saved; and which of all failures is worst. */
import { useEffect } from 'react'
import { STATE_NAMES, unitFormatter } from '@/plan/document/words'
import { faultsOf } from '@/plan/faults/faults'
import { effectText, type FaultOutcome } from '@/plan/faults/what-if'
import { crankcaseText } from '@/plan/model/limits'
import { SeverityMark } from '@/ui/marks'
import { useJob } from '../workspace/jobs/jobs'
import { useUnits, useWorkspace } from '../workspace/store'

/** The other states that a failure moves: one sentence does not cover them. */
function Elsewhere({ outcome }: { outcome: FaultOutcome }) {
  const say = unitFormatter(useUnits())
  const others = outcome.states.filter((s) => !outcome.says.includes(effectText(s, say)))
  if (others.length === 0) return null
  return (
    <ul className="text-xs text-soft">
      {others.map((s) => (
        <li key={s.id}>
          {STATE_NAMES[s.id]}: {s.before === undefined ? 'no answer' : crankcaseText(say, s.before)} to{' '}
          {s.after === undefined ? 'no answer' : crankcaseText(say, s.after)}
        </li>
      ))}
    </ul>
  )
}

export function WhatIfPanel() {
  const build = useWorkspace((s) => s.build)
  const tried = useWorkspace((s) => s.whatIf?.id)
  const tryFault = useWorkspace((s) => s.tryFault)
  const show = useWorkspace((s) => s.show)
  const job = useJob('failures')
  const { start } = job
  useEffect(() => {
    const timer = setTimeout(() => start(build), 200)
    return () => clearTimeout(timer)
  }, [start, build])
  const outcomes = job.value
  const known = new Set(faultsOf(build).map((f) => f.id))
  return (
    <div className="pt-1">
      <p className="flex min-h-8 items-center gap-3 text-soft" role="status">
        {job.progress !== undefined ? (
          <>
            Trying every failure, {Math.round(job.progress * 100)} %{' '}
            <button type="button" className="link-button" onClick={job.stop}>
              Stop
            </button>
          </>
        ) : (
          (job.failed ??
          (outcomes
            ? `${outcomes.length} failures, worst first. Press one to see it in every picture; nothing of it is saved.`
            : ''))
        )}
      </p>
      {outcomes && (
        <table className={`table w-full ${job.progress === undefined ? '' : 'opacity-60'}`}>
          <thead>
            <tr>
              <th>If</th>
              <th>then</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {outcomes
              .filter((o) => known.has(o.id))
              .map((o) => (
                <tr key={o.id} className={tried === o.id ? 'bg-blue-wash' : ''}>
                  <th scope="row" className="!whitespace-normal !text-ink">
                    <span className="flex items-center gap-2">
                      <SeverityMark severity={o.severity} size={16} />
                      {o.name}
                    </span>
                  </th>
                  <td className="!whitespace-normal">
                    {o.says}
                    <Elsewhere outcome={o} />
                  </td>
                  <td className="text-right">
                    <button
                      type="button"
                      className="link-button whitespace-nowrap"
                      aria-pressed={tried === o.id}
                      onClick={() => {
                        tryFault(tried === o.id ? undefined : o.id)
                        if (tried !== o.id && o.state) show(o.state)
                      }}
                    >
                      {tried === o.id ? 'End it' : 'Try it'}
                    </button>
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
