'use client'
/** Rows are faults, columns what was read: boxes are what each would show of this build, the line is what was read. */
import { fromSi, unitLabel } from '@/core/units/units'
import { letterOf } from '@/plan/document/words'
import type { FaultReport, FaultRow, ReadColumn } from '@/plan/finder/find-faults'
import { toScale } from '@/plan/finder/observables'
import { usePhoneWidth } from '@/ui/media'
import { textWidth } from '@/ui/text-width'
import { useUnits } from '../workspace/store'

const [HEAD, LEAST_COLUMN, EDGE] = [52, 116, 12]
const BAR = 120

/** Where the boxes of a row stand beside its name. */
type PictureLayout = {
  /** at the least, pixels */
  readonly width: number
  /** where the first column begins */
  readonly boxesFrom: number
  readonly row: number
  /** middle of the boxes, from the top of their row */
  readonly boxesAt: number
  /** from where in its row the line of what was read may be drawn: not through its name */
  readonly lineFrom: number
}
const BENCH: PictureLayout = { width: 640, boxesFrom: 230, row: 54, boxesAt: 27, lineFrom: 0 }
/** A phone is too narrow for both side by side: the boxes stand below the name. */
const PHONE: PictureLayout = { width: 358, boxesFrom: 0, row: 80, boxesAt: 60, lineFrom: 44 }

/** Shortens a name to what fits. */
function fitted(text: string, size: number, most: number): string {
  if (textWidth(text, size) <= most) return text
  let end = text.length
  while (end > 4 && textWidth(`${text.slice(0, end)}…`, size) > most) end--
  return `${text.slice(0, end).trimEnd()}…`
}

export const perHundredText = (share: number): string =>
  share < 0.005 ? 'under 1 in 100' : `${Math.round(100 * share)} in 100`

type AlikeFaults = { readonly letter: string; readonly rows: readonly FaultRow[]; readonly share: number }
/** Sets of faults that no reading tells apart, of which two or more are shown, the likeliest together first. */
const alikeFaults = ({ sets, rows }: FaultReport): readonly AlikeFaults[] =>
  sets
    .map((set) => rows.filter((r) => set.includes(r.id)))
    .filter((shown) => shown.length > 1)
    .map((shown) => ({ rows: shown, share: shown.reduce((sum, r) => sum + r.share, 0) }))
    .toSorted((a, b) => b.share - a.share)
    .map((alike, k) => ({ ...alike, letter: letterOf(k) }))

/** What the letters in the picture mean. */
function AlikeLegend({ alike }: { alike: readonly AlikeFaults[] }) {
  if (alike.length === 0) return null
  return (
    <div className="py-2 text-soft">
      <p>No reading of a running engine tells faults of one letter apart; only looking does.</p>
      <ul className="flex flex-wrap gap-x-5">
        {alike.map(({ letter, rows, share }) => (
          <li key={letter}>
            <strong className="text-ink">{letter}</strong>: {rows.length} faults, {perHundredText(share)} together
          </li>
        ))}
      </ul>
    </div>
  )
}

