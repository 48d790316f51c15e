'use client'
/** What a recording says of the plan: figures to be accepted, since when something changed, and how the car is driven. */
import { formatNumber, quantityText } from '@/core/units/format'
import type { Range } from '@/core/range'
import { fromSi } from '@/core/units/units'
import type { Build, LogEntry } from '@/plan/document/schema'
import { STATE_NAMES } from '@/plan/document/words'
import { setField, upsertLogEntry } from '@/plan/edit/edit-builders'
import type { FittedFigure, RecordingFit } from '@/plan/studies/recording-fit'
import type { DrivenState, RecordingReport } from '@/plan/studies/recording-report'
import { useRouter } from 'next/navigation'
import { openCase, saveCase } from '@/plan/finder/case-builders'
import { WideRegion } from '@/ui/wide-region'
import { TakenIn } from '../workspace/figures/taken-in'
import { useUnits, useWorkspace } from '../workspace/store'
import { timeText } from './recording-picture'
import type { TimeWindow } from './view-of'

/** Heads of a table: the first over names, the others over figures; what is `hidden` is said to a screen reader alone. */
function Heads({ of, hidden }: { of: readonly string[]; hidden?: string }) {
  return (
    <thead>
      <tr>
        {of.map((head, k) => (
          // two columns of one name stand where they stand
          // oxlint-disable-next-line react/no-array-index-key
          <th key={k} scope="col" className={k === 0 ? undefined : 'num'}>
            {head === hidden ? <span className="sr-only">{head}</span> : head}
          </th>
        ))}
      </tr>
    </thead>
  )
}

function useFigureText() {
  const units = useUnits()
  const text = (f: FittedFigure, x: number) =>
    f.id === 'offset' ? quantityText(x, 'pressure', units, 2) : formatNumber(x, 3)
  // the unit once, behind both
  const range = (f: FittedFigure, { low, high }: Range) => `${text(f, low).replace(/ \D+$/, '')} to ${text(f, high)}`
  return { text, range }
}

/** Rounded so that a typed figure and a logged one read alike. */
const round = (x: number, step: number) => Math.round(x / step) * step

/** Speeds and manifolds of the states as they were driven, as overrides of the engine's. */
const asDriven = (build: Build, states: readonly DrivenState[]) =>
  states.map((s) =>
    setField(['engine', 'overrides', s.id], {
      ...build.engine.overrides[s.id],
      rpm: round(s.rpm, 10),
      manifoldKpa: round(fromSi('pressure', s.manifoldPa, 'kPa'), 0.1),
    }),
  )

/** States in which a drive was long enough to tell its speed and manifold, s. */
const LONG_ENOUGH_S = 5

