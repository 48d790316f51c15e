'use client'
/** What stands in the bay: boxes by kind with where and how large they are, and points of the bonnet; typed as measured. */
import { memo, useState } from 'react'
import { Copy, Plus, Trash2 } from 'lucide-react'
import { quantityText } from '@/core/units/format'
import { clearanceAsked } from '@/plan/bay/place'
import { changeBay } from '@/plan/bay/bay-builders'
import { keepOutFromText } from '@/plan/bay/keep-out-text'
import { KEEP_OUTS, MAX_BONNET, MAX_KEEP_OUTS } from '@/plan/document/bounds'
import { BOX_FIELDS, SPOT_FIELDS } from '@/plan/document/bay-fields'
import { type Field } from '@/plan/document/fields'
import type { Bay } from '@/plan/document/schema'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { useUnits, useWorkspace } from '../workspace/store'
import { NameField } from '@/ui/name-field'

type KeepOutRow = Bay['keepOuts'][number]
const KIND_NAMES: Readonly<Record<KeepOutRow['kind'], string>> = {
  hot: 'Hot',
  moving: 'Moving',
  sharp: 'Sharp',
  electrical: 'Electrical',
  fuel: 'Fuel',
  brake: 'Brake',
  steering: 'Steering',
  service: 'Service room',
  panel: 'Body or pipe',
  engine: 'Engine',
}
const SHAPES = [
  { value: 'box', name: 'box' },
  { value: 'up', name: 'round, upright', about: 'as wide as long' },
  { value: 'ahead', name: 'round, lying ahead', about: 'as thick as high' },
  { value: 'left', name: 'round, lying across', about: 'as thick as high' },
] as const
const SHAPE: Readonly<Record<(typeof SHAPES)[number]['value'], Pick<KeepOutRow, 'round' | 'lies'>>> = {
  box: { round: undefined, lies: undefined },
  up: { round: true, lies: undefined },
  ahead: { round: true, lies: 'ahead' },
  left: { round: true, lies: 'left' },
}
const FIELDS = [
  ['forwardMm', SPOT_FIELDS.forwardMm],
  ['leftMm', SPOT_FIELDS.leftMm],
  ['upMm', SPOT_FIELDS.upMm],
  ['longMm', BOX_FIELDS.longMm],
  ['wideMm', BOX_FIELDS.wideMm],
  ['highMm', BOX_FIELDS.highMm],
] as const satisfies readonly (readonly [keyof KeepOutRow, Field])[]

/** An id that nothing in a list has yet. */
export const nextId = (list: readonly { readonly id: string }[], word: string): string => {
  let n = list.length + 1
  while (list.some((x) => x.id === `${word}-${n}`)) n++
  return `${word}-${n}`
}

