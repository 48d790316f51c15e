'use client'
import { lowered } from '@/plan/document/words'
import { useWorkspace } from '../store'

/** Over every station while a failure is tried. */
export function WhatIfBanner() {
  const name = useWorkspace((s) => s.whatIf?.name)
  const tryFault = useWorkspace((s) => s.tryFault)
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-x-4 border-b-[1.5px] border-ink px-4 py-1"
      style={{
        background: 'repeating-linear-gradient(135deg, var(--pressure-wash) 0 14px, var(--sheet) 14px 28px)',
      }}
    >
      <strong>What if: {name === undefined ? 'something fails' : lowered(name)}.</strong>
      <span>This is not your plan; nothing of it is saved.</span>
      <button type="button" className="link-button ml-auto" onClick={() => tryFault(undefined)}>
        Back to the plan
      </button>
    </div>
  )
}