function Figures({ fit }: { fit: RecordingFit }) {
  const act = useWorkspace((s) => s.act)
  const { text, range } = useFigureText()
  return (
    <section aria-labelledby="says">
      <h3 id="says" className="head border-b-[1.5px] border-ink pb-1">
        What it says
      </h3>
      {!fit.explained && (
        <p role="alert" className="border-l-4 border-fix pl-2">
          No car like this one gives what was recorded: look for what is wrong before any of these figures is taken.
        </p>
      )}
      <WideRegion label="Figures of the plan by the recording">
        <table className="table">
          <Heads of={['Figure', 'likely', 'four of five', 'before', 'take it']} hidden="take it" />
          <tbody>
            {fit.figures.map((f) => (
              <tr key={f.id}>
                <th scope="row">
                  {f.name}
                  {f.id !== 'offset' && <span className="text-soft"> ×</span>}
                </th>
                <td className="num whitespace-nowrap font-bold">{text(f, f.now.mid)}</td>
                <td className="num whitespace-nowrap">{range(f, f.now)}</td>
                <td className="num whitespace-nowrap text-soft">{range(f, f.before)}</td>
                <td>
                  {f.id === 'offset' ? null : !f.determined ? (
                    <span className="text-soft">it does not tell</span>
                  ) : (
                    <button
                      type="button"
                      className="link-button"
                      aria-label={`Accept ${f.name.toLowerCase()}`}
                      onClick={() => act([() => f.adopt], `${f.name} as the recording has it`)}
                    >
                      Accept
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </WideRegion>
      <p className="text-soft">
        × is times what the plan takes; the offset is of the sensor, and the band above stands by as much.
      </p>
      <TakenIn />
    </section>
  )
}

function Change({ fit }: { fit: RecordingFit }) {
  const { text } = useFigureText()
  const { change } = fit
  if (!change) return <p className="mt-1 text-soft">Nothing changed on the way, as far as it tells.</p>
  const [before, after] = [change.before, change.after].map((side) => side.find((f) => f.id === change.of)!)
  return (
    <p className="mt-1 border-l-4 border-fix pl-2">
      {change.known
        ? `Since ${timeText(change.at)} it is no longer the same`
        : `Between ${timeText(change.from)} and ${timeText(change.to)} something changed`}
      : {before!.name.toLowerCase()} went from {text(before!, before!.now.mid)} to {text(after!, after!.now.mid)}
      {change.of !== 'offset' && ' times what is taken'}. The figures are of what followed.
    </p>
  )
}

export function WhatItSays({ report, onPlace }: { report: RecordingReport; onPlace: (place: TimeWindow) => void }) {
  const units = useUnits()
  const act = useWorkspace((s) => s.act)
  const build = useWorkspace((s) => s.build)
  const expected = useWorkspace((s) => s.analysis.states)
  const id = useWorkspace((s) => s.id)
  const router = useRouter()
  const today = useWorkspace((s) => s.today)
  const kpa = (pa: number) => quantityText(pa, 'pressure', units, 3)
  /** A complaint with what was recorded, at the points at which it was driven; before a change, and after it. */
  const lookForFault = () => {
    const offset = report.fit?.explained ? (report.fit.figures.find((f) => f.id === 'offset')?.now.mid ?? 0) : 0
    const { before, after } = report.sides ?? { before: [], after: report.states }
    const kept = after.filter((s) => s.seconds >= LONG_ENOUGH_S)
    const kilo = (pa: number) => round(fromSi('pressure', pa - offset, 'kPa'), 0.001)
    const recorded = kept.map((s) => {
      const was = before.find((b) => b.id === s.id && b.seconds >= LONG_ENOUGH_S)
      // driven elsewhere before: the difference is what is predicted of it
      const moved = was && was.measured.mid + (s.predicted.mid - was.predicted.mid)
      return {
        id: s.id,
        rpm: round(s.rpm, 10),
        manifoldKpa: round(fromSi('pressure', s.manifoldPa, 'kPa'), 0.1),
        kpa: kilo(s.measured.mid),
        beforeKpa: moved === undefined ? undefined : kilo(moved),
      }
    })
    const open = openCase(build) ?? {
      id: crypto.randomUUID(),
      plan: build.active,
      opened: today,
      since: undefined,
      symptoms: [],
      findings: [],
      closed: undefined,
    }
    if (act(saveCase({ ...open, recorded }), 'Recording taken to the fault finder')) router.push(`/builds/${id}/faults`)
  }
  /** The middle of each state, less what the sensor is off by, as if a gauge had been read there. */
  const note = () => {
    const offset = report.fit?.explained ? report.fit.figures.find((f) => f.id === 'offset')?.now.mid : undefined
    const km = Math.max(0, ...build.log.map((e) => e.odometerKm))
    act(
      long.map(
        (s) => () =>
          upsertLogEntry({
            id: crypto.randomUUID(),
            date: today,
            kind: 'reading',
            odometerKm: km,
            plan: build.active,
            reading: { state: s.id, kpa: round(fromSi('pressure', s.measured.mid - (offset ?? 0), 'kPa'), 0.001) },
            note: 'Of a recording.',
          } as LogEntry)(build),
      ),
      'Readings of a recording',
    )
  }
  const long = report.states.filter((s) => s.seconds >= LONG_ENOUGH_S)
  return (
    <div className="grid grid-cols-1 gap-x-8 gap-y-4 md:grid-cols-[minmax(0,8fr)_minmax(0,5fr)]">
      <div>
        {report.fit ? (
          <>
            <Figures fit={report.fit} />
            <Change fit={report.fit} />
          </>
        ) : (
          <p className="text-soft">The plan has no answer to hold it against. See the verdicts.</p>
        )}
      </div>
      <section aria-labelledby="places">
        <h3 id="places" className="head border-b-[1.5px] border-ink pb-1">
          Where it leaves the band
        </h3>
        {report.places.length === 0 ? (
          <p className="mt-1">Nowhere: all of it is as this plan predicts.</p>
        ) : (
          <ol className="mt-1 max-h-56 overflow-y-auto">
            {report.places.map((p) => (
              <li key={p.from}>
                <button type="button" className="link-button" onClick={() => onPlace({ from: p.from, to: p.to })}>
                  {timeText(p.from, p.to - p.from < 2)} to {timeText(p.to, p.to - p.from < 2)}
                </button>{' '}
                {p.state && STATE_NAMES[p.state].toLowerCase()}: {kpa(p.worst.measured)}, predicted{' '}
                {kpa(p.worst.predicted)}
              </li>
            ))}
          </ol>
        )}
      </section>
      <section aria-labelledby="driven" className="md:col-span-2">
        <h3 id="driven" className="head border-b-[1.5px] border-ink pb-1">
          How it was driven
        </h3>
        <WideRegion label="How it was driven, state by state">
          <table className="table">
            <Heads
              of={['State', 'time', 'rpm', 'the plan’s', 'manifold', 'the plan’s', 'crankcase', 'predicted there']}
            />
            <tbody>
              {report.states.map((s) => {
                const plan = expected.find((x) => x.id === s.id)?.operating
                return (
                  <tr key={s.id}>
                    <th scope="row">{STATE_NAMES[s.id]}</th>
                    <td className="num">{timeText(s.seconds)}</td>
                    <td className="num">{formatNumber(s.rpm, 3)}</td>
                    <td className="num text-soft">{plan ? formatNumber(plan.rpm, 3) : ''}</td>
                    <td className="num">{kpa(s.manifoldPa)}</td>
                    <td className="num text-soft">{plan ? kpa(plan.manifoldPa) : ''}</td>
                    <td className="num font-bold">{kpa(s.measured.mid)}</td>
                    <td className="num text-soft">
                      {kpa(s.predicted.low)} to {kpa(s.predicted.high)}
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </WideRegion>
        {long.length > 0 && (
          <p className="mt-1">
            <button
              type="button"
              className="link-button"
              onClick={() => act(asDriven(build, long), 'States as they were driven')}
            >
              Take speed and manifold of {long.length === 1 ? 'this state' : `${long.length} states`} as driven
            </button>{' '}
            <span className="text-soft">for states driven {LONG_ENOUGH_S} s and more.</span>{' '}
            <button type="button" className="link-button" onClick={note}>
              Note its crankcase as readings
            </button>{' '}
            <button type="button" className="link-button" onClick={lookForFault}>
              Look for the fault
            </button>
          </p>
        )}
      </section>
    </div>
  )
}
