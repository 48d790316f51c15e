'use client'
/** Every plan that was tried as a dot on two of what is weighed; what a wall stopped in its own mark; offers by their letters. */
import { useMemo } from 'react'
import { fromSi } from '@/core/units/units'
import type { Proposals } from '@/plan/proposals/propose'
import type { Objective } from '@/plan/proposals/tried-plan'
import { useUnits } from '../workspace/store'

const [W, H, LEFT, BOTTOM, TOP] = [640, 340, 48, 30, 12]

export const OBJECTIVE_NAMES: Readonly<Record<Objective, string>> = {
  oil: 'oil to the intake, ml a 1 000 km',
  pressure: 'highest crankcase',
  looks: 'looks a year',
  hours: 'hours of work',
  price: 'price of parts',
}
export const offerLetter = (k: number): string => String.fromCodePoint(65 + k)

/** A figure of an objective as it is drawn: ml a 1 000 km, the build's pressure. */
export function useFigureOf(): (o: Objective, value: number) => number {
  const units = useUnits()
  return (o, value) =>
    o === 'oil' ? value * 1e12 : o === 'pressure' ? fromSi('pressure', value, units.pressure) : value
}

export function TriedPicture({
  proposals,
  axes: [across, up],
  chosen,
  onChoose,
}: {
  proposals: Proposals
  axes: readonly [Objective, Objective]
  chosen: number
  onChoose: (k: number) => void
}) {
  const figure = useFigureOf()
  const { x, y, dots, ticks } = useMemo(() => {
    const points = proposals.dots
      .map((d) => ({
        at: figure(across, d.figures[across]),
        v: figure(up, d.figures[up]),
        stopped: d.wall !== undefined,
      }))
      .filter((p) => Number.isFinite(p.at) && Number.isFinite(p.v))
    const offers = proposals.offers.map((o) => ({
      at: figure(across, o.figures[across]),
      v: figure(up, o.figures[up]),
    }))
    const ends = (values: readonly number[], own: readonly number[]) => {
      const sorted = values.toSorted((a, b) => a - b)
      // a few that are far off would press the rest together
      const low = Math.min(...own, sorted[0] ?? 0, 0)
      const high = Math.max(...own, sorted[Math.floor(0.97 * (sorted.length - 1))] ?? 1, low + 1e-6)
      return [low, high] as const
    }
    const [x0, x1] = ends(
      points.map((p) => p.at),
      offers.map((p) => p.at),
    )
    const [y0, y1] = ends(
      points.map((p) => p.v),
      offers.map((p) => p.v),
    )
    const scaleX = (v: number) => LEFT + ((v - x0) / (x1 - x0)) * (W - LEFT - 16)
    const scaleY = (v: number) => H - BOTTOM - ((v - y0) / (y1 - y0)) * (H - BOTTOM - TOP - 10)
    const steps = (low: number, high: number) => {
      const step = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500].find((s) => (high - low) / s <= 6) ?? 1000
      return Array.from({ length: Math.floor(high / step) - Math.ceil(low / step) + 1 }, (_, k) =>
        Number(((Math.ceil(low / step) + k) * step).toFixed(3)),
      )
    }
    return {
      x: scaleX,
      y: scaleY,
      dots: points.filter((p) => p.at <= x1 && p.v <= y1),
      ticks: { x: steps(x0, x1), y: steps(y0, y1) },
    }
  }, [proposals, across, up, figure])
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="w-full"
      role="group"
      aria-label={`Plans tried: ${OBJECTIVE_NAMES[up]} against ${OBJECTIVE_NAMES[across]}`}
    >
      <path d={`M${LEFT} ${TOP}V${H - BOTTOM}H${W}`} fill="none" stroke="var(--ink)" strokeWidth="1.2" />
      {ticks.x.map((v) => (
        <text key={v} x={x(v)} y={H - BOTTOM + 14} fontSize="10" textAnchor="middle" fill="var(--soft)">
          {v}
        </text>
      ))}
      {ticks.y.map((v) => (
        <text key={v} x={LEFT - 6} y={y(v) + 3.5} fontSize="10" textAnchor="end" fill="var(--soft)">
          {v}
        </text>
      ))}
      <text x={LEFT + 6} y={TOP + 6} fontSize="10.5" fill="var(--soft)">
        {OBJECTIVE_NAMES[up]}
      </text>
      <text x={W - 4} y={H - 3} fontSize="10.5" textAnchor="end" fill="var(--soft)">
        {OBJECTIVE_NAMES[across]}
      </text>
      {/* dots by the thousand: two paths, and no element each */}
      <path
        d={dots
          .filter((p) => !p.stopped)
          .map((p) => `M${x(p.at).toFixed(1)} ${y(p.v).toFixed(1)}h0`)
          .join('')}
        stroke="var(--faint)"
        strokeWidth="3.4"
        strokeLinecap="round"
        opacity="0.7"
      />
      <path
        d={dots
          .filter((p) => p.stopped)
          .map((p) => `M${(x(p.at) - 2).toFixed(1)} ${(y(p.v) - 2).toFixed(1)}l4 4m0 -4l-4 4`)
          .join('')}
        stroke="var(--pressure)"
        strokeWidth="0.9"
        opacity="0.6"
      />
      {proposals.offers.map((o, k) => (
        <g
          key={o.name}
          role="button"
          tabIndex={0}
          aria-pressed={k === chosen}
          aria-label={`${offerLetter(k)}: ${o.name}`}
          className="cursor-pointer"
          transform={`translate(${x(figure(across, o.figures[across]))} ${y(figure(up, o.figures[up]))})`}
          onClick={() => onChoose(k)}
          onKeyDown={(e) => {
            if (e.key !== 'Enter' && e.key !== ' ') return
            e.preventDefault()
            onChoose(k)
          }}
        >
          <circle r="12" fill={k === chosen ? 'var(--blue)' : 'var(--sheet)'} stroke="var(--blue)" strokeWidth="2" />
          <text
            y="4.5"
            fontSize="13"
            fontWeight="700"
            textAnchor="middle"
            fill={k === chosen ? 'var(--on-blue)' : 'var(--blue)'}
          >
            {offerLetter(k)}
          </text>
        </g>
      ))}
    </svg>
  )
}
