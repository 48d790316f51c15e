'use client'
/** Frost through the year, oil added against oil caught, and how well past forecasts did. */
import { useMemo } from 'react'
import { quantityText } from '@/core/units/format'
import { toSi } from '@/core/units/units'
import { CLIMATE_FACTS, climateOf } from '@/plan/catalogue/climates'
import { CLIMATES } from '@/plan/document/bounds'
import { NIGHT_FIELD } from '@/plan/document/fields'
import { setField } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { atState, lowered, unitFormatter } from '@/plan/document/words'
import { forecastChecks } from '@/plan/service/forecast'
import { returnedBy, waterIntoOil } from '@/plan/service/oil-water'
import { waterWay } from '@/plan/studies/water-way'
import { oilBalance } from '@/plan/service/balance'
import { foundByMonth } from '@/plan/service/by-month'
import { frost } from '@/plan/faults/frost'
import type { CanForecast } from '@/plan/model/results'
import { NumberField } from '../workspace/figures/field'
import { useUnits, useWorkspace } from '../workspace/store'

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const
const LONG = new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' })
const monthName = (m: number) => LONG.format(new Date(Date.UTC(2026, m, 15)))

export default function Season() {
  const cans = useWorkspace((s) => s.analysis.cans)
  return (
    <div className="space-y-5">
      <Months />
      <Water />
      <FrostYear />
      <Added />
      {cans.map((c) => (c.history.length > 1 ? <Calibration key={c.part} can={c} /> : null))}
    </div>
  )
}

