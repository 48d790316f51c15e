'use client'
/** The chosen line or part in full: its ends and bends, or its own figures. */
import { Plus, Trash2, X } from 'lucide-react'
import type { Line, LineEnd, Part } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/field'
import { useWorkspace } from '../workspace/store'

const LINE = 'variants[0].lines[0]'
const ELBOWS = ['0', '30', '45', '60', '90', '120', '150'].map((v) => ({ value: v, name: v === '0' ? 'straight' : `${v}° elbow` }))

export function Inspector() {
  const selected = useWorkspace((s) => s.selected)
  const select = useWorkspace((s) => s.select)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const line = selected?.kind === 'line' ? variant.lines.find((l) => l.id === selected.id) : undefined
  const part = selected?.kind === 'part' ? variant.parts.find((p) => p.id === selected.id) : undefined
  if (!line && !part) return null
  return (
    <section aria-label={`${(line ?? part)!.name}, in full`} className="print-flow min-h-0 overflow-y-auto border-l border-rule pl-4">
      <div className="flex items-center justify-between">
        <h2 className="head">{(line ?? part)!.name}</h2>
        <button type="button" className="button-quiet" aria-label="Close" onClick={() => select(undefined)}><X size={16} aria-hidden /></button>
      </div>
      {line ? <LineSheet line={line} /> : <PartSheet part={part!} />}
    </section>
  )
}

function EndSheet({ line, side }: { line: Line; side: 'from' | 'to' }) {
  const edit = useWorkspace((s) => s.edit)
  const name = useWorkspace((s) => activeVariant(s.build).parts.find((p) => p.id === line[side].part)?.name)
  const end = line[side]
  const set = (change: Partial<LineEnd>) => edit([{ op: 'line', line: line.id, set: { [side]: JSON.parse(JSON.stringify({ ...end, ...change })) as LineEnd } }], `${line.id} ${side}`)
  return (
    <fieldset className="grid grid-cols-2 gap-x-3">
      <legend className="text-xs text-soft">End at {name?.toLowerCase()}</legend>
      <Select label={`Elbow at ${name}`} value={String(end.elbowDeg ?? 0)} options={ELBOWS} onChange={(v) => set({ elbowDeg: Number(v) || undefined })} />
      <NumberField label={`Barb through-bore at ${name}`} hideLabel value={end.barbMm} estimate={line.boreMm} path={`${LINE}.from.barbMm`} kept="Mm" digits={3} onChange={(v) => set({ barbMm: v })} />
    </fieldset>
  )
}

function LineSheet({ line }: { line: Line }) {
  const edit = useWorkspace((s) => s.edit)
  const setBends = (bends: Line['bends'], burst?: string) => edit([{ op: 'line', line: line.id, set: { bends } }], burst)
  return (
    <div className="space-y-2 pb-4">
      <EndSheet line={line} side="from" />
      <EndSheet line={line} side="to" />
      <p className="text-xs text-soft">Bends, angle and radius</p>
      {line.bends.map((b, i) => (
        // bends have no identity but their order
        // oxlint-disable-next-line react/no-array-index-key
        <div key={i} className="grid grid-cols-[1fr_1fr_2.75rem] items-end gap-2">
          <NumberField label={`Bend ${i + 1}, angle`} hideLabel value={b.angleDeg} unit="deg" path={`${LINE}.bends[0].angleDeg`} onChange={(v) => { if (v !== undefined) setBends(line.bends.map((x, k) => (k === i ? { ...x, angleDeg: v } : x)), `${line.id} bend ${i}`) }} />
          <NumberField label={`Bend ${i + 1}, radius`} hideLabel value={b.radiusMm} path={`${LINE}.bends[0].radiusMm`} kept="Mm" digits={3} onChange={(v) => { if (v !== undefined) setBends(line.bends.map((x, k) => (k === i ? { ...x, radiusMm: v } : x)), `${line.id} bend ${i}`) }} />
          <button type="button" className="button-quiet" aria-label={`Take bend ${i + 1} out`} onClick={() => setBends(line.bends.filter((_, k) => k !== i))}><Trash2 size={16} aria-hidden /></button>
        </div>
      ))}
      <button type="button" className="deed inline-flex items-center gap-1" onClick={() => setBends([...line.bends, { angleDeg: 90, radiusMm: Math.round(4 * line.boreMm) }])}><Plus size={16} aria-hidden /> Add a bend</button>
    </div>
  )
}

function PartSheet({ part }: { part: Part }) {
  const edit = useWorkspace((s) => s.edit)
  const spliced = useWorkspace((s) => activeVariant(s.build).lines.filter((l) => l.from.part === part.id || l.to.part === part.id).length === 2)
  const set = (key: string, value: unknown) => edit([{ op: 'part', part: part.id, set: { [key]: value, ...('model' in part && key !== 'name' ? { model: 'own' } : {}) } }], `${part.id} ${key}`)
  const field = (key: string, label: string, value: number, limits: string, kept?: 'Kpa' | 'Ml' | 'Mm', unit?: string) => <NumberField key={key} label={label} value={value} path={limits} kept={kept} unit={unit} digits={3} onChange={(v) => { if (v !== undefined) set(key, v) }} />
  return (
    <div className="space-y-2 pb-4">
      {(part.kind === 'can' || part.kind === 'filter') && (
        <div className="grid grid-cols-2 gap-x-3 gap-y-2">
          {field('dropKpaAt100', 'Drop at 100 l/min', part.dropKpaAt100, 'can.dropKpaAt100', 'Kpa')}
          {field('linearPct', 'Share in step with flow', part.linearPct, 'can.linearPct', undefined, '%')}
          {part.kind === 'can' && field('bowlMl', 'Bowl below the port', part.bowlMl, 'can.bowlMl', 'Ml')}
        </div>
      )}
      {part.kind === 'check' && <div className="grid grid-cols-2 gap-3">{field('seatMm', 'Seat', part.seatMm, 'check.seatMm', 'Mm')}{field('crackKpa', 'Cracking pressure', part.crackKpa, 'check.crackKpa', 'Kpa')}</div>}
      {part.kind === 'passage' && field('count', 'How many', part.count, 'passage.count')}
      {part.kind === 'inlet' && field('depressionPct', 'Share of the inlet depression felt here', part.depressionPct, 'inlet.depressionPct', undefined, '%')}
      {part.kind === 'pcv' && (
        <table className="table w-full">
          <caption className="text-left text-xs text-soft">Open area against pressure difference</caption>
          <tbody>{part.areaMm2ByKpa.map(([dp, area]) => <tr key={dp}><th scope="row" className="!text-ink">{dp} kPa</th><td className="text-right">{area} mm²</td></tr>)}</tbody>
        </table>
      )}
      {spliced && (part.kind === 'can' || part.kind === 'check' || part.kind === 'restrictor') && <button type="button" className="deed" onClick={() => edit([{ op: 'unsplice', part: part.id }])}>Take it out and join the hoses</button>}
      {(part.kind === 'crankcase' || part.kind === 'cover' || part.kind === 'manifold' || part.kind === 'atmosphere' || part.kind === 'chargePipe') && <p className="text-soft">A space: its pressure is on the ladder. Ports: {part.ports.map((p) => p.name.toLowerCase()).join(', ')}.</p>}
    </div>
  )
}
