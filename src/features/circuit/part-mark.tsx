'use client'
/** A part on a schematic: what stands in its hoses by its own mark, what belongs to the engine by its name alone. */
import { LABEL_SIZE, type Label } from '@/ui/labels'
import { shortName } from './joints'
import type { PlacedPart } from './layout'
import { WayGlyph } from './way-glyph'

export function PartMark({
  placed: { part, at, onEngine },
  shut = false,
  chosen = false,
  label,
  onClick,
  onGrab,
}: {
  placed: PlacedPart
  shut?: boolean
  chosen?: boolean
  label?: Label | undefined
  onClick?: () => void
  onGrab?: ((e: React.PointerEvent) => void) | undefined
}) {
  const [x, y] = at
  if (part.kind === 'passage') return null
  const name = label && (
    <>
      <Leader of={label} />
      <text
        x={label.x}
        y={label.y}
        textAnchor={label.anchor}
        fontSize={LABEL_SIZE}
        fontWeight={chosen ? 700 : 400}
        fill={chosen ? 'var(--blue)' : 'var(--ink)'}
        className="paint-halo"
      >
        {onEngine ? shortName(part) : part.name}
      </text>
    </>
  )
  if (onEngine)
    return (
      <g className={onClick ? 'cursor-pointer' : undefined} onClick={onClick}>
        <title>{part.name}</title>
        <rect x={x - 40} y={y - 12} width="80" height="34" fill="transparent" />
        {name}
      </g>
    )
  const isCan = part.kind === 'can'
  return (
    <g className={onGrab ? 'cursor-grab' : undefined} onClick={onClick} onPointerDown={onGrab}>
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
      {name}
    </g>
  )
}

/** A thin line from a text that stands further off to what it names. */
export function Leader({ of: { leader } }: { of: Label }) {
  if (!leader) return null
  const [[x1, y1], [x2, y2]] = leader
  return <path d={`M${x1} ${y1}L${x2} ${y2}`} stroke="var(--soft)" strokeWidth="0.8" />
}
