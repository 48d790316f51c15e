'use client'
/** Complaints that were followed to their end: whether the cure held is asked, and one can be opened again. */
import { saveCase } from '@/plan/finder/case-builders'
import { useWorkspace } from '../workspace/store'

export function PastCases({ dayOf }: { dayOf: (iso: string) => string }) {
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
              {dayOf(c.closed!.on)}: <strong>{c.closed!.says}</strong>
            </span>
            {c.closed!.fixed === undefined ? (
              <span role="group" aria-label={`Fixed? ${c.closed!.says}`} className="flex gap-3">
                <span className="font-bold text-watch">Fixed?</span>
                {([true, false] as const).map((fixed) => (
                  <button
                    key={String(fixed)}
                    type="button"
                    className="link-button"
                    onClick={() =>
                      act(
                        saveCase({ ...c, closed: { ...c.closed!, fixed } }),
                        fixed ? 'It is fixed' : 'It is not fixed',
                      )
                    }
                  >
                    {fixed ? 'yes' : 'no'}
                  </button>
                ))}
              </span>
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
