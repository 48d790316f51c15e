'use client'
/** How the engine breathes: in each state what comes past the rings, which way it leaves, and where that puts the crankcase. */
import { NO_FLOW } from '@/plan/model/results'
import { formatQuantity, quantityText } from '@/core/units/format'
import { capacityOf } from '@/plan/model/capacity'
import type { StateResult } from '@/plan/model/results'
import type { Build } from '@/plan/document/schema'
import { boundaryFlows } from '@/plan/explain/figures'
import type { StateId } from '@/core/engine/states'
import { isBreather, isBoundary } from '@/plan/document/kinds'
import { activeVariant } from '@/plan/edit/edit'
import type { Ranges, StateRange } from '@/plan/studies/ranges'
import { expectedIn } from '@/plan/studies/proof'
import { isCycleMean } from '@/plan/model/results'
import { judgeState, LIMITS } from '@/plan/model/limits'
import { STATE_NAMES } from '@/plan/document/words'
import { SEVERITY_COLOUR } from '@/ui/marks'
import { pressureScale } from '@/ui/pressure-scale'
import type { JobState } from '../workspace/jobs/jobs'
import { Figure } from '../workspace/figures/figure'
import { shownBuild, useUnits, useWorkspace } from '../workspace/store'

/** The bars of a state, as they stand: where, which way, how they look and read. */
const BARS = [
  { side: 'breather', direction: 'out', colour: 'var(--oil-laden)', says: 'out by the breather' },
  { side: 'breather', direction: 'in', colour: 'var(--air)', says: 'fresh air in by the breather' },
  { side: 'vacuum', direction: 'out', colour: 'var(--vacuum)', says: 'out to the manifold' },
  { side: 'vacuum', direction: 'in', colour: 'var(--stop)', says: 'blows in from the manifold' },
] as const

/** Gas over each boundary of the circuit, kg/s, where it is more than none. */
function barsOf(build: Build, s: StateResult) {
  const passing = s.solved ? boundaryFlows(build, s) : []
  return BARS.map((bar) => ({
    ...bar,
    flow: passing
      .filter((x) => x.side === bar.side && x.direction === bar.direction)
      .reduce((sum, x) => sum + x.flow, 0),
  })).filter((bar) => bar.flow > NO_FLOW)
}

export function Breathing({ ranges }: { ranges: JobState<Ranges> }) {
  const states = useWorkspace((s) => s.analysis.states)
  const capacity = useWorkspace((s) => s.evaluator.once(capacityOf, shownBuild(s)))
  const build = useWorkspace(shownBuild)
  const variant = activeVariant(build)
  const current = useWorkspace((s) => s.state)
  const show = useWorkspace((s) => s.show)
  const units = useUnits()
  const bars = states.map((s) => barsOf(build, s))
  const most = Math.max(1e-6, ...bars.flat().map((bar) => bar.flow))
  const limit = `+${quantityText(LIMITS.crankcaseHigh, 'pressure', units, 2)}`
  const hasVacuum = variant.parts.some((p) => isBoundary(p.kind) && !isBreather(p.kind))
  const extremes = states
    .flatMap((s) => (s.solved ? [s.crankcaseGauge] : []))
    .concat(
      ranges.value?.states.flatMap((r) => {
        const { low, high } = expectedIn(
          states.find((s) => s.id === r.id),
          r,
        )
        return [low, high]
      }) ?? [],
    )
  const scale = pressureScale(300, [Math.min(-9000, ...extremes), Math.max(3000, ...extremes)], [6, 144])
  return (
    <section aria-labelledby="breathing" className="relative overflow-x-auto">
      <div className="flex items-baseline justify-between gap-2 border-b-[1.5px] border-ink pb-1">
        <h2 id="breathing" className="head">
          How it breathes
        </h2>
        <span className="text-xs text-soft">{units.flow}; solid leaves the engine, hatched is fresh air</span>
      </div>
      <div
        className="grid min-w-[31rem] grid-cols-[4rem_1fr_5.5rem_1fr_9.5rem] items-center gap-x-2 pt-1 text-xs text-soft"
        aria-hidden
      >
        <span />
        <span className="text-right">breather</span>
        <span className="text-center">blow-by</span>
        <span>{hasVacuum ? 'vacuum side' : ''}</span>
        <span className="text-right">crankcase, {units.pressure}</span>
      </div>
      <ul className="min-w-[31rem]">
        {states.map((s, i) => {
          const mine = bars[i]!
          const on = s.id === current
          const most80 = ranges.value?.states.find((r) => r.id === s.id)
          const carries = capacity[s.id]
          const over = carries !== undefined && s.blowBy > carries
          return (
            <li
              key={s.id}
              className={`grid grid-cols-[4rem_1fr_5.5rem_1fr_9.5rem] items-center gap-x-2 border-b border-rule ${on ? 'bg-blue-wash' : ''}`}
            >
              <button type="button" onClick={() => show(s.id)} className="min-h-11 pl-1 text-left font-bold">
                {STATE_NAMES[s.id]}
              </button>
              <div className="flex flex-col items-end gap-0.5">
                {mine
                  .filter((bar) => bar.side === 'breather')
                  .map((bar) => (
                    <Bar key={bar.direction} bar={bar} state={s.id} most={most} />
                  ))}
              </div>
              <div className="text-center leading-tight">
                <span className="text-base font-bold">
                  <Figure of={{ kind: 'blowBy', state: s.id }} bare />
                </span>
                {carries !== undefined && (
                  <span
                    className={`block text-xs ${over ? 'font-bold text-fix' : 'text-soft'}`}
                    title={`What this circuit would carry before the crankcase reaches ${limit}`}
                  >
                    {over ? 'over' : 'of'} <Figure of={{ kind: 'capacity', state: s.id }} digits={2} bare />
                  </span>
                )}
              </div>
              <div className="flex flex-col items-start gap-0.5">
                {mine
                  .filter((bar) => bar.side === 'vacuum')
                  .map((bar) => (
                    <Bar key={bar.direction} bar={bar} state={s.id} most={most} />
                  ))}
                {s.solved && hasVacuum && !mine.some((bar) => bar.side === 'vacuum') && (
                  <span className="text-xs text-soft">shut</span>
                )}
              </div>
              <Band state={s} range={most80} scale={scale} />
            </li>
          )
        })}
      </ul>
      <p className="pt-1 text-xs text-soft" role="status">
        {ranges.failed
          ? `The ranges could not be worked out: ${ranges.failed}`
          : ranges.progress !== undefined
            ? `Working out the ranges, ${Math.round(ranges.progress * 100)} %`
            : ranges.value
              ? `Bands hold four cases in five of ${ranges.value.draws} draws of the estimated inputs${ranges.value.failed > 0 ? `; ${ranges.value.failed} had no answer` : ''}. ${isCycleMean({ states }) ? 'Round the mean of a turn they are an estimate. ' : ''}“Of” is what the circuit carries before the crankcase reaches ${limit}.`
              : ''}
      </p>
    </section>
  )
}

