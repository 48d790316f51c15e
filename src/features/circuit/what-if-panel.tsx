'use client'
/** What if a valve sticks, a filter blocks, a hose comes off: tried at one press, never saved; and which of all failures is worst. */
import { useEffect } from 'react'
import { faultsOf } from '@/plan/faults/faults'
import { SeverityMark } from '@/ui/marks'
import { useJob } from '../workspace/jobs/jobs'
import { useWorkspace } from '../workspace/store'

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
                  <td className="!whitespace-normal">{o.says}</td>
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
