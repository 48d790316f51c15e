'use client'
/** Which one measurement would narrow the answer most, in the state that is shown. */
import { formatNumber, quantityText } from '@/core/units/format'
import type { Ranges } from '@/plan/studies/ranges'
import { isCycleMean } from '@/plan/model/results'
import { STATE_NAMES, atState, joinWords, lowered, unitFormatter } from '@/plan/document/words'
import { readingPlace, readingText } from '@/plan/service/readings'
import type { JobState } from '../workspace/jobs/jobs'
import { TakenIn } from '../workspace/figures/taken-in'
import { useUnits, useWorkspace } from '../workspace/store'

export function Narrow({ ranges: { value, progress }, onStop }: { ranges: JobState<Ranges>; onStop: () => void }) {
  const units = useUnits()
  const current = useWorkspace((s) => s.state)
  const overCycle = useWorkspace((s) => isCycleMean(s.analysis))
  const shown = value?.states.find((s) => s.id === current) ?? value?.states[0]
  const working = progress !== undefined && (
    <p className="flex items-center gap-3 py-2 text-soft">
      Working out a thousand draws, {Math.round(progress * 100)} %{' '}
      <button type="button" className="link-button" onClick={onStop}>
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
      {overCycle && (
        <p className="text-soft">
          Of still flow: the thousand draws do not follow the pistons’ turn. What would narrow it is the same.
        </p>
      )}
      <p>
        {STATE_NAMES[shown.id]}: the crankcase stands between {text(shown.crankcase.low)} and{' '}
        {text(shown.crankcase.high)} in four cases of five
        {shown.above > 0.005 ? `, above the pressure outside in ${Math.round(shown.above * 100)} of 100` : ''}.
      </p>
      {value?.read && <Read read={value.read} />}
      <TakenIn />
      {value?.next && (
        <p className="mt-1">
          The most useful {value.read ? 'next' : 'first'} reading: the crankcase {atState(value.next.state)}, expected
          between {text(value.next.expected.low)} and {text(value.next.expected.high)}. Enter it in the log.
        </p>
      )}
      {best.length === 0 ? (
        <p className="py-2 text-soft">No estimate moves it: what is known is known well enough.</p>
      ) : (
        <table className="table mt-1 w-full">
          <thead>
            <tr>
              <th>To narrow that</th>
              <th>Input</th>
              <th>Its range, four in five</th>
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

/** What the builder's own readings say of what was assumed. */
function Read({ read }: { read: NonNullable<Ranges['read']> }) {
  const units = useUnits()
  const act = useWorkspace((s) => s.act)
  const build = useWorkspace((s) => s.build)
  const trying = useWorkspace((s) => s.whatIf !== undefined)
  const one = (r: (typeof read.readings)[number]) => {
    const place = r.quantity === 'crankcase' ? '' : `${readingPlace(build, r).replace('the ', '')} `
    return `${place}${readingText(unitFormatter(units), r.quantity, r.value)} ${atState(r.state)}`
  }
  const list = read.readings.map(one).join(', ')
  if (!read.fits)
    return (
      <p role="alert" className="mt-2 border-l-4 border-stop pl-2">
        Your {read.readings.length === 1 ? 'reading' : 'readings'} ({list}) fit no engine and circuit like this one
        {read.strange.length > 0 && read.strange.length < read.readings.length
          ? `; ${joinWords(read.strange.map(one))} is out of reach`
          : ''}
        . Nothing was narrowed. Read again with the gauge at zero first
        {read.fault
          ? `; one failure would give what you read: ${lowered(read.fault)}. Try it under What if.`
          : '; if it stays, try the faults under What if.'}
      </p>
    )
  const figure = (x: number, { unit, relative }: (typeof read.learnedInputs)[number]) =>
    `${relative && unit !== undefined && x > 0 ? '+' : ''}${formatNumber(x, 2)}${unit === undefined ? '' : ` ${unit}`}`
  return (
    <div className="mt-2 border-l-4 border-blue pl-2">
      <p>
        {read.readings.length === 1 ? 'One reading is' : `${read.readings.length} readings are`} taken in: {list}.
      </p>
      {read.learnedInputs.length === 0 && <p>They are what was expected: nothing moves.</p>}
      {read.learnedInputs.slice(0, 4).map((t) => (
        <p key={t.id}>
          <strong>{t.name}</strong>: {figure(t.after.mid, t)}
          {!t.relative ? '' : t.unit === undefined ? ' times what was assumed' : ' beside what was assumed'},{' '}
          {figure(t.after.low, t)} to {figure(t.after.high, t)}{' '}
          <span className="text-soft">
            (before {figure(t.before.low, t)} to {figure(t.before.high, t)})
          </span>
        </p>
      ))}
      {read.fault && (
        <p role="alert" className="pt-1">
          A failure would explain {read.readings.length === 1 ? 'it' : 'them'} as well as an engine so far off:{' '}
          <strong>{lowered(read.fault)}</strong>. Rule it out first; try it under What if.
        </p>
      )}
      {/* what would fit a failure that is only tried is no figure of the plan */}
      {read.adopt.length > 0 && !trying && (
        <p className="pt-1">
          <button
            type="button"
            className="link-button"
            onClick={() => act([() => read.adopt], 'Figures as the readings have them')}
          >
            {read.fault ? 'It is sound: take these figures into the plan' : 'Take these figures into the plan'}
          </button>{' '}
          <span className="text-soft">so that every picture and verdict goes by them.</span>
        </p>
      )}
    </div>
  )
}
