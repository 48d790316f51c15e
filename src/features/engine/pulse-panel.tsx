'use client'
/** A single or twin pumps its crankcase: one turn, followed in time. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useEffect } from 'react'
import { formatQuantity, quantityText } from '@/core/units/format'
import { fromSi } from '@/core/units/units'
import type { Pulse, PulseStudy } from '@/plan/model/pulsation'
import { STATE_NAMES } from '@/plan/document/words'
import { ticksOf } from '@/ui/axis'
import { useJob } from '../workspace/jobs/jobs'
import { shownBuild, useUnits, useWorkspace } from '../workspace/store'

const [W, H, LEFT, BOTTOM] = [540, 190, 44, 22]

export function PulsePanel() {
  const build = useWorkspace(shownBuild)
  const state = useWorkspace((s) => s.state)
  const present = useWorkspace((s) =>
    s.analysis.states.some((x) => x.id === state) ? state : s.analysis.states[0]!.id,
  )
  const job = useJob('pulse')
  const { start } = job
  useEffect(() => {
    const timer = setTimeout(() => start(build, present), 250)
    return () => clearTimeout(timer)
  }, [start, build, present])
  const study = job.value
  return (
    <div className="pt-2">
      {job.progress !== undefined ? (
        <p className="flex min-h-8 items-center gap-3 text-soft" role="status">
          Following the crankcase turn by turn, {Math.round(job.progress * 100)} %{' '}
          <button type="button" className="link-button" onClick={job.stop}>
            Stop
          </button>
        </p>
      ) : (
        <p className="flex min-h-8 items-center gap-3 text-soft">
          {study?.ok
            ? `${STATE_NAMES[study.value.now.state]}, ${Math.round(study.value.now.rpm / 10) * 10} rpm, periodic after ${study.value.now.turns} turns`
            : 'Stopped.'}{' '}
          {!study && (
            <button type="button" className="link-button" onClick={() => start(build, present)}>
              Follow a turn
            </button>
          )}
        </p>
      )}
      {job.failed && (
        <p role="alert" className="text-stop">
          {job.failed}
        </p>
      )}
      {study && !study.ok && (
        <p role="alert" className="border-l-4 border-stop pl-2">
          {study.reason}
        </p>
      )}
      {study?.ok && <Turn study={study.value} stale={job.progress !== undefined} />}
    </div>
  )
}

function Turn({ study, stale }: { study: PulseStudy; stale: boolean }) {
  const units = useUnits()
  const { now } = study
  const gauge = (pa: number) => pa - now.ambientPa
  const shown = (pa: number) => fromSi('pressure', gauge(pa), units.pressure)
  const flow = (kg: number) => quantityText(kg, 'gasFlow', units, 2)
  const pressure = (pa: number) => {
    const f = formatQuantity(gauge(pa), 'pressure', units, 2)
    return `${gauge(pa) > 0 ? '+' : ''}${f.text} ${f.unit}`
  }
  const x = scaleLinear()
    .domain([0, 360])
    .range([LEFT, W - 6])
  const y = scaleLinear()
    .domain([Math.min(shown(now.least), 0), Math.max(shown(now.peak), 0)])
    .nice(5)
    .range([H - BOTTOM, 8])
  const path =
    line<number>()
      .x((_, i) => x(i % 361))
      .y((p) => y(shown(p)))([...now.pressure, now.pressure[0]!]) ?? ''
  return (
    <div className={stale ? 'opacity-50' : ''}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="img"
        aria-label={`Crankcase pressure over a turn: highest ${pressure(now.peak)}, mean ${pressure(now.mean)}, lowest ${pressure(now.least)}`}
      >
        {ticksOf(y, 5, true).map(({ value, text }) => (
          <g key={value}>
            <path
              d={`M${LEFT} ${y(value)}H${W - 6}`}
              stroke={value === 0 ? 'var(--ink)' : 'var(--rule)'}
              strokeWidth={value === 0 ? 1.4 : 1}
            />
            <text x={LEFT - 5} y={y(value) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
              {text}
            </text>
          </g>
        ))}
        {[0, 90, 180, 270, 360].map((d) => (
          <text key={d} x={x(d)} y={H - 5} textAnchor={d === 360 ? 'end' : 'middle'} fontSize="11" fill="var(--soft)">
            {d === 0 ? 'top' : d === 180 ? 'bottom' : `${d}°`}
          </text>
        ))}
        <path
          d={`M${LEFT} ${y(shown(now.mean))}H${W - 6}`}
          stroke="var(--blue)"
          strokeWidth="1.6"
          strokeDasharray="6 4"
        />
        <path d={path} fill="none" stroke="var(--vacuum)" strokeWidth="2.4" />
        <text
          x={W - 8}
          y={y(shown(now.mean)) - 5}
          textAnchor="end"
          fontSize="11"
          fontWeight="700"
          fill="var(--blue)"
          className="paint-halo"
        >
          mean {pressure(now.mean)}
        </text>
      </svg>
      <p className="text-xs text-soft">
        {units.pressure} above the pressure outside, over one turn of the crank from the first piston’s top. Volume, gas
        and hoses are followed in time until every turn is like the last: V dp/dt = n (p/ρ) Σm − n p dV/dt, n 1.3
        (estimate), each hose with the inertia of its gas; valves follow at once.
      </p>
      {study.mean && (
        <p className="mt-1">
          Mean between {pressure(study.mean[0])} and {pressure(study.mean[1])}, by how much heat the walls take from the
          gas (n from 1.0 to 1.4).
        </p>
      )}
      <table className="table mt-1 w-full">
        <thead>
          <tr>
            <th>Crankcase</th>
            <th className="!text-right">Highest</th>
            <th className="!text-right">Mean</th>
            <th className="!text-right">Lowest</th>
            <th className="!text-right">Out</th>
            <th className="!text-right">Back in</th>
          </tr>
        </thead>
        <tbody>
          <PulseRow name="as it is" pulse={now} pressure={pressure} flow={flow} strong />
          {study.changes.map((c) => (
            <PulseRow
              key={`${c.of} ${c.what} ${c.mm}`}
              name={`${c.of}, ${c.what} ${quantityText(c.mm / 1000, 'length', units, 3)}`}
              pulse={c.pulse}
              pressure={pressure}
              flow={flow}
            />
          ))}
        </tbody>
      </table>
    </div>
  )
}

function PulseRow({
  name,
  pulse,
  pressure,
  flow,
  strong,
}: {
  name: string
  pulse: Pulse | undefined
  pressure: (pa: number) => string
  flow: (kg: number) => string
  strong?: boolean
}) {
  return (
    <tr className={strong ? 'font-bold' : ''}>
      <th scope="row" className={`!text-ink ${strong ? '!font-bold' : ''}`}>
        {name}
      </th>
      {pulse ? (
        <>
          <td className="text-right">{pressure(pulse.peak)}</td>
          <td className="text-right">{pressure(pulse.mean)}</td>
          <td className="text-right">{pressure(pulse.least)}</td>
          <td className="text-right">{flow(pulse.out)}</td>
          <td className="text-right">{flow(pulse.back)}</td>
        </>
      ) : (
        <td colSpan={5} className="text-right text-soft">
          no answer
        </td>
      )}
    </tr>
  )
}
