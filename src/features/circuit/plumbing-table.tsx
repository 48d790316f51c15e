'use client'
/** The same circuit as a plain table, for the keyboard and for exact sizes. */
import type { Line, Part } from '@/plan/document/schema'
import { HOSE_BORES } from '@/plan/catalogue/hoses'
import { CHECKS, PCVS } from '@/plan/catalogue/valves'
import { quantityText } from '@/core/units/format'
import { isThrough, KINDS } from '@/plan/document/kinds'
import { activeVariant } from '@/plan/edit/edit'
import { CANS } from '@/plan/catalogue/cans'
import { Select } from '@/ui/select'
import { Figure } from '../workspace/figure'
import { NumberField } from '../workspace/field'
import { useShown, useUnits, useWorkspace } from '../workspace/store'

const LINE = 'variants[0].lines[0]'

function LineRow({ line }: { line: Line }) {
  const edit = useWorkspace((s) => s.edit)
  const selected = useWorkspace((s) => s.selected?.id === line.id)
  const select = useWorkspace((s) => s.select)
  const shown = useShown()
  const variant = useWorkspace((s) => activeVariant(s.build))
  const part = (id: string) => variant.parts.find((p) => p.id === id)?.name ?? id
  const flow = shown.solved ? (shown.passages[line.id]?.flow ?? 0) : 0
  const set = (change: Partial<Line>, field: string) =>
    edit([{ op: 'line', line: line.id, set: change }], `${line.id} ${field}`)
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <button
          type="button"
          className="min-h-11 text-left"
          aria-pressed={selected}
          onClick={() => select(selected ? undefined : { kind: 'line', id: line.id })}
        >
          <span className="block text-sm font-bold leading-tight">{line.name}</span>
          <span className="block text-xs font-normal text-soft">
            {flow < -1e-7
              ? `${part(line.to.part)} → ${part(line.from.part)}`
              : `${part(line.from.part)} → ${part(line.to.part)}`}
          </span>
        </button>
      </th>
      <td className="w-[5.5rem]">
        <NumberField
          label={`${line.name}, bore`}
          hideLabel
          hideUnit
          value={line.boreMm}
          path={`${LINE}.boreMm`}
          kept="Mm"
          digits={3}
          list="hose-bores"
          onChange={(v) => {
            if (v !== undefined) set({ boreMm: v }, 'bore')
          }}
        />
      </td>
      <td className="w-[5.5rem]">
        <NumberField
          label={`${line.name}, length`}
          hideLabel
          hideUnit
          value={line.lengthMm}
          path={`${LINE}.lengthMm`}
          kept="Mm"
          digits={3}
          onChange={(v) => {
            if (v !== undefined) set({ lengthMm: v }, 'length')
          }}
        />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'flow', id: line.id, state: shown.id }} absolute />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'velocity', id: line.id, state: shown.id }} digits={2} />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'drop', id: line.id, state: shown.id }} digits={2} absolute />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'oil', id: line.id, state: shown.id }} digits={2} />
      </td>
    </tr>
  )
}

type Choice = { key: string; name: string; about: string; spec: object }
const choicesOf = (part: Part): readonly Choice[] | undefined =>
  part.kind === 'can' ? CANS : part.kind === 'pcv' ? PCVS : part.kind === 'check' ? CHECKS : undefined

