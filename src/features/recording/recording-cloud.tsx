'use client'
/** Measured against predicted, a square a state: on the slope the plan is right, above it the crankcase stands higher than it says. */
import { useMemo } from 'react'
import { STATE_IDS } from '@/core/engine/states'
import { fromSi, unitLabel } from '@/core/units/units'
import { STATE_NAMES } from '@/plan/document/words'
import { pressureScale } from '@/ui/pressure-scale'
import { useUnits } from '../workspace/store'
import type { DrawnRecording } from './recording-job'

const SIDE = 150
const LINEAR_PA = 150
/** Points of a state that are drawn at most: more hide each other. */
const MOST_POINTS = 220

export function RecordingCloud({ drawn }: { drawn: DrawnRecording }) {
  const units = useUnits()
  const clouds = useMemo(
    () =>
      STATE_IDS.flatMap((id, s) => {
        const at = [...drawn.seconds.keys()].filter(
          (k) => drawn.states[k] === s && Number.isFinite(drawn.crankcase[k]!) && Number.isFinite(drawn.middle[k]!),
        )
        if (at.length < 5) return []
        const stride = Math.max(1, Math.floor(at.length / MOST_POINTS))
        const points = at
          .filter((_, k) => k % stride === 0)
          .map((k) => [drawn.middle[k]!, drawn.crankcase[k]!] as const)
        const off = points.map(([f, m]) => m - f).toSorted((a, b) => a - b)[points.length >> 1]!
        const all = points.flat()
        const [low, high] = [Math.min(0, ...all), Math.max(0, ...all)]
        const room = Math.max(100, (high - low) * 0.08)
        return [{ id, points, off, ends: [low - room, high + room] as const }]
      }),
    [drawn],
  )
  if (clouds.length === 0) return null
  return (
    <section aria-labelledby="cloud">
      <h3 id="cloud" className="head border-b-[1.5px] border-ink pb-1">
        Measured against predicted
      </h3>
      <ul className="mt-2 flex flex-wrap gap-4">
        {clouds.map(({ id, points, off, ends }) => {
          const x = pressureScale(LINEAR_PA, ends, [0, SIDE])
          const y = pressureScale(LINEAR_PA, [ends[1], ends[0]], [0, SIDE])
          const by = Math.abs(fromSi('pressure', off, units.pressure)).toPrecision(2)
          return (
            <li key={id} className="w-[150px]">
              <p className="font-bold">{STATE_NAMES[id]}</p>
              <svg
                viewBox={`-1 -1 ${SIDE + 2} ${SIDE + 2}`}
                role="img"
                aria-label={`${STATE_NAMES[id]}: ${points.length} samples, in the middle ${by} ${unitLabel(units.pressure)} ${off > 0 ? 'above' : 'below'} what is predicted`}
              >
                <rect width={SIDE} height={SIDE} fill="var(--sheet)" stroke="var(--rule-strong)" />
                <path d={`M0 ${y(0)}H${SIDE}M${x(0)} 0V${SIDE}`} stroke="var(--rule-strong)" strokeDasharray="2 3" />
                <path d={`M0 ${SIDE}L${SIDE} 0`} stroke="var(--blue)" strokeWidth="1.2" />
                {points.map(([f, m], k) => (
                  // points of one cloud stand where they stand
                  // oxlint-disable-next-line react/no-array-index-key
                  <circle key={k} cx={x(f)} cy={y(m)} r="1.6" fill="var(--ink)" fillOpacity="0.45" />
                ))}
              </svg>
              <p className="text-xs text-soft">
                {by} {unitLabel(units.pressure)} {off > 0 ? 'above' : 'below'}
              </p>
            </li>
          )
        })}
      </ul>
      <p className="text-xs text-soft">
        Across what is predicted, up what was read, by the ladder’s scale; on the slope they are the same.
      </p>
    </section>
  )
}
