'use client'
/** A can in a picture of the bay with its ports; what is dragged or moved by the arrow keys is its floor. */
import { quantityText } from '@/core/units/format'
import { setSpot } from '@/plan/bay/bay-builders'
import type { Side } from '@/plan/bay/drawing'
import { endPlace, spotIn } from '@/plan/catalogue/bay-geometry'
import { activeVariant } from '@/plan/edit/edit'
import type { Bay, LineEnd, PartOf } from '@/plan/document/schema'
import { useUnits, useWorkspace } from '../workspace/store'
import { Movable, movedBy } from './movable'
import { canBox, place, type Frame } from './view'

export function CanMark({ can, side, frame, bay }: { can: PartOf<'can'>; side: Side; frame: Frame; bay: Bay }) {
  const act = useWorkspace((s) => s.act)
  const select = useWorkspace((s) => s.select)
  const chosen = useWorkspace((s) => s.selected?.id === can.id)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const units = useUnits()
  const box = canBox(frame, side, bay, can)
  const spot = spotIn(bay, can.id)
  if (!box || !spot) return null
  const [x, y, width, height] = box
  const text = (mm: number) => quantityText(mm / 1000, 'length', units, 3)
  const paint = { fill: 'var(--sheet)', stroke: chosen ? 'var(--blue)' : 'var(--ink)', strokeWidth: 2.5 }
  return (
    <Movable
      side={side}
      frame={frame}
      label={`${can.name}: ${text(spot.forwardMm)} ahead, ${text(spot.leftMm)} left, ${text(spot.upMm)} up.`}
      onSelect={() => select({ kind: 'part', id: can.id })}
      onMove={(by) => act(setSpot(can.id, movedBy(spot, by)), `${can.name} moved`, `place ${can.id}`)}
    >
      {side !== 'above' ? (
        <>
          <rect x={x} y={y} width={width} height={height} rx="3" {...paint} />
          <path d={`M${x} ${y + height * 0.2}h${width}`} stroke="var(--ink)" />
        </>
      ) : (
        <circle cx={x + width / 2} cy={y + height / 2} r={width / 2} {...paint} />
      )}
      {can.ports.map((port) => {
        const end = endPlace(bay, variant, { part: can.id, port: port.id } as LineEnd)
        if (!end) return null
        const [px, py] = place(frame, side, end.at)
        return (
          <g key={port.id}>
            <title>{`${can.name}, ${port.name.toLowerCase()}`}</title>
            <circle
              cx={px}
              cy={py}
              r="3.2"
              fill={port.id === 'in' ? 'var(--ink)' : 'var(--sheet)'}
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
          </g>
        )
      })}
    </Movable>
  )
}
