'use client'
/** What was read, where and how much: the crankcase first, since that tells most. */
import type { StateId } from '@/core/engine/states'
import { isThrough } from '@/plan/document/kinds'
import type { Variant } from '@/plan/document/schema'
import { STATE_NAMES, teller } from '@/plan/document/words'
import { readingText, shownIn, type Quantity } from '@/plan/studies/readings'
import { useUnits, useWorkspace } from '../workspace/store'
import { Choice } from './choice'

export const WAYS = [
  { value: 'crankcase', name: 'Crankcase pressure' },
  { value: 'meter', name: 'Blow-by, flow meter' },
  { value: 'orifice', name: 'Blow-by, known orifice' },
  { value: 'drop', name: 'Drop over a part' },
  { value: 'flow', name: 'Flow in a hose' },
  { value: 'velocity', name: 'Velocity in a hose' },
] as const
export type Way = (typeof WAYS)[number]['value']

const QUANTITY: Readonly<Record<Way, Quantity>> = {
  crankcase: 'crankcase',
  meter: 'blowBy',
  orifice: 'blowBy',
  drop: 'drop',
  flow: 'flow',
  velocity: 'velocity',
}
/** How the instrument is put in, where that is not plain. */
const HOW: Partial<Record<Way, string>> = {
  meter: 'On the only way out of the engine, everything else plugged.',
  orifice: 'Everything plugged but one drilled hole to the open air; read the crankcase.',
  drop: 'One gauge before it and one after, or both legs of one.',
  velocity: 'A vane or hot wire in the hose, in the middle of it.',
}

/** Places at which a way of reading can be used in a plan. */
export function placesOf(variant: Variant, way: Way): readonly { value: string; name: string }[] {
  const named = (x: { id: string; name: string }) => ({ value: x.id, name: x.name })
  if (way === 'drop') return variant.parts.filter((p) => isThrough(p.kind)).map(named)
  if (way === 'flow' || way === 'velocity') return variant.lines.filter((l) => l.kind === 'hose').map(named)
  return []
}

export type ReadingDraft = {
  readonly state: StateId
  readonly way: Way
  readonly at: string | undefined
  readonly side: 'vacuum' | 'pressure'
}

export function ReadingFields({
  id,
  variant,
  draft,
  onChange,
  field,
  problem,
}: {
  id: string
  variant: Variant
  draft: ReadingDraft
  onChange: (to: Partial<ReadingDraft>) => void
  field: (
    key: 'kpa' | 'flow' | 'velocity' | 'orifice',
    label: string,
    unit: string,
    placeholder?: string,
  ) => React.ReactNode
  problem: string | undefined
}) {
  const units = useUnits()
  const states = useWorkspace((s) => s.analysis.states)
  const { state, way, at, side } = draft
  const places = placesOf(variant, way)
  const shown = states.find((s) => s.id === state)
  const expected = shown?.solved ? shownIn(shown, { quantity: QUANTITY[way], at }) : Number.NaN
  const metric = units.system === 'metric'
  return (
    <>
      <Choice
        id={`${id}-state`}
        label="State of the reading"
        value={state}
        options={states.map((s) => ({ value: s.id, name: STATE_NAMES[s.id] }))}
        onChange={(to) => onChange({ state: to })}
      />
      <Choice
        id={`${id}-way-of`}
        label="What was read"
        value={way}
        options={WAYS.filter(
          (w) => !['drop', 'flow', 'velocity'].includes(w.value) || placesOf(variant, w.value).length > 0,
        )}
        onChange={(to) => onChange({ way: to, at: undefined })}
      />
      {places.length > 0 && (
        <Choice
          id={`${id}-at`}
          label="Where"
          value={at ?? ''}
          options={[{ value: '', name: 'choose' }, ...places]}
          onChange={(to) => onChange({ at: to === '' ? undefined : to })}
          problem={problem}
        />
      )}
      {way === 'crankcase' && (
        <div className="flex items-end gap-2">
          <div className="flex-1">{field('kpa', 'Crankcase, gauge', units.pressure, '0.5')}</div>
          <Choice
            id={`${id}-way`}
            label="Which way"
            value={side}
            options={[
              { value: 'vacuum', name: 'vacuum' },
              { value: 'pressure', name: 'pressure' },
            ]}
            onChange={(to) => onChange({ side: to })}
          />
        </div>
      )}
      {way === 'drop' && field('kpa', 'Drop', units.pressure)}
      {way === 'orifice' && field('orifice', 'Orifice bore', metric ? 'mm' : 'in')}
      {way === 'orifice' && field('kpa', 'Crankcase, gauge', units.pressure)}
      {(way === 'meter' || way === 'flow') && field('flow', 'Flow', units.flow)}
      {way === 'velocity' && field('velocity', 'Velocity', metric ? 'm/s' : 'ft/s')}
      <p className="col-span-2 text-xs text-soft">
        {Number.isFinite(expected) &&
          `This plan should ${way === 'crankcase' ? 'read' : 'have'} about ${readingText(teller(units), QUANTITY[way], expected)} there. `}
        {HOW[way]}
        {way !== 'crankcase' && ' Hot engine, moving belts: fix instruments first, keep hands clear.'}
      </p>
    </>
  )
}
