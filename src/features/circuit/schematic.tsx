'use client'
/** The circuit on its engine: which port feeds which, which way gas runs now, what is shut. */
import { OIL_POURED } from '@/core/gas/oil'
import { useMemo, useRef, useState } from 'react'
import { formatQuantity, quantityText } from '@/core/units/format'
import type { UnitChoice } from '@/core/units/units'
import type { Engine, PartKind } from '@/plan/document/schema'
import type { Passage } from '@/plan/model/results'
import { setPart } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES } from '@/plan/document/words'
import { WorkingLabel } from '../workspace/figures/working-popover'
import { useShown, useUnits, useWorkspace } from '../workspace/store'
import { engineBoxes, EnginePicture } from './engine-picture'
import { boxAround, boxesAlong, placeLabels, spotsAlong, straights, type LabelBox, type Label } from '@/ui/labels'
import { schematicLayout, roundedPath, VIEW, type SchematicLayout, type PlacedPart, type Point2 } from './layout'
import { flowWidth, gasColour, isShut } from './look'
import { shortName } from './joints'
import { RunningGas } from './running-gas'
import { WayGlyph } from './way-glyph'

type Passages = Readonly<Record<string, Passage>>
const NOTHING: Passages = {}

function flowText(kg: number, units: UnitChoice): string {
  const f = formatQuantity(Math.abs(kg), 'gasFlow', units, 2)
  return `${f.text} ${f.unit}`
}

/** Half the width of a hose as drawn, with a little air. */
const hoseHalf = (p: Passage | undefined) => (p === undefined || isShut(p) ? 4 : flowWidth(p.flow) / 2 + 2)

/** Names of parts and flows of hoses, clear of parts and hoses. */
function labelsOf(layout: SchematicLayout, engine: Engine, passages: Passages, units: UnitChoice) {
  const flowLabels = layout.runs.flatMap(({ line, points }) => {
    const p = passages[line.id]
    if (line.kind === 'drain' || p === undefined || isShut(p)) return []
    return [
      {
        id: `flow ${line.id}`,
        line: line.id,
        spots: spotsAlong(points),
        half: [hoseHalf(p), hoseHalf(p)] as const,
        text: `${arrow(points, p.flow)} ${flowText(p.flow, units)}`,
        optional: true as const,
      },
    ]
  })
  const named = layout.parts.filter((p) => p.part.kind !== 'passage')
  const outside = named.filter((p) => !p.onEngine)
  const names = outside.map((p) => ({
    id: p.part.id,
    spots: [p.at],
    half: markHalf(p.part.kind),
    text: p.part.name,
  }))
  const hoses = [
    ...layout.runs.flatMap((r) => boxesAlong(r.points, hoseHalf(passages[r.line.id]))),
    ...layout.joins.flatMap((j) => boxesAlong(j.points, 3)),
    ...engineBoxes(engine),
  ]
  const marks = [
    ...outside.map((p) => boxAround(p.at, markHalf(p.part.kind))),
    ...named.filter((p) => p.onEngine).map((p): LabelBox => [p.at[0] - 34, p.at[1] - 6, 68, 28]),
  ]
  return {
    flowLabels,
    labels: placeLabels([...names, ...flowLabels], hoses, marks, [0, layout.top, VIEW.width, VIEW.height - layout.top]),
  }
}

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

  const told = pointed === undefined ? undefined : variant.lines.find((l) => l.id === pointed)
  const passing = told && passages[told.id]
  const about =
    told &&
    passing &&
    `${told.name}: ${isShut(passing) ? 'nothing runs' : `${flowText(passing.flow, units)}, ${quantityText(passing.velocity, 'speed', units, 2)}, loses ${quantityText(Math.abs(passing.gaugeFrom - passing.gaugeTo), 'pressure', units, 2)}, ${quantityText((passing.oil.mist + passing.oil.splash) / OIL_POURED, 'liquidRate', units, 2)} oil`}`
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

/** Half the width and height of what marks a part. */
const markHalf = (kind: PartKind): readonly [number, number] =>
  kind === 'can' ? [19, 24] : kind === 'tank' ? [22, 28] : [13, 13]

