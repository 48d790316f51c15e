'use client'
/** Every plan that was tried as a dot on two of what is weighed; what a wall stopped in its own mark; offers by their letters. */
import { useMemo } from 'react'
import { letterOf } from '@/plan/document/words'
import type { Dot } from '@/plan/proposals/survey'
import type { PlanOffer } from '@/plan/proposals/judge-plan'
import type { Objective } from '@/plan/proposals/tried-plan'
import type { Wishes } from '@/plan/proposals/wishes'
import { usePhoneWidth } from '@/ui/media'
import { useUnits } from '../workspace/store'
import { objectiveFigure, objectiveName } from './objectives'

const [H, LEFT, BOTTOM, TOP] = [340, 48, 34, 12]
/** How wide it is drawn: on a phone as wide as that shows it, so that its figures can be read. */
const [BENCH_WIDTH, PHONE_WIDTH] = [640, 360]
/** Letters that would lie on each other stand so far apart. */
const LETTER = 26

/** The most of an objective that is wished; undefined where it is as it comes. */
function mostWished(o: Objective, wishes: Wishes): number | undefined {
  const most = {
    price: wishes.mostPrice,
    hours: wishes.mostHours,
    looks: wishes.mostLooks,
    oil: Infinity,
    pressure: Infinity,
  }[o]
  return Number.isFinite(most) ? most : undefined
}

/** Places for letters that do not lie on each other: each later one steps aside. */
function spread(points: readonly (readonly [number, number])[], width: number): readonly (readonly [number, number])[] {
  const placed: (readonly [number, number])[] = []
  for (const [x, y] of points) {
    const tries = [0, 1, 2, 3, 4].flatMap((n) =>
      n === 0
        ? [[x, y] as const]
        : Array.from({ length: 8 }, (_, k) => {
            const turn = (k * Math.PI) / 4
            return [x + n * LETTER * Math.cos(turn), y + n * LETTER * Math.sin(turn)] as const
          }),
    )
    const free = tries.find(
      ([a, b]) =>
        a > LEFT + 8 &&
        a < width - 14 &&
        b > TOP + 14 &&
        b < H - BOTTOM - 8 &&
        placed.every(([c, d]) => Math.hypot(a - c, b - d) >= LETTER),
    )
    placed.push(free ?? [x, y])
  }
  return placed
}

