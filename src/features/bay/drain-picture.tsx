'use client'
/** A return as height over length, with the oil that suction holds up standing in it. */
import { quantityText } from '@/core/units/format'
import { drainInBay } from '@/plan/bay/drains'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES, lowered } from '@/plan/document/words'
import type { PartOf } from '@/plan/document/schema'
import { boxesAlong, densePoints, placeLabels, type LabelBox } from '@/ui/labels'
import { Figure } from '../workspace/figures/figure'
import { useUnits, useWorkspace } from '../workspace/store'

const [W, H, LEFT, BOTTOM] = [660, 150, 54, 22]

export function DrainPicture({ can }: { can: PartOf<'can'> }) {
  const build = useWorkspace((s) => s.build)
  const states = useWorkspace((s) => s.analysis.states)
  const current = useWorkspace((s) => s.state)
  const units = useUnits()
  const drain = drainInBay(build, activeVariant(build), states, can.id)
  if (!drain) return null
  const { way, profile } = drain
  const base = way.at(-1)![2]
  const runs = way.map((p, i) => (i === 0 ? 0 : Math.hypot(...p.map((v, k) => v - way[i - 1]![k]!))))
  const points = way.map((p, i) => [runs.slice(0, i + 1).reduce((sum, r) => sum + r, 0), p[2] - base] as const)
  const run = points.at(-1)![0]
  const shown = drain.states.find((s) => s.id === current) ?? drain.states[0]
  const tops = [...points.map((p) => p[1]), ...drain.states.map((s) => s.columnM)]
  const [low, high] = [Math.min(0, ...points.map((p) => p[1])), Math.max(0.05, ...tops)]
  const x = (m: number) => LEFT + (m / Math.max(run, 0.01)) * (W - LEFT - 20)
  const y = (m: number) => 12 + ((high - m) / (high - low)) * (H - 12 - BOTTOM)
  const path = `M${points.map(([a, h]) => `${x(a)} ${y(h)}`).join('L')}`
  const text = (m: number) => quantityText(m, 'length', units, 3)
  const level = shown ? Math.max(0, shown.columnM) : 0
  const drains = shown ? shown.headM > 0 : true
  const says = shown
    ? `${STATE_NAMES[shown.id]} holds ${text(level)} up${drains ? `, ${text(shown.headM)} of head left` : ': it does not drain'}`
    : ''
  // along the oil's level, clear of the hose and of the line itself
  const label = placeLabels(
    [
      {
        id: 'level',
        spots: [0.76, 0.24, 0.5].map((t) => [LEFT + t * (W - LEFT), y(level)] as const),
        half: [0, 1],
        text: says,
      },
    ],
    [
      ...boxesAlong(densePoints(points.map(([a, h]) => [x(a), y(h)] as const)), 7),
      ...[y(0), y(level)].map((at): LabelBox => [LEFT, at - 1, W - LEFT, 2]),
    ],
    [],
    [LEFT, 0, W - LEFT, H - 14],
  ).get('level')
  return (
    <figure>
      <figcaption className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <span className="head">How the {lowered(can.name)} drains</span>
        <span className="text-xs text-soft">
          {shown && (
            <>
              held up <Figure of={{ kind: 'column', id: can.id, state: shown.id }} />,{' '}
            </>
          )}
          height over length of hose
        </span>
      </figcaption>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="img"
        aria-label={`Fall ${text(profile.fallM)}; ${drain.states.map((s) => `${STATE_NAMES[s.id].toLowerCase()} holds ${text(Math.max(0, s.columnM))} up`).join(', ')}`}
      >
        <defs>
          <clipPath id={`oil-${can.id}`}>
            <rect x="0" y={y(level)} width={W} height={H} />
          </clipPath>
        </defs>
        <path d={`M${LEFT} ${y(0)}H${W - 12}`} stroke="var(--rule-strong)" />
        <text x={LEFT - 6} y={y(0) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
          0
        </text>
        <text x={LEFT - 6} y={y(points[0]![1]) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
          {text(points[0]![1]).replace(/ .*/, '')}
        </text>
        <path d={path} fill="none" stroke="var(--ink)" strokeWidth="11" strokeLinejoin="round" />
        <path d={path} fill="none" stroke="var(--sheet)" strokeWidth="8" strokeLinejoin="round" />
        <path
          d={path}
          fill="none"
          stroke="var(--oil-laden)"
          strokeWidth="8"
          strokeLinejoin="round"
          clipPath={`url(#oil-${can.id})`}
        />
        {shown && (
          <>
            <path
              d={`M${LEFT} ${y(level)}H${W - 12}`}
              stroke={drains ? 'var(--vacuum)' : 'var(--pressure)'}
              strokeDasharray="5 4"
            />
            {label && (
              <text
                x={label.x}
                y={label.y}
                textAnchor={label.anchor}
                fontSize="12"
                fontWeight="700"
                fill={drains ? 'var(--vacuum)' : 'var(--pressure)'}
                stroke="var(--paper)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {says}
              </text>
            )}
          </>
        )}
        <text x={x(0) + 8} y={H - 6} fontSize="11" fill="var(--soft)">
          separator
        </text>
        <text x={W - 14} y={H - 6} textAnchor="end" fontSize="11" fill="var(--soft)">
          return
        </text>
      </svg>
    </figure>
  )
}
