'use client'
/** The chosen line or part in full: what can be done with it, its figures, and how it does in every state. */
import { WATER_POURED } from '@/core/gas/oil'
import { Plus, Trash2, X } from 'lucide-react'
import { Popover } from 'radix-ui'
import { formatQuantity, quantityText } from '@/core/units/format'
import type { Line, LineEnd, Part } from '@/plan/document/schema'
import { isThrough, KINDS } from '@/plan/document/kinds'
import { activeVariant } from '@/plan/edit/edit'
import { actionsFor, type Action } from '@/plan/edit/actions'
import { dropShares } from '@/plan/explain/drop-shares'
import { STATE_NAMES } from '@/plan/explain/words'
import { Select } from '@/ui/select'
import { NumberField, type KeptAs } from '../workspace/field'
import { Figure } from '../workspace/figure'
import { useUnits, useWorkspace } from '../workspace/store'

const LINE = 'variants[0].lines[0]'
const ELBOWS = ['0', '30', '45', '60', '90', '120', '150'].map((v) => ({
  value: v,
  name: v === '0' ? 'straight' : `${v}° elbow`,
}))

export function Inspector() {
  const selected = useWorkspace((s) => s.selected)
  const select = useWorkspace((s) => s.select)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const line = selected?.kind === 'line' ? variant.lines.find((l) => l.id === selected.id) : undefined
  const part = selected?.kind === 'part' ? variant.parts.find((p) => p.id === selected.id) : undefined
  if (!line && !part) return null
  return (
    <section
      aria-label={`${(line ?? part)!.name}, in full`}
      className="print-flow min-h-0 overflow-y-auto border-l border-rule pl-4 pr-1"
    >
      <div className="flex items-center justify-between gap-2">
        <Name key={selected!.id} line={line} part={part} />
        <button type="button" className="button-quiet" aria-label="Close" onClick={() => select(undefined)}>
          <X size={16} aria-hidden />
        </button>
      </div>
      <Actions />
      <EveryState line={line} part={part} />
      {line ? <LineSheet line={line} /> : <PartSheet part={part!} />}
    </section>
  )
}

function Name({ line, part }: { line: Line | undefined; part: Part | undefined }) {
  const edit = useWorkspace((s) => s.edit)
  const name = (line ?? part)!.name
  const set = (text: string) => {
    if (text.trim() !== '' && text.trim() !== name)
      edit([
        line
          ? { op: 'line', line: line.id, set: { name: text.trim() } }
          : { op: 'part', part: part!.id, set: { name: text.trim() } },
      ])
  }
  return (
    <input
      className="field font-bold"
      aria-label="Name"
      maxLength={80}
      defaultValue={name}
      onBlur={(e) => set(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur()
      }}
    />
  )
}