/** Of the water that burning makes: what stays in a cold crankcase, what the hoses and the can take out, what passes on. */
function Water() {
  const build = useWorkspace((s) => s.build)
  const analysis = useWorkspace((s) => s.analysis)
  const shown = useWorkspace((s) => s.state)
  const say = unitFormatter(useUnits())
  const variant = activeVariant(build)
  const state = analysis.states.find((s) => s.id === shown)
  const hourly = (m3s: number) => say.volume(m3s * 3600)
  const inOil = waterIntoOil(build, analysis)
  const rows = variant.parts.flatMap((p) => {
    const way = p.kind === 'can' && state?.solved ? waterWay(variant, state, p.id, analysis.engine) : undefined
    return way ? [{ id: p.id, name: p.name, way }] : []
  })
  return (
    <section aria-labelledby="water">
      <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <h2 id="water" className="head">
          Where the water goes
        </h2>
        <span className="text-xs text-soft">in an hour {atState(shown)}, warm</span>
      </div>
      {rows.length > 0 && (
        <table className="table w-full">
          <thead>
            <tr>
              <th />
              {WATER_HEADS.map((h) => (
                <th key={h} className="!text-right">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, name, way }) => (
              <tr key={id}>
                <th scope="row">{name}</th>
                {[way.comes, way.hoses, way.can, way.goesOn].map((v, i) => (
                  <td key={WATER_HEADS[i]} className="fig text-right">
                    {hourly(v)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {variant.parts.map((p) => {
        const returned = p.kind === 'can' ? returnedBy(build, analysis, p) : undefined
        return returned ? (
          <p key={p.id} className="pt-1 text-xs text-soft">
            The drain of the {lowered(p.name)} takes {say.perDistance(returned.water)} of water to the sump with{' '}
            {say.perDistance(returned.oil)} of oil, at {say.temperature(returned.airK)} outside.
          </p>
        ) : null
      })}
      {inOil !== undefined && (
        <p className="pt-1 text-xs text-soft">
          In the crankcase itself, while it is cold, {say.perDistance(inOil)} condense on this use; oil that gets hot
          enough drives it off again.
        </p>
      )}
    </section>
  )
}
const WATER_HEADS = ['comes', 'hoses take', 'can takes', 'goes on'] as const

const OWN = 'own'
const HELPS = {
  insulated: 'Foam round the can',
  shorter: 'Half the length of its hoses',
  relief: 'A relief cap on the filler',
} as const

function FrostYear() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const today = useWorkspace((s) => s.today)
  const units = useUnits()
  const say = unitFormatter(units)
  const climate = build.site.climate
  const { nights } = build.site
  const facts = useMemo(() => climateOf(build.site), [build.site])
  // a year of a plan is some fifteen analyses of it
  const seen = useMemo(() => frost(build, Number(today.slice(5, 7)) - 1), [build, today])
  const degrees = (c: number) => quantityText(toSi('temperature', c, 'C'), 'temperature', units, 2)
  return (
    <section aria-labelledby="frost">
      <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <h2 id="frost" className="head">
          Frost
        </h2>
        <label className="text-xs text-soft">
          driven in{' '}
          <select
            className="field min-h-9 !w-44"
            value={nights ? OWN : (climate ?? '')}
            onChange={(e) => {
              const own = e.target.value === OWN
              const ready = own || e.target.value === '' ? undefined : e.target.value
              act(
                [
                  setField(['site', 'climate'], own ? climate : ready),
                  setField(['site', 'nights'], own ? [...(facts ?? CLIMATE_FACTS['mild-coast']).nights] : undefined),
                ],
                'Where it is driven',
              )
            }}
          >
            <option value="">not said</option>
            <option value={OWN}>months of your own</option>
            {CLIMATES.map((c) => (
              <option key={c} value={c}>
                {CLIMATE_FACTS[c].name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {nights && (
        <div className="no-print mt-1 grid grid-cols-4 gap-x-3 sm:grid-cols-6">
          {nights.map((night, i) => (
            <NumberField
              key={MONTHS[i]}
              field={NIGHT_FIELD}
              label={`${MONTHS[i]}, coldest night`}
              value={night}
              onChange={(v) =>
                v !== undefined &&
                act(
                  setField(
                    ['site', 'nights'],
                    nights.map((n, k) => (k === i ? v : n)),
                  ),
                  'Coldest nights',
                  `night ${i}`,
                )
              }
            />
          ))}
        </div>
      )}
      {!seen && (
        <p className="mt-1 text-soft">Say what winters it sees, and when something will freeze first is told.</p>
      )}
      {seen && (
        <>
          <p className="mt-1">
            {seen.first ? (
              <>
                <strong>
                  The {lowered(seen.first.name)} will freeze first, in {monthName(seen.first.month)}:
                </strong>{' '}
                water to shut it gathers in {say.distance(seen.first.kmToPlug * 1000)}.
                {seen.frozenPa !== undefined &&
                  seen.openPa !== undefined &&
                  ` Shut by ice the crankcase stands at ${say.signed(seen.frozenPa)} at most, against ${say.signed(seen.openPa)} open.`}{' '}
                Empty it before that night.
              </>
            ) : (
              'Nothing freezes there in a month’s driving.'
            )}
          </p>
          {seen.first && seen.helps.length > 0 && (
            <ul className="mt-1 list-disc pl-5">
              {seen.helps.map((h) => (
                <li key={h.what}>
                  {HELPS[h.what]}:{' '}
                  {h.what === 'relief'
                    ? h.frozenPa === undefined
                      ? 'it lets go no more'
                      : `shut by ice, ${say.signed(h.frozenPa)} at most`
                    : Number.isFinite(h.kmToPlug)
                      ? `${say.distance(h.kmToPlug * 1000)} until it is shut`
                      : 'nothing gathers there any more'}
                  .
                </li>
              ))}
            </ul>
          )}
          <svg
            viewBox="0 0 420 92"
            className="mt-1 w-full max-w-lg"
            role="img"
            aria-label={seen.months
              .map((m) => `${MONTHS[m.month]}: ${degrees(m.nightC)} at night${m.freezes ? ', freezes' : ''}`)
              .join('; ')}
          >
            <path d="M0 40H420" stroke="var(--rule-strong)" />
            {seen.months.map((m, i) => {
              const x = 4 + i * 35
              const h = Math.min(36, Math.abs(m.nightC) * 1.5)
              return (
                <g key={m.month}>
                  <rect
                    x={x}
                    y={m.nightC < 0 ? 40 : 40 - h}
                    width="26"
                    height={h}
                    fill={m.nightC < 0 ? 'var(--water)' : 'var(--well)'}
                    stroke={m.freezes ? 'var(--ink)' : 'none'}
                    strokeWidth="2"
                  />
                  <text x={x + 13} y="90" textAnchor="middle" fontSize="11" fill="var(--soft)">
                    {MONTHS[m.month]}
                  </text>
                  {m.freezes && (
                    <text x={x + 13} y="36" textAnchor="middle" fontSize="13" fill="var(--ink)">
                      ❄
                    </text>
                  )}
                </g>
              )
            })}
          </svg>
          <p className="text-xs text-soft">
            The coldest night of each month{nights ? '' : ' in a ready climate (invented)'}; outlined: something
            freezes.
          </p>
        </>
      )}
    </section>
  )
}

/** Oil and water found, month by month: water is the cold, oil the driving. */
function Months() {
  const cans = useWorkspace((s) => s.analysis.cans)
  const today = useWorkspace((s) => s.today)
  const say = unitFormatter(useUnits())
  const months = foundByMonth(cans, today)
  const most = Math.max(...months.map((m) => m.oil + m.water))
  if (!(most > 0)) return null
  const high = (m3: number) => (58 * m3) / most
  const shownMonths = months.filter((m) => m.oil + m.water > 0)
  return (
    <section aria-labelledby="months">
      <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <h2 id="months" className="head">
          Oil and water by month
        </h2>
        <span className="text-xs text-soft">up to {say.volume(most)} a month</span>
      </div>
      <svg
        viewBox="0 0 420 82"
        className="mt-1 w-full max-w-lg"
        role="img"
        aria-label={shownMonths
          .map((m) => `${m.month}: ${say.volume(m.oil)} oil, ${say.volume(m.water)} water`)
          .join('; ')}
      >
        <path d="M0 64H420" stroke="var(--rule-strong)" />
        {months.map((m, i) => {
          const x = 4 + i * 35
          const oil = 64 - high(m.oil)
          return (
            <g key={m.month}>
              <rect x={x} y={oil} width="26" height={high(m.oil)} fill="var(--oil-laden)" />
              <rect x={x} y={oil - high(m.water)} width="26" height={high(m.water)} fill="var(--water)" />
              <text x={x + 13} y="78" textAnchor="middle" fontSize="11" fill="var(--soft)">
                {MONTHS[Number(m.month.slice(5)) - 1]}
              </text>
            </g>
          )
        })}
      </svg>
      <p className="text-xs text-soft">By the day of emptying; oil below, water above it.</p>
    </section>
  )
}

/** Oil that went elsewhere. */
function Added() {
  const build = useWorkspace((s) => s.build)
  const say = unitFormatter(useUnits())
  const b = oilBalance(build)
  if (!b) return null
  const rest = b.addedM3 - b.caughtM3
  return (
    <section aria-labelledby="added">
      <h2 id="added" className="head border-b-[1.5px] border-ink pb-1">
        Oil added and caught
      </h2>
      <p className="mt-1">
        {say.volume(b.addedM3)} added, {say.volume(b.caughtM3)} caught over {say.distance(b.metres)}
        {rest > 0
          ? `: the other ${say.volume(rest)} went elsewhere, past rings and valve guides, by leaks, or past the can.`
          : ': no more went than was caught.'}
      </p>
    </section>
  )
}

/** Each filling against the band that was predicted before it. */
function Calibration({ can }: { can: CanForecast }) {
  const say = unitFormatter(useUnits())
  const build = useWorkspace((s) => s.build)
  const analysis = useWorkspace((s) => s.analysis)
  const evaluator = useWorkspace((s) => s.evaluator)
  const checks = useMemo(() => {
    const part = activeVariant(build).parts.find((p) => p.id === can.part)
    return part?.kind === 'can' ? forecastChecks(build, analysis, part, evaluator) : []
  }, [build, analysis, evaluator, can.part])
  if (checks.length === 0) return null
  const most = Math.max(...checks.flatMap((c) => [c.found, c.band.high]))
  const inside = checks.filter((c) => c.inside).length
  const y = (m3: number) => 96 - (88 * m3) / most
  const step = Math.min(52, 400 / checks.length)
  return (
    <section aria-label={`How well the forecasts of the ${lowered(can.name)} did`}>
      <h2 className="head border-b-[1.5px] border-ink pb-1">How well the forecasts of the {lowered(can.name)} did</h2>
      <svg
        viewBox="0 0 420 104"
        className="mt-1 w-full max-w-lg"
        role="img"
        aria-label={checks
          .map(
            (c) =>
              `${c.date}: predicted ${say.volume(c.band.low)} to ${say.volume(c.band.high)}, found ${say.volume(c.found)}`,
          )
          .join('; ')}
      >
        <path d="M0 96H420" stroke="var(--rule-strong)" />
        {checks.map((c, i) => {
          const x = 14 + i * step
          return (
            <g key={c.id}>
              <rect
                x={x - 8}
                y={y(c.band.high)}
                width="16"
                height={y(c.band.low) - y(c.band.high)}
                fill="var(--oil-clean)"
              />
              <path d={`M${x - 8} ${y(c.band.mid)}h16`} stroke="var(--ink)" />
              {c.inside ? (
                <circle cx={x} cy={y(c.found)} r="4.5" fill="var(--oil-laden)" stroke="var(--ink)" />
              ) : (
                <path d={`M${x - 5} ${y(c.found) - 5}l10 10m0-10l-10 10`} stroke="var(--pressure)" strokeWidth="2.5" />
              )}
            </g>
          )
        })}
      </svg>
      <p className="text-xs text-soft">
        {inside} of {checks.length} fillings lay in the band that was told before them; four in five should.
      </p>
    </section>
  )
}
