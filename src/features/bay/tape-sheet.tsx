'use client'
/** What the tape has to tell for this plan, in the order of walking round the engine; each figure moves the picture. */
import { lowered } from '@/plan/document/words'
import { memo } from 'react'
import { Printer } from 'lucide-react'
import { unitLabel } from '@/core/units/units'
import { LEVEL_FIELDS, SPOT_FIELDS, TURN_FIELDS } from '@/plan/document/bay-fields'
import { POINTS } from '@/plan/document/bounds'
import { changeBay, setPointing, setSpot } from '@/plan/bay/bay-builders'
import { Select } from '@/ui/select'
import { canPortsText } from '@/plan/bay/can-ports'
import { spotIn, spotsAsked, suitedTurn } from '@/plan/catalogue/bay-geometry'
import { activeVariant } from '@/plan/edit/edit'
import type { Bay, Part, PartOf } from '@/plan/document/schema'
import { NumberField } from '../workspace/figures/field'
import { fieldUnit } from '@/plan/edit/typed'
import { PhotoStrip } from '../workspace/photos/photo-strip'

import { photoOf } from '../workspace/photos/photo-of'
import { useUnits, useWorkspace } from '../workspace/store'

const KEYS = ['forwardMm', 'leftMm', 'upMm'] as const

export function TapeSheet({ bay }: { bay: Bay }) {
  const variant = useWorkspace((s) => activeVariant(s.build))
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const asked = spotsAsked(variant)
  const drained = variant.lines.some(
    (l) =>
      l.kind === 'drain' &&
      [l.from, l.to].some((e) => variant.parts.find((p) => p.id === e.part)?.kind === 'crankcase'),
  )
  const done = asked.filter((a) => spotIn(bay, a.id)?.measured).length
  const next =
    asked.find((a) => a.part.kind === 'can' && a.part.drain && !spotIn(bay, a.id)?.measured) ??
    asked.find((a) => !spotIn(bay, a.id)?.measured)
  return (
    <section aria-labelledby="tape">
      <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <h2 id="tape" className="head">
          Tape sheet
        </h2>
        <span className="text-xs text-soft">
          {unitLabel(fieldUnit(SPOT_FIELDS.upMm, units))} from the {bay.datum.toLowerCase()}
        </span>
      </div>
      {next && (
        <p className="mt-2 border-l-4 border-blue bg-blue-wash px-2 py-1.5">
          <strong>Measure next: {lowered(next.name)}.</strong>{' '}
          {next.part.kind === 'can' && next.part.drain
            ? 'Its height decides whether it drains.'
            : 'The length of its line follows from it.'}
        </p>
      )}
      <table className="table mt-1 w-full table-fixed">
        <thead>
          <tr>
            <th>What</th>
            {KEYS.map((k) => (
              <th key={k} className="w-[17.5%]">
                {SPOT_FIELDS[k].label.toLowerCase()}
              </th>
            ))}
            <th className="w-[23%]">points</th>
          </tr>
        </thead>
        <tbody>
          {asked.map(({ id, name, part }) => (
            <SpotRow key={id} id={id} name={name} part={part} spot={spotIn(bay, id)} />
          ))}
        </tbody>
      </table>
      {drained && (
        <div className="mt-1 max-w-xs">
          <NumberField
            field={LEVEL_FIELDS.oilLevelMm}
            value={bay.oilLevelMm}
            onChange={(v) => act(changeBay({ oilLevelMm: v }), 'Oil level measured', 'bay oil level')}
          />
          <p className="text-xs text-soft">
            The full mark, by the dipstick held against the block: a return that ends below it stands full that far.
          </p>
        </div>
      )}
      <p className="flex items-baseline justify-between gap-2 pt-1 text-xs text-soft">
        <span>
          {done} of {asked.length} measured; ◇ stands as the ready bay has it.
        </span>
        <button type="button" className="link-button no-print inline-flex items-center gap-1" onClick={() => print()}>
          <Printer size={16} aria-hidden /> Print
        </button>
      </p>
    </section>
  )
}

/** Where the ports of a can sit on its body, and which way they look as its lid is set. */
function CanPorts({ can }: { can: PartOf<'can'> }) {
  const build = useWorkspace((s) => s.build)
  const says = canPortsText(build, can, useUnits())
  if (says === '') return null
  return (
    <tr>
      <td colSpan={5} className="!whitespace-normal text-xs text-soft">
        {says}
      </td>
    </tr>
  )
}

/** One place: where it is and which way it points; drawn again only when that changes. */
const SpotRow = memo(function SpotRow({
  id,
  name,
  part,
  spot,
}: {
  id: string
  name: string
  part: Part
  spot: Bay['spots'][number] | undefined
}) {
  const act = useWorkspace((s) => s.act)
  const select = useWorkspace((s) => s.select)
  // as a lid that nobody has turned is set: towards where its hoses go
  const suited = useWorkspace((s) =>
    part.kind === 'can' && spot ? Math.round(suitedTurn(s.build.bay, activeVariant(s.build), part)) : 0,
  )
  return (
    <>
      <tr onFocus={() => select({ kind: 'part', id: part.id })}>
        <th scope="row" className="!whitespace-normal !text-ink">
          {spot?.measured ? '' : '◇ '}
          {name} <PhotoStrip small of={photoOf.spot(id)} what={lowered(name)} />
        </th>
        {KEYS.map((k) => (
          <td key={k}>
            <NumberField
              field={SPOT_FIELDS[k]}
              label={`${name}, ${SPOT_FIELDS[k].label.toLowerCase()}`}
              hideLabel
              hideUnit
              value={spot?.[k]}
              onChange={(v) => {
                if (v === undefined) return
                const { forwardMm, leftMm, upMm } = spot ?? { forwardMm: 0, leftMm: 0, upMm: 0 }
                act(setSpot(id, { forwardMm, leftMm, upMm, [k]: v }), `${name} measured`, `spot ${id} ${k}`)
              }}
            />
          </td>
        ))}
        <td>
          {part.kind === 'can' ? (
            <NumberField
              field={TURN_FIELDS.turnDeg}
              label={`${name}, lid turned`}
              hideLabel
              value={spot?.turnDeg}
              estimate={suited}
              onChange={(turnDeg) => act(setPointing(id, { turnDeg }), `${part.name}: lid turned`, `turn ${id}`)}
            />
          ) : (
            <Select
              label={`${name}, points`}
              value={spot?.points ?? 'open'}
              options={[{ value: 'open', name: '–' }, ...POINTS.map((p) => ({ value: p, name: p }))]}
              onChange={(p) =>
                act(setPointing(id, { points: p === 'open' ? undefined : p }), `${name}: which way it points`)
              }
            />
          )}
        </td>
      </tr>
      {part.kind === 'can' && spot && <CanPorts can={part} />}
    </>
  )
})
