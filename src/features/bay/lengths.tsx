'use client'
/** What the way of every line comes to: length, bends; or why it cannot be led so. Points on the way are typed or taken out. */
import { quantityText } from '@/core/units/format'
import { setWay } from '@/plan/bay/deeds'
import { bendRadius, pathOfLine, wayOf } from '@/plan/bay/geometry'
import { SPOT_FIELDS } from '@/plan/document/fields'
import { activeVariant } from '@/plan/edit/edit'
import type { Bay, Line } from '@/plan/document/schema'
import { NumberField } from '../workspace/field'
import { useUnits, useWorkspace } from '../workspace/store'

const KEYS = ['forwardMm', 'leftMm', 'upMm'] as const

export function Lengths({ bay }: { bay: Bay }) {
  const variant = useWorkspace((s) => activeVariant(s.build))
  const lines = variant.lines.filter((l) => l.kind !== 'direct')
  return (
    <section aria-labelledby="lengths" className="overflow-x-auto">
      <h2 id="lengths" className="head border-b-[1.5px] border-ink pb-1">
        Lines as they are led
      </h2>
      <table className="table w-full min-w-[34rem]">
        <thead>
          <tr>
            <th>Line</th>
            <th>Length and bends</th>
            <th>Led by</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <LineRow key={l.id} line={l} bay={bay} />
          ))}
        </tbody>
      </table>
    </section>
  )
}

function LineRow({ line, bay }: { line: Line; bay: Bay }) {
  const variant = useWorkspace((s) => activeVariant(s.build))
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const text = (m: number) => quantityText(m, 'length', units, 3)
  const path = pathOfLine(bay, variant, line)
  const way = line.way ?? []
  const middle = () => {
    const known = wayOf(bay, variant, line)
    if (!known) return
    const [a, b] = [known.at(-2)!, known.at(-1)!]
    const mm = (k: 0 | 1 | 2) => Math.round(((a[k] + b[k]) / 2) * 1000)
    act(setWay(line.id, [...way, { forwardMm: mm(0), leftMm: mm(1), upMm: mm(2) }]), `${line.name}: a point on its way`)
  }
  return (
    <tr>
      <th scope="row" className="!text-ink">
        {line.name}
      </th>
      <td className="!whitespace-normal">
        {path.ok ? (
          <>
            {text(path.value.lengthM)}
            {path.value.bendsDeg.length > 0 &&
              `, ${path.value.bendsDeg.map((d) => `${Math.round(d)}°`).join(' and ')} at ${text(bendRadius(line.boreMm / 1000))}`}
          </>
        ) : (
          <span className="text-fix">
            {path.reason} It keeps {text(line.lengthMm / 1000)} as entered.
          </span>
        )}
      </td>
      <td>
        {way.map((p, i) => (
          // points of a way have no identity but their order
          // oxlint-disable-next-line react/no-array-index-key
          <div key={i} className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-1">
            {KEYS.map((k) => (
              <NumberField
                key={k}
                field={SPOT_FIELDS[k]}
                label={`${line.name}, point ${i + 1}, ${SPOT_FIELDS[k].label.toLowerCase()}`}
                hideLabel
                hideUnit
                value={p[k]}
                onChange={(v) => {
                  if (v === undefined) return
                  const next = way.map((q, j) => (j === i ? { ...q, [k]: v } : q))
                  act(setWay(line.id, next), `${line.name} led another way`, `way ${line.id} ${i} ${k}`)
                }}
              />
            ))}
            <button
              type="button"
              className="button-quiet"
              aria-label={`Take point ${i + 1} of the ${line.name.toLowerCase()} out`}
              onClick={() =>
                act(
                  setWay(
                    line.id,
                    way.filter((_, j) => j !== i),
                  ),
                  `${line.name}: a point less`,
                )
              }
            >
              ×
            </button>
          </div>
        ))}
        <button type="button" className="deed" onClick={middle}>
          Lead it by a point
        </button>
      </td>
    </tr>
  )
}
