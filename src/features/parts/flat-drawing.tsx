'use client'
/** A drawing as it will be cut, fitted to the page, and as files at 1:1. */
import { boundsOf, type Drawing } from '@/plan/drawing/drawing'
import { svgOf } from '@/plan/drawing/svg'
import { download } from '@/ui/download'
import { saveTemplate } from '../workspace/frame/save-files'

/** Pixels of a millimetre on a screen that says 96 to the inch; the widest drawing, and the height of its words, px. */
const [PX_PER_MM, WIDEST, TEXT_PX] = [96 / 25.4, 672, 12]

export function FlatDrawing({ drawing }: { drawing: Drawing }) {
  const shown = { ...drawing, marks: drawing.marks.filter((m) => m.layer !== 'check') }
  const b = boundsOf(shown)
  if (!b) return null
  const [w, h] = [b.x1 - b.x0 + 8, b.y1 - b.y0 + 8]
  // true size where the page has room for it; words are as large as those beside it
  const scale = Math.min(PX_PER_MM, WIDEST / w)
  const x = (v: number) => v - b.x0 + 4
  const y = (v: number) => b.y1 - v + 4
  return (
    <>
      <svg
        viewBox={`0 0 ${w} ${h}`}
        className="my-3 max-w-full overflow-visible"
        style={{ width: `${Math.min(w * PX_PER_MM, WIDEST)}px` }}
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
              <text key={key} x={x(m.at[0])} y={y(m.at[1])} fontSize={TEXT_PX / scale} fill="var(--soft)">
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
        {(['A4', 'Letter'] as const).map((paper) => (
          <button key={paper} type="button" className="link-button" onClick={() => void saveTemplate(drawing, paper)}>
            1:1 on {paper}
          </button>
        ))}
        <span className="text-xs text-soft">a 50 mm square to check the print by; pages join at crosses</span>
      </p>
    </>
  )
}
