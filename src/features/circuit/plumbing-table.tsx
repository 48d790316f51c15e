'use client'
/** The same circuit as a plain table, for the keyboard and for exact sizes. */
import { useState } from 'react'
import type { Line, Part } from '@/plan/document/schema'
import { isThrough } from '@/plan/document/kinds'
import { activeVariant } from '@/plan/edit/edit'
import { CANS, CHECKS, HOSE_BORES, PCVS } from '@/plan/catalogue'
import { Select } from '@/ui/select'
import { Figure } from '../workspace/figure'
import { NumberField } from '../workspace/field'
import { useShown, useWorkspace } from '../workspace/store'

const LINE = 'variants[0].lines[0]'

function LineRow({ line }: { line: Line }) {
  const edit = useWorkspace((s) => s.edit)
  const selected = useWorkspace((s) => s.selected?.id === line.id)
  const select = useWorkspace((s) => s.select)
  const shown = useShown()
  const variant = useWorkspace((s) => activeVariant(s.build))
  const part = (id: string) => variant.parts.find((p) => p.id === id)?.name ?? id
  const flow = shown.solved ? shown.passages[line.id]?.flow ?? 0 : 0
  const set = (change: Partial<Line>, field: string) => edit([{ op: 'line', line: line.id, set: change }], `${line.id} ${field}`)
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <button type="button" className="min-h-11 text-left" aria-pressed={selected} onClick={() => select(selected ? undefined : { kind: 'line', id: line.id })}>
          <span className="block text-sm font-bold leading-tight">{line.name}</span>
          <span className="block text-xs font-normal text-soft">{flow < -1e-7 ? `${part(line.to.part)} → ${part(line.from.part)}` : `${part(line.from.part)} → ${part(line.to.part)}`}</span>
        </button>
      </th>
      <td className="w-[6.5rem]"><NumberField label={`${line.name}, bore`} hideLabel value={line.boreMm} path={`${LINE}.boreMm`} kept="Mm" digits={3} list="hose-bores" onChange={(v) => { if (v !== undefined) set({ boreMm: v }, 'bore') }} /></td>
      <td className="w-[6.5rem]"><NumberField label={`${line.name}, length`} hideLabel value={line.lengthMm} path={`${LINE}.lengthMm`} kept="Mm" digits={3} onChange={(v) => { if (v !== undefined) set({ lengthMm: v }, 'length') }} /></td>
      <td className="text-right"><Figure of={{ kind: 'flow', id: line.id, state: shown.id }} absolute /></td>
      <td className="text-right"><Figure of={{ kind: 'velocity', id: line.id, state: shown.id }} digits={2} /></td>
      <td className="text-right"><Figure of={{ kind: 'drop', id: line.id, state: shown.id }} digits={2} absolute /></td>
      <td className="text-right"><Figure of={{ kind: 'oil', id: line.id, state: shown.id }} digits={2} /></td>
    </tr>
  )
}

type Choice = { key: string; name: string; about: string; spec: object }
const choicesOf = (part: Part): readonly Choice[] | undefined => (part.kind === 'can' ? CANS : part.kind === 'pcv' ? PCVS : part.kind === 'check' ? CHECKS : undefined)

