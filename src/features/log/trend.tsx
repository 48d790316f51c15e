'use client'
/** What was found at each emptying: as a rate by road and track with what happened beside it, and against the gas that passed. */
import { useState } from 'react'
import { day } from '@/ui/dates'
import {
  Bar,
  CartesianGrid,
  ComposedChart,
  LabelList,
  Line,
  ReferenceLine,
  Scatter,
  ScatterChart,
  XAxis,
  YAxis,
} from 'recharts'
import { fromSi, shownUnit, unitLabel } from '@/core/units/units'
import { formatNumber } from '@/core/units/format'
import type { CanForecast } from '@/plan/model/results'
import { intervalsOf, type FillInterval } from '@/plan/service/catch-rate'
import { Views } from '@/ui/views'
import { useUnits, useWorkspace } from '../workspace/store'

const TEXT = { fill: 'var(--soft)', fontSize: 11 }
const tick = (v: number) => String(Number(v.toPrecision(3)))
const FILL = { width: '100%', height: '100%' }
const VIEWS = { rate: 'over time', gas: 'against blow-by' } as const

export function Trend({ can }: { can: CanForecast }) {
  const build = useWorkspace((s) => s.build)
  const states = useWorkspace((s) => s.analysis.states)
  const [view, setView] = useState<keyof typeof VIEWS>('rate')
  const intervals = intervalsOf(build, states, can).filter((h) => h.metres > 0)
  return (
    <figure>
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-3 border-b-[1.5px] border-ink pb-1">
        <span className="head">{can.name}, what was found</span>
        <Views label="How it is shown" value={view} options={VIEWS} onChange={setView} />
      </figcaption>
      {view === 'rate' ? <Rate intervals={intervals} /> : <AgainstGas intervals={intervals} />}
    </figure>
  )
}

function Rate({ intervals }: { intervals: readonly FillInterval[] }) {
  const unit = shownUnit('perDistance', useUnits())
  const rows = intervals.map((h) => {
    const rate = (v: number) => Number(fromSi('perDistance', v / h.metres, unit).toPrecision(3))
    return {
      date: day(h.date, 'short'),
      road: rate(h.road),
      track: rate(h.track),
      water: rate(h.water),
      expected: rate(h.expected),
    }
  })
  const tracked = intervals.some((h) => h.track > 0)
  const bar = { stackId: 'found', maxBarSize: 34, isAnimationActive: false } as const
  return (
    <>
      <div className="h-52">
        <ComposedChart responsive style={FILL} data={rows} margin={{ top: 16, right: 8, bottom: 0, left: -14 }}>
          <defs>
            <pattern id="on-track" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="6" height="6" fill="var(--oil-laden)" />
              <path d="M0 0v6" stroke="var(--paper)" strokeWidth="2" />
            </pattern>
          </defs>
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis dataKey="date" tick={TEXT} stroke="var(--rule-strong)" />
          <YAxis tick={TEXT} stroke="var(--rule-strong)" tickFormatter={tick} />
          <Bar dataKey="road" name="oil, road" fill="var(--oil-laden)" {...bar} />
          <Bar dataKey="track" name="oil, track" fill="url(#on-track)" {...bar} />
          <Bar dataKey="water" name="water found" fill="var(--water)" {...bar} />
          <Line
            dataKey="expected"
            name="oil expected now"
            stroke="var(--ink)"
            strokeWidth={2}
            strokeDasharray="5 4"
            dot={{ r: 3, fill: 'var(--paper)', stroke: 'var(--ink)' }}
            isAnimationActive={false}
          />
          {intervals.flatMap((h, i) =>
            h.events.map((event, k) => (
              <ReferenceLine
                key={`${h.id} ${event}`}
                x={rows[i]!.date}
                stroke="var(--ink)"
                strokeDasharray="2 3"
                label={{ value: event, position: k === 0 ? 'top' : 'insideTop', fill: 'var(--ink)', fontSize: 11 }}
              />
            )),
          )}
        </ComposedChart>
      </div>
      <p className="text-xs text-soft">
        {unitLabel(unit)}: full, oil {tracked && 'of the road; hatched, of the track, as the model shares it out; '}
        <span className="text-water" aria-hidden>
          ■
        </span>{' '}
        water; dashed, oil to be expected with what has been learned.
      </p>
    </>
  )
}

type LabelAt = { x?: number | string; y?: number | string; value?: unknown; index?: number }
/** A day beside its point, on one line; to either side in turn, since points lie close. */
const dayLabel = ({ x, y, value, index = 0 }: LabelAt) => (
  <text
    x={Number(x) + (index % 2 ? -4 : 12)}
    y={Number(y) + 8}
    textAnchor={index % 2 ? 'end' : 'start'}
    fontSize="10"
    fill="var(--soft)"
  >
    {String(value)}
  </text>
)

/** More oil from the same gas is a worse pick-up or a fuller sump; more of both is rings. */
function AgainstGas({ intervals }: { intervals: readonly FillInterval[] }) {
  const units = useUnits()
  const unit = shownUnit('volume', units)
  const rows = intervals.map((h) => ({
    gas: Number(h.gas.toPrecision(3)),
    oil: Number(fromSi('volume', h.road + h.track, unit).toPrecision(3)),
    name: day(h.date, 'short'),
  }))
  const all = rows.reduce((s, r) => ({ gas: s.gas + r.gas, oil: s.oil + r.oil }), { gas: 0, oil: 0 })
  const most = rows.reduce((m, r) => Math.max(m, r.gas), 0)
  if (!(most > 0)) return <p className="py-4 text-soft">The circuit has no answer in a state that is driven.</p>
  const even = all.oil / all.gas
  return (
    <>
      <div className="h-52">
        <ScatterChart responsive style={FILL} margin={{ top: 12, right: 12, bottom: 12, left: -14 }}>
          <CartesianGrid stroke="var(--rule)" />
          <XAxis
            dataKey="gas"
            type="number"
            domain={[0, 'auto']}
            tick={TEXT}
            stroke="var(--rule-strong)"
            tickFormatter={tick}
            label={{ value: 'blow-by by the model, m³', position: 'insideBottom', offset: -8, ...TEXT }}
          />
          <YAxis dataKey="oil" type="number" tick={TEXT} stroke="var(--rule-strong)" tickFormatter={tick} />
          <ReferenceLine
            segment={[
              { x: 0, y: 0 },
              { x: most, y: even * most },
            ]}
            stroke="var(--ink)"
            strokeDasharray="5 4"
          />
          <Scatter data={rows} fill="var(--oil-laden)" isAnimationActive={false}>
            <LabelList dataKey="name" content={dayLabel} />
          </Scatter>
        </ScatterChart>
      </div>
      <p className="text-xs text-soft">
        {unitLabel(unit)} of oil caught; dashed, {formatNumber(even, 2)} {unitLabel(unit)} to the cubic metre, as they
        all make. A point above it had more oil in the same gas: pick-up, cornering or oil level.
      </p>
    </>
  )
}
