'use client'
/** What to cut, drill and hold a spanner to. */
import { activeVariant } from '@/plan/edit/edit'
import { unitFormatter } from '@/plan/document/words'
import { cutList, drillings, spanners } from '@/plan/fit/lists'
import { OPENS, WorkingButton } from '../workspace/figures/working-popover'
import { stripsOf } from '@/plan/fit/strips'
import { saveCuts } from '../workspace/frame/save-files'
import { isAssumed } from '../workspace/figures/assumed'
import { useUnits, useWorkspace } from '../workspace/store'

export function CutList() {
  const build = useWorkspace((s) => s.build)
  const say = unitFormatter(useUnits())
  const strips = stripsOf(build, activeVariant(build))
  const cuts = cutList(strips)
  const drills = drillings(strips, say)
  const hexes = spanners(strips)
  const unmeasured = new Set(
    strips
      .filter((c) => !c.lay && isAssumed(build, ['variants', build.active, 'lines', c.line.id, 'lengthMm']))
      .map((c) => c.line.id),
  )
  return (
    <section aria-labelledby="cut" className="overflow-x-auto">
      <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <h2 id="cut" className="head">
          To cut
        </h2>
        <button type="button" className="link-button no-print" onClick={() => void saveCuts(build)}>
          As CSV
        </button>
      </div>
      <table className="table w-full min-w-[40rem]">
        <thead>
          <tr>
            <th>Label</th>
            <th>Line</th>
            <th>Hose</th>
            <th className="text-right">Cut</th>
            <th>First end</th>
            <th>Second end</th>
            <th className="text-right">Turn</th>
          </tr>
        </thead>
        <tbody>
          {cuts.map((c) => (
            <tr key={c.label}>
              <td className="fig font-bold">
                {c.label}1 · {c.label}2
              </td>
              <th scope="row" className="!text-ink">
                {c.line}
              </th>
              <td>
                {c.hose}
                {c.tapeMm > 0 ? `, ${say.mm(c.tapeMm)} of tape` : ''}
              </td>
              <td className="fig text-right font-bold">
                <WorkingButton
                  of={() => import('@/plan/explain/making').then((m) => m.cutWorking(build, c.strip))}
                  label={`${c.line}, ${say.mm(c.cutMm)}: the working`}
                  className={OPENS}
                >
                  {unmeasured.has(c.strip.line.id) && <span className="font-normal text-soft">◇ </span>}
                  {say.mm(c.cutMm)}
                </WorkingButton>
              </td>
              <td>{c.ends[0]}</td>
              <td>{c.ends[1]}</td>
              <td className="text-right">{c.clockingDeg === undefined ? '–' : `${Math.round(c.clockingDeg)}°`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {unmeasured.size > 0 && (
        <p className="mt-1 text-soft">
          ◇ By an estimated path: measure it in the bay or at the Circuit before you cut.
        </p>
      )}
      {(drills.length > 0 || hexes.length > 0) && (
        <div className="mt-3">
          <h3 className="text-sm">To drill and tap; spanners</h3>
          <ul className="text-sm">
            {drills.map((d) => (
              <li key={`${d.what} ${d.at}`}>
                {d.at}: <strong>{say.length(d.drillM)}</strong> for the {d.what}; {d.after}.
              </li>
            ))}
            {hexes.length > 0 && <li>Hexagons: {hexes.map((h) => say.mm(h)).join(', ')}.</li>}
          </ul>
        </div>
      )}
    </section>
  )
}