function PartRow({ part }: { part: Part }) {
  const edit = useWorkspace((s) => s.edit)
  const selected = useWorkspace((s) => s.selected?.id === part.id)
  const select = useWorkspace((s) => s.select)
  const shown = useShown()
  const choices = choicesOf(part)
  const own = { value: 'own', name: 'Own figures', about: 'measured or corrected' }
  const model = 'model' in part ? part.model : undefined
  const options = choices && [...choices.map((c) => ({ value: c.key, name: c.name, about: c.about })), ...(choices.some((c) => c.key === model) ? [] : [own])]
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink"><button type="button" className="min-h-11 text-left text-sm font-bold" aria-pressed={selected} onClick={() => select(selected ? undefined : { kind: 'part', id: part.id })}>{part.name}</button></th>
      <td className="w-56">
        {options && choices && <Select label={`${part.name}, kind`} value={choices.some((c) => c.key === model) ? model! : 'own'} options={options} onChange={(key) => { const found = choices.find((c) => c.key === key); if (found) edit([{ op: 'part', part: part.id, set: { ...found.spec } }]) }} />}
        {part.kind === 'passage' && <span className="text-soft">{part.count} × <NumberField className="inline-block w-24 align-middle" label={`${part.name}, bore`} hideLabel value={part.boreMm} path="passage.boreMm" kept="Mm" digits={3} onChange={(v) => { if (v !== undefined) edit([{ op: 'part', part: part.id, set: { boreMm: v } }], `${part.id} bore`) }} /></span>}
        {part.kind === 'restrictor' && <NumberField label={`${part.name}, bore`} hideLabel value={part.boreMm} path="restrictor.boreMm" kept="Mm" digits={3} onChange={(v) => { if (v !== undefined) edit([{ op: 'part', part: part.id, set: { boreMm: v } }], `${part.id} bore`) }} />}
        {part.kind === 'filter' && <span className="text-soft">filter</span>}
      </td>
      <td className="text-right"><Figure of={{ kind: 'flow', id: part.id, state: shown.id }} absolute /></td>
      <td className="text-right"><Figure of={{ kind: 'drop', id: part.id, state: shown.id }} digits={2} absolute /></td>
      <td className="text-right">{part.kind === 'can' ? <Figure of={{ kind: 'kept', id: part.id, state: shown.id }} digits={2} /> : shown.solved && Math.abs(shown.passages[part.id]?.flow ?? 0) < 1e-7 && (part.kind === 'pcv' || part.kind === 'check') ? 'shut' : ''}</td>
    </tr>
  )
}

export function PlumbingTable() {
  const variant = useWorkspace((s) => activeVariant(s.build))
  const chosen = useWorkspace((s) => s.selected?.kind)
  const [asked, setAsked] = useState<'line' | 'part'>('line')
  const [seen, setSeen] = useState(chosen)
  // a pick in a picture turns to its table; a press on a tab stays
  if (chosen !== seen) { setSeen(chosen); if (chosen) setAsked(chosen) }
  const lines = variant.lines.filter((l) => l.kind === 'hose')
  const parts = variant.parts.filter((p) => isThrough(p.kind))
  const tab = (key: 'line' | 'part', text: string) => <button type="button" aria-pressed={asked === key} onClick={() => setAsked(key)} className={`min-h-10 border-b-[3px] px-1 font-bold ${asked === key ? 'border-blue text-blue' : 'border-transparent text-soft'}`}>{text}</button>
  return (
    <section aria-label="Lines and parts" className="print-flow flex min-h-0 flex-col">
      <div className="flex gap-4">{tab('line', `Lines, ${lines.length}`)}{tab('part', `Parts, ${parts.length}`)}</div>
      <datalist id="hose-bores">{HOSE_BORES.map((b) => <option key={b.mm} value={`${b.mm} mm`}>{b.name}</option>)}</datalist>
      <div className="print-flow min-h-0 overflow-auto">
        {asked === 'line' ? (
          <table className="table w-full min-w-[36rem]">
            <thead><tr><th>Line, the way gas runs now</th><th>Bore</th><th>Straight</th><th className="!text-right">Flow</th><th className="!text-right">Velocity</th><th className="!text-right">Drop</th><th className="!text-right">Oil carried</th></tr></thead>
            <tbody>{lines.map((l) => <LineRow key={l.id} line={l} />)}</tbody>
          </table>
        ) : (
          <table className="table w-full min-w-[34rem]">
            <thead><tr><th>Part</th><th>Kind or size</th><th className="!text-right">Flow</th><th className="!text-right">Drop</th><th className="!text-right">Oil kept</th></tr></thead>
            <tbody>{parts.map((p) => <PartRow key={p.id} part={p} />)}</tbody>
          </table>
        )}
      </div>
    </section>
  )
}
