'use client'
/** A can in a picture of the bay, to be taken hold of or moved by the arrow keys. */
import { useRef } from 'react'
import { quantityText } from '@/core/units/format'
import { setSpot } from '@/plan/bay/bay-builders'
import type { Side } from '@/plan/bay/drawing'
import { spotIn } from '@/plan/catalogue/bay-geometry'
import type { Bay, PartOf } from '@/plan/document/schema'
import { useUnits, useWorkspace } from '../workspace/store'
import { canBox, type Frame } from './view'

export function CanMark({ can, side, frame, bay }: { can: PartOf<'can'>; side: Side; frame: Frame; bay: Bay }) {
  const act = useWorkspace((s) => s.act)
  const select = useWorkspace((s) => s.select)
  const chosen = useWorkspace((s) => s.selected?.id === can.id)
  const units = useUnits()
  const drag = useRef<{ readonly px: number; readonly py: number; readonly k: number } | undefined>(undefined)
  const box = canBox(frame, side, bay, can)
  const spot = spotIn(bay, can.id)
  if (!box || !spot) return null
  const move = (across: number, other: number) =>
    act(
      setSpot(can.id, {
        forwardMm: Math.round(spot.forwardMm + (side === 'front' ? 0 : across)),
        leftMm: Math.round(spot.leftMm + (side === 'front' ? across : side === 'above' ? other : 0)),
        upMm: Math.round(spot.upMm + (side === 'above' ? 0 : other)),
      }),
      `${can.name} moved`,
      `place ${can.id}`,
    )
  const [x, y, width, height] = box
  const text = (mm: number) => quantityText(mm / 1000, 'length', units, 3)
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${can.name}: ${text(spot.forwardMm)} ahead, ${text(spot.leftMm)} left, ${text(spot.upMm)} up. Arrow keys move it.`}
      className="cursor-grab outline-none focus-visible:[&>*]:stroke-[4px]"
      onFocus={() => select({ kind: 'part', id: can.id })}
      onKeyDown={(e) => {
        const step = e.shiftKey ? 10 : 1
        const by = { ArrowRight: [step, 0], ArrowLeft: [-step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[e.key]
        if (!by) return
        e.preventDefault()
        move(by[0]!, by[1]!)
      }}
      onPointerDown={(e) => {
        const svg = e.currentTarget.ownerSVGElement!
        drag.current = {
          px: e.clientX,
          py: e.clientY,
          k: svg.viewBox.baseVal.width / svg.getBoundingClientRect().width / frame.scale,
        }
        e.currentTarget.setPointerCapture(e.pointerId)
      }}
      onPointerMove={(e) => {
        const d = drag.current
        if (!d) return
        const mm = (px: number) => Math.round(px * d.k * 1000)
        const [across, other] = [mm(e.clientX - d.px), mm(d.py - e.clientY)]
        if (across === 0 && other === 0) return
        drag.current = { ...d, px: e.clientX, py: e.clientY }
        move(across, other)
      }}
      onPointerUp={() => {
        drag.current = undefined
      }}
    >
      {side !== 'above' ? (
        <>
          <rect
            x={x}
            y={y}
            width={width}
            height={height}
            rx="3"
            fill="var(--sheet)"
            stroke={chosen ? 'var(--blue)' : 'var(--ink)'}
            strokeWidth="2.5"
          />
          <path d={`M${x} ${y + height * 0.2}h${width}`} stroke="var(--ink)" />
        </>
      ) : (
        <circle
          cx={x + width / 2}
          cy={y + height / 2}
          r={width / 2}
          fill="var(--sheet)"
          stroke={chosen ? 'var(--blue)' : 'var(--ink)'}
          strokeWidth="2.5"
        />
      )}
    </g>
  )
}
