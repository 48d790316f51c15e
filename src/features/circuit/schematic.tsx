'use client'
/** The circuit on its engine: which port feeds which, which way gas runs now, what is shut. */
import { OIL_POURED } from '@/core/gas/oil'
import { useMemo, useRef, useState } from 'react'
import { quantityText } from '@/core/units/format'
import type { Passage } from '@/plan/model/results'
import { setPart } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES } from '@/plan/document/words'
import { WorkingLabel } from '../workspace/figures/working-popover'
import { useShown, useUnits, useWorkspace } from '../workspace/store'
import { EnginePicture } from './engine-picture'
import { schematicLayout, roundedPath, VIEW, type PlacedPart, type Point2 } from './layout'
import { flowWidth, gasColour, isShut } from './look'
import { Leader, PartMark } from './part-mark'
import { RunningGas } from './running-gas'
import { flowText, labelsOf } from './schematic-labels'

const NOTHING: Readonly<Record<string, Passage>> = {}

export function Schematic() {
  const build = useWorkspace((s) => s.build)
  const selected = useWorkspace((s) => s.selected)
  const select = useWorkspace((s) => s.select)
  const units = useUnits()
  const shown = useShown()
  const variant = activeVariant(build)
  const layout = useMemo(() => schematicLayout(variant, build.engine), [variant, build.engine])
  const passages = shown.solved ? shown.passages : NOTHING
  const { flowLabels, labels } = useMemo(
    () => labelsOf(layout, build.engine, passages, units),
    [layout, build.engine, passages, units],
  )
  const act = useWorkspace((s) => s.act)
  const picture = useRef<SVGSVGElement>(null)
  const [pointed, setPointed] = useState<string | undefined>(undefined)
  const [dragged, setDragged] = useState<{ id: string; at: Point2 } | undefined>(undefined)
  /** A part follows the pointer alone, with nothing worked out; where it is let go it stays. */
  const grab = (down: React.PointerEvent, { part, at }: PlacedPart) => {
    const svg = picture.current
    const matrix = svg?.getScreenCTM()?.inverse()
    if (!svg || !matrix || down.button !== 0) return
    const place = (e: { clientX: number; clientY: number }): Point2 => {
      const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix)
      return [p.x, p.y]
    }
    const start = place(down)
    let now: Point2 | undefined
    const move = (e: PointerEvent) => {
      const to = place(e)
      if (!now && Math.hypot(to[0] - start[0], to[1] - start[1]) < 5) return
      now = [
        Math.round(Math.min(VIEW.width, Math.max(0, at[0] + to[0] - start[0]))),
        Math.round(Math.min(VIEW.height, Math.max(-600, at[1] + to[1] - start[1]))),
      ]
      setDragged({ id: part.id, at: now })
    }
    const up = () => {
      removeEventListener('pointermove', move)
      removeEventListener('pointerup', up)
      removeEventListener('pointercancel', up)
      if (now) act(setPart(part.id, { at: { x: now[0], y: now[1] } }), `${part.name} moved in the picture`)
      // the click that ends a drag is not a choice
      setTimeout(() => setDragged(undefined))
    }
    addEventListener('pointermove', move)
    addEventListener('pointerup', up)
    addEventListener('pointercancel', up)
  }
  const story = layout.runs
    .map((r) => {
      const p = passages[r.line.id]
      return `${r.line.name}: ${isShut(p) ? 'no flow' : `${flowText(p!.flow, units)} ${p!.flow > 0 ? 'onwards' : 'backwards'}`}`
    })
    .join('; ')

  const pointedLine = pointed === undefined ? undefined : variant.lines.find((l) => l.id === pointed)
  const passing = pointedLine && passages[pointedLine.id]
  const about =
    pointedLine &&
    passing &&
    `${pointedLine.name}: ${isShut(passing) ? 'nothing runs' : `${flowText(passing.flow, units)}, ${quantityText(passing.velocity, 'speed', units, 2)}, loses ${quantityText(Math.abs(passing.gaugeFrom - passing.gaugeTo), 'pressure', units, 2)}, ${quantityText((passing.oil.mist + passing.oil.splash) / OIL_POURED, 'liquidRate', units, 2)} oil`}`
  return (
    <figure className="flex min-h-0 flex-col">
      <figcaption className="flex items-baseline justify-between gap-2 px-1">
        <span className="head">The circuit</span>
        <span className="truncate text-xs text-soft">
          {about ?? `${STATE_NAMES[shown.id].toLowerCase()}, ${Math.round(shown.operating.rpm / 10) * 10} rpm`}
        </span>
      </figcaption>
      <svg
        ref={picture}
        viewBox={`0 ${layout.top} ${VIEW.width} ${VIEW.height - layout.top}`}
        className="min-h-0 w-full flex-1 touch-none"
        role="group"
        aria-label={`Schematic in ${STATE_NAMES[shown.id].toLowerCase()}. ${story}`}
      >
        <EnginePicture engine={build.engine} />
        {layout.joins.map((j) => (
          <path key={j.id} d={roundedPath(j.points)} fill="none" stroke="var(--ink)" strokeWidth="6" />
        ))}
        {layout.runs.map(({ line, points }) => {
          const p = passages[line.id]
          const d = roundedPath(points)
          const chosen = selected?.id === line.id
          const shut = isShut(p)
          if (line.kind === 'drain')
            return (
              <path
                key={line.id}
                d={d}
                fill="none"
                stroke="var(--oil-laden)"
                strokeWidth="3"
                strokeDasharray="2 5"
                strokeLinecap="round"
              >
                <title>{line.name}</title>
              </path>
            )
          return (
            <g
              key={line.id}
              className="cursor-pointer"
              onClick={() => select({ kind: 'line', id: line.id })}
              onPointerEnter={() => setPointed(line.id)}
              onPointerLeave={() => setPointed(undefined)}
            >
              <title>{line.name}</title>
              <path d={d} fill="none" stroke="transparent" strokeWidth="26" />
              <path
                d={d}
                fill="none"
                stroke={chosen ? 'var(--blue)' : 'var(--ink)'}
                strokeWidth={(shut ? 7 : flowWidth(p!.flow) + 2.5) + (chosen ? 4 : 0)}
                strokeLinecap="round"
              />
              <path
                d={d}
                fill="none"
                stroke={shut ? 'var(--sheet)' : gasColour(p!)}
                strokeWidth={shut ? 4 : flowWidth(p!.flow)}
                strokeLinecap="round"
              />
              {!shut && <RunningGas d={d} passage={p!} />}
            </g>
          )
        })}
        {flowLabels.map((l) => {
          const spot = labels.get(l.id)
          if (!spot) return null
          return (
            <WorkingLabel
              key={l.id}
              of={{ kind: 'flow', id: l.line, state: shown.id }}
              absolute
              label={`${l.text}: the working`}
            >
              <Leader of={spot} />
              <text
                x={spot.x}
                y={spot.y}
                textAnchor={spot.anchor}
                fontSize="11"
                fontWeight="700"
                fill="var(--ink)"
                className="paint-halo"
              >
                {l.text}
              </text>
            </WorkingLabel>
          )
        })}
        {layout.parts.map((p) => (
          <PartMark
            key={p.part.id}
            placed={dragged?.id === p.part.id ? { ...p, at: dragged.at } : p}
            shut={isShut(passages[p.part.id])}
            chosen={selected?.id === p.part.id}
            label={labels.get(p.part.id)}
            onClick={() => {
              if (!dragged) select({ kind: 'part', id: p.part.id })
            }}
            onGrab={p.onEngine ? undefined : (e) => grab(e, p)}
          />
        ))}
      </svg>
    </figure>
  )
}
