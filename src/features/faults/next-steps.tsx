'use client'
/** What to do next, the most telling a minute first; what it shows is entered in its row and moves the odds at once. */
import { useState } from 'react'
import { parseQuantity } from '@/core/units/parse'
import { lowered, unitFormatter } from '@/plan/document/words'
import type { FaultReport } from '@/plan/finder/find-faults'
import { evidenceText } from '@/plan/finder/fault-reason'
import type { NextStep } from '@/plan/finder/measure-next'
import { WideRegion } from '@/ui/wide-region'
import { useUnits } from '../workspace/store'

/** Leaders beside each other in the table. */
const SHOWN = 2

export type StepResult = { readonly saw: string } | { readonly pa: number } | { readonly trim: number }

function Enter({ step, onResult }: { step: NextStep; onResult: (result: StepResult) => void }) {
  const units = useUnits()
  const [text, setText] = useState('')
  const [problem, setProblem] = useState<string | undefined>(undefined)
  if (step.outcomes)
    return (
      <span className="flex flex-wrap gap-x-3">
        {step.outcomes.map((o) => (
          <button
            key={o}
            type="button"
            className="link-button"
            aria-label={`${step.name}: ${o}`}
            onClick={() => onResult({ saw: o })}
          >
            {o}
          </button>
        ))}
      </span>
    )
  const isTrim = step.reads?.observable.kind === 'trim'
  const submit = () => {
    const plain = text.replace('−', '-').trim()
    if (isTrim) {
      const share = Number(plain.replace('%', '')) / 100
      if (plain === '' || !Number.isFinite(share) || Math.abs(share) > 0.6)
        return setProblem('A trim is a figure such as +8 %.')
      return onResult({ trim: share })
    }
    const read = parseQuantity(plain.replace(/^[-+]/, ''), 'pressure', units)
    if (!read.ok) return setProblem(read.reason)
    const pa = read.value * (plain.startsWith('-') ? -1 : 1)
    if (pa < -60_000 || pa > 50_000) return setProblem('That is more than a crankcase holds: look at the unit.')
    setText('')
    setProblem(undefined)
    return onResult({ pa })
  }
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        submit()
      }}
    >
      <input
        className="field !w-24"
        autoComplete="off"
        aria-label={`${step.name}, read`}
        placeholder={isTrim ? '+8 %' : `−0.4 ${units.pressure}`}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <button type="submit" className="link-button" disabled={text.trim() === ''}>
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

export function NextSteps({
  report,
  onResult,
}: {
  report: FaultReport
  onResult: (step: NextStep, result: StepResult) => void
}) {
  const say = unitFormatter(useUnits())
  const leaders = report.rows.slice(0, SHOWN)
  const shown = (step: NextStep, id: string): string => {
    const found = step.shows.find((s) => s.hypothesis === id)
    if (found?.says !== undefined) return found.says
    if (!found?.range || !step.reads) return 'as it comes'
    const { observable } = step.reads
    return `${evidenceText(say, observable, found.range.low)} to ${evidenceText(say, observable, found.range.high)}`
  }
  return (
    <section aria-labelledby="next">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 id="next" className="head">
          Measure next
        </h2>
        <span className="text-soft">by how much it tells of which one it is, a minute</span>
      </div>
      {report.settled === 'found' && (
        <p role="status" className="py-1 font-bold text-ok">
          One has nine in ten: make sure of it, then mend it.
        </p>
      )}
      {report.next.length === 0 ? (
        <p className="py-1">Nothing that is left tells them apart: mend the likeliest, or the cheapest of its set.</p>
      ) : (
        <WideRegion label="Steps">
          <table className="table table-stacked w-full">
            <thead>
              <tr>
                <th scope="col">Do</th>
                {leaders.map((l) => (
                  <th key={l.id} scope="col">
                    if {lowered(l.name)}
                  </th>
                ))}
                <th scope="col">takes</th>
                <th scope="col" className="num">
                  tells, bits
                </th>
                <th scope="col" className="no-print">
                  what it showed
                </th>
              </tr>
            </thead>
            <tbody>
              {report.next.map((step, k) => (
                <tr key={step.id}>
                  <th scope="row" className="!whitespace-normal !text-ink">
                    <span className={k < 2 ? 'font-bold' : 'font-normal'}>{step.name}</span>
                    {step.caution && <span className="block text-xs font-normal text-watch">{step.caution}</span>}
                  </th>
                  {leaders.map((l) => (
                    <td key={l.id} data-head={`if ${lowered(l.name)}`}>
                      {shown(step, l.id)}
                    </td>
                  ))}
                  <td data-head="takes">
                    {step.minutes} min
                    <span className="text-xs text-soft max-sm:before:content-[',_'] sm:block">{step.needs}</span>
                  </td>
                  <td className="num" data-head="tells, bits">
                    {step.bits.toFixed(2)}
                  </td>
                  <td className="no-print">
                    <Enter step={step} onResult={(result) => onResult(step, result)} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </WideRegion>
      )}
    </section>
  )
}
