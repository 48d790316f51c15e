'use client'
/** What was read, where and how much: the crankcase first, since that tells most. */
import { Fragment } from 'react'
import type { Field } from '@/plan/document/fields'
import { QUANTITIES, READING_WAYS, type ReadingWay } from '@/plan/document/log-fields'
import type { Variant } from '@/plan/document/schema'
import { STATE_NAMES, unitFormatter } from '@/plan/document/words'
import { placesOf, type ReadingDraft, type TypedKey } from '@/plan/service/entry-draft'
import { readingText, shownIn } from '@/plan/service/readings'
import { useUnits, useWorkspace } from '../workspace/store'
import { Choice } from './choice'

type WayFacts = {
  readonly of: (typeof READING_WAYS)[ReadingWay]['of']
  readonly figures: Readonly<Partial<Record<TypedKey, Field>>>
  readonly how?: string
}
const WAYS = Object.keys(READING_WAYS) as readonly ReadingWay[]
/** Whether a plan has a place to read it at. */
const canBeRead = (variant: Variant, way: ReadingWay): boolean =>
  QUANTITIES[READING_WAYS[way].of].at === undefined || placesOf(variant, way).length > 0

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
  field: (key: TypedKey, of: Field, placeholder?: string) => React.ReactNode
  problem: string | undefined
}) {
  const units = useUnits()
  const states = useWorkspace((s) => s.analysis.states)
  const { state, way, at, side } = draft
  const places = placesOf(variant, way)
  const { of: quantity, figures, how }: WayFacts = READING_WAYS[way]
  const shown = states.find((s) => s.id === state)
  const expected = shown?.solved ? shownIn(shown, { quantity, at }) : Number.NaN
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
        options={WAYS.filter((w) => canBeRead(variant, w)).map((value) => ({
          value,
          name: READING_WAYS[value].name,
        }))}
        onChange={(to) => onChange({ way: to, at: undefined })}
      />
      {places.length > 0 && (
        <Choice
          id={`${id}-at`}
          label="Where"
          value={at ?? ''}
          options={[{ value: '', name: 'choose' }, ...places.map((p) => ({ value: p.id, name: p.name }))]}
          onChange={(to) => onChange({ at: to === '' ? undefined : to })}
          problem={problem}
        />
      )}
      {way === 'crankcase' ? (
        <div className="flex items-end gap-2">
          <div className="flex-1">{field('kpa', READING_WAYS.crankcase.figures.kpa, '0.5')}</div>
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
      ) : (
        (Object.keys(figures) as (keyof typeof figures)[]).map((key) => (
          <Fragment key={key}>{field(key, figures[key]!)}</Fragment>
        ))
      )}
      <p className="col-span-2 text-xs text-soft">
        {Number.isFinite(expected) &&
          `This plan should ${way === 'crankcase' ? 'read' : 'have'} about ${readingText(unitFormatter(units), quantity, expected)} there. `}
        {how}
        {way !== 'crankcase' && ' Hot engine, moving belts: fix instruments first, keep hands clear.'}
      </p>
    </>
  )
}
