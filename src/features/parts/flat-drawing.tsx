'use client'
/** A drawing as it will be cut, fitted to the page, and as files at 1:1. */
import { boundsOf, type Drawing } from '@/plan/drawing/drawing'
import { svgOf } from '@/plan/drawing/svg'
import { download } from '@/ui/download'

export function FlatDrawing({ drawing }: { drawing: Drawing }) {
  const shown = { ...drawing, marks: drawing.marks.filter((m) => m.layer !== 'check') }
  const b = boundsOf(shown)
  if (!b) return null
  const [w, h] = [b.x1 - b.x0 + 8, b.y1 - b.y0 + 8]
  const x = (v: number) => v - b.x0 + 4
  const y = (v: number) => b.y1 - v + 4
  return (
    <>
      <svg
        viewBox={`0 0 ${w} ${h}`}
        className="mt-1 max-h-72 w-full max-w-2xl"
        role="img"
        aria-label={`${drawing.title}, flat`}
      >
        {shown.marks.map((m, i) => {
          const key = `${m.kind} ${i}`
          if (m.kind === 'circle')
            return (
              <circle
                key={key}
                cx={x(m.at[0])}
                cy={y(m.at[1])}
                r={m.r}
                fill="none"
                stroke="var(--ink)"
                strokeWidth="0.6"
              />
            )
          if (m.kind === 'text')
            return (
              <text key={key} x={x(m.at[0])} y={y(m.at[1])} fontSize={m.size * 1.3} fill="var(--soft)">
                {m.text}
              </text>
            )
          return (
            <path
              key={key}
              d={`M${m.points.map((p) => `${x(p[0])} ${y(p[1])}`).join('L')}${m.closed ? 'Z' : ''}`}
              fill={m.closed ? 'var(--sheet)' : 'none'}
              stroke={m.layer === 'bend' ? 'var(--blue)' : 'var(--ink)'}
              strokeWidth="0.7"
              strokeDasharray={m.layer === 'bend' ? '5 2 1 2' : undefined}
            />
          )
        })}
      </svg>
      <p className="no-print flex flex-wrap gap-x-4">
        <button
          type="button"
          className="link-button"
          onClick={() => download(`${drawing.title}.svg`, svgOf(drawing), 'image/svg+xml')}
        >
          1:1 as SVG
        </button>
        <button
          type="button"
          className="link-button"
          onClick={() =>
            void import('@/plan/drawing/dxf').then(({ dxfOf }) =>
              download(`${drawing.title}.dxf`, dxfOf(drawing), 'image/vnd.dxf'),
            )
          }
        >
          1:1 as DXF
        </button>
        <span className="text-xs text-soft">a 50 mm square in both to check the print by</span>
      </p>
    </>
  )
}
