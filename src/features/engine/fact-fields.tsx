'use client'
/** Fields of the engine's facts: a number, a choice; the line under the name follows what is set. */
import { ENGINE_FIELDS } from '@/plan/document/fields'
import type { Engine } from '@/plan/document/schema'
import { setField, type EditBuilder } from '@/plan/edit/edit-builders'
import { describeEngine } from '@/plan/schools/new-build'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { useWorkspace } from '../workspace/store'

export function useSetFact(): (key: keyof Engine, value: unknown) => void {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const { engine, about } = build
  return (key, value) => {
    const builders: EditBuilder[] = [setField(['engine', key], value)]
    // a charger needs a boost, and the line under the name follows the facts
    if (key === 'induction') builders.push(setField(['engine', 'boostKpa'], value === 'na' ? 0 : engine.boostKpa || 80))
    if (about === describeEngine(engine))
      builders.push(setField(['about'], describeEngine({ ...engine, [key]: value } as Engine)))
    act(builders, undefined, `engine ${key}`)
  }
}

export function Fact({ of, estimate }: { of: keyof typeof ENGINE_FIELDS; estimate?: number }) {
  const value = useWorkspace((s) => s.build.engine[of])
  const set = useSetFact()
  return (
    <NumberField
      field={ENGINE_FIELDS[of]}
      value={value}
      estimate={estimate}
      at={['engine', of]}
      onChange={(v) => {
        if (v !== undefined || estimate !== undefined) set(of, v)
      }}
    />
  )
}

export type FactOption<T extends string> = { readonly value: T; readonly name: string; readonly about?: string }

export function FactChoice<T extends string>({
  of,
  label,
  options,
  standIn,
}: {
  of: keyof Engine
  label: string
  options: readonly FactOption<T>[]
  standIn?: T
}) {
  const value = useWorkspace((s) => s.build.engine[of] ?? standIn) as T
  const set = useSetFact()
  return (
    <div>
      <span className="block text-xs text-soft" aria-hidden>
        {label}
      </span>
      <Select label={label} value={value} options={options} onChange={(v) => set(of, v)} />
    </div>
  )
}
