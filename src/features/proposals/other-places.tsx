'use client'
/** The plan as it stands, its sizes held: other places for its cans, and what the plan then gives. */
import { formatNumber, quantityText } from '@/core/units/format'
import { WideRegion } from '@/ui/wide-region'
import { useJob } from '../workspace/jobs/jobs'
import { useUnits, useWorkspace } from '../workspace/store'

export function OtherPlaces() {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const edit = useWorkspace((s) => s.edit)
  const units = useUnits()
  const { value, of, progress, failed, start, stop } = useJob('places')
  const found = of?.[0] === build ? value : undefined
  return (
    <section aria-labelledby="places">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 id="places" className="head">
          The plan as it stands, other places
        </h2>
        {progress === undefined ? (
          <button type="button" className="link-button no-print" onClick={() => start(build, today)}>
            Try places for its cans
          </button>
        ) : (
          <span role="status">
            {Math.round(100 * progress)} %{' '}
            <button type="button" className="link-button" onClick={stop}>
              Stop
            </button>
          </span>
        )}
      </div>
      {failed !== undefined && (
        <p role="alert" className="font-bold text-stop">
          It could not be worked out: {failed}
        </p>
      )}
      {found && !found.ok && <p className="py-1">{found.reason}</p>}
      {found?.ok && (
        <WideRegion label="Places that were tried">
          <table className="table w-full">
            <thead>
              <tr>
                <th scope="col">can, ahead · left · up</th>
                <th scope="col" className="num">
                  hose
                </th>
                <th scope="col" className="num">
                  crankcase, bad end
                </th>
                <th scope="col" className="num">
                  oil to the intake
                </th>
                <th scope="col" className="num">
                  points
                </th>
                <th scope="col">
                  <span className="sr-only">what to do</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {found.value.map((p) => {
                const name = p.floorMm
                  ? `${p.can}: ${p.floorMm.map((mm) => quantityText(mm / 1000, 'length', units, 3)).join(' · ')}`
                  : 'as they stand now'
                return (
                  <tr key={name}>
                    <th scope="row">
                      {name}
                      {p.stuck.length > 0 && (
                        <span className="block font-normal text-watch">no way for: {p.stuck.join(', ')}</span>
                      )}
                    </th>
                    <td className="num">{quantityText(p.hoseM, 'length', units, 3)}</td>
                    <td className="num">
                      {p.measure.facts.highest === undefined
                        ? 'no answer'
                        : quantityText(p.measure.facts.highest, 'pressure', units, 2)}
                    </td>
                    <td className="num">{quantityText(p.measure.facts.intakeOil, 'perDistance', units, 2)}</td>
                    <td className="num">{formatNumber(p.measure.total, 3)}</td>
                    <td>
                      {p.edits.length > 0 && (
                        <button
                          type="button"
                          className="link-button"
                          onClick={() => edit(p.edits, `${p.can} moved to where it was tried`)}
                        >
                          Put it there
                        </button>
                      )}
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </WideRegion>
      )}
    </section>
  )
}
