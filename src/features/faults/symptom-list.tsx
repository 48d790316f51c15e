'use client'
/** What is noticed, ticked in plain words: seen, looked for and not seen, or left open. */
import type { FaultReport } from '@/plan/finder/find-faults'
import type { FaultCase } from '@/plan/document/schema'

export function SymptomList({
  symptoms,
  ticked,
  onTick,
}: {
  symptoms: FaultReport['symptoms']
  ticked: FaultCase['symptoms']
  onTick: (id: string, seen: boolean | undefined) => void
}) {
  return (
    <ul>
      {symptoms.map(({ id, name }) => {
        const seen = ticked.find((t) => t.id === id)?.seen
        return (
          <li key={id} className="border-b border-rule py-1">
            <span className={seen ? 'font-bold' : seen === false ? 'text-soft line-through' : ''}>{name}</span>
            <span role="group" aria-label={name} className="flex gap-4">
              {([true, false] as const).map((value) => (
                <button
                  key={String(value)}
                  type="button"
                  aria-pressed={seen === value}
                  className={`min-h-9 border-b-2 ${seen === value ? 'border-blue font-bold text-blue' : 'border-transparent text-soft'}`}
                  onClick={() => onTick(id, seen === value ? undefined : value)}
                >
                  {value ? 'seen' : 'not seen'}
                </button>
              ))}
            </span>
          </li>
        )
      })}
    </ul>
  )
}
