'use client'
/** What comes of the answers: whether it is worth it, and one school as it ranks, with what it costs its builder. */
import { useId } from 'react'
import { quantityText } from '@/core/units/format'
import type { UnitChoice } from '@/core/units/units'
import { MEASURE_PARTS, PART_NAMES } from '@/plan/studies/measure-parts'
import type { Ranked } from '@/plan/studies/rank'
import type { Worth } from '@/plan/studies/worth'
import { countVerdicts } from '../workspace/frame/verdict-rail'

/** Whether it is worth it, before how. */
export function WorthIt({ worth }: { worth: Worth }) {
  return (
    <section aria-labelledby="worth">
      <h2 id="worth" className="head border-b-[1.5px] border-ink pb-1">
        Is it worth it?
      </h2>
      <p className="mt-1">{worth.says[0]}</p>
      <p className="mt-1 font-bold">{worth.says[1]}</p>
    </section>
  )
}

export function RankedSchool({
  of: r,
  units,
  picked,
  onPick,
}: {
  of: Ranked
  units: UnitChoice
  picked: boolean
  onPick: () => void
}) {
  const id = useId()
  const pressure = (pa: number | undefined) => (pa === undefined ? 'no answer' : quantityText(pa, 'pressure', units, 2))
  return (
    <div className={`border-b border-rule ${picked ? 'bg-blue-wash' : ''}`}>
      <label htmlFor={id} className="flex gap-2.5 px-1 py-2">
        <input
          id={id}
          aria-label={r.name}
          type="radio"
          name="school"
          className="mt-0.5 size-4"
          checked={picked}
          onChange={onPick}
        />
        <span className="min-w-0">
          <span className="block font-bold">
            {r.name}
            {r.yardstick && <span className="ml-2 font-normal text-soft">the yardstick</span>}
            {r.equal && <span className="ml-2 font-normal text-soft">as good as the first</span>}
          </span>
          <span className="block text-xs text-soft">
            {quantityText(r.analysis.intakeOil, 'perDistance', units, 2)} of oil to the intake; crankcase{' '}
            {pressure(r.lowest)} to {pressure(r.highest)}; {countVerdicts(r.analysis.verdicts)}
            {r.notes.length > 0 && `; ${r.notes.join(', ')}`}
          </span>
          {r.because && <span className="block text-xs">Against the next: {r.because}.</span>}
          <Weighed of={r} />
        </span>
      </label>
    </div>
  )
}

/** What weighs most of what a plan costs its builder, points. */
const MOST_PARTS = 4
/** What a plan costs its builder, less is better, and the most of what that is made of. */
function Weighed({ of: { measure } }: { of: Ranked }) {
  const parts = MEASURE_PARTS.filter((k) => measure.points[k] >= 0.5)
    .toSorted((a, b) => measure.points[b] - measure.points[a])
    .slice(0, MOST_PARTS)
  const said = parts.map((k) => `${PART_NAMES[k]} ${Math.round(measure.points[k])}`).join(', ')
  return (
    <span className="mt-0.5 block text-xs text-soft">
      Costs {Math.round(measure.total)} points: {said}
    </span>
  )
}
