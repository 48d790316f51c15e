'use client'
/** A can as it likely stands now, and by when to look. */
import { day } from '@/ui/dates'
import { formatNumber, quantityText } from '@/core/units/format'
import type { Range } from '@/core/service/fill'
import type { Dimension } from '@/core/units/units'
import type { CanForecast } from '@/plan/model/results'
import { DUTY_FIELDS } from '@/plan/document/fields'
import { setField } from '@/plan/edit/edit-builders'
import { NumberField } from '../workspace/figures/field'
import { Figure } from '../workspace/figures/figure'
import { useUnits, useWorkspace } from '../workspace/store'

const REASONS: Readonly<Record<CanForecast['checkReason'], string>> = {
  'first look': 'Its first look: new as it is, it says most.',
  'own interval': 'Your own interval; nothing asks for one before.',
  forecast: 'By then one car in ten is full.',
  'ran over': 'As far as it went when it last ran over, by the model.',
}

export function CanGauge({ can }: { can: CanForecast }) {
  const units = useUnits()
  const act = useWorkspace((s) => s.act)
  const every = useWorkspace((s) => s.build.duty.checkEveryKm)
  const full = (m3: number) => Math.min(1, Math.max(0, m3 / can.bowlM3))
  const range = (r: Range, dimension: Dimension, digits = 2) =>
    r.low === Infinity
      ? 'never'
      : `${quantityText(r.low, dimension, units, digits).replace(/ \D+$/, '')} to ${r.high === Infinity ? 'never' : quantityText(r.high, dimension, units, digits)}`
  const due = can.emptyAt !== undefined && can.checkBy <= can.odometerNow
  const [top, height] = [14, 150]
  const y = (m3: number) => top + height * (1 - full(m3))
  return (
    <section aria-label={can.name} className="grid grid-cols-[6.5rem_1fr] gap-5">
      <svg
        viewBox="0 0 104 190"
        className="w-full"
        role="img"
        aria-label={`${can.name}: likely ${Math.round(100 * full(can.now.mid))} % full, between ${Math.round(100 * full(can.now.low))} and ${Math.round(100 * full(can.now.high))} %`}
      >
        <path d="M30 8V2h12v6M62 8V2h12v6" fill="none" stroke="var(--ink)" strokeWidth="1.8" />
        <path
          d={`M18 8h68v${height}q0 18-18 18H36q-18 0-18-18z`}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth="2"
        />
        <clipPath id={`bowl-${can.part}`}>
          <path d={`M20 10h64v${height - 2}q0 16-16 16H36q-16 0-16-16z`} />
        </clipPath>
        <g clipPath={`url(#bowl-${can.part})`}>
          <rect x="18" y={y(can.now.low)} width="68" height={200 - y(can.now.low)} fill="var(--oil-laden)" />
          <rect
            x="18"
            y={y(can.now.high)}
            width="68"
            height={Math.max(0, y(can.now.low) - y(can.now.high))}
            fill="var(--oil-clean)"
            opacity="0.8"
          />
        </g>
        <path d={`M12 ${y(can.now.mid)}h80`} stroke="var(--ink)" strokeWidth="1.6" strokeDasharray="4 3" />
        {[0, 0.25, 0.5, 0.75, 1].map((f) => (
          <path
            key={f}
            d={`M86 ${top + height * (1 - f)}h${f % 0.5 === 0 ? 10 : 6}`}
            stroke="var(--ink)"
            strokeWidth="1.4"
          />
        ))}
        <path d={`M52 ${height + 26}v10m-6 0h12`} stroke="var(--ink)" strokeWidth="2" fill="none" />
      </svg>
      <div>
        <h2 className="text-lg leading-tight">{can.name}</h2>
        {!can.known && (
          <p className="mt-1 font-bold text-stop">
            The circuit has no answer in a state that this car is driven in, so there is no forecast. See the verdicts.
          </p>
        )}
        {can.emptyAt === undefined ? (
          <p className="mt-1 text-soft">Not yet logged as fitted. The forecast below starts with an empty can.</p>
        ) : (
          <p className="mt-1">
            Likely holds{' '}
            <span className="text-lg font-bold">
              <Figure of={{ kind: 'fillNow', id: can.part }} digits={2} />
            </span>{' '}
            now{' '}
            <span className="text-soft">
              ({range(can.now, 'volume')}) of {quantityText(can.bowlM3, 'volume', units, 2)}
            </span>
          </p>
        )}
        <p className={`mt-2 text-lg font-bold ${due ? 'text-stop' : ''}`} data-testid="check-by">
          {due ? (
            'Look now'
          ) : can.checkBy === Infinity ? (
            'Never fills on this use'
          ) : (
            <>
              Look by <Figure of={{ kind: 'checkBy', id: can.part }} digits={4} />
              {can.checkDate && `, ${day(can.checkDate, 'long')}`}
            </>
          )}
        </p>
        {can.checkBy !== Infinity && (
          <p className="text-soft" data-testid="check-reason">
            {REASONS[can.checkReason]}
          </p>
        )}
        {can.changed && (
          <p className="mt-1 border-l-4 border-fix pl-2">
            Since {day(can.changed.since, 'long')} it makes {can.changed.rise ? 'more' : 'less'} than before, by odds of{' '}
            {formatNumber(Math.min(99, can.changed.odds), 2)} to 1; the forecast goes by what is now.
          </p>
        )}
        {can.doubted.map((d) => (
          <p key={d.id} className="mt-1 border-l-4 border-watch pl-2">
            What was found on {day(d.date, 'long')} strays as one interval in {formatNumber(d.oneIn, 2)} does: it counts
            for little. Correct it if it is a slip.
          </p>
        ))}
        <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
          <dt className="text-soft">Empty to full</dt>
          <dd data-testid="to-full">
            {range(can.distance, 'distance')}, likely <Figure of={{ kind: 'distance', id: can.part }} digits={2} />
          </dd>
          {can.perSession.oil > 0 && Number.isFinite(can.sessions.low) && can.sessions.low < 40 && (
            <>
              <dt className="text-soft">On track</dt>
              <dd>
                {Math.max(0, Math.floor(can.sessions.low))} to {Math.floor(can.sessions.high)} sessions of 20 minutes
              </dd>
            </>
          )}
          <dt className="text-soft">Learned</dt>
          <dd>
            {can.multiplier.entries === 0 ? (
              can.startsFrom === 'estimates' ? (
                'nothing yet; estimates only'
              ) : (
                <>
                  nothing {can.startsFrom === 'kind' ? 'from its own log' : 'with this plan'} yet;{' '}
                  <Figure of={{ kind: 'multiplier', id: can.part }} digits={2} /> × the oil of the model,{' '}
                  {can.startsFrom === 'kind'
                    ? 'as other cars of its kind have it'
                    : 'carried over from the plan that was logged'}
                </>
              )
            ) : (
              <>
                <Figure of={{ kind: 'multiplier', id: can.part }} digits={2} /> × the oil of the model
                {can.trackMultiplier && ` on the road, ${formatNumber(Math.exp(can.trackMultiplier.mu), 2)} × on track`}
                , from {can.multiplier.entries} {can.multiplier.entries === 1 ? 'emptying' : 'emptyings'}
                {can.trackMultiplier && '; either leans on the other'}
              </>
            )}
          </dd>
          <dt className="self-center text-soft">You look every</dt>
          <dd>
            <NumberField
              className="w-28"
              hideLabel
              field={DUTY_FIELDS.checkEveryKm}
              value={every}
              onChange={(v) => {
                if (v !== undefined) act(setField(['duty', 'checkEveryKm'], v), undefined, 'every')
              }}
            />
          </dd>
        </dl>
      </div>
    </section>
  )
}
