'use client'
/** A field of the document: typed with any unit, checked by the document's own schema in the unit in use, applied as it is typed. */
import { useId, useState } from 'react'
import { reach } from 'yup'
import { parseQuantity } from '@/core/units/parse'
import { fromSi, shownUnit, toSi, unitLabel, type Dimension } from '@/core/units/units'
import { buildSchema, partSchemas, type PartKind } from '@/plan/document/schema'
import { useUnits } from './store'

/** Unit that a document field is kept in, by the ending of its name. */
const KEPT = {
  Gs: ['gasFlow', 'g/s'],
  Mm: ['length', 'mm'],
  Kpa: ['pressure', 'kPa'],
  Cc: ['volume', 'cc'],
  Ml: ['volume', 'ml'],
  Km: ['distance', 'km'],
  M: ['altitude', 'm'],
  C: ['temperature', 'C'],
  lpm: ['gasFlow', 'l/min'],
  kpa: ['pressure', 'kPa'],
} as const satisfies Record<string, readonly [Dimension, string]>
export type KeptAs = keyof typeof KEPT

/** Smallest and largest that the schema allows at a path such as `engine.boreMm`, or of a kind of part as `can.bowlMl`. */
export function limitsOf(path: string): { min?: number; max?: number; whole?: boolean } {
  const [head, field] = path.split('.') as [string, string?]
  const ofPart = Object.hasOwn(partSchemas, head)
    ? (partSchemas[head as PartKind].fields as Record<string, unknown>)[field ?? '']
    : undefined
  const schema = (ofPart ?? reach(buildSchema, path)) as {
    describe: () => { tests?: { name?: string; params?: Record<string, unknown> }[] }
  }
  const tests = schema.describe().tests ?? []
  const find = (name: 'min' | 'max') => tests.find((t) => t.name === name)?.params?.[name] as number | undefined
  return { min: find('min'), max: find('max'), whole: tests.some((t) => t.name === 'integer') }
}

type Props = {
  readonly label: string
  readonly value: number | undefined
  /** where the schema says the limits: `engine.boreMm`, `log[0].ml`, or of a part `can.bowlMl` */
  readonly path?: string
  /** limits, where no one path says them */
  readonly limits?: { readonly min: number; readonly max: number }
  readonly kept?: KeptAs
  /** unit for a field kept as a plain number: rpm, %, ... */
  readonly unit?: string
  /** stands in when nothing is entered: an estimate, and the field may be emptied */
  readonly estimate?: number
  readonly onChange: (value: number | undefined) => void
  readonly hideLabel?: boolean
  /** the unit stands at the head of the column */
  readonly hideUnit?: boolean
  readonly digits?: number
  readonly list?: string
  readonly className?: string
}

export function NumberField({
  label,
  value,
  path,
  limits,
  kept,
  unit,
  estimate,
  onChange,
  hideLabel,
  hideUnit,
  digits = 4,
  list,
  className = '',
}: Props) {
  const units = useUnits()
  const id = useId()
  const [typed, setTyped] = useState<string | undefined>(undefined)
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const [dimension, keptUnit] = kept ? KEPT[kept] : [undefined, undefined]
  const shown =
    dimension === undefined
      ? (unit ?? '')
      : dimension === 'volume' && kept === 'Cc'
        ? units.system === 'metric'
          ? 'cc'
          : 'cu in'
        : shownUnit(dimension, units)
  // as it was typed, without padding: 5 stays 5
  const show = (v: number) =>
    String(Number((dimension ? fromSi(dimension, toSi(dimension, v, keptUnit!), shown) : v).toPrecision(digits)))
  const optional = estimate !== undefined

  function read(text: string): { value?: number; problem?: string } {
    if (text.trim() === '' && optional) return { value: undefined }
    let next: number
    if (dimension) {
      const parsed = parseQuantity(text, dimension, units, shown)
      if (!parsed.ok) return { problem: parsed.reason }
      next = Number(fromSi(dimension, parsed.value, keptUnit!).toPrecision(10))
    } else {
      const parsed = parseQuantity(text.replace(/\s*(rpm|%)\s*$/i, ''), 'share', units, '')
      if (!parsed.ok) return { problem: parsed.reason }
      next = parsed.value
    }
    const { min, max, whole }: { min?: number; max?: number; whole?: boolean } = limits ?? limitsOf(path ?? '')
    if (whole && !Number.isInteger(next)) return { problem: 'Must be a whole number.' }
    if (min !== undefined && next < min) return { problem: `At least ${show(min)} ${unitLabel(shown)}.` }
    if (max !== undefined && next > max) return { problem: `At most ${show(max)} ${unitLabel(shown)}.` }
    return { value: next }
  }

  function change(text: string): void {
    setTyped(text)
    const result = read(text)
    setProblem(result.problem)
    if (!result.problem) onChange(result.value)
  }

  return (
    <div className={className}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'block text-xs text-soft'}>
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          className="field"
          style={hideUnit ? undefined : { paddingRight: `${0.6 + 0.52 * unitLabel(shown).length}em` }}
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
        {!hideUnit && (
          <span className="pointer-events-none absolute right-1 top-1/2 -translate-y-1/2 text-xs text-soft" aria-hidden>
            {unitLabel(shown)}
          </span>
        )}
      </div>
      {problem && (
        <p id={`${id}-problem`} role="alert" className="mt-0.5 text-xs font-bold text-stop">
          {problem}
          {typed !== undefined && value !== undefined ? ` Still ${show(value)}.` : ''}
        </p>
      )}
    </div>
  )
}
