'use client'
/** What each state is taken to be; every figure may be replaced by one that was logged. */
import type { OperatingState } from '@/core/engine/states'
import { fromSi, unitLabel } from '@/core/units/units'
import { OVERRIDE_FIELDS } from '@/plan/document/fields'
import type { Override } from '@/plan/document/schema'
import { setField } from '@/plan/edit/edit-builders'
import { STATE_NAMES } from '@/plan/document/words'
import { NumberField } from '../workspace/figures/field'
import { fieldUnit } from '@/plan/edit/typed'
import { useUnits, useWorkspace } from '../workspace/store'

type Key = keyof Override
/** Short heads, and the figure that stands in: as it is derived, in the document's unit. */
const COLUMNS: readonly { readonly key: Key; readonly head: string; readonly of: (s: OperatingState) => number }[] = [
  { key: 'rpm', head: 'Speed', of: (s) => Math.round(s.rpm / 10) * 10 },
  { key: 'manifoldKpa', head: 'Manifold, abs.', of: (s) => fromSi('pressure', s.manifoldPa, 'kPa') },
  {
    key: 'inletDepressionKpa',
    head: 'Depression',
    of: (s) => Number(fromSi('pressure', s.inletDepressionPa, 'kPa').toFixed(2)),
  },
  { key: 'airGs', head: 'Engine air', of: (s) => fromSi('gasFlow', s.airKgS, 'g/s') },
  { key: 'gasC', head: 'Gas', of: (s) => fromSi('temperature', s.gasK, 'C') },
  { key: 'bonnetC', head: 'Bonnet', of: (s) => fromSi('temperature', s.bonnetK, 'C') },
]

export function StatesTable() {
  const states = useWorkspace((s) => s.analysis.states)
  const units = useUnits()
  return (
    <section aria-label="What each state is" className="overflow-x-auto">
      <table className="table w-full min-w-[33rem] table-fixed">
        <thead>
          <tr>
            <th className="w-[12%]">State</th>
            {COLUMNS.map((c) => (
              <th key={c.key}>
                {c.head}
                <span className="block">{unitLabel(fieldUnit(OVERRIDE_FIELDS[c.key], units))}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {states.map((s) => (
            <StateRow key={s.id} operating={s.operating} />
          ))}
        </tbody>
      </table>
      <p className="pt-1 text-xs text-soft">
        ◇ estimated, ◈ from your readings; type a logged value over it, clear it to go back. Figures that follow from it
        follow.
      </p>
    </section>
  )
}

function StateRow({ operating }: { operating: OperatingState }) {
  const { id } = operating
  const now: Override = useWorkspace((s) => s.build.engine.overrides[id]) ?? {}
  const act = useWorkspace((s) => s.act)
  const set = (key: Key, value: number | undefined) => {
    const next = Object.fromEntries(Object.entries({ ...now, [key]: value }).filter(([, v]) => v !== undefined))
    // a state in which nothing is entered has no entry
    const whole = Object.keys(next).length > 0 ? next : undefined
    act(setField(['engine', 'overrides', id], whole), undefined, `${id} ${key}`)
  }
  return (
    <tr>
      <th scope="row" className="!text-sm !font-bold !text-ink">
        {STATE_NAMES[id]}
      </th>
      {COLUMNS.map((c) => (
        <td key={c.key}>
          <NumberField
            field={OVERRIDE_FIELDS[c.key]}
            label={`${STATE_NAMES[id]}, ${OVERRIDE_FIELDS[c.key].label.toLowerCase()}`}
            hideLabel
            hideUnit
            value={now[c.key]}
            estimate={c.of(operating)}
            at={['engine', 'overrides', id, c.key]}
            onChange={(v) => set(c.key, v)}
          />
        </td>
      ))}
    </tr>
  )
}
