'use client'
/** A track day: after which session to empty, sessions ticked as they are driven, how full it is by then. */
import { useState } from 'react'
import type { LogEntry } from '@/plan/document/schema'
import type { CanForecast } from '@/plan/model/results'
import { upsertLogEntry } from '@/plan/edit/edit-builders'
import { lowered } from '@/plan/document/words'
import { trackDay } from '@/plan/service/track-day'
import { useWorkspace } from '../workspace/store'

const MOST = 12

export function TrackDayPanel() {
  const cans = useWorkspace((s) => s.analysis.cans).filter((c) => c.known && c.perSession.oil > 0)
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const act = useWorkspace((s) => s.act)
  const [planned, setPlanned] = useState(5)
  const driven = build.log.filter((e) => e.kind === 'session' && e.date === today).length
  if (cans.length === 0) return null
  const tick = () =>
    act(
      upsertLogEntry({
        id: crypto.randomUUID(),
        date: today,
        kind: 'session',
        odometerKm: Math.max(0, ...build.log.map((e) => e.odometerKm)),
        plan: build.active,
      } as LogEntry),
      'A track session driven',
    )
  const left = Math.max(0, planned - driven)
  return (
    <section aria-labelledby="track-day">
      <h2 id="track-day" className="head border-b-[1.5px] border-ink pb-1">
        Track day
      </h2>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2">
          Sessions of 20 minutes
          <select className="field min-h-11 !w-16" value={planned} onChange={(e) => setPlanned(Number(e.target.value))}>
            {Array.from({ length: MOST }, (_, i) => (
              <option key={i + 1} value={i + 1}>
                {i + 1}
              </option>
            ))}
          </select>
        </label>
        <button type="button" className="button min-h-12 flex-1 sm:flex-none" onClick={tick}>
          Session {driven + 1} driven
        </button>
        <span role="status" className="text-soft">
          {driven} of {planned} driven today
        </span>
      </div>
      {cans.map((c) => (
        <Plan key={c.part} can={c} left={left} driven={driven} />
      ))}
      <p className="mt-1 text-xs text-soft">
        Let it cool before it is opened. Figures are of a heavy case in ten; emptied is noted below as ever.
      </p>
    </section>
  )
}

function Plan({ can, left, driven }: { can: CanForecast; left: number; driven: number }) {
  const { fills, emptyAfter } = trackDay(can, left)
  const says =
    left === 0
      ? 'No session to come.'
      : emptyAfter === undefined
        ? `The ${lowered(can.name)} lasts the day.`
        : emptyAfter === 0
          ? `Empty the ${lowered(can.name)} before session ${driven + 1}.`
          : `Empty the ${lowered(can.name)} after session ${driven + emptyAfter}.`
  return (
    <div className="mt-2">
      <p className="font-bold">{says}</p>
      {left > 0 && (
        <svg
          viewBox={`0 0 ${40 + fills.length * 44} 74`}
          className="h-20"
          role="img"
          aria-label={fills
            .map(
              (f) =>
                `after session ${driven + f.session} likely ${Math.round(f.likely * 100)} %, at most ${Math.round(f.heavy * 100)} %`,
            )
            .join('; ')}
        >
          {fills.map((f, i) => {
            const level = (v: number) => 52 - 44 * Math.min(1, v)
            const x = 8 + i * 44
            return (
              <g key={f.session}>
                <rect
                  x={x}
                  y="8"
                  width="28"
                  height="44"
                  rx="4"
                  fill="var(--sheet)"
                  stroke="var(--ink)"
                  strokeWidth="1.5"
                />
                <rect x={x + 1.5} y={level(f.heavy)} width="25" height={52 - level(f.heavy)} fill="var(--oil-clean)" />
                <rect
                  x={x + 1.5}
                  y={level(f.likely)}
                  width="25"
                  height={52 - level(f.likely)}
                  fill="var(--oil-laden)"
                />
                {f.heavy >= 1 && <path d={`M${x - 3} 6h34`} stroke="var(--pressure)" strokeWidth="3" />}
                <text x={x + 14} y="68" textAnchor="middle" fontSize="12" fill="var(--soft)">
                  {driven + f.session}
                </text>
              </g>
            )
          })}
        </svg>
      )}
    </div>
  )
}
