'use client'
/** The working of a figure in a few lines of print: what it is made of, and the check that a hand can make on paper. */
import type { FigureRef } from '@/plan/explain/figures'
import { exactQuantity, shownQuantity } from '@/plan/explain/print'
import { workingOf } from '@/plan/explain/workings'
import { shownBuild, useUnits, useWorkspace } from '../store'

export function PrintedWorking({ of }: { of: FigureRef }) {
  const build = useWorkspace(shownBuild)
  const analysis = useWorkspace((s) => s.analysis)
  const evaluator = useWorkspace((s) => s.evaluator)
  const units = useUnits()
  const working = workingOf(build, analysis, of, evaluator)
  if (!working) return null
  return (
    <p className="text-xs text-soft">
      {working.lines
        .map((l) => `${l.name} ${l.symbol} = ${shownQuantity(l.value, units) ?? exactQuantity(l.value)}`)
        .join('; ')}
      . {working.checks.map((c) => `By hand: ${c.says}, ${c.left} = ${c.right}.`).join(' ')}
    </p>
  )
}