/** Kept as it is while a can is dragged: of what moves it shows nothing. */
export const Standing = memo(function Standing({ keepOuts: stands, bonnet }: Pick<Bay, 'keepOuts' | 'bonnet'>) {
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const put = (keepOuts: Bay['keepOuts'], name: string, burst?: string) => act(changeBay({ keepOuts }), name, burst)
  const change = (id: string, to: Partial<KeepOutRow>, burst: string) =>
    put(
      stands.map((k) => (k.id === id ? { ...k, ...to, measured: true } : k)),
      'What stands in the bay, measured',
      burst,
    )
  const more = () =>
    put(
      [
        ...stands,
        {
          id: nextId(stands, 'keep-out'),
          name: 'Something',
          kind: 'panel',
          forwardMm: 300,
          leftMm: -300,
          upMm: -100,
          longMm: 100,
          wideMm: 100,
          highMm: 100,
          surfaceC: undefined,
          measured: false,
        },
      ],
      'Something that stands in the bay',
    )
  return (
    <section aria-labelledby="standing" className="overflow-x-auto">
      <h2 id="standing" className="head border-b-[1.5px] border-ink pb-1">
        What stands there, and how far to keep from it
      </h2>
      <table className="table w-full min-w-[35rem] table-fixed">
        <thead>
          <tr>
            <th className="w-[18%]">What; middle, size</th>
            <th className="w-[17%]">Kind</th>
            {FIELDS.map(([key, f]) => (
              <th key={key}>{f.label.toLowerCase()}</th>
            ))}
            <th className="w-[9%]">keep</th>
            <th className="no-print w-[9%]" />
          </tr>
        </thead>
        <tbody>
          {stands.map((k) => (
            <tr key={k.id}>
              <td>
                <NameField
                  label={`Name of ${k.name}`}
                  name={k.name}
                  onChange={(name) => change(k.id, { name }, `${k.id} name`)}
                />
              </td>
              <td>
                <Select
                  label={`Kind of ${k.name}`}
                  value={k.kind}
                  options={KEEP_OUTS.map((value) => ({ value, name: KIND_NAMES[value] }))}
                  onChange={(kind) => change(k.id, { kind }, `${k.id} kind`)}
                />
                <Select
                  label={`Shape of ${k.name}`}
                  value={k.round ? (k.lies ?? 'up') : 'box'}
                  options={SHAPES}
                  onChange={(shape) => change(k.id, SHAPE[shape], `${k.id} shape`)}
                />
              </td>
              {FIELDS.map(([key, field]) => (
                <td key={key}>
                  <NumberField
                    field={field}
                    label={`${k.name}, ${field.label.toLowerCase()}`}
                    hideLabel
                    hideUnit
                    value={k[key]}
                    onChange={(v) => {
                      if (v !== undefined) change(k.id, { [key]: v }, `${k.id} ${key}`)
                    }}
                  />
                </td>
              ))}
              <td className="text-soft">{quantityText(clearanceAsked(k), 'length', units, 2)}</td>
              <td className="no-print !whitespace-nowrap">
                <button
                  type="button"
                  className="button-quiet"
                  aria-label={`Copy ${k.name}`}
                  disabled={stands.length >= MAX_KEEP_OUTS}
                  onClick={() =>
                    put(
                      [
                        ...stands,
                        { ...k, id: nextId(stands, 'keep-out'), name: `${k.name}, copy`.slice(0, 60), measured: false },
                      ],
                      `${k.name} copied`,
                    )
                  }
                >
                  <Copy size={16} aria-hidden />
                </button>
                <TakeOut
                  label={`Take ${k.name} out of the bay`}
                  onPress={() =>
                    put(
                      stands.filter((x) => x !== k),
                      `${k.name} out of the bay`,
                    )
                  }
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="no-print flex flex-wrap items-end gap-x-5">
        <Spoken stands={stands} onAdd={(k) => put([...stands, k], `${k.name} stands in the bay`)} />
        <button
          type="button"
          className="link-button inline-flex items-center gap-1"
          disabled={stands.length >= MAX_KEEP_OUTS}
          onClick={more}
        >
          <Plus size={16} aria-hidden /> Something else that stands there
        </button>
      </div>
      <Bonnet bonnet={bonnet} />
    </section>
  )
})

/** One line as it is called out from the tape: a name, three sizes, a place. */
function Spoken({ stands, onAdd }: { stands: Bay['keepOuts']; onAdd: (k: KeepOutRow) => void }) {
  const units = useUnits()
  const [text, setText] = useState('')
  const [problem, setProblem] = useState('')
  return (
    <form
      className="min-w-0 flex-1 pt-2"
      onSubmit={(e) => {
        e.preventDefault()
        const read = keepOutFromText(text, units, nextId(stands, 'keep-out'))
        setProblem(read.ok ? '' : read.reason)
        if (!read.ok) return
        onAdd(read.value)
        setText('')
      }}
    >
      <label className="block">
        <span className="text-xs text-soft">
          From the tape in one line: name, long x wide x high, where its middle or rear right lower corner is
        </span>
        <span className="flex gap-3">
          <input
            className="field min-w-0 flex-1"
            value={text}
            placeholder="Battery, 240 x 175 x 190, corner at 300, -60, -250"
            aria-invalid={problem !== ''}
            onChange={(e) => {
              setText(e.target.value)
              setProblem('')
            }}
          />
          <button type="submit" className="link-button" disabled={text.trim() === '' || stands.length >= MAX_KEEP_OUTS}>
            Add it
          </button>
        </span>
      </label>
      {problem !== '' && (
        <p role="alert" className="text-xs text-fix">
          {problem}
        </p>
      )}
    </form>
  )
}

/** Takes one thing out of a list. */
export function TakeOut({ label, onPress, disabled }: { label: string; onPress: () => void; disabled?: boolean }) {
  return (
    <button type="button" className="button-quiet" disabled={disabled} aria-label={label} onClick={onPress}>
      <Trash2 size={16} aria-hidden />
    </button>
  )
}

/** The underside of the bonnet over three spots or more: a lump of clay, the bonnet shut on it. */
function Bonnet({ bonnet: spots }: Pick<Bay, 'bonnet'>) {
  const act = useWorkspace((s) => s.act)
  const put = (bonnet: Bay['bonnet'], burst?: string) => act(changeBay({ bonnet }), 'The bonnet, measured', burst)
  return (
    <div className="pt-3">
      <h3 className="text-sm">
        Bonnet, underside{' '}
        <span className="font-normal text-soft">over three spots or more; shut it on a lump of clay</span>
      </h3>
      <div className="grid gap-x-6 md:grid-cols-2">
        {spots.map((p, i) => (
          <div key={p.id} className="grid grid-cols-[1fr_1fr_1fr_2.75rem] items-end gap-2">
            {(['forwardMm', 'leftMm', 'upMm'] as const).map((key) => (
              <NumberField
                key={key}
                field={SPOT_FIELDS[key]}
                label={`Bonnet ${i + 1}, ${SPOT_FIELDS[key].label.toLowerCase()}`}
                hideUnit
                value={p[key]}
                onChange={(v) => {
                  if (v !== undefined)
                    put(
                      spots.map((q) => (q === p ? { ...q, [key]: v, measured: true } : q)),
                      `${p.id} ${key}`,
                    )
                }}
              />
            ))}
            <TakeOut
              disabled={spots.length <= 1}
              label={`Take bonnet spot ${i + 1} out`}
              onPress={() => put(spots.filter((q) => q !== p))}
            />
          </div>
        ))}
      </div>
      <button
        type="button"
        className="link-button inline-flex items-center gap-1"
        disabled={spots.length >= MAX_BONNET}
        onClick={() =>
          put([...spots, { id: nextId(spots, 'bonnet'), forwardMm: 200, leftMm: -200, upMm: 80, measured: false }])
        }
      >
        <Plus size={16} aria-hidden /> Another spot of the bonnet
      </button>
    </div>
  )
}
