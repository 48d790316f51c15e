'use client'
/** The lines of the circuit as a plain table, for the keyboard and for exact sizes. */
import { NO_FLOW } from '@/plan/model/results'
import { unitLabel } from '@/core/units/units'
import { HOSE_BORES } from '@/plan/catalogue/hoses'
import { LINE_FIELDS } from '@/plan/document/fields'
import type { Line } from '@/plan/document/schema'
import { setLine } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { NumberField } from '../../workspace/figures/field'
import { fieldUnit } from '@/plan/edit/typed'
import { Figure } from '../../workspace/figures/figure'
import { useShown, useUnits, useWorkspace } from '../../workspace/store'
import { ChooseButton } from './choose'

export function LinesTable() {
  const lines = useWorkspace((s) => activeVariant(s.build).lines)
  const size = unitLabel(fieldUnit(LINE_FIELDS.boreMm, useUnits()))
  return (
    <>
      <datalist id="hose-bores">
        {HOSE_BORES.map((b) => (
          <option key={b.mm} value={`${b.mm} mm`}>
            {b.name}
          </option>
        ))}
      </datalist>
      <table className="table w-full min-w-[36rem]">
        <thead>
          <tr>
            <th>Line, the way gas runs now</th>
            <th>Bore, {size}</th>
            <th>Straight, {size}</th>
            <th className="!text-right">Flow</th>
            <th className="!text-right">Velocity</th>
            <th className="!text-right">Drop</th>
            <th className="!text-right">Oil carried</th>
          </tr>
        </thead>
        <tbody>
          {lines
            .filter((l) => l.kind === 'hose')
            .map((l) => (
              <HoseRow key={l.id} line={l} />
            ))}
          {lines
            .filter((l) => l.kind === 'drain')
            .map((l) => (
              <DrainRow key={l.id} line={l} />
            ))}
        </tbody>
      </table>
    </>
  )
}

/** Bore and length, typed in place. */
function Sizes({ line }: { line: Line }) {
  const active = useWorkspace((s) => s.build.active)
  const act = useWorkspace((s) => s.act)
  return (['boreMm', 'lengthMm'] as const).map((key) => (
    <td key={key} className="w-[5.5rem]">
      <NumberField
        field={LINE_FIELDS[key]}
        label={`${line.name}, ${key === 'boreMm' ? 'bore' : 'length'}`}
        hideLabel
        hideUnit
        value={line[key]}
        at={['variants', active, 'lines', line.id, key]}
        list={key === 'boreMm' ? 'hose-bores' : undefined}
        onChange={(v) => {
          if (v !== undefined) act(setLine(line.id, { [key]: v }), undefined, `${line.id} ${key}`)
        }}
      />
    </td>
  ))
}

function HoseRow({ line }: { line: Line }) {
  const selected = useWorkspace((s) => s.selected?.id === line.id)
  const shown = useShown()
  const variant = useWorkspace((s) => activeVariant(s.build))
  const part = (id: string) => variant.parts.find((p) => p.id === id)?.name ?? id
  const back = shown.solved && (shown.passages[line.id]?.flow ?? 0) < -NO_FLOW
  const [from, to] = back ? [line.to, line.from] : [line.from, line.to]
  const of = { id: line.id, state: shown.id }
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <ChooseButton kind="line" id={line.id}>
          <span className="block text-sm font-bold leading-tight">{line.name}</span>
          <span className="block text-xs font-normal text-soft">
            {part(from.part)} → {part(to.part)}
          </span>
        </ChooseButton>
      </th>
      <Sizes line={line} />
      <td className="text-right">
        <Figure of={{ kind: 'flow', ...of }} absolute />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'velocity', ...of }} digits={2} />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'drop', ...of }} digits={2} absolute />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'oil', ...of }} digits={2} />
      </td>
    </tr>
  )
}

/** A drain carries oil, not gas: it has a size and no flow. */
function DrainRow({ line }: { line: Line }) {
  const selected = useWorkspace((s) => s.selected?.id === line.id)
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <ChooseButton kind="line" id={line.id}>
          <span className="block text-sm font-bold leading-tight">{line.name}</span>
          <span className="block text-xs font-normal text-soft">drain, stands full of oil</span>
        </ChooseButton>
      </th>
      <Sizes line={line} />
      <td colSpan={4} />
    </tr>
  )
}
