'use client'
/** A field of the document: typed with any unit, checked against its field's limits in the unit in use, applied as it is typed. */
import { useId, useState } from 'react'
import { unitLabel } from '@/core/units/units'
import type { Field } from '@/plan/document/fields'
import type { Path } from '@/plan/edit/edit'
import { fieldText, fieldUnit, readField } from '@/plan/edit/typed'
import { labelIn } from '@/plan/document/words'
import { isLearned } from '@/plan/model/learned'
import { useUnits, useWorkspace } from '../store'
import { useAssumed } from './assumed'

type Props = {
  readonly field: Field
  /** where the table's label would not say whose it is */
  readonly label?: string
  readonly value: number | undefined
  /** stands in when nothing is entered: an estimate, and the field may be emptied */
  readonly estimate?: number
  /** where it stands in the document, so that a figure that readings put there is shown unlike one that was entered */
  readonly at?: Path
  readonly onChange: (value: number | undefined) => void
  readonly hideLabel?: boolean
  /** the unit stands at the head of the column */
  readonly hideUnit?: boolean
  readonly list?: string
  readonly className?: string
}

export function NumberField({
  field,
  label = field.label,
  value,
  estimate,
  at,
  onChange,
  hideLabel,
  hideUnit,
  list,
  className = '',
}: Props) {
  const units = useUnits()
  // what its school or class gave it, and readings have not: an estimate like one that stands in
  const unsaid = useAssumed(value === undefined ? undefined : at)
  const learned = useWorkspace((s) => at !== undefined && value !== undefined && isLearned(s.build, at))
  const outsidePa = useWorkspace((s) => s.analysis.engine.amb.pressurePa)
  const id = useId()
  const [typed, setTyped] = useState<string | undefined>(undefined)
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const unit = unitLabel(fieldUnit(field, units))
  const show = (v: number) => fieldText(field, units, v)
  const optional = estimate !== undefined
  const assumed = unsaid && !learned && typed === undefined

  function change(text: string): void {
    setTyped(text)
    if (text.trim() === '' && optional) {
      setProblem(undefined)
      onChange(undefined)
      return
    }
    const read = readField(field, units, text, outsidePa)
    setProblem(read.ok ? undefined : read.reason)
    if (read.ok) onChange(read.value)
  }

  return (
    <div className={className}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'block text-xs text-soft'}>
        {labelIn(label, units)}
      </label>
      <div className="relative">
        <input
          id={id}
          className={`field ${assumed ? 'text-soft italic' : ''}`}
          style={{
            ...(hideUnit ? {} : { paddingRight: `${0.6 + 0.52 * unit.length}em` }),
            ...(assumed ? { paddingLeft: '1.4em' } : {}),
          }}
          title={assumed ? 'An estimate: nobody has entered it' : undefined}
          inputMode="decimal"
          autoComplete="off"
          spellCheck={false}
          list={list}
          value={typed ?? (value === undefined ? '' : show(value))}
          placeholder={optional ? `◇ ${show(estimate)}` : undefined}
          aria-invalid={problem !== undefined}
          aria-describedby={problem ? `${id}-problem` : undefined}
          onChange={(e) => change(e.target.value)}
          onBlur={() => {
            if (!problem) setTyped(undefined)
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') {
              if (!problem) setTyped(undefined)
              e.currentTarget.blur()
            }
            if (e.key === 'Escape') {
              setTyped(undefined)
              setProblem(undefined)
            }
          }}
        />
        {assumed && (
          <span className="pointer-events-none absolute left-1 top-1/2 -translate-y-1/2 text-soft" aria-hidden>
            ◇
          </span>
        )}
        {!hideUnit && (
          <span className="pointer-events-none absolute right-1 top-1/2 -translate-y-1/2 text-xs text-soft" aria-hidden>
            {unit}
          </span>
        )}
      </div>
      {learned && !problem && (
        <p className="mt-0.5 text-xs text-blue">
          ◈<span className={hideLabel ? 'sr-only' : ''}> from your readings</span>
        </p>
      )}
      {!problem && field.hose && typed !== undefined && /[/"a-z]|^\s*-/i.test(typed) && value !== undefined && (
        <p className="mt-0.5 text-xs text-soft" role="status">
          taken as {show(value)} {unit}
        </p>
      )}
      {problem && (
        <p id={`${id}-problem`} role="alert" className="mt-0.5 text-xs font-bold text-stop">
          {problem}
          {typed !== undefined && value !== undefined ? ` Still ${show(value)}.` : ''}
        </p>
      )}
    </div>
  )
}
