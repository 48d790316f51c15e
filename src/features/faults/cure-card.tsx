'use client'
/** From a fault to its cure: why, how to be sure, what to buy and do, what to look at after; noted in the log when it is done. */
import { useRouter } from 'next/navigation'
import { Printer } from 'lucide-react'
import { lowered } from '@/plan/document/words'
import { cureOf } from '@/plan/finder/cures'
import type { FaultReport, FaultRow } from '@/plan/finder/find-faults'
import { useWorkspace } from '../workspace/store'
import { perHundredText } from './evidence-picture'

export function CureCard({
  report,
  row,
  onMended,
}: {
  report: FaultReport
  row: FaultRow
  onMended: (row: FaultRow) => void
}) {
  const build = useWorkspace((s) => s.build)
  const id = useWorkspace((s) => s.id)
  const tryFault = useWorkspace((s) => s.tryFault)
  const select = useWorkspace((s) => s.select)
  const router = useRouter()
  const cure = cureOf(build, row)
  const set = report.sets.find((s) => s.includes(row.id))
  const others = report.rows.filter((r) => r.id !== row.id && set?.includes(r.id))
  const show = () => {
    const [of] = row.of
    const variant = build.variants.find((v) => v.id === build.active)
    if (of !== undefined) select({ kind: variant?.lines.some((l) => l.id === of) ? 'line' : 'part', id: of })
    tryFault(row.id.split('+')[0])
    router.push(`/builds/${id}/circuit`)
  }
  return (
    <section aria-labelledby="cure" className="space-y-2">
      <h2 id="cure" className="head border-b-[1.5px] border-ink pb-1">
        {row.name}
      </h2>
      <p>
        <strong>{perHundredText(row.share)}</strong>
        {row.extent && <>, likely {row.extent}</>}. {row.reason}
      </p>
      {others.length > 0 && (
        <p className="border-l-4 border-watch pl-2">
          No reading of a running engine tells it from {others.map((o) => lowered(o.name)).join(', ')}: only looking
          does.
        </p>
      )}
      {cure && (
        <>
          <p className="flex flex-wrap gap-x-4">
            <button type="button" className="link-button" onClick={show}>
              Show it on the circuit
            </button>
            <button type="button" className="link-button inline-flex items-center gap-1" onClick={() => print()}>
              <Printer size={16} aria-hidden /> Print
            </button>
          </p>
          <h3 className="head">How to be sure</h3>
          <ul className="list-disc pl-5">
            {cure.sure.map((s) => (
              <li key={s.name}>
                {s.name}: {s.shows}. <span className="text-soft">{s.minutes} min.</span>{' '}
                {s.caution && <span className="text-watch">{s.caution}</span>}
              </li>
            ))}
          </ul>
          <h3 className="head">The job</h3>
          <ol className="list-decimal pl-5">
            {cure.steps.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ol>
          <p>
            To have at hand: {cure.buy.join(', ')}. Engine cold; used oil is hazardous waste; where it is welded, lifted
            or bears on emissions, local rules and licensed practice decide.
          </p>
          <p>After it: {cure.after}</p>
          <button type="button" className="button button-main no-print" onClick={() => onMended(row)}>
            Mended: note it in the log
          </button>
        </>
      )}
    </section>
  )
}
