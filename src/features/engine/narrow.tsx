'use client'
/** Which one measurement would narrow the answer most, in the state that is shown. */
import { quantityText } from '@/core/units/format'
import type { Ranges } from '@/plan/studies/ranges'
import { STATE_NAMES } from '@/plan/explain/words'
import type { JobState } from '../workspace/jobs'
import { useUnits, useWorkspace } from '../workspace/store'

export function Narrow({ ranges: { value, progress }, onStop }: { ranges: JobState<Ranges>; onStop: () => void }) {
  const units = useUnits()
  const current = useWorkspace((s) => s.state)
  const shown = value?.states.find((s) => s.id === current) ?? value?.states[0]
  const working = progress !== undefined && (
    <p className="flex items-center gap-3 py-2 text-soft">
      Working out a thousand draws, {Math.round(progress * 100)} %{' '}
      <button type="button" className="deed" onClick={onStop}>
        Stop
      </button>
    </p>
  )
  if (!shown) return working || <p className="py-4 text-soft">The ranges have not been worked out yet.</p>
  const best = shown.shares.filter((s) => s.share > 0.01).slice(0, 6)
  const text = (pa: number) => quantityText(pa, 'pressure', units, 2)
  return (
    <div className="pt-2">
      {working}
      <p>
        {STATE_NAMES[shown.id]}: the crankcase stands between {text(shown.crankcase.low)} and{' '}
        {text(shown.crankcase.high)} in four cases of five
        {shown.above > 0.005 ? `, above the pressure outside in ${Math.round(shown.above * 100)} of 100` : ''}.
      </p>
      {best.length === 0 ? (
        <p className="py-2 text-soft">No estimate moves it: what is known is known well enough.</p>
      ) : (
        <table className="table mt-1 w-full">
          <thead>
            <tr>
              <th>To narrow that</th>
              <th>Input</th>
              <th>Its range</th>
              <th className="!text-right">Part of the spread</th>
            </tr>
          </thead>
          <tbody>
            {best.map((s, i) => (
              <tr key={`${s.id} ${s.name}`}>
                <th scope="row" className={`!whitespace-normal ${i === 0 ? '!font-bold !text-ink' : '!text-ink'}`}>
                  {s.measure}
                </th>
                <td>{s.name}</td>
                <td className="whitespace-nowrap text-fix italic">{s.range}</td>
                <td className="whitespace-nowrap text-right">
                  <span
                    aria-hidden
                    className="mr-2 inline-block h-2.5 bg-blue"
                    style={{ width: `${Math.round(s.share * 70)}px` }}
                  />
                  {Math.round(s.share * 100)} %
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
