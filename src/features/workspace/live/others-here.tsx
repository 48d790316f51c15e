'use client'
/** Who else is at this build, and where: beside its name, in one line. */
import { Smartphone } from 'lucide-react'
import { useWorkspace } from '../store'

export function OthersHere() {
  const others = useWorkspace((s) => s.others)
  if (others.length === 0) return null
  return (
    <p
      role="status"
      className="min-w-0 truncate text-xs text-soft"
      title={others.map((p) => `${p.name}: ${p.says}`).join('; ')}
    >
      <Smartphone size={13} aria-hidden className="mr-1 inline" />
      {others.map((p, i) => (
        <span key={p.window}>
          {i > 0 && '; '}
          <strong className="text-ink">{p.name}</strong>: {p.says}
        </span>
      ))}
    </p>
  )
}
