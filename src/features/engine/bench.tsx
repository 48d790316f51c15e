'use client'
/** Who builds it: what there is to do it with, and what will not be done. Plans are weighed by it. */
import { MEANS_NAMES, type Means } from '@/plan/catalogue/effort'
import { MEANS } from '@/plan/document/bounds'
import type { Build } from '@/plan/document/schema'
import { Select } from '@/ui/select'

type Bench = NonNullable<Build['bench']>
const CHOICES = [
  { value: 'unsaid', name: 'not said', about: 'a point for finding it' },
  { value: 'has', name: 'I can' },
  { value: 'refuses', name: 'I will not' },
] as const
type Choice = (typeof CHOICES)[number]['value']

const choiceOf = ({ has = [], refuses = [] }: Bench, m: Means): Choice =>
  has.includes(m) ? 'has' : refuses.includes(m) ? 'refuses' : 'unsaid'

/** A bench with one of its means chosen; one that says nothing is none. */
export function benchWith(bench: Bench | undefined, m: Means, choice: Choice): Bench | undefined {
  const keep = (list: readonly Means[] | undefined, on: boolean) => {
    const rest = (list ?? []).filter((x) => x !== m)
    const next = on ? [...rest, m] : rest
    return next.length > 0 ? next : undefined
  }
  const next = { has: keep(bench?.has, choice === 'has'), refuses: keep(bench?.refuses, choice === 'refuses') }
  return next.has || next.refuses ? next : undefined
}

export function BenchFields({
  bench,
  onChange,
}: {
  bench: Bench | undefined
  onChange: (to: Bench | undefined) => void
}) {
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2">
      {MEANS.map((m) => (
        <div key={m}>
          <span className="block text-xs text-soft" aria-hidden>
            {MEANS_NAMES[m].name}
          </span>
          <Select
            label={MEANS_NAMES[m].name}
            value={choiceOf(bench ?? {}, m)}
            options={CHOICES}
            onChange={(v) => onChange(benchWith(bench, m, v))}
          />
        </div>
      ))}
    </div>
  )
}