/** What can be done here, by the job: only joins that make sense. */
function Actions() {
  const build = useWorkspace((s) => s.build)
  const selected = useWorkspace((s) => s.selected)
  const edit = useWorkspace((s) => s.edit)
  const select = useWorkspace((s) => s.select)
  if (!selected) return null
  const actions = actionsFor(build, activeVariant(build), selected)
  const groups = [...new Set(actions.map((a) => a.group))]
  const run = (a: Action) => {
    if (edit(a.edits) && (a.key === 'cut' || a.key === 'remove' || a.key === 'unsplice')) select(undefined)
  }
  if (actions.length === 0) return null
  return (
    <Popover.Root>
      <Popover.Trigger className="button no-print mt-1 w-full !min-h-10">Change it…</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="menu max-h-[70vh] w-80 overflow-y-auto p-2"
          side="left"
          sideOffset={6}
          collisionPadding={10}
          aria-label="What can be done here"
        >
          {groups.map((g) => (
            <section key={g} aria-label={g}>
              <h4 className="px-2 pt-2 text-xs text-soft">{GROUP[g]}</h4>
              <ul>
                {actions
                  .filter((a) => a.group === g)
                  .map((a) => (
                    <li key={a.key}>
                      <Popover.Close
                        className="menu-item w-full !min-h-9 text-left hover:bg-blue-wash"
                        onClick={() => run(a)}
                      >
                        {a.label}
                      </Popover.Close>
                    </li>
                  ))}
              </ul>
            </section>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
const GROUP: Readonly<Record<Action['group'], string>> = {
  'in the line': 'Into the hose',
  'its ends': 'Where it goes',
  'from here': 'From here',
  'this part': 'This part',
}

function EndSheet({ line, side }: { line: Line; side: 'from' | 'to' }) {
  const edit = useWorkspace((s) => s.edit)
  const name = useWorkspace((s) => activeVariant(s.build).parts.find((p) => p.id === line[side].part)?.name)
  const end = line[side]
  const set = (change: Partial<LineEnd>) =>
    edit(
      [{ op: 'line', line: line.id, set: { [side]: JSON.parse(JSON.stringify({ ...end, ...change })) as LineEnd } }],
      `${line.id} ${side}`,
    )
  return (
    <fieldset className="grid grid-cols-2 gap-x-3">
      <legend className="text-xs text-soft">End at {name?.toLowerCase()}: elbow, barb bore</legend>
      <Select
        label={`Elbow at ${name}`}
        value={String(end.elbowDeg ?? 0)}
        options={ELBOWS}
        onChange={(v) => set({ elbowDeg: Number(v) || undefined })}
      />
      <NumberField
        label={`Barb through-bore at ${name}`}
        hideLabel
        value={end.barbMm}
        estimate={line.boreMm}
        path={`${LINE}.from.barbMm`}
        kept="Mm"
        digits={3}
        onChange={(v) => set({ barbMm: v })}
      />
    </fieldset>
  )
}

function LineSheet({ line }: { line: Line }) {
  const edit = useWorkspace((s) => s.edit)
  if (line.kind !== 'hose')
    return (
      <p className="mt-2 text-soft">
        {line.kind === 'drain'
          ? 'Oil runs back through it and fills it, so no gas does.'
          : 'The two ports are one opening.'}
      </p>
    )
  const setBends = (bends: Line['bends'], burst?: string) =>
    edit([{ op: 'line', line: line.id, set: { bends } }], burst)
  return (
    <div className="mt-2 space-y-2">
      <EndSheet line={line} side="from" />
      <EndSheet line={line} side="to" />
      <p className="text-xs text-soft">Bends, angle and radius</p>
      {line.bends.map((b, i) => (
        // bends have no identity but their order
        // oxlint-disable-next-line react/no-array-index-key
        <div key={i} className="grid grid-cols-[1fr_1fr_2.75rem] items-end gap-2">
          <NumberField
            label={`Bend ${i + 1}, angle`}
            hideLabel
            value={b.angleDeg}
            unit="deg"
            path={`${LINE}.bends[0].angleDeg`}
            onChange={(v) => {
              if (v !== undefined)
                setBends(
                  line.bends.map((x, k) => (k === i ? { ...x, angleDeg: v } : x)),
                  `${line.id} bend ${i}`,
                )
            }}
          />
          <NumberField
            label={`Bend ${i + 1}, radius`}
            hideLabel
            value={b.radiusMm}
            path={`${LINE}.bends[0].radiusMm`}
            kept="Mm"
            digits={3}
            onChange={(v) => {
              if (v !== undefined)
                setBends(
                  line.bends.map((x, k) => (k === i ? { ...x, radiusMm: v } : x)),
                  `${line.id} bend ${i}`,
                )
            }}
          />
          <button
            type="button"
            className="button-quiet"
            aria-label={`Take bend ${i + 1} out`}
            onClick={() => setBends(line.bends.filter((_, k) => k !== i))}
          >
            <Trash2 size={16} aria-hidden />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="deed inline-flex items-center gap-1"
        onClick={() => setBends([...line.bends, { angleDeg: 90, radiusMm: Math.max(1, Math.round(4 * line.boreMm)) }])}
      >
        <Plus size={16} aria-hidden /> Add a bend
      </button>
    </div>
  )
}

type PartField = readonly [key: string, label: string, value: number, kept?: KeptAs, unit?: string]
/** Figures of a part that can be measured and corrected. */
function fieldsOf(p: Part): readonly PartField[] {
  switch (p.kind) {
    case 'can':
      return [
        ['dropKpaAt100', 'Drop at 100 l/min', p.dropKpaAt100, 'Kpa'],
        ['linearPct', 'Share in step with flow', p.linearPct, undefined, '%'],
        ['bowlMl', 'Bowl below the port', p.bowlMl, 'Ml'],
      ]
    case 'filter':
      return [
        ['dropKpaAt100', 'Drop at 100 l/min, clean', p.dropKpaAt100, 'Kpa'],
        ['fouling', 'Fouled, times the drop', p.fouling ?? 1],
      ]
    case 'check':
      return [
        ['seatMm', 'Seat', p.seatMm, 'Mm'],
        ['crackKpa', 'Cracking pressure', p.crackKpa, 'Kpa'],
      ]
    case 'relief':
      return [
        ['seatMm', 'Seat', p.seatMm, 'Mm'],
        ['openKpa', 'Opens at', p.openKpa, 'Kpa'],
      ]
    case 'regulator':
      return [
        ['boreMm', 'Bore', p.boreMm, 'Mm'],
        ['setKpa', 'Holds', p.setKpa, 'Kpa'],
        ['bandKpa', 'Band', p.bandKpa, 'Kpa'],
      ]
    case 'pump':
      return [
        ['ccPerTurn', 'Displacement a turn', p.ccPerTurn, 'Cc'],
        ['ratio', 'Turns per engine turn', p.ratio],
        ['clearancePct', 'Clearance', p.clearancePct, undefined, '%'],
      ]
    case 'passage':
      return [
        ['boreMm', 'Bore', p.boreMm, 'Mm'],
        ['count', 'How many', p.count],
      ]
    case 'restrictor':
    case 'sensor':
      return [['boreMm', 'Bore', p.boreMm, 'Mm']]
    case 'inlet':
      return [['depressionPct', 'Share of the inlet depression felt here', p.depressionPct, undefined, '%']]
    case 'exhaust':
      return [['suctionKpa', 'Suction at rated flow', p.suctionKpa, 'Kpa']]
    default:
      return []
  }
}

function PartSheet({ part }: { part: Part }) {
  const edit = useWorkspace((s) => s.edit)
  const set = (change: Record<string, unknown>, key: string) =>
    edit(
      [
        {
          op: 'part',
          part: part.id,
          set: { ...change, ...('model' in part && key !== 'stuck' ? { model: 'own' } : {}) },
        },
      ],
      `${part.id} ${key}`,
    )
  const fields = fieldsOf(part)
  return (
    <div className="mt-2 space-y-2">
      <div className="grid grid-cols-2 items-end gap-x-3 gap-y-2">
        {fields.map(([key, label, value, kept, unit]) => (
          <NumberField
            key={key}
            label={label}
            value={value}
            path={`${part.kind}.${key}`}
            kept={kept}
            unit={unit}
            digits={3}
            onChange={(v) => {
              if (v !== undefined) set({ [key]: v }, key)
            }}
          />
        ))}
      </div>
      {part.kind === 'pcv' && (
        <PlungerTable table={part.areaMm2ByKpa} onChange={(areaMm2ByKpa) => set({ areaMm2ByKpa }, 'table')} />
      )}
      {(KINDS[part.kind].valve || part.kind === 'pump') && (
        <div>
          <span className="block text-xs text-soft" aria-hidden>
            It
          </span>
          <Select
            label={`${part.name}, works or sticks`}
            value={('stuck' in part && part.stuck) || 'works'}
            options={[
              { value: 'works', name: 'works' },
              ...(part.kind === 'pump' ? [] : [{ value: 'open', name: 'sticks open' }]),
              { value: 'shut', name: part.kind === 'pump' ? 'does not turn' : 'sticks shut' },
            ]}
            onChange={(v) => set({ stuck: v === 'works' ? undefined : v }, 'stuck')}
          />
        </div>
      )}
      {!isThrough(part.kind) && (
        <p className="text-xs text-soft">
          Ports: {part.ports.map((p) => p.name.toLowerCase()).join(', ')}. One without a line counts as capped.
        </p>
      )}
    </div>
  )
}

/** Points as measured: pressure difference, open area. */
function PlungerTable({
  table,
  onChange,
}: {
  table: readonly (readonly [number, number])[]
  onChange: (table: (readonly [number, number])[]) => void
}) {
  const sorted = (points: (readonly [number, number])[]) => points.toSorted((a, b) => a[0] - b[0])
  const put = (i: number, k: 0 | 1, v: number) => {
    const next = table.map((p, j): readonly [number, number] => (j === i ? (k === 0 ? [v, p[1]] : [p[0], v]) : p))
    // two points at one pressure are no table; the field keeps what is typed until they differ
    if (new Set(next.map((p) => p[0])).size === next.length) onChange(sorted(next))
  }
  return (
    <fieldset>
      <legend className="text-xs text-soft">
        Open area in mm² against pressure difference; your own points replace the typical ones
      </legend>
      {table.map(([dp, area], i) => (
        // points have no identity but their order
        // oxlint-disable-next-line react/no-array-index-key
        <div key={i} className="grid grid-cols-[1fr_1fr_2.75rem] items-end gap-2">
          <NumberField
            hideLabel
            label={`Point ${i + 1}, pressure difference`}
            value={dp}
            kept="Kpa"
            digits={3}
            limits={{ min: 0, max: 200 }}
            onChange={(v) => {
              if (v !== undefined) put(i, 0, v)
            }}
          />
          <NumberField
            hideLabel
            label={`Point ${i + 1}, open area`}
            value={area}
            unit="mm²"
            digits={3}
            limits={{ min: 0, max: 500 }}
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
        className="deed inline-flex items-center gap-1"
        onClick={() => {
          const last = table.at(-1) ?? [0, 5]
          onChange([...table, [Math.min(200, last[0] + 10), last[1]]])
        }}
      >
        <Plus size={16} aria-hidden /> Add a point
      </button>
    </fieldset>
  )
}

/** Flow, velocity, drop and where it goes, oil and water, in each state. */
function EveryState({ line, part }: { line: Line | undefined; part: Part | undefined }) {
  const states = useWorkspace((s) => s.analysis.states)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const current = useWorkspace((s) => s.state)
  const units = useUnits()
  const id = (line ?? part)!.id
  if ((line && line.kind !== 'hose') || (part && !isThrough(part.kind))) return null
  const text = (si: number, d: Parameters<typeof formatQuantity>[1]) => formatQuantity(si, d, units, 2).text
  return (
    <div className="mt-3 overflow-x-auto pb-4">
      <h3 className="head border-b border-rule-strong pb-1">In every state</h3>
      <table className="table w-full text-xs [&_td]:!px-0.5 [&_td]:!py-1 [&_td]:!h-7 [&_th]:!h-7 [&_th]:!px-0.5 [&_th]:!py-1">
        <thead>
          <tr>
            <th>State</th>
            <th className="!text-right">{units.flow}</th>
            {line && <th className="!text-right">{units.system === 'metric' ? 'm/s' : 'ft/s'}</th>}
            <th className="!text-right">{units.pressure}</th>
            {line && <th className="!text-right">f · b · e</th>}
            <th className="!text-right">oil, water</th>
          </tr>
        </thead>
        <tbody>
          {states.map((s) => {
            const p = s.solved ? s.passages[id] : undefined
            const shut = !p || Math.abs(p.flow) < 1e-7
            const shares = line && p && !shut ? dropShares(line, variant, s.operating.gasK, p.flow) : undefined
            return (
              <tr key={s.id} className={s.id === current ? 'bg-blue-wash' : ''}>
                <th scope="row" className="!text-ink">
                  {STATE_NAMES[s.id]}
                </th>
                {shut ? (
                  <td colSpan={line ? 5 : 3} className="text-right text-soft">
                    {s.solved ? 'shut' : 'no answer'}
                  </td>
                ) : (
                  <>
                    <td className="text-right">
                      <Figure of={{ kind: 'flow', id, state: s.id }} digits={2} bare />
                    </td>
                    {line && (
                      <td className="text-right">
                        <Figure of={{ kind: 'velocity', id, state: s.id }} digits={2} bare />
                      </td>
                    )}
                    <td className="text-right">
                      <Figure of={{ kind: 'drop', id, state: s.id }} digits={2} absolute bare />
                    </td>
                    {shares && (
                      <td className="whitespace-nowrap text-right">
                        {Math.round(shares.friction * 100)} · {Math.round(shares.bends * 100)} ·{' '}
                        {Math.round(shares.ends * 100)}
                      </td>
                    )}
                    <td className="whitespace-nowrap text-right">
                      <Figure of={{ kind: 'oil', id, state: s.id }} digits={2} bare />,{' '}
                      {text(p.water / WATER_POURED, 'liquidRate')}
                    </td>
                  </>
                )}
              </tr>
            )
          })}
        </tbody>
      </table>
      {line && (
        <p className="pt-1 text-xs text-soft">
          Goes into: % friction · bends · ends; oil and water in {units.system === 'metric' ? 'ml/h' : 'fl oz/h'}. Minus
          is against the way the line is named.{' '}
          {line.boreMm > 0 ? `A bore of ${quantityText(line.boreMm / 1000, 'length', units, 3)}.` : ''}
        </p>
      )}
    </div>
  )
}
