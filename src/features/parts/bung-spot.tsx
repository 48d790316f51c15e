'use client'
/** Where a bung goes over the baffle inside a cover, by four measures of the tape. */
import { useState } from 'react'
import type { Field } from '@/plan/document/fields'
import { unitFormatter } from '@/plan/document/words'
import { bungSpot, type BaffleExtent } from '@/plan/fit/bungs'
import { NumberField } from '../workspace/figures/field'
import { useUnits } from '../workspace/store'

const size = (label: string): Field => ({ label, kept: 'Mm', min: 0, max: 1000, digits: 4, optional: true })
const FIELDS = [
  ['fromFrontMm', size('Baffle begins, from the front')],
  ['toFrontMm', size('and ends')],
  ['fromEdgeMm', size('begins, from the right edge')],
  ['toEdgeMm', size('and ends there')],
] as const

export function BungSpot({ holeMm }: { holeMm: number }) {
  const say = unitFormatter(useUnits())
  const [place, setPlace] = useState<Partial<BaffleExtent>>({})
  const { fromFrontMm, toFrontMm, fromEdgeMm, toEdgeMm } = place
  const whole =
    fromFrontMm !== undefined && toFrontMm !== undefined && fromEdgeMm !== undefined && toEdgeMm !== undefined
      ? { fromFrontMm, toFrontMm, fromEdgeMm, toEdgeMm }
      : undefined
  const spot = whole && bungSpot(whole, holeMm)
  return (
    <>
      <div className="grid max-w-2xl grid-cols-2 items-end gap-x-4 sm:grid-cols-4">
        {FIELDS.map(([key, field]) => (
          <NumberField key={key} field={field} value={place[key]} onChange={(v) => setPlace({ ...place, [key]: v })} />
        ))}
      </div>
      <p role="status" className={`py-1 text-sm ${spot?.ok === false ? 'text-fix' : ''}`}>
        {spot === undefined
          ? `Measured inside the cover, they say where a bung for a hole of ${say.mm(holeMm)} stands over the baffle.`
          : spot.ok
            ? `Its middle ${say.mm(spot.value.frontMm)} from the front and ${say.mm(spot.value.edgeMm)} from the right edge: the baffle reaches ${say.mm(spot.value.spareMm)} past its weld.`
            : spot.reason}
      </p>
    </>
  )
}
