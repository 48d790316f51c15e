'use client'
/** A logger that sends as it reads: needle and strip against what this plan predicts, and a steady reading taken into the log. */
import { useEffect, useMemo, useState } from 'react'
import { quantityText } from '@/core/units/format'
import { fromSi } from '@/core/units/units'
import { atState, STATE_NAMES } from '@/plan/document/words'
import type { LogEntry } from '@/plan/document/schema'
import { upsertLogEntry } from '@/plan/edit/edit-builders'
import { engineModel } from '@/plan/model/engine'
import { pressureScale } from '@/ui/pressure-scale'
import { NO_ODOMETER, useOdometer } from '../fit/odometer'
import { useJob } from '../workspace/jobs/jobs'
import { useUnits, useWorkspace } from '../workspace/store'
import { SILENT_MS, type LoggerRun } from './logger-run'
import { liveView, STRIP_S, type LiveSample, type LiveView } from './live-samples'

const [WIDTH, DIAL, STRIP, GAP] = [640, 56, 96, 14]
const LINEAR_PA = 150
/** Pressures that always have room on the scale, Pa. */
const [LEAST_LOW, LEAST_HIGH] = [-1000, 600]

const finite = (...xs: readonly number[]) => xs.filter(Number.isFinite)

/** Needle on its band above, the last minute below, on the ladder's own pressure scale. */
function Picture({ view }: { view: LiveView }) {
  const { samples, now } = view
  const units = useUnits()
  const all = samples.flatMap((s) => finite(s.crankcase, s.low, s.high))
  const ends = [Math.min(LEAST_LOW, ...all) * 1.1, Math.max(LEAST_HIGH, ...all) * 1.1] as const
  const x = pressureScale(LINEAR_PA, ends, [0, WIDTH])
  const y = pressureScale(LINEAR_PA, [ends[1], ends[0]], [0, STRIP])
  const end = samples.at(-1)!.seconds
  const t = (s: LiveSample) => WIDTH * (1 - (end - s.seconds) / STRIP_S)
  const line = (of: readonly LiveSample[], value: (s: LiveSample) => number) =>
    of.map((s) => `${t(s).toFixed(1)} ${y(value(s)).toFixed(1)}`).join('L')
  const banded = samples.filter((s) => Number.isFinite(s.low) && Number.isFinite(s.high))
  const read = samples.filter((s) => Number.isFinite(s.crankcase))
  const top = DIAL + GAP
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${top + STRIP}`}
      className="w-full"
      role="img"
      aria-label={`Crankcase now ${now ? quantityText(now.crankcase, 'pressure', units, 2) : 'without a reading'}`}
    >
      <path d={`M0 ${DIAL - 8}H${WIDTH}`} stroke="var(--ink)" strokeWidth="1.5" />
      {now && Number.isFinite(now.low) && (
        <rect
          x={x(now.low)}
          y={DIAL - 26}
          width={Math.max(2, x(now.high) - x(now.low))}
          height="18"
          fill="var(--oil-clean)"
          stroke="var(--oil)"
        />
      )}
      {[-10, -3, -1, -0.3, -0.1, 0, 0.1, 0.3, 1, 3, 10]
        .map((v) => v * 1000)
        .filter((pa) => pa > ends[0] && pa < ends[1])
        .map((pa) => (
          <g key={pa}>
            <path
              d={`M${x(pa)} ${DIAL - 8}v${pa === 0 ? -30 : -8}`}
              stroke="var(--ink)"
              strokeWidth={pa === 0 ? 1.5 : 0.8}
            />
            <text x={x(pa)} y={DIAL + 4} fontSize="10" textAnchor="middle" fill="var(--soft)">
              {pa > 0 ? '+' : ''}
              {Number(fromSi('pressure', pa, units.pressure).toPrecision(2))}
            </text>
          </g>
        ))}
      {now && (
        <path
          d={`M${x(now.crankcase)} ${DIAL - 8}l-7 -34h14z`}
          fill="var(--blue)"
          stroke="var(--paper)"
          strokeWidth="1"
          style={{ transition: 'none' }}
        />
      )}
      <g transform={`translate(0 ${top})`}>
        <path d={`M0 ${y(0)}H${WIDTH}`} stroke="var(--ink)" strokeWidth="0.8" />
        <text x="0" y={STRIP - 2} fontSize="10" fill="var(--soft)">
          {STRIP_S} s ago
        </text>
        <text x={WIDTH} y={STRIP - 2} fontSize="10" textAnchor="end" fill="var(--soft)">
          now
        </text>
        {banded.length > 1 && (
          <path
            d={`M${line(banded, (s) => s.high)}L${line(banded.toReversed(), (s) => s.low)}Z`}
            fill="var(--oil-clean)"
            opacity="0.75"
          />
        )}
        {read.length > 1 && (
          <path d={`M${line(read, (s) => s.crankcase)}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        )}
      </g>
    </svg>
  )
}

