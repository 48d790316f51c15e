/** Figures with their unit, as the build shows them. */
import { formatNumber, formatQuantity } from '@/core/units/format'
import type { UnitChoice } from '@/core/units/units'
import type { FigureQuantity } from '@/plan/explain/figures'

export function quantityParts(q: FigureQuantity, units: UnitChoice, digits = 3): { text: string; unit: string } {
  return q.dimension === 'number'
    ? { text: formatNumber(q.si, digits), unit: '' }
    : formatQuantity(q.si, q.dimension, units, digits)
}

export function QuantityText({
  q,
  units,
  digits,
  sign,
  bare,
}: {
  q: FigureQuantity
  units: UnitChoice
  digits?: number
  sign?: boolean
  bare?: boolean
}) {
  const { text, unit } = quantityParts(q, units, digits)
  const plus = sign && q.si > 0 && /[1-9]/.test(text) ? '+' : ''
  return (
    <span className="whitespace-nowrap">
      {plus}
      {text}
      {unit && <span className={bare ? 'sr-only' : 'text-[0.8em] font-normal text-soft'}>{`\u00a0${unit}`}</span>}
    </span>
  )
}
