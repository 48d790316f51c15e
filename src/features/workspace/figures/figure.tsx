'use client'
/** A computed figure that opens its working. */
import { dimensionOf, readFigure, type FigureRef } from '@/plan/explain/figures'
import { QuantityText } from '@/ui/quantity'
import { NO_FIGURE } from '@/core/units/format'
import { shownBuild, useUnits, useWorkspace } from '../store'
import { OPENS, WorkingButton } from './working-popover'

export function Figure({
  of,
  digits = 3,
  sign,
  absolute,
  bare,
  className = '',
}: {
  of: FigureRef
  digits?: number
  sign?: boolean
  absolute?: boolean
  /** the unit stands at the head of the column */ bare?: boolean
  className?: string
}) {
  const build = useWorkspace(shownBuild)
  const analysis = useWorkspace((s) => s.analysis)
  const evaluator = useWorkspace((s) => s.evaluator)
  const units = useUnits()
  const raw = readFigure(build, analysis, of, evaluator)
  if (raw === undefined || !Number.isFinite(raw))
    return <span className={className}>{raw === Infinity ? 'never' : NO_FIGURE}</span>
  return (
    <WorkingButton of={of} digits={digits} absolute={absolute} className={`${OPENS} ${className}`}>
      <QuantityText
        q={{ si: absolute ? Math.abs(raw) : raw, dimension: dimensionOf(of) }}
        units={units}
        digits={digits}
        sign={sign}
        bare={bare}
      />
      <span className="sr-only">, show the working</span>
    </WorkingButton>
  )
}
