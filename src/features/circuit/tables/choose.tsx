'use client'
import type { ReactNode } from 'react'
import { useWorkspace } from '../../workspace/store'

/** Chooses a line or part, and lets go of it again. */
export function ChooseButton({ kind, id, children }: { kind: 'line' | 'part'; id: string; children: ReactNode }) {
  const selected = useWorkspace((s) => s.selected?.id === id)
  const select = useWorkspace((s) => s.select)
  return (
    <button
      type="button"
      className="min-h-11 text-left text-sm font-bold"
      aria-pressed={selected}
      onClick={() => select(selected ? undefined : { kind, id })}
    >
      {children}
    </button>
  )
}