function TakeReading({ view, run }: { view: LiveView; run: LoggerRun }) {
  const units = useUnits()
  const act = useWorkspace((s) => s.act)
  const active = useWorkspace((s) => s.build.active)
  const today = useWorkspace((s) => s.today)
  const { km, field } = useOdometer()
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const [taken, setTaken] = useState<string | undefined>(undefined)
  const { steady, state } = view
  const take = () => {
    if (steady === undefined) return
    if (km === undefined) {
      setProblem(NO_ODOMETER)
      return
    }
    setProblem(undefined)
    const entry = {
      id: crypto.randomUUID(),
      date: today,
      kind: 'reading',
      odometerKm: km,
      plan: active,
      reading: { state, kpa: Number(fromSi('pressure', steady, 'kPa').toPrecision(3)) },
      note: `Of the logger, run ${run.head.run}.`,
    } as LogEntry
    if (act(upsertLogEntry(entry), `Read ${atState(state)} by the logger`))
      setTaken(`Noted: ${quantityText(steady, 'pressure', units, 2)} ${atState(state)}.`)
  }
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
      {field}
      <button type="button" className="button button-main min-h-11" disabled={steady === undefined} onClick={take}>
        {steady === undefined
          ? 'Not steady yet: hold the engine for 5 s'
          : `Steady: take ${quantityText(steady, 'pressure', units, 2)} ${atState(state)}`}
      </button>
      <span role="status">{taken}</span>
      {problem && (
        <span role="alert" className="font-bold text-stop">
          {problem}
        </span>
      )}
    </div>
  )
}

/** Whether lines still come; looked at every second while a run is shown. */
function useSilent(cameAt: number): boolean {
  const [now, setNow] = useState(cameAt)
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000)
    return () => clearInterval(timer)
  }, [])
  return now - cameAt > SILENT_MS
}

const count = (n: number, one: string) => `${n} ${n === 1 ? one : `${one}s`}`

export function LiveGauge({ run, onOpen }: { run: LoggerRun; onOpen?: (run: LoggerRun) => void }) {
  const units = useUnits()
  const build = useWorkspace((s) => s.build)
  const pressed = useWorkspace((s) => s.state)
  const { value: band, start } = useJob('band')
  // worked out once for a plan: what is predicted of any speed and manifold
  useEffect(() => start(build), [start, build])
  const model = useMemo(() => engineModel(build), [build])
  const point = model.states.find((s) => s.id === pressed) ?? model.states[0]!
  const view = liveView(run.lines, run.columns, model, {
    band,
    shown: { state: point.id, rpm: point.rpm, manifoldPa: point.manifoldPa },
  })
  const silent = useSilent(run.cameAt)
  const logs = run.columns.some((c) => c.role === 'manifold') && run.columns.some((c) => c.role === 'rpm')
  const { now } = view ?? {}
  const lost = [
    ...(run.missing > 0 ? [`${count(run.missing, 'line')} did not come`] : []),
    ...(run.unread > 0 ? [`${count(run.unread, 'line')} could not be read`] : []),
  ]
  return (
    <section aria-labelledby="live" className="no-print space-y-2">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h3 id="live" className="head">
          Logger{silent ? ', silent' : ', now'}
        </h3>
        <span className="flex flex-wrap gap-x-4 text-soft">
          <span>
            {run.head.run}, {count(run.lines.length, 'line')}
            {lost.length > 0 && <strong className="text-fix"> · {lost.join(', ')}</strong>}
          </span>
          {onOpen && (
            <button type="button" className="link-button" onClick={() => onOpen(run)}>
              Open as a recording
            </button>
          )}
        </span>
      </div>
      {!view && (
        <p>
          It sends {run.head.columns.join(', ')}: none of it is a crankcase’s pressure. Name its column{' '}
          <strong>crankcase[kPa]</strong>.
        </p>
      )}
      {view && (
        <>
          <p>
            <strong className="fig text-lg">
              {now ? quantityText(now.crankcase, 'pressure', units, 2) : 'no reading'}
            </strong>{' '}
            {STATE_NAMES[view.state].toLowerCase()}
            {logs ? '' : ' (as the switch above has it: the logger sends no speed and manifold)'}
            {now && Number.isFinite(now.low) && (
              <>
                , predicted <span className="fig">{quantityText(now.low, 'pressure', units, 2)}</span> to{' '}
                <span className="fig">{quantityText(now.high, 'pressure', units, 2)}</span>
                {now.crankcase < now.low || now.crankcase > now.high ? (
                  <strong className="text-fix"> · outside the band</strong>
                ) : (
                  <span className="text-ok"> · as it should be</span>
                )}
              </>
            )}
          </p>
          <Picture view={view} />
          {silent ? (
            <p role="status" className="text-soft">
              No line has come for {Math.round(SILENT_MS / 1000)} s. It goes on here when the logger does.
            </p>
          ) : (
            <TakeReading view={view} run={run} />
          )}
        </>
      )}
    </section>
  )
}