export function EvidencePicture({
  report,
  chosen,
  onChoose,
}: {
  report: FaultReport
  chosen: string | undefined
  onChoose: (id: string) => void
}) {
  const units = useUnits()
  const { columns, rows } = report
  const layout = usePhoneWidth() ? PHONE : BENCH
  const { boxesFrom, row: rowHeight } = layout
  const width = Math.max(layout.width, boxesFrom + columns.length * LEAST_COLUMN)
  const wide = columns.length > 0 ? (width - boxesFrom) / columns.length : 0
  const height = HEAD + rows.length * rowHeight
  const alike = alikeFaults(report)
  /** where a figure stands in its column: all boxes and what was read have room in it */
  const scales = columns.map((c, k) => {
    const at = (v: number) => toScale(c.observable, v)
    const all = rows.flatMap((r) => {
      const range = r.boxes[k]?.range
      return range ? [at(range.low), at(range.high)] : []
    })
    const [low, high] = [Math.min(at(c.value), ...all), Math.max(at(c.value), ...all)]
    const room = Math.max(high - low, 0.05)
    return (v: number) =>
      boxesFrom + k * wide + EDGE + ((at(v) - low + 0.04 * room) / (1.08 * room)) * (wide - 2 * EDGE)
  })
  const text = (c: ReadColumn) =>
    c.observable.kind === 'crankcase'
      ? `${c.value > 0 ? '+' : '−'}${Math.abs(fromSi('pressure', c.value, units.pressure)).toPrecision(2)} ${unitLabel(units.pressure)}`
      : c.says.replace(' times the usual catch', ' × usual')
  return (
    <>
      <div className="overflow-x-auto">
        <svg
          viewBox={`0 0 ${width} ${height}`}
          style={{ minWidth: Math.min(width, 640) }}
          className="w-full"
          role="group"
          aria-label="What was read, against what each fault would show"
        >
          {columns.map((c, k) => (
            <g key={c.key}>
              <text x={boxesFrom + k * wide + EDGE} y="16" fontSize="12.5" fontWeight="700" fill="var(--ink)">
                {fitted(c.name, 12.5, wide - 14)}
              </text>
              <text x={boxesFrom + k * wide + EDGE} y="33" fontSize="11.5" fill="var(--soft)">
                {text(c)}
              </text>
            </g>
          ))}
          {rows.map((r, i) => (
            <Row
              key={r.id}
              row={r}
              letter={alike.find((a) => a.rows.includes(r))?.letter}
              y={HEAD + i * rowHeight}
              width={width}
              layout={layout}
              columns={columns}
              scales={scales}
              chosen={r.id === chosen}
              leads={i === 0}
              onChoose={() => onChoose(r.id)}
            />
          ))}
          {columns.map((c, k) => {
            const x = scales[k]!(c.value)
            return (
              <g key={c.key} pointerEvents="none">
                <path
                  d={`M${x} ${HEAD - 6}V${HEAD}${rows.map((_, i) => `M${x} ${HEAD + i * rowHeight + layout.lineFrom}V${HEAD + (i + 1) * rowHeight}`).join('')}`}
                  stroke="var(--blue)"
                  strokeWidth="2"
                />
                <path d={`M${x - 6} ${HEAD - 14}h12l-6 9z`} fill="var(--blue)" />
              </g>
            )
          })}
        </svg>
      </div>
      <AlikeLegend alike={alike} />
    </>
  )
}

function Row({
  row,
  letter,
  y,
  width,
  layout: { boxesFrom, row: rowHeight, boxesAt },
  columns,
  scales,
  chosen,
  leads,
  onChoose,
}: {
  row: FaultRow
  /** of the faults that no reading tells it from */
  letter: string | undefined
  y: number
  width: number
  layout: PictureLayout
  columns: readonly ReadColumn[]
  scales: readonly ((v: number) => number)[]
  chosen: boolean
  leads: boolean
  onChoose: () => void
}) {
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${row.name}: ${perHundredText(row.share)}${letter ? `, ${letter}` : ''}`}
      className="cursor-pointer"
      onClick={onChoose}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return
        e.preventDefault()
        onChoose()
      }}
    >
      <rect x="0" y={y} width={width} height={rowHeight} fill={chosen ? 'var(--blue-wash)' : 'transparent'} />
      <path d={`M0 ${y + rowHeight}H${width}`} stroke="var(--rule)" />
      <text x="6" y={y + 21} fontSize="12.5" fontWeight={leads || chosen ? 700 : 400} fill="var(--ink)">
        <title>{row.name}</title>
        {fitted(row.name, 12.8, (boxesFrom || width) - 10)}
      </text>
      <rect x="6" y={y + 31} width={Math.max(2, BAR * row.share)} height="8" fill="var(--ink)" />
      <text x={12 + Math.max(2, BAR * row.share)} y={y + 39} fontSize="11" fill="var(--soft)">
        {perHundredText(row.share)}
        {letter && (
          <tspan fontWeight="700" fill="var(--ink)">
            {' '}
            · {letter}
          </tspan>
        )}
      </text>
      {columns.map((c, k) => {
        const box = row.boxes[k]
        if (!box?.range) return null
        const [a, b, read] = [scales[k]!(box.range.low), scales[k]!(box.range.high), scales[k]!(c.value)]
        const middle = y + boxesAt
        return (
          <g key={c.key}>
            {!box.inside && (
              <path
                d={`M${read < a ? read : b} ${middle}H${read < a ? a : read}`}
                stroke="var(--pressure)"
                strokeDasharray="1.5 3"
                strokeWidth="1.6"
              />
            )}
            <rect
              x={a}
              y={middle - 10}
              width={Math.max(4, b - a)}
              height="20"
              rx="3"
              fill={box.inside ? 'var(--vacuum-wash)' : 'var(--pressure-wash)'}
              stroke={box.inside ? 'var(--vacuum)' : 'var(--pressure)'}
              strokeWidth="1.3"
              strokeDasharray={box.inside ? undefined : '4 3'}
            />
          </g>
        )
      })}
    </g>
  )
}
