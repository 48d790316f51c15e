'use client'
/** Something in a picture of the bay that is taken hold of, or moved by the arrow keys. */
import { useRef, type ReactNode } from 'react'
import type { Side } from '@/plan/bay/drawing'
import type { Frame } from './view'

export type Move = { readonly forwardMm: number; readonly leftMm: number; readonly upMm: number }

/** Where something stands once it is moved, whole mm. */
export const movedBy = (from: Move, by: Move): Move => ({
  forwardMm: Math.round(from.forwardMm + by.forwardMm),
  leftMm: Math.round(from.leftMm + by.leftMm),
  upMm: Math.round(from.upMm + by.upMm),
})

/** A movement in the picture, mm across and up it, as one of the bay. */
const inBay = (side: Side, across: number, up: number): Move => ({
  forwardMm: side === 'front' ? 0 : across,
  leftMm: side === 'front' ? across : side === 'above' ? up : 0,
  upMm: side === 'above' ? 0 : up,
})

export function Movable({
  side,
  frame,
  label,
  onMove,
  onSelect,
  children,
}: {
  readonly side: Side
  readonly frame: Frame
  readonly label: string
  readonly onMove: (by: Move) => void
  readonly onSelect?: () => void
  readonly children: ReactNode
}) {
  const drag = useRef<{ readonly px: number; readonly py: number; readonly k: number } | undefined>(undefined)
  const move = (across: number, up: number) => onMove(inBay(side, across, up))
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${label} Arrow keys move it.`}
      className="cursor-grab outline-none focus-visible:[&>*]:stroke-[4px]"
      onFocus={onSelect}
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
        const [across, up] = [mm(e.clientX - d.px), mm(d.py - e.clientY)]
        if (across === 0 && up === 0) return
        drag.current = { ...d, px: e.clientX, py: e.clientY }
        move(across, up)
      }}
      onPointerUp={() => {
        drag.current = undefined
      }}
    >
      {children}
    </g>
  )
}
