'use client'
/** Who else is at this build, and where. */
import { Smartphone } from 'lucide-react'
import { useWorkspace } from '../store'

export function OthersHere() {
  const others = useWorkspace((s) => s.others)
  if (others.length === 0) return null
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-2 text-xs text-soft max-sm:order-2 max-sm:w-full">
      <Smartphone size={14} aria-hidden />
      {others.map((p) => (
        <span key={p.window}>
          <strong className="text-ink">{p.name}</strong>: {p.says}
        </span>
      ))}
    </p>
  )
}
