'use client'
/** The figures of a part that can be measured and corrected, as its table of fields says. */
import { lowered } from '@/plan/document/words'
import { Plus, Trash2 } from 'lucide-react'
import { numbersOfPart, PART_FIELDS } from '@/plan/document/fields'
import { isThrough, KINDS } from '@/plan/document/kinds'
import { MAX_POINTS } from '@/plan/document/bounds'
import type { Part, PartOf } from '@/plan/document/schema'
import { measurePart, setPart } from '@/plan/edit/edit-builders'
import { Select } from '@/ui/select'
import { NumberField } from '../../workspace/figures/field'
import { useWorkspace } from '../../workspace/store'

/** Looked up, not read off a part: a builder has no gauge for them yet. */
const NOT_ASKED = new Set(['cd', 'faceCm2', 'surfaceCm2'])

export function PartSheet({ part }: { part: Part }) {
  const act = useWorkspace((s) => s.act)
  const active = useWorkspace((s) => s.build.active)
  const set = (key: string, v: unknown) => act(measurePart(part.id, key, v), undefined, `${part.id} ${key}`)
  const value = (key: string) => (part as unknown as Record<string, number | undefined>)[key]
  return (
    <div className="mt-2 space-y-2">
      <div className="grid grid-cols-2 items-end gap-x-3 gap-y-2">
        {numbersOfPart(part.kind)
          .filter(([key]) => !NOT_ASKED.has(key))
          .map(([key, field]) => (
            <NumberField
              key={key}
              field={field}
              value={value(key)}
              estimate={field.optional ? field.standIn : undefined}
              at={['variants', active, 'parts', part.id, key]}
              onChange={(v) => {
                if (v !== undefined || field.optional) set(key, v)
              }}
            />
          ))}
      </div>
      {part.kind === 'pcv' && (
        <PlungerTable table={part.areaMm2ByKpa} onChange={(table) => set('areaMm2ByKpa', table)} />
      )}
      {(KINDS[part.kind].valve || part.kind === 'pump') && (
        <Sticks part={part} onChange={(stuck) => act(setPart(part.id, { stuck }), undefined, `${part.id} stuck`)} />
      )}
      {part.kind === 'can' && part.drain !== undefined && (
        <BowlSide can={part} onChange={(bowl) => act(setPart(part.id, { bowl }), undefined, `${part.id} bowl`)} />
      )}
      {!isThrough(part.kind) && (
        <p className="text-xs text-soft">
          Ports: {part.ports.map((p) => lowered(p.name)).join(', ')}. One without a line counts as capped.
          {part.kind === 'tee' && ' The first two run straight through; what turns into another loses most.'}
        </p>
      )}
    </div>
  )
}

/** Which pressure the oil in a bowl stands at: it decides how high a column the return holds up. */
function BowlSide({ can, onChange }: { can: PartOf<'can'>; onChange: (bowl: string | undefined) => void }) {
  const byKind = can.packed ? 'outlet side' : can.stages.length > 0 ? 'inlet side' : 'not known, the lower'
  return (
    <div>
      <span className="block text-xs text-soft" aria-hidden>
        Its bowl opens to the
      </span>
      <Select
        label={`${can.name}, side its bowl opens to`}
        value={can.bowl ?? 'kind'}
        options={[
          { value: 'kind', name: byKind, about: 'by its kind' },
          { value: 'inlet', name: 'inlet side', about: 'ahead of what separates' },
          { value: 'outlet', name: 'outlet side', about: 'behind what separates' },
        ]}
        onChange={(v) => onChange(v === 'kind' ? undefined : v)}
      />
    </div>
  )
}

function Sticks({ part, onChange }: { part: Part; onChange: (stuck: string | undefined) => void }) {
  const pump = part.kind === 'pump'
  return (
    <div>
      <span className="block text-xs text-soft" aria-hidden>
        It
      </span>
      <Select
        label={`${part.name}, works or sticks`}
        value={('stuck' in part && part.stuck) || 'works'}
        options={[
          { value: 'works', name: 'works' },
          ...(pump ? [] : [{ value: 'open', name: 'sticks open' }]),
          { value: 'shut', name: pump ? 'does not turn' : 'sticks shut' },
        ]}
        onChange={(v) => onChange(v === 'works' ? undefined : v)}
      />
    </div>
  )
}

type TablePoint = readonly [number, number]

/** Points as measured: pressure difference, open area. */
function PlungerTable({ table, onChange }: { table: readonly TablePoint[]; onChange: (table: TablePoint[]) => void }) {
  const { x, y } = PART_FIELDS.pcv.areaMm2ByKpa.curve
  const put = (i: number, k: 0 | 1, v: number) => {
    const next = table.map((p, j): TablePoint => (j === i ? (k === 0 ? [v, p[1]] : [p[0], v]) : p))
    // two points at one pressure are no table; the field keeps what is typed until they differ
    if (new Set(next.map((p) => p[0])).size === next.length) onChange(next.toSorted((a, b) => a[0] - b[0]))
  }
  return (
    <fieldset>
      <legend className="text-xs text-soft">
        Open area against pressure difference; your own points replace the typical ones
      </legend>
      {table.map(([dp, area], i) => (
        // points have no identity but their order
        // oxlint-disable-next-line react/no-array-index-key
        <div key={i} className="grid grid-cols-[1fr_1fr_2.75rem] items-end gap-2">
          <NumberField
            hideLabel
            field={x}
            label={`Point ${i + 1}, pressure difference`}
            value={dp}
            onChange={(v) => {
              if (v !== undefined) put(i, 0, v)
            }}
          />
          <NumberField
            hideLabel
            field={y}
            label={`Point ${i + 1}, open area`}
            value={area}
            onChange={(v) => {
              if (v !== undefined) put(i, 1, v)
            }}
          />
          <button
            type="button"
            className="button-quiet"
            disabled={table.length === 1}
            aria-label={`Take point ${i + 1} out`}
            onClick={() => onChange(table.filter((_, k) => k !== i))}
          >
            <Trash2 size={16} aria-hidden />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="link-button inline-flex items-center gap-1"
        disabled={table.length >= MAX_POINTS || (table.at(-1)?.[0] ?? 0) >= x.max}
        onClick={() => {
          const last = table.at(-1) ?? [0, 5]
          onChange([...table, [Math.min(x.max, last[0] + 10), last[1]]])
        }}
      >
        <Plus size={16} aria-hidden /> Add a point
      </button>
    </fieldset>
  )
}
