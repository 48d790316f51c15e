'use client'
/** The parts of the circuit as a plain table: which, how big, what it does. */
import type { UnitChoice } from '@/core/units/units'
import { CANS } from '@/plan/catalogue/cans'
import { CHECKS, PCVS } from '@/plan/catalogue/valves'
import { PART_FIELDS } from '@/plan/document/fields'
import { isThrough, KINDS } from '@/plan/document/kinds'
import type { Part } from '@/plan/document/schema'
import { measurePart, setPart } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { unitFormatter } from '@/plan/document/words'
import { Select } from '@/ui/select'
import { NumberField } from '../../workspace/figures/field'
import { Figure } from '../../workspace/figures/figure'
import { useShown, useUnits, useWorkspace } from '../../workspace/store'
import { isShut } from '../look'
import { ChooseButton } from './choose'

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

type Choice = { key: string; name: string; about: string; spec: object }
const choicesOf = (part: Part): readonly Choice[] | undefined =>
  part.kind === 'can' ? CANS : part.kind === 'pcv' ? PCVS : part.kind === 'check' ? CHECKS : undefined

/** A check is named by its seat, in the units in use. */
const nameIn = (c: Choice, units: UnitChoice): string =>
  'seatMm' in c.spec && typeof c.spec.seatMm === 'number' ? `${unitFormatter(units).mm(c.spec.seatMm)} seat` : c.name

/** Which of the catalogue's, or the builder's own. */
function Model({ part, choices }: { part: Part; choices: readonly Choice[] }) {
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const model = 'model' in part ? part.model : undefined
  const known = choices.some((c) => c.key === model)
  const own = { value: 'own', name: 'Own figures', about: 'measured or corrected' }
  return (
    <Select
      label={`${part.name}, kind`}
      value={known ? model! : 'own'}
      options={[
        ...choices.map((c) => ({ value: c.key, name: nameIn(c, units), about: c.about })),
        ...(known ? [] : [own]),
      ]}
      onChange={(key) => {
        const found = choices.find((c) => c.key === key)
        if (found) act(setPart(part.id, { ...found.spec, measured: undefined }), `${part.name}: ${found.name}`)
      }}
    />
  )
}

function Bore({ part, className }: { part: Part & { kind: 'passage' | 'restrictor' }; className?: string }) {
  const act = useWorkspace((s) => s.act)
  const active = useWorkspace((s) => s.build.active)
  return (
    <NumberField
      className={className}
      field={PART_FIELDS[part.kind].boreMm}
      label={`${part.name}, bore`}
      hideLabel
      value={part.boreMm}
      at={['variants', active, 'parts', part.id, 'boreMm']}
      onChange={(v) => {
        if (v !== undefined) act(measurePart(part.id, 'boreMm', v), undefined, `${part.id} bore`)
      }}
    />
  )
}

function KindOrSize({ part }: { part: Part }) {
  const choices = choicesOf(part)
  if (choices) return <Model part={part} choices={choices} />
  if (part.kind === 'restrictor') return <Bore part={part} />
  if (part.kind === 'passage')
    return (
      <span className="text-soft">
        {part.count} × <Bore part={part} className="inline-block w-24 align-middle" />
      </span>
    )
  return <span className="text-soft">{KINDS[part.kind].name.toLowerCase()}</span>
}

function PartRow({ part }: { part: Part }) {
  const selected = useWorkspace((s) => s.selected?.id === part.id)
  const shown = useShown()
  const of = { id: part.id, state: shown.id }
  const shut = shown.solved && isShut(shown.passages[part.id])
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <ChooseButton kind="part" id={part.id}>
          {part.name}
        </ChooseButton>
      </th>
      <td className="w-56">
        <KindOrSize part={part} />
        {'stuck' in part && part.stuck && <span className="ml-2 font-bold text-stop">stuck {part.stuck}</span>}
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'flow', ...of }} absolute />
      </td>
      <td className="text-right">
        <Figure of={{ kind: 'drop', ...of }} digits={2} absolute />
      </td>
      <td className="text-right">
        {part.kind === 'can' ? (
          <Figure of={{ kind: 'kept', ...of }} digits={2} />
        ) : (
          shut && KINDS[part.kind].valve && 'shut'
        )}
      </td>
    </tr>
  )
}

/** A space or a place that holds a pressure: chosen here, so that the keyboard reaches what can be led from it. */
function SpaceRow({ part }: { part: Part }) {
  const selected = useWorkspace((s) => s.selected?.id === part.id)
  const shown = useShown()
  const gauge = shown.solved ? shown.gauge[part.id] : undefined
  const kind = KINDS[part.kind].name.toLowerCase()
  return (
    <tr className={selected ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        <ChooseButton kind="part" id={part.id}>
          {part.name}
        </ChooseButton>
      </th>
      <td className="text-soft">{kind === part.name.toLowerCase() ? '' : kind}</td>
      <td colSpan={3} className="text-right">
        {gauge === undefined ? (
          'joined to nothing'
        ) : (
          <>
            stands at{' '}
            <Figure
              of={
                part.kind === 'crankcase'
                  ? { kind: 'crankcase', state: shown.id }
                  : { kind: 'gauge', id: part.id, state: shown.id }
              }
              digits={2}
            />
          </>
        )}
      </td>
    </tr>
  )
}