/** Crankcase pressure on a small scale: the good stretch, the band, the likely value. */
function Band({
  state: s,
  range,
  scale,
}: {
  state: StateResult
  range: StateRange | undefined
  scale: (pa: number) => number
}) {
  const units = useUnits()
  if (!s.solved) return <span className="text-right text-xs font-bold text-stop">no answer</span>
  const judged = judgeState(s)
  const text = (pa: number) => formatQuantity(pa, 'pressure', units, 2).text
  const band = range && expectedIn(s, range)
  const words = band ? `${text(band.low)} to ${text(band.high)}` : ''
  return (
    <div className="py-1 text-right" data-testid={`band-${s.id}`}>
      <svg
        viewBox="0 0 150 20"
        className="h-5 w-full"
        role="img"
        aria-label={`Crankcase ${text(s.crankcaseGauge)} ${units.pressure}${band ? `, likely between ${words}` : ''}`}
      >
        <rect
          x={scale(LIMITS.crankcaseLow)}
          y="3"
          width={scale(LIMITS.crankcaseWarm) - scale(LIMITS.crankcaseLow)}
          height="14"
          fill="var(--vacuum)"
          opacity="0.14"
        />
        <path d="M4 10h142" stroke="var(--rule-strong)" strokeWidth="1" />
        <path d={`M${scale(0)} 1v18`} stroke="var(--ink)" strokeWidth="1.2" />
        {band && (
          <rect
            x={scale(band.low)}
            y="6"
            width={Math.max(2, scale(band.high) - scale(band.low))}
            height="8"
            fill="var(--blue)"
            opacity="0.4"
          />
        )}
        <path
          d={`M${scale(s.crankcaseGauge)} 4l5 6-5 6-5-6z`}
          fill={judged === 'ok' ? 'var(--ink)' : SEVERITY_COLOUR[judged]}
        />
      </svg>
      <span className="block text-xs leading-none text-soft" aria-hidden>
        {words}
      </span>
    </div>
  )
}

/** Gas that passes the boundary one way: a bar, and its figure towards the engine. */
function Bar({ bar, state, most }: { bar: ReturnType<typeof barsOf>[number]; state: StateId; most: number }) {
  const { side, direction, colour, says, flow } = bar
  return (
    <div
      className={`flex w-full items-center gap-1.5 text-xs ${side === 'breather' ? '' : 'flex-row-reverse justify-end'}`}
    >
      <span className={side === 'breather' ? 'flex-1 text-right' : ''}>
        <Figure of={{ kind: 'exchange', state, side, direction }} digits={2} bare />
        <span className="sr-only"> {says}</span>
      </span>
      <div
        className="h-3.5"
        style={{
          width: `${Math.max(1, Math.round((1000 * flow) / most) / 10)}%`,
          background:
            direction === 'in' ? `repeating-linear-gradient(135deg, ${colour} 0 3px, transparent 3px 7px)` : colour,
          border: `1.5px solid ${colour}`,
        }}
        aria-hidden
      />
    </div>
  )
}