function PartRow({ part }: { part: Part }) {
  const edit = useWorkspace((s) => s.edit)
  const selected = useWorkspace((s) => s.selected?.id === part.id)
  const select = useWorkspace((s) => s.select)
  const shown = useShown()
  const choices = choicesOf(part)
  const own = { value: 'own', name: 'Own figures', about: 'measured or corrected' }
  const model = 'model' in part ? part.model : undefined
  const options = choices && [
    ...choices.map((c) => ({ value: c.key, name: c.name, about: c.about })),
    ...(choices.some((c) => c.key === model) ? [] : [own]),
  ]
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <button
          type="button"
          className="min-h-11 text-left text-sm font-bold"
          aria-pressed={selected}
          onClick={() => select(selected ? undefined : { kind: 'part', id: part.id })}
        >
          {part.name}
        </button>
      </th>
      <td className="w-56">
        {options && choices && (
          <Select
            label={`${part.name}, kind`}
            value={choices.some((c) => c.key === model) ? model! : 'own'}
            options={options}
            onChange={(key) => {
              const found = choices.find((c) => c.key === key)
              if (found) edit([{ op: 'part', part: part.id, set: { ...found.spec } }])
            }}
          />
        )}
        {part.kind === 'passage' && (
          <span className="text-soft">
            {part.count} ×{' '}
            <NumberField
              className="inline-block w-24 align-middle"
              label={`${part.name}, bore`}
              hideLabel
              value={part.boreMm}
              path="passage.boreMm"
              kept="Mm"
              digits={3}
              onChange={(v) => {
                if (v !== undefined) edit([{ op: 'part', part: part.id, set: { boreMm: v } }], `${part.id} bore`)
              }}
            />
          </span>
        )}
        {part.kind === 'restrictor' && (
          <NumberField
            label={`${part.name}, bore`}
            hideLabel
            value={part.boreMm}
            path="restrictor.boreMm"
            kept="Mm"
            digits={3}
            onChange={(v) => {
              if (v !== undefined) edit([{ op: 'part', part: part.id, set: { boreMm: v } }], `${part.id} bore`)
            }}
          />
        )}
        {(part.kind === 'filter' ||
          part.kind === 'sensor' ||
          part.kind === 'regulator' ||
          part.kind === 'relief' ||
          part.kind === 'pump') && <span className="text-soft">{KINDS[part.kind].name.toLowerCase()}</span>}
        {'stuck' in part && part.stuck && <span className="ml-2 font-bold text-stop">stuck {part.stuck}</span>}
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'flow', id: part.id, state: shown.id }} absolute />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'drop', id: part.id, state: shown.id }} digits={2} absolute />
      </td>
      <td className="text-right">
        {part.kind === 'can' ? (
          <Figure of={{ kind: 'kept', id: part.id, state: shown.id }} digits={2} />
        ) : shown.solved &&
          Math.abs(shown.passages[part.id]?.flow ?? 0) < 1e-7 &&
          (part.kind === 'pcv' || part.kind === 'check') ? (
          'shut'
        ) : (
          ''
        )}
      </td>
    </tr>
  )
}

export function LinesTable() {
  const lines = useWorkspace((s) => activeVariant(s.build).lines)
  const size = useUnits().system === 'metric' ? 'mm' : 'in'
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
              <LineRow key={l.id} line={l} />
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

export function PartsTable() {
  const parts = useWorkspace((s) => activeVariant(s.build).parts)
  return (
    <table className="table w-full min-w-[34rem]">
      <thead>
        <tr>
          <th>Part</th>
          <th>Kind or size</th>
          <th className="!text-right">Flow</th>
          <th className="!text-right">Drop</th>
          <th className="!text-right">Oil kept</th>
        </tr>
      </thead>
      <tbody>
        {parts
          .filter((p) => isThrough(p.kind))
          .map((p) => (
            <PartRow key={p.id} part={p} />
          ))}
        {parts
          .filter((p) => !isThrough(p.kind))
          .map((p) => (
            <SpaceRow key={p.id} part={p} />
          ))}
      </tbody>
    </table>
  )
}

/** A drain carries oil, not gas: it has a size and no flow. */
function DrainRow({ line }: { line: Line }) {
  const edit = useWorkspace((s) => s.edit)
  return (
    <tr>
      <th scope="row" className="!text-ink">
        <span className="block text-sm font-bold leading-tight">{line.name}</span>
        <span className="block text-xs font-normal text-soft">drain, stands full of oil</span>
      </th>
      <td>
        <NumberField
          label={`${line.name}, bore`}
          hideLabel
          hideUnit
          value={line.boreMm}
          path={`${LINE}.boreMm`}
          kept="Mm"
          digits={3}
          onChange={(v) => {
            if (v !== undefined) edit([{ op: 'line', line: line.id, set: { boreMm: v } }], `${line.id} bore`)
          }}
        />
      </td>
      <td>
        <NumberField
          label={`${line.name}, length`}
          hideLabel
          hideUnit
          value={line.lengthMm}
          path={`${LINE}.lengthMm`}
          kept="Mm"
          digits={3}
          onChange={(v) => {
            if (v !== undefined) edit([{ op: 'line', line: line.id, set: { lengthMm: v } }], `${line.id} length`)
          }}
        />
      </td>
      <td colSpan={4} />
    </tr>
  )
}

/** A space or a place that holds a pressure: chosen here, so that the keyboard reaches what can be led from it. */
function SpaceRow({ part }: { part: Part }) {
  const selected = useWorkspace((s) => s.selected?.id === part.id)
  const select = useWorkspace((s) => s.select)
  const shown = useShown()
  const units = useUnits()
  const gauge = shown.solved ? shown.gauge[part.id] : undefined
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <button
          type="button"
          className="min-h-11 text-left text-sm font-bold"
          aria-pressed={selected}
          onClick={() => select(selected ? undefined : { kind: 'part', id: part.id })}
        >
          {part.name}
        </button>
      </th>
      <td className="text-soft">
        {KINDS[part.kind].name.toLowerCase() === part.name.toLowerCase() ? '' : KINDS[part.kind].name.toLowerCase()}
      </td>
      <td colSpan={3} className="text-right">
        {gauge === undefined ? 'joined to nothing' : <>stands at {quantityText(gauge, 'pressure', units, 2)}</>}
      </td>
    </tr>
  )
}
