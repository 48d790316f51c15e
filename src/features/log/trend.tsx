'use client'
/** Oil found at each emptying against what was to be expected then, as a rate. */
import { day } from '@/ui/dates'
import { Area, Bar, CartesianGrid, ComposedChart, Line, ReferenceLine, XAxis, YAxis } from 'recharts'
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

/** Points of the fan, and how far past the likely filling it reaches. */
const [FAN_POINTS, FAN_PAST] = [24, 1.15]

/** What it holds since it was last empty, as a fan that opens with the road: likely, and the band of four in five. */
export function Fan({ can }: { can: CanForecast }) {
  const units = useUnits()
  const [road, ml] = [shownUnit('distance', units), shownUnit('volume', units)]
  const since = can.emptyAt === undefined ? 0 : can.odometerNow - can.emptyAt
  if (!Number.isFinite(can.distance.mid) || !(can.distance.mid > 0)) return null
  const far = Math.max(since, can.distance.mid * FAN_PAST)
  const volume = (m3: number) => Number(fromSi('volume', Math.min(m3, 1.2 * can.bowlM3), ml).toPrecision(3))
  const rows = Array.from({ length: FAN_POINTS }, (_, i) => {
    const m = (far * i) / (FAN_POINTS - 1)
    // the soonest filling is the heaviest rate
    const at = (d: number) => (Number.isFinite(d) && d > 0 ? volume((can.bowlM3 * m) / d) : 0)
    return {
      road: Number(fromSi('distance', m, road).toPrecision(4)),
      likely: at(can.distance.mid),
      band: [at(can.distance.high), at(can.distance.low)],
    }
  })
  const text = { fill: 'var(--soft)', fontSize: 11 }
  return (
    <figure>
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-3 border-b-[1.5px] border-ink pb-1">
        <span className="head">{can.name}, since last empty</span>
        <span className="text-xs text-soft">
          {unitLabel(ml)} over {unitLabel(road)}
        </span>
      </figcaption>
      <div className="h-40">
        <ComposedChart
          responsive
          style={{ width: '100%', height: '100%' }}
          data={rows}
          margin={{ top: 12, right: 8, bottom: 0, left: -14 }}
        >
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis
            dataKey="road"
            type="number"
            domain={[0, 'dataMax']}
            tick={text}
            stroke="var(--rule-strong)"
            tickFormatter={(v: number) => formatNumber(v, 3)}
          />
          <YAxis tick={text} stroke="var(--rule-strong)" tickFormatter={(v: number) => formatNumber(v, 3)} />
          <Area
            dataKey="band"
            name="four in five"
            stroke="none"
            fill="var(--oil-clean)"
            fillOpacity={0.8}
            isAnimationActive={false}
          />
          <Line
            dataKey="likely"
            name="likely"
            stroke="var(--oil-laden)"
            strokeWidth={2.5}
            dot={false}
            isAnimationActive={false}
          />
          <ReferenceLine
            y={volume(can.bowlM3)}
            stroke="var(--pressure)"
            strokeDasharray="6 3"
            label={{ value: 'full', position: 'insideTopLeft', ...text }}
          />
          {since > 0 && (
            <ReferenceLine
              x={Number(fromSi('distance', since, road).toPrecision(4))}
              stroke="var(--ink)"
              label={{ value: 'now', position: 'insideTopRight', ...text }}
            />
          )}
        </ComposedChart>
      </div>
    </figure>
  )
}