export function TriedPicture({
  dots: all,
  offers,
  wishes,
  axes: [across, up],
  chosen,
  onChoose,
}: {
  dots: readonly Dot[]
  offers: readonly PlanOffer[]
  wishes: Wishes
  axes: readonly [Objective, Objective]
  chosen: number
  onChoose: (k: number) => void
}) {
  const units = useUnits()
  const width = usePhoneWidth() ? PHONE_WIDTH : BENCH_WIDTH
  const { x, y, x1, passed, stopped, ticks } = useMemo(() => {
    const at = (o: Objective, value: number) => objectiveFigure(o, value, units)
    const points = all
      .map((d) => ({ a: at(across, d.figures[across]), b: at(up, d.figures[up]), stopped: d.wall !== undefined }))
      .filter((p) => Number.isFinite(p.a) && Number.isFinite(p.b))
    const own = offers.map((o) => ({ a: at(across, o.figures[across]), b: at(up, o.figures[up]) }))
    const ends = (values: readonly number[], shown: readonly number[]) => {
      const sorted = values.toSorted((a, b) => a - b)
      // a few that are far off would press the rest together
      const low = Math.min(...shown, sorted[0] ?? 0, 0)
      const high = 1.05 * Math.max(...shown, sorted[Math.floor(0.97 * (sorted.length - 1))] ?? 1, low + 1e-6)
      return [low, high] as const
    }
    const [x0, right] = ends(
      points.map((p) => p.a),
      own.map((p) => p.a),
    )
    const [y0, top] = ends(
      points.map((p) => p.b),
      own.map((p) => p.b),
    )
    const scaleX = (v: number) => LEFT + ((v - x0) / (right - x0)) * (width - LEFT - 16)
    const scaleY = (v: number) => H - BOTTOM - ((v - y0) / (top - y0)) * (H - BOTTOM - TOP - 10)
    const steps = (low: number, high: number) => {
      const step = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500].find((s) => (high - low) / s <= 6) ?? 1000
      return Array.from({ length: Math.floor(high / step) - Math.ceil(low / step) + 1 }, (_, k) =>
        Number(((Math.ceil(low / step) + k) * step).toFixed(3)),
      )
    }
    const seen = points.filter((p) => p.a <= right && p.b <= top)
    return {
      x: scaleX,
      y: scaleY,
      x1: right,
      passed: seen
        .filter((p) => !p.stopped)
        .map((p) => `M${scaleX(p.a).toFixed(1)} ${scaleY(p.b).toFixed(1)}h0`)
        .join(''),
      stopped: seen
        .filter((p) => p.stopped)
        .map((p) => `M${(scaleX(p.a) - 2).toFixed(1)} ${(scaleY(p.b) - 2).toFixed(1)}l4 4m0 -4l-4 4`)
        .join(''),
      ticks: { x: steps(x0, right), y: steps(y0, top) },
    }
  }, [all, offers, across, up, units, width])
  const most = mostWished(across, wishes)
  const trueAt = offers.map(
    (o) =>
      [x(objectiveFigure(across, o.figures[across], units)), y(objectiveFigure(up, o.figures[up], units))] as const,
  )
  const letters = spread(trueAt, width)
  return (
    <svg
      viewBox={`0 0 ${width} ${H}`}
      className="w-full"
      role="group"
      aria-label={`Plans tried: ${objectiveName(up, units)} against ${objectiveName(across, units)}`}
    >
      <path d={`M${LEFT} ${TOP}V${H - BOTTOM}H${width}`} fill="none" stroke="var(--ink)" strokeWidth="1.2" />
      {ticks.x.map((v) => (
        <text key={v} x={x(v)} y={H - BOTTOM + 14} fontSize="10" textAnchor="middle" fill="var(--soft)">
          {v}
        </text>
      ))}
      {ticks.y.map((v) => (
        <text key={v} x={LEFT - 6} y={y(v) + 3.5} fontSize="10" textAnchor="end" fill="var(--soft)">
          {String(v).replace('-', '−')}
        </text>
      ))}
      {/* dots by the thousand: two paths, and no element each */}
      <path d={passed} stroke="var(--faint)" strokeWidth="3.4" strokeLinecap="round" opacity="0.7" />
      <path d={stopped} stroke="var(--pressure)" strokeWidth="0.9" opacity="0.6" />
      {most !== undefined && most <= x1 && (
        <g>
          <path
            d={`M${x(most)} ${TOP}V${H - BOTTOM}`}
            stroke="var(--pressure)"
            strokeWidth="1.2"
            strokeDasharray="5 4"
            fill="none"
          />
          <text x={x(most) + 4} y={H - BOTTOM - 6} fontSize="10.5" fill="var(--pressure)" className="paint-halo">
            your most
          </text>
        </g>
      )}
      <text x={LEFT + 6} y={TOP + 6} fontSize="10.5" fill="var(--soft)" className="paint-halo">
        {objectiveName(up, units)}
      </text>
      <text x={width - 4} y={H - 3} fontSize="10.5" textAnchor="end" fill="var(--soft)">
        {objectiveName(across, units)}
      </text>
      {/* where each stands, below all letters */}
      {letters.map(([bx, by], k) => {
        const [ax, ay] = trueAt[k]!
        return (
          <g key={offers[k]!.name} aria-hidden>
            {(ax !== bx || ay !== by) && (
              <path d={`M${ax} ${ay}L${bx} ${by}`} stroke="var(--blue)" strokeWidth="1.2" fill="none" />
            )}
            <circle cx={ax} cy={ay} r="3" fill="var(--blue)" />
          </g>
        )
      })}
      {offers.map((o, k) => {
        const [bx, by] = letters[k]!
        return (
          <g
            key={o.name}
            role="button"
            tabIndex={0}
            aria-pressed={k === chosen}
            aria-label={`${letterOf(k)}: ${o.name}`}
            className="cursor-pointer"
            onClick={() => onChoose(k)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return
              e.preventDefault()
              onChoose(k)
            }}
          >
            <circle
              cx={bx}
              cy={by}
              r="12"
              fill={k === chosen ? 'var(--blue)' : 'var(--sheet)'}
              stroke="var(--blue)"
              strokeWidth="2"
            />
            <text
              x={bx}
              y={by + 4.5}
              fontSize="13"
              fontWeight="700"
              textAnchor="middle"
              fill={k === chosen ? 'var(--on-blue)' : 'var(--blue)'}
            >
              {letterOf(k)}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
