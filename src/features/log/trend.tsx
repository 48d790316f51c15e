'use client'
/** Oil found at each emptying against what was to be expected then, as a rate. */
import { day } from '@/ui/dates'
import { Bar, CartesianGrid, ComposedChart, Line, XAxis, YAxis } from 'recharts'
import { multiplierAt } from '@/core/service/learn'
import { fromSi, shownUnit, unitLabel } from '@/core/units/units'
import { formatNumber } from '@/core/units/format'
import type { CanForecast } from '@/plan/model/results'
import { useUnits } from '../workspace/store'

export function Trend({ can }: { can: CanForecast }) {
  const units = useUnits()
  const unit = shownUnit('perDistance', units)
  const rows = can.history
    .filter((h) => h.metres > 0)
    .map((h) => {
      const rate = (v: number) => Number(fromSi('perDistance', v / h.metres, unit).toPrecision(3))
      return {
        date: day(h.date, 'short'),
        oil: rate(h.found.oil),
        water: rate(h.found.water),
        expected: rate(h.predicted.oil * multiplierAt(can.multiplier, 0.5)),
      }
    })
  const text = { fill: 'var(--soft)', fontSize: 11 }
  return (
    <figure>
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-3 border-b-[1.5px] border-ink pb-1">
        <span className="head">{can.name}, what was found</span>
        <span className="text-xs text-soft">{unitLabel(unit)}</span>
      </figcaption>
      <div className="h-52">
        <ComposedChart
          responsive
          style={{ width: '100%', height: '100%' }}
          data={rows}
          margin={{ top: 12, right: 8, bottom: 0, left: -14 }}
        >
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis dataKey="date" tick={text} stroke="var(--rule-strong)" />
          <YAxis tick={text} stroke="var(--rule-strong)" tickFormatter={(v: number) => formatNumber(v, 3)} />
          <Bar
            dataKey="oil"
            name="oil found"
            stackId="found"
            fill="var(--oil-laden)"
            maxBarSize={34}
            isAnimationActive={false}
          />
          <Bar
            dataKey="water"
            name="water found"
            stackId="found"
            fill="var(--water)"
            maxBarSize={34}
            isAnimationActive={false}
          />
          <Line
            dataKey="expected"
            name="oil expected now"
            stroke="var(--ink)"
            strokeWidth={2}
            strokeDasharray="5 4"
            dot={{ r: 3, fill: 'var(--paper)', stroke: 'var(--ink)' }}
            isAnimationActive={false}
          />
        </ComposedChart>
      </div>
      <p className="text-xs text-soft">
        <span className="text-oil" aria-hidden>
          ■
        </span>{' '}
        oil,{' '}
        <span className="text-water" aria-hidden>
          ■
        </span>{' '}
        water found; dashed: oil to be expected with what has been learned
      </p>
    </figure>
  )
}
