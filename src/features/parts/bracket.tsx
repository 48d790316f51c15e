'use client'
/** The bracket of a can: flat, to scale, with its bends, and whether it rings. */
import { useState } from 'react'
import { bracketDrawing, bracketFor, type BracketPlan } from '@/plan/fit/bracket'
import { ALLOYS } from '@/plan/catalogue/alloys'
import { boundsOf } from '@/plan/drawing/drawing'
import { svgOf } from '@/plan/drawing/svg'
import { activeVariant } from '@/plan/edit/edit'
import { lowered, teller } from '@/plan/explain/words'
import { download } from '@/ui/download'
import { Select } from '@/ui/select'
import { useUnits, useWorkspace } from '../workspace/store'

export function Bracket({ canId, name }: { canId: string; name: string }) {
  const build = useWorkspace((s) => s.build)
  const [alloy, setAlloy] = useState(ALLOYS[0]!.key)
  const say = teller(useUnits())
  const found = bracketFor(build, activeVariant(build), canId, alloy)
  return (
    <section aria-label={`Bracket of the ${lowered(name)}`}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 className="head">Bracket for the {lowered(name)}</h2>
        <Select
          label={`Sheet for the bracket of the ${lowered(name)}`}
          className="no-print !w-56"
          value={alloy}
          options={ALLOYS.map((a) => ({ value: a.key, name: a.name }))}
          onChange={setAlloy}
        />
      </div>
      {found.ok ? (
        <>
          <p className="mt-1 text-sm">{judged(found.value, say)}</p>
          <Flat plan={found.value} />
          <Files plan={found.value} />
        </>
      ) : (
        <p className="mt-1 text-soft">{found.reason}</p>
      )}
    </section>
  )
}

function judged(b: BracketPlan, say: ReturnType<typeof teller>): string {
  const [idle, rated] = b.engineHz.map((hz) => Math.round(hz))
  const order = `order ${b.order} of the engine, ${idle} to ${rated} Hz from idle to rated speed`
  const on = b.on.map(lowered).join(' and the ')
  const rings =
    b.rings === 'above'
      ? `It first rings at ${Math.round(b.ringsHz)} Hz, above ${order}.`
      : `It rings at ${Math.round(b.ringsHz)} Hz, within ${order}: a nearer mount, a flange along its edges, or rubber under it.`
  const bears = b.tooHeavy ? ` The ${on} bears less than that.` : ''
  const alone = b.bracket.supports === 2 && b.rings === 'above' ? ' One support alone would bounce.' : ''
  const sheet = `${say.mm(b.bracket.thicknessM * 1000)} ${b.alloy.name}`
  return `${sheet}, on the ${on}; ${b.massKg.toFixed(2)} kg with the can full.${bears} ${rings}${alone}`
}

/** The drawing as it will be cut, fitted to the page. */
function Flat({ plan }: { plan: BracketPlan }) {
  const { marks, title } = bracketDrawing(plan)
  const shown = { title, marks: marks.filter((m) => m.layer !== 'check') }
  const b = boundsOf(shown)
  if (!b) return null
  const [w, h] = [b.x1 - b.x0 + 8, b.y1 - b.y0 + 8]
  const x = (v: number) => v - b.x0 + 4
  const y = (v: number) => b.y1 - v + 4
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      className="mt-1 w-full max-w-2xl"
      role="img"
      aria-label={`${title}, flat: ${(plan.flatM * 1000).toFixed(1)} mm long`}
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
  )
}

function Files({ plan }: { plan: BracketPlan }) {
  const drawing = bracketDrawing(plan)
  return (
    <p className="no-print flex flex-wrap gap-x-4">
      <button
        type="button"
        className="deed"
        onClick={() => download(`${drawing.title}.svg`, svgOf(drawing), 'image/svg+xml')}
      >
        1:1 as SVG
      </button>
      <button
        type="button"
        className="deed"
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
  )
}
