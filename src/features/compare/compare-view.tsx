'use client'
/** Two to six plans over the build's use: the trade as a picture, the figures as a sheet, the differences in words. */
import { Download, Printer } from 'lucide-react'
import { differences } from '@/plan/studies/differences'
import { useEffect, useMemo, useState } from 'react'
import { scaleLinear } from 'd3-scale'
import { formatNumber, quantityText } from '@/core/units/format'
import { fromSi, shownUnit, unitLabel } from '@/core/units/units'
import { evaluate } from '@/plan/analyse'
import type { FigureRef } from '@/plan/explain/figures'
import { pulsates } from '@/plan/model/engine'
import { makeEvaluator } from '@/plan/model/evaluator'
import {
  comparisonCsv,
  comparisonSheet,
  conclusion,
  MOST_COMPARED,
  showing,
  type Comparison,
} from '@/plan/studies/comparison'
import { showPlan } from '@/plan/edit/edit-builders'
import { judgeCrankcase, LIMITS } from '@/plan/model/limits'
import { fittedPlan } from '@/plan/document/fitted-plan'
import { STATE_NAMES } from '@/plan/document/words'
import { SEVERITY_COLOUR } from '@/ui/marks'
import { pressureScale } from '@/ui/pressure-scale'
import { csvOf } from '@/plan/files/csv'
import { download } from '@/ui/download'
import { Select } from '@/ui/select'
import { ticksOf } from '@/ui/axis'
import { useJob } from '../workspace/jobs/jobs'
import { OPENS, WorkingButton } from '../workspace/figures/working-popover'
import { useUnits, useWorkspace } from '../workspace/store'

export function CompareView() {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const job = useJob('compare')
  const { start } = job
  useEffect(() => {
    const timer = setTimeout(() => start(build, today), 150)
    return () => clearTimeout(timer)
  }, [start, build, today])
  const rows = job.value
  const csv = () => {
    if (!rows) return
    download(`${build.name}, plans.csv`, csvOf(comparisonCsv(build, rows)), 'text/csv')
  }
  if (build.variants.length < 2)
    return (
      <div className="px-4 py-10">
        <h2 className="text-lg">One plan alone has nothing to stand beside</h2>
        <p className="mt-2 max-w-xl text-soft">
          Add a school or copy this plan and change it, under the plan’s name above; then the two are compared here over
          this build’s use.
        </p>
      </div>
    )
  return (
    <div className="print-flow px-4 py-3">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 className="head">Plans side by side</h2>
        <span role="status" className="text-soft">
          {job.progress !== undefined ? (
            <>
              Working them out, {Math.round(job.progress * 100)} %{' '}
              <button type="button" className="link-button" onClick={job.stop}>
                Stop
              </button>
            </>
          ) : (
            (job.failed ??
            (build.variants.length > MOST_COMPARED
              ? `The first ${MOST_COMPARED} of ${build.variants.length} are shown`
              : ''))
          )}
        </span>
        <span className="no-print flex gap-2">
          <button type="button" className="link-button inline-flex items-center gap-1" disabled={!rows} onClick={csv}>
            <Download size={16} aria-hidden /> CSV
          </button>
          <button type="button" className="link-button inline-flex items-center gap-1" onClick={() => print()}>
            <Printer size={16} aria-hidden /> Print
          </button>
        </span>
      </div>
      {rows && rows.length > 0 && (
        <>
          <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-2 pt-2 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
            <Trade rows={rows} />
            <Bands rows={rows} />
          </div>
          <Sheet rows={rows} />
          <Words rows={rows} />
          <Conclusion rows={rows} />
        </>
      )}
    </div>
  )
}