/** Direction in a word of one sign, along the longest straight. */
function arrow(points: readonly Point2[], flow: number): string {
  const [[ax, ay], [bx, by]] = straights(points)[0] ?? [
    [0, 0],
    [0, 0],
  ]
  const [dx, dy] = flow > 0 ? [bx - ax, by - ay] : [ax - bx, ay - by]
  return Math.abs(dx) > Math.abs(dy) ? (dx > 0 ? '→' : '←') : dy > 0 ? '↓' : '↑'
}

function PartMark({
  placed: { part, at, onEngine },
  shut,
  chosen,
  label,
  onClick,
  onGrab,
}: {
  placed: PlacedPart
  shut: boolean
  chosen: boolean
  label: Label | undefined
  onClick: () => void
  onGrab: ((e: React.PointerEvent) => void) | undefined
}) {
  const [x, y] = at
  if (part.kind === 'passage') return null
  if (onEngine) {
    const name = shortName(part)
    const dy =
      part.kind === 'cover'
        ? 11
        : part.kind === 'inlet'
          ? 44
          : part.kind === 'manifold'
            ? 12
            : part.kind === 'crankcase'
              ? 18
              : 4
    return (
      <g className="cursor-pointer" onClick={onClick}>
        <title>{part.name}</title>
        <rect x={x - 40} y={y - 12} width="80" height="34" fill="transparent" />
        <text
          x={x}
          y={y + dy}
          textAnchor="middle"
          fontSize="11"
          fontWeight={chosen ? 700 : 400}
          fill={chosen ? 'var(--blue)' : 'var(--ink)'}
          className="paint-halo"
        >
          {name}
        </text>
      </g>
    )
  }
  const isCan = part.kind === 'can'
  return (
    <g className="cursor-grab" onClick={onClick} onPointerDown={onGrab}>
      <title>{part.name}</title>
      {isCan ? (
        <g transform={`translate(${x} ${y})`}>
          <rect
            x="-17"
            y="-19"
            width="34"
            height="42"
            rx="5"
            fill="var(--sheet)"
            stroke={chosen ? 'var(--blue)' : 'var(--ink)'}
            strokeWidth={chosen ? 3 : 1.8}
          />
          <path d="M-15.500 8q8-4 15.500 0t15.500 0v9q0 4-4 4h-23q-4 0-4-4z" fill="var(--oil-laden)" opacity="0.85" />
          <path d="M-17-11h34" stroke="var(--ink)" strokeWidth="1.4" />
        </g>
      ) : part.kind === 'tee' ? (
        <circle cx={x} cy={y} r="6" fill="var(--ink)" />
      ) : part.kind === 'atmosphere' ? (
        <path
          d={`M${x - 14} ${y - 8}q7-7 14 0t14 0M${x - 14} ${y}q7-7 14 0t14 0`}
          fill="none"
          stroke={chosen ? 'var(--blue)' : 'var(--air)'}
          strokeWidth="3"
        />
      ) : part.kind === 'tank' ? (
        <g transform={`translate(${x} ${y})`}>
          <rect
            x="-20"
            y="-22"
            width="40"
            height="50"
            rx="8"
            fill="var(--sheet)"
            stroke={chosen ? 'var(--blue)' : 'var(--ink)'}
            strokeWidth="1.8"
          />
          <path d="M-18 2h36v18q0 6-6 6h-24q-6 0-6-6z" fill="var(--oil-laden)" opacity="0.85" />
        </g>
      ) : (
        <WayGlyph kind={part.kind} x={x} y={y} shut={shut} angle={part.kind === 'pcv' ? -90 : 0} chosen={chosen} />
      )}
      {label && (
        <text
          x={label.x}
          y={label.y}
          textAnchor={label.anchor}
          fontSize="11"
          fontWeight={chosen ? 700 : 400}
          fill={chosen ? 'var(--blue)' : 'var(--ink)'}
          className="paint-halo"
        >
          {part.name}
        </text>
      )}
    </g>
  )
}
