'use client'
/** Where the can would stand well: a few places apart, each with its reasons, one press to put it there. */
import { quantityText } from '@/core/units/format'
import type { BestSpot } from '@/plan/bay/best-spots'
import { setSpot } from '@/plan/bay/bay-builders'
import { lowered } from '@/plan/document/words'
import type { PartOf } from '@/plan/document/schema'
import { useJob } from '../workspace/jobs/jobs'
import { useUnits, useWorkspace } from '../workspace/store'

export function BestSpots({ can }: { can: PartOf<'can'> }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const job = useJob('spots')
  const length = (m: number) => quantityText(m, 'length', units, 2)
  const where = (mm: number, one: string, other: string) => `${length(Math.abs(mm) / 1000)} ${mm < 0 ? other : one}`
  const reasons = (s: BestSpot) =>
    [
      `${length(s.hoseM)} of hose, straight`,
      s.headM === undefined ? undefined : `drains with ${length(s.headM)} to spare in the worst state`,
      s.heatM === undefined ? undefined : `${length(s.heatM)} from heat`,
      s.lidM === undefined ? undefined : `${length(s.lidM)} under the bonnet`,
      s.mount ? `${lowered(s.mount.name)} ${length(s.mount.awayM)} away` : 'nothing near to hang it on',
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
          Looking through the bay, {Math.round(job.progress * 100)} %{' '}
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
            <li
              key={`${s.forwardMm} ${s.leftMm} ${s.upMm}`}
              className="flex flex-wrap items-baseline gap-x-3 border-b border-rule pb-1"
            >
              <strong className="fig">{String.fromCharCode(65 + i)}</strong>
              <span className="min-w-0 flex-1">
                {where(s.forwardMm, 'ahead', 'behind')}, {where(s.leftMm, 'left', 'right')},{' '}
                {where(s.upMm, 'up', 'down')}
                <span className="block text-xs text-soft">{reasons(s).join('; ')}</span>
              </span>
              <button
                type="button"
                className="link-button"
                onClick={() =>
                  act(
                    setSpot(can.id, { forwardMm: s.forwardMm, leftMm: s.leftMm, upMm: s.upMm }),
                    `${can.name} put at spot ${String.fromCharCode(65 + i)}`,
                  )
                }
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
