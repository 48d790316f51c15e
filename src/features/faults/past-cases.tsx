'use client'
/** Complaints that were followed to their end: whether the cure held is asked, and one can be opened again. */
import type { FaultCase } from '@/plan/document/schema'
import { dayText, lowered } from '@/plan/document/words'
import { saveCase } from '@/plan/finder/case-builders'
import { useWorkspace } from '../workspace/store'

/** Asked until it is answered: here, and at the next entry of the log. */
export function FixedQuestion({ of }: { of: FaultCase }) {
  const act = useWorkspace((s) => s.act)
  const { closed } = of
  return (
    <span role="group" aria-label={`Fixed? ${closed!.says}`} className="flex gap-3">
      <span className="font-bold text-watch">Fixed?</span>
      {([true, false] as const).map((fixed) => (
        <button
          key={String(fixed)}
          type="button"
          className="link-button"
          onClick={() =>
            act(saveCase({ ...of, closed: { ...closed!, fixed } }), fixed ? 'It is fixed' : 'It is not fixed')
          }
        >
          {fixed ? 'yes' : 'no'}
        </button>
      ))}
    </span>
  )
}

/** At the log: whether what was last mended is mended, until somebody says. */
export function LastMended() {
  const last = useWorkspace((s) =>
    s.build.cases?.findLast((c) => c.closed !== undefined && c.closed.fixed === undefined),
  )
  if (!last) return null
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 border-l-4 border-watch pl-2">
      Mended on {dayText(last.closed!.on)}: {lowered(last.closed!.says)}. <FixedQuestion of={last} />
    </p>
  )
}

export function PastCases() {
  const cases = useWorkspace((s) => s.build.cases)
  const act = useWorkspace((s) => s.act)
  const closed = (cases ?? []).filter((c) => c.closed !== undefined).toReversed()
  if (closed.length === 0) return null
  return (
    <section aria-labelledby="past" className="mt-6">
      <h2 id="past" className="head border-b-[1.5px] border-ink pb-1">
        Earlier complaints
      </h2>
      <ul>
        {closed.map((c) => (
          <li key={c.id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-1">
            <span>
              {dayText(c.closed!.on)}: <strong>{c.closed!.says}</strong>
            </span>
            {c.closed!.fixed === undefined ? (
              <FixedQuestion of={c} />
            ) : (
              <span className="text-soft">{c.closed!.fixed ? 'fixed' : 'not fixed'}</span>
            )}
            <button
              type="button"
              className="link-button"
              onClick={() => act(saveCase({ ...c, closed: undefined }), 'Complaint opened again')}
            >
              Open again
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
