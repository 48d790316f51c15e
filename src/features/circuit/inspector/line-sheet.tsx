'use client'
/** A line's ends and bends. */
import { lowered } from '@/plan/document/words'
import { Plus, Trash2 } from 'lucide-react'
import { BEND_FIELDS, END_FIELDS, LINE_FIELDS } from '@/plan/document/fields'
import { MAX_BENDS } from '@/plan/document/bounds'
import type { Line, LineEnd } from '@/plan/document/schema'
import { setLine } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { barbOf } from '@/plan/model/resolve'
import { Select } from '@/ui/select'
import { NumberField } from '../../workspace/figures/field'
import { useWorkspace } from '../../workspace/store'

const ELBOWS = ['0', '30', '45', '60', '90', '120', '150'].map((v) => ({
  value: v,
  name: v === '0' ? 'straight' : `${v}° elbow`,
}))

export function LineSheet({ line }: { line: Line }) {
  if (line.kind === 'drain')
    return <p className="mt-2 text-soft">Oil runs back through it and fills it, so no gas does.</p>
  if (line.kind === 'direct') return <p className="mt-2 text-soft">The two ports are one opening.</p>
  return (
    <div className="mt-2 space-y-2">
      <EndSheet line={line} side="from" />
      <EndSheet line={line} side="to" />
      <Bends line={line} />
      <Rise line={line} />
    </div>
  )
}

/** How far its second end lies above its first: entered, or read off the bay where both ends are measured. */
function Rise({ line }: { line: Line }) {
  const act = useWorkspace((s) => s.act)
  const active = useWorkspace((s) => s.build.active)
  const top = useWorkspace((s) => activeVariant(s.build).parts.find((p) => p.id === line.to.part)?.name)
  return (
    <NumberField
      field={LINE_FIELDS.riseMm}
      label={`Rises to ${top === undefined ? 'its second end' : `the ${lowered(top)}`} by`}
      value={line.riseMm}
      at={['variants', active, 'lines', line.id, 'riseMm']}
      onChange={(v) => act(setLine(line.id, { riseMm: v }), undefined, `${line.id} rise`)}
    />
  )
}

function EndSheet({ line, side }: { line: Line; side: 'from' | 'to' }) {
  const act = useWorkspace((s) => s.act)
  const active = useWorkspace((s) => s.build.active)
  const name = useWorkspace((s) => activeVariant(s.build).parts.find((p) => p.id === line[side].part)?.name)
  const end = line[side]
  const set = (change: Partial<LineEnd>) => {
    // a field that is cleared is one that is not there
    const next = Object.fromEntries(Object.entries({ ...end, ...change }).filter(([, v]) => v !== undefined))
    act(setLine(line.id, { [side]: next }), undefined, `${line.id} ${side}`)
  }
  return (
    <fieldset className="grid grid-cols-2 gap-x-3">
      <legend className="text-xs text-soft">
        End at {name === undefined ? 'its end' : lowered(name)}: elbow, barb bore
      </legend>
      <Select
        label={`Elbow at ${name}`}
        value={String(end.elbowDeg ?? 0)}
        options={ELBOWS}
        onChange={(v) => set({ elbowDeg: Number(v) || undefined })}
      />
      <NumberField
        field={END_FIELDS.barbMm}
        label={`Barb through-bore at ${name}`}
        hideLabel
        value={end.barbMm}
        estimate={barbOf(line.boreMm)}
        at={['variants', active, 'lines', line.id, side, 'barbMm']}
        onChange={(v) => set({ barbMm: v })}
      />
    </fieldset>
  )
}

function Bends({ line }: { line: Line }) {
  const act = useWorkspace((s) => s.act)
  const set = (bends: Line['bends'], burst?: string) => act(setLine(line.id, { bends }), undefined, burst)
  const change = (i: number, to: Partial<Line['bends'][number]>) =>
    set(
      line.bends.map((b, k) => (k === i ? { ...b, ...to } : b)),
      `${line.id} bend ${i}`,
    )
  return (
    <>
      <p className="text-xs text-soft">Bends, angle and radius</p>
      {line.bends.map((b, i) => (
        // bends have no identity but their order
        // oxlint-disable-next-line react/no-array-index-key
        <div key={i} className="grid grid-cols-[1fr_1fr_2.75rem] items-end gap-2">
          <NumberField
            field={BEND_FIELDS.angleDeg}
            label={`Bend ${i + 1}, angle`}
            hideLabel
            value={b.angleDeg}
            onChange={(v) => {
              if (v !== undefined) change(i, { angleDeg: v })
            }}
          />
          <NumberField
            field={BEND_FIELDS.radiusMm}
            label={`Bend ${i + 1}, radius`}
            hideLabel
            value={b.radiusMm}
            onChange={(v) => {
              if (v !== undefined) change(i, { radiusMm: v })
            }}
          />
          <button
            type="button"
            className="button-quiet"
            aria-label={`Take bend ${i + 1} out`}
            onClick={() => set(line.bends.filter((_, k) => k !== i))}
          >
            <Trash2 size={16} aria-hidden />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="link-button inline-flex items-center gap-1"
        disabled={line.bends.length >= MAX_BENDS}
        onClick={() => set([...line.bends, { angleDeg: 90, radiusMm: Math.max(1, Math.round(4 * line.boreMm)) }])}
      >
        <Plus size={16} aria-hidden /> Add a bend
      </button>
    </>
  )
}
