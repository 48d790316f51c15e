'use client'
/** Where the can would stand well: a few places apart, each with its reasons, one press to put it there with its hoses. */
import { formatNumber, quantityText } from '@/core/units/format'
import { letterOf, lowered } from '@/plan/document/words'
import type { PartOf } from '@/plan/document/schema'
import type { JobValue } from '../workspace/jobs/jobs.worker'
import { useJob } from '../workspace/jobs/jobs'
import { useUnits, useWorkspace } from '../workspace/store'

type Spot = Extract<JobValue<'spots'>, { ok: true }>['value'][number]

export function BestSpots({ can }: { can: PartOf<'can'> }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const job = useJob('spots')
  const length = (m: number) => quantityText(m, 'length', units, 2)
  const where = (m: number, one: string, other: string) => `${length(Math.abs(m))} ${m < 0 ? other : one}`
  const reasons = (s: Spot) =>
    [
      s.left.length === 0 ? 'every hose finds its way' : undefined,
      `${length(s.hoseM)} of hose, straight`,
      s.headM === undefined ? undefined : `drains with ${length(s.headM)} to spare in the worst state`,
      s.heatM === undefined ? undefined : `${length(s.heatM)} from heat`,
      s.lidM === undefined ? undefined : `${length(s.lidM)} under the bonnet`,
      s.mounts.length > 0
        ? `${s.mounts.map(({ m, awayM }) => `${lowered(m.name)} ${length(awayM)} away`).join(', ')}${s.ringsHz === undefined ? '' : `, shakes at ${formatNumber(s.ringsHz, 2)} Hz there`}`
        : undefined,
    ].filter(Boolean)
  const { value } = job
  return (
    <section aria-label={`Best spots for the ${lowered(can.name)}`}>
      {job.progress === undefined ? (
        <button type="button" className="link-button" onClick={() => job.start(build, can.id)}>
          Best spots for the {lowered(can.name)}
        </button>
      ) : (
        <p role="status">
          Looking through the bay and leading its hoses, {Math.round(job.progress * 100)} %{' '}
          <button type="button" className="link-button" onClick={job.stop}>
            Stop
          </button>
        </p>
      )}
      {job.failed && <p className="text-fix">{job.failed}</p>}
      {value?.ok === false && (
        <p role="status" className="text-fix">
          {value.reason}
        </p>
      )}
      {value?.ok && (
        <ol className="mt-1 space-y-1">
          {value.value.map((s, i) => (
            <li key={s.floor.join(' ')} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule pb-1">
              <strong className="fig">{letterOf(i)}</strong>
              <span className="min-w-0 flex-1">
                {where(s.floor[0], 'ahead', 'behind')}, {where(s.floor[1], 'left', 'right')},{' '}
                {where(s.floor[2], 'up', 'down')}
                <span className="block text-xs text-soft">{reasons(s).join('; ')}</span>
                {s.left.map((left) => (
                  <span key={left} className="block text-xs text-fix">
                    {left}
                  </span>
                ))}
              </span>
              <button
                type="button"
                className="link-button"
                onClick={() => act(() => s.edits, `${can.name} put at spot ${letterOf(i)}`)}
              >
                Put it there
              </button>
            </li>
          ))}
        </ol>
      )}
    </section>
  )
}