/** A letter in a shape of its own, so that six plans are told apart without colour. */
const SHAPES = [
  'M-9-9h18v18h-18z',
  'M0-11a11 11 0 1 0 .01 0z',
  'M0-12 12 9h-24z',
  'M0-12 12 0 0 12-12 0z',
  'M-6-11h12l6 11-6 11h-12l-6-11z',
  'M-12-8h24L0 12z',
]
function Letter({ row, x, y, index }: { row: Comparison; x: number; y: number; index: number }) {
  return (
    <g transform={`translate(${x} ${y})`}>
      <title>{row.name}</title>
      <path
        d={SHAPES[index % 6]}
        fill={row.sealed ? 'var(--blue)' : 'var(--sheet)'}
        stroke="var(--blue)"
        strokeWidth="2"
      />
      <text
        y={index === 2 ? 6 : 4}
        textAnchor="middle"
        fontSize="11"
        fontWeight="700"
        fill={row.sealed ? 'var(--on-blue)' : 'var(--blue)'}
      >
        {row.letter}
      </text>
    </g>
  )
}

const highest = (r: Comparison) => Math.max(...r.states.map((s) => s.gauge ?? -Infinity))

/** Oil that still reaches the intake against the highest crankcase pressure: down and to the left is better. */
function Trade({ rows }: { rows: readonly Comparison[] }) {
  const units = useUnits()
  const [W, H, L, B] = [460, 270, 56, 40]
  const unit = shownUnit('perDistance', units)
  const oil = (r: Comparison) => fromSi('perDistance', r.intakeOil, unit)
  const gauge = (r: Comparison) => fromSi('pressure', Number.isFinite(highest(r)) ? highest(r) : 0, units.pressure)
  const x = scaleLinear()
    .domain([0, Math.max(1e-6, ...rows.map(oil)) * 1.15])
    .range([L, W - 14])
  const limit = fromSi('pressure', LIMITS.crankcaseHigh, units.pressure)
  const y = scaleLinear()
    .domain([Math.min(0, ...rows.map(gauge)) - 0.1 * limit, Math.max(limit * 1.2, ...rows.map(gauge))])
    .nice(5)
    .range([H - B, 12])
  return (
    <figure>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="img"
        aria-label={rows
          .map(
            (r) =>
              `${r.letter} ${r.name}: ${formatNumber(oil(r), 2)} ${unitLabel(unit)} of oil to the intake, highest crankcase pressure ${formatNumber(gauge(r), 2)} ${units.pressure}`,
          )
          .join('; ')}
      >
        <rect x={L} y={y(0)} width={W - L - 14} height={H - B - y(0)} fill="var(--vacuum-wash)" />
        <rect x={L} y={12} width={W - L - 14} height={Math.max(0, y(limit) - 12)} fill="var(--pressure-wash)" />
        {ticksOf(y, 5, true).map(({ value, text }) => (
          <g key={value}>
            <path d={`M${L} ${y(value)}H${W - 14}`} stroke="var(--rule-strong)" strokeWidth={value === 0 ? 1.4 : 0.5} />
            <text x={L - 6} y={y(value) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
              {text}
            </text>
          </g>
        ))}
        {ticksOf(x, 5).map(({ value, text }) => (
          <text key={value} x={x(value)} y={H - 22} textAnchor="middle" fontSize="11" fill="var(--soft)">
            {text}
          </text>
        ))}
        <text x={W - 14} y={H - 5} textAnchor="end" fontSize="11" fill="var(--soft)">
          oil to the intake, {unitLabel(unit)}
        </text>
        <text x={L + 4} y={24} fontSize="11" fill="var(--pressure)">
          seals suffer
        </text>
        {rows.map((r, i) => (
          <Letter key={r.id} row={r} index={i} x={x(oil(r))} y={y(gauge(r))} />
        ))}
      </svg>
      <figcaption className="text-xs text-soft">
        Highest crankcase pressure in any state, {units.pressure}, against oil that still reaches the intake. Towards
        the lower left is better; filled marks are sealed, hollow ones vented.
      </figcaption>
    </figure>
  )
}

/** Crankcase pressure of each plan in each state, with its band. */
function Bands({ rows }: { rows: readonly Comparison[] }) {
  const units = useUnits()
  const states = rows[0]!.states
  const [W, L, ROW] = [460, 70, 16]
  const block = rows.length * ROW + 10
  const H = states.length * block + 22
  const all = rows.flatMap((r) => r.states.flatMap((s) => [s.gauge ?? 0, s.band?.low ?? 0, s.band?.high ?? 0]))
  const [low, high] = [Math.min(-6000, ...all), Math.max(2500, ...all)]
  const x = pressureScale(300, [low, high], [L, W - 10])
  const ticks = [-10, -3, -1, -0.3, 0, 0.3, 1, 3, 10].map((k) => k * 1000).filter((pa) => pa >= low && pa <= high)
  return (
    <figure>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="img"
        aria-label={`Crankcase pressure in each state: ${rows.map((r) => `${r.letter} ${r.states.map((s) => `${STATE_NAMES[s.id].toLowerCase()} ${s.gauge === undefined ? 'no answer' : quantityText(s.gauge, 'pressure', units, 2)}`).join(', ')}`).join('; ')}`}
      >
        <rect
          x={x(LIMITS.crankcaseLow)}
          y="0"
          width={x(0) - x(LIMITS.crankcaseLow)}
          height={H - 20}
          fill="var(--vacuum-wash)"
        />
        {ticks.map((pa) => (
          <g key={pa}>
            <path d={`M${x(pa)} 0V${H - 20}`} stroke="var(--rule-strong)" strokeWidth={pa === 0 ? 1.4 : 0.5} />
            <text x={x(pa)} y={H - 6} textAnchor="middle" fontSize="10" fill="var(--soft)">
              {formatNumber(fromSi('pressure', pa, units.pressure), 2)}
            </text>
          </g>
        ))}
        {states.map((s, k) => (
          <g key={s.id} transform={`translate(0 ${k * block + 4})`}>
            <text x="0" y={block / 2} fontSize="12" fontWeight="700" fill="var(--ink)">
              {STATE_NAMES[s.id]}
            </text>
            {rows.map((r, i) => {
              const v = r.states[k]!
              const at = i * ROW + ROW / 2
              return (
                <g key={r.id}>
                  <text x={L - 8} y={at + 4} textAnchor="end" fontSize="10" fontWeight="700" fill="var(--blue)">
                    {r.letter}
                  </text>
                  {v.band && (
                    <rect
                      x={x(v.band.low)}
                      y={at - 3.5}
                      width={Math.max(2, x(v.band.high) - x(v.band.low))}
                      height="7"
                      fill="var(--blue)"
                      opacity="0.35"
                    />
                  )}
                  {v.gauge === undefined ? (
                    <text x={L + 4} y={at + 4} fontSize="10" fill="var(--stop)">
                      no answer
                    </text>
                  ) : (
                    <path
                      d={`M${x(v.gauge)} ${at - 6}l5 6-5 6-5-6z`}
                      fill={judgeCrankcase(v.gauge) === 'ok' ? 'var(--ink)' : SEVERITY_COLOUR[judgeCrankcase(v.gauge)]}
                    />
                  )}
                </g>
              )
            })}
          </g>
        ))}
      </svg>
      <figcaption className="text-xs text-soft">Crankcase, {units.pressure}; bars hold four cases in five.</figcaption>
    </figure>
  )
}

function Sheet({ rows }: { rows: readonly Comparison[] }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const [head, ...body] = comparisonSheet(build, rows)
  return (
    <div className="overflow-x-auto pt-3">
      <table className="table w-full min-w-[40rem]">
        <thead>
          <tr>
            <th>{head![0]}</th>
            {rows.map((r) => (
              <th key={r.id} className="!whitespace-normal !text-ink">
                <button
                  type="button"
                  className="min-h-11 text-left font-bold underline decoration-rule-strong underline-offset-4 hover:decoration-blue"
                  aria-pressed={build.active === r.id}
                  onClick={() => act(showPlan(r.id), `Plan ${r.name} shown`)}
                >
                  {r.letter} {r.name}
                </button>
                {build.active === r.id && <span className="block text-xs text-blue">shown at every station</span>}
                {fittedPlan(build)?.id === r.id && <span className="block text-xs text-soft">on the car</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {body.map(([name, ...cells], row) => (
            <tr key={name}>
              <th scope="row" className="!text-ink">
                {name}
              </th>
              {cells.map((c, i) => (
                <td key={rows[i]!.id} className="!whitespace-normal">
                  <Cell text={c} plan={rows[i]!.id} of={figureOfRow(rows, row)} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** The figure that a row of the sheet tells of each plan; undefined for what is counted, drawn or said. */
function figureOfRow(rows: readonly Comparison[], row: number): FigureRef | undefined {
  const states = rows[0]?.states ?? []
  if (row < states.length) return { kind: 'crankcase', state: states[row]!.id }
  if (row === states.length) return { kind: 'intakeOil' }
  return row === states.length + ROWS_TO_BYPASS ? { kind: 'bypass' } : undefined
}
/** Rows of the sheet between the states and the air past the throttle: oil to the intake, caught, water, drain, look. */
const ROWS_TO_BYPASS = 5

/** A cell that opens the working of its plan's figure. Of an engine whose pistons pump, turns are followed at the stations alone. */
function Cell({ text, plan, of }: { text: string; plan: string; of: FigureRef | undefined }) {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  if (!of || pulsates(build.engine)) return text
  const open = async () => {
    const { workingOf } = await import('@/plan/explain/workings')
    const evaluator = makeEvaluator()
    const b = showing(build, plan)
    return workingOf(b, evaluate(b, today, evaluator), of, evaluator)
  }
  return (
    <WorkingButton of={open} className={OPENS}>
      {text}
      <span className="sr-only">, show the working</span>
    </WorkingButton>
  )
}

/** What sets one plan apart from another, each difference with what it does alone. */
function Words({ rows }: { rows: readonly Comparison[] }) {
  const build = useWorkspace((s) => s.build)
  const [from, setFrom] = useState(rows[0]!.id)
  const [to, setTo] = useState(rows[1]!.id)
  const known = (id: string, fallback: string) => (rows.some((r) => r.id === id) ? id : fallback)
  const [a, b] = [known(from, rows[0]!.id), known(to, rows[1]!.id)]
  const learned = rows.find((r) => r.id === a)?.oilLearned
  const list = useMemo(() => differences(build, a, b, learned), [build, a, b, learned])
  const options = rows.map((r) => ({ value: r.id, name: `${r.letter} ${r.name}` }))
  return (
    <section aria-labelledby="words" className="pt-4 pb-6">
      <div className="flex flex-wrap items-center gap-x-3 border-b-[1.5px] border-ink pb-1">
        <h2 id="words" className="head">
          From
        </h2>
        <Select className="!w-60" label="From plan" value={a} options={options} onChange={setFrom} />
        <span className="head">to</span>
        <Select className="!w-60" label="To plan" value={b} options={options} onChange={setTo} />
      </div>
      {list.length === 0 ? (
        <p className="py-3 text-soft">{a === b ? 'Choose two plans.' : 'The two are alike in every part and size.'}</p>
      ) : (
        <ul className="mt-1">
          {list.map((d) => (
            <li key={d.what} className="border-b border-rule py-1.5">
              {d.what.charAt(0).toUpperCase()}
              {d.what.slice(1)} <strong>{d.effect}</strong>.
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

/** Which to take, and when another would win. */
function Conclusion({ rows }: { rows: readonly Comparison[] }) {
  const build = useWorkspace((s) => s.build)
  const says = useMemo(() => conclusion(build, rows), [build, rows])
  return (
    says && (
      <section aria-labelledby="conclusion" className="border-t-[1.5px] border-ink pt-2 pb-8">
        <h2 id="conclusion" className="head">
          Which to take
        </h2>
        <p className="mt-1 max-w-3xl text-base">{says}</p>
      </section>
    )
  )
}
