'use client'
/** The chosen line or part in full: what can be done with it, its figures, and how it does in every state. */
import { X } from 'lucide-react'
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import type { Line, Part } from '@/plan/document/schema'
import { setLine, setPart } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { lowered } from '@/plan/document/words'

import { photoOf } from '../workspace/photos/photo-of'
import { useWorkspace } from '../workspace/store'
import { Actions } from './inspector/actions'
import { EveryState } from './inspector/every-state'
import { LineSheet } from './inspector/line-sheet'
import { PartSheet } from './inspector/part-sheet'

const PhotoStrip = dynamic(
  () => importWithRetry(() => import('../workspace/photos/photo-strip').then((m) => m.PhotoStrip)),
  { ssr: false },
)

export function Inspector() {
  const selected = useWorkspace((s) => s.selected)
  const select = useWorkspace((s) => s.select)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const line = selected?.kind === 'line' ? variant.lines.find((l) => l.id === selected.id) : undefined
  const part = selected?.kind === 'part' ? variant.parts.find((p) => p.id === selected.id) : undefined
  const chosen = line ?? part
  if (!chosen) return null
  return (
    <section
      aria-label={`${chosen.name}, in full`}
      className="print-flow min-h-0 overflow-y-auto border-l border-rule pl-4 pr-1"
    >
      <div className="flex items-center justify-between gap-2">
        <Name key={chosen.id} line={line} part={part} />
        <button type="button" className="button-quiet" aria-label="Close" onClick={() => select(undefined)}>
          <X size={16} aria-hidden />
        </button>
      </div>
      <Actions />
      <EveryState line={line} part={part} />
      {line ? <LineSheet line={line} /> : <PartSheet part={part!} />}
      <PhotoStrip
        key={chosen.id}
        of={(line ? photoOf.line : photoOf.part)(variant.id, chosen.id)}
        what={lowered(chosen.name)}
      />
    </section>
  )
}

function Name({ line, part }: { line: Line | undefined; part: Part | undefined }) {
  const act = useWorkspace((s) => s.act)
  const { id, name } = (line ?? part)!
  const set = (text: string) => {
    const next = text.trim()
    if (next !== '' && next !== name) act(line ? setLine(id, { name: next }) : setPart(id, { name: next }))
  }
  return (
    <input
      className="field font-bold"
      aria-label="Name"
      maxLength={80}
      defaultValue={name}
      onBlur={(e) => set(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur()
      }}
    />
  )
}
