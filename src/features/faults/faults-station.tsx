'use client'
/** From complaint to cause: what is noticed and was read, every fault against it, what to do next, and the cure. */
import { useEffect, useState } from 'react'
import { lowered, STATE_NAMES } from '@/plan/document/words'
import type { FaultCase, LogEntry } from '@/plan/document/schema'
import { upsertLogEntry } from '@/plan/edit/edit-builders'
import { openCase, removeCase, saveCase } from '@/plan/finder/case-builders'
import type { FaultRow } from '@/plan/finder/find-faults'
import type { NextStep } from '@/plan/finder/measure-next'
import { pulsates } from '@/plan/model/engine'
import { useJob } from '../workspace/jobs/jobs'
import { useOdometer, NO_ODOMETER } from '../fit/odometer'
import { useWorkspace } from '../workspace/store'
import { CureCard } from './cure-card'
import { EvidencePicture } from './evidence-picture'
import { NextSteps, type StepResult } from './next-steps'
import { PastCases } from './past-cases'
import { SymptomList } from './symptom-list'

const NOTHING_KNOWN: Pick<FaultCase, 'symptoms' | 'findings'> = { symptoms: [], findings: [] }

/** The case that is open, and how it is changed: with the first thing that is known it is opened. */
function useCase() {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const act = useWorkspace((s) => s.act)
  const open = openCase(build)
  const known: FaultCase = open ?? {
    id: '',
    plan: build.active,
    opened: today,
    since: undefined,
    recorded: undefined,
    ...NOTHING_KNOWN,
    closed: undefined,
  }
  const save = (change: Partial<FaultCase>, name: string) =>
    act(saveCase({ ...known, id: open?.id ?? crypto.randomUUID(), ...change }), name)
  const drop = () => {
    if (open) act(removeCase(open.id), 'Complaint put away')
  }
  return { known, isOpen: open !== undefined, save, drop }
}

export function FaultsStation() {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const act = useWorkspace((s) => s.act)
  const { known, isOpen, save, drop } = useCase()
  const job = useJob('faults')
  const { start } = job
  const { symptoms, findings, since, recorded } = known
  useEffect(() => {
    const timer = setTimeout(() => start(build, { symptoms, findings, since, recorded }, today), 120)
    return () => clearTimeout(timer)
  }, [start, build, symptoms, findings, since, recorded, today])
  const [chosen, setChosen] = useState<string | undefined>(undefined)
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const { km, field: odometer } = useOdometer()
  const report = job.value
  const row = report?.rows.find((r) => r.id === chosen) ?? report?.rows[0]

  const entry = (of: Omit<LogEntry, 'id' | 'date' | 'odometerKm' | 'plan'>, name: string): boolean => {
    if (km === undefined) {
      setProblem(NO_ODOMETER)
      return false
    }
    setProblem(undefined)
    const made = { id: crypto.randomUUID(), date: today, odometerKm: km, plan: build.active, ...of } as LogEntry
    return act(upsertLogEntry(made), name)
  }
  const result = (step: NextStep, r: StepResult) => {
    const { reads } = step
    if ('saw' in r)
      save(
        { findings: [...findings, { id: crypto.randomUUID(), step: step.id, saw: r.saw, kpa: undefined }] },
        `${step.name}: ${r.saw}`,
      )
    else if ('trim' in r)
      entry(
        { kind: 'reading', reading: { state: 'idle', trimPct: Number((100 * r.trim).toFixed(1)) } } as never,
        'Fuel trim read',
      )
    else if (reads?.pinched !== undefined)
      save(
        {
          findings: [
            ...findings,
            { id: crypto.randomUUID(), step: step.id, saw: undefined, kpa: Number((r.pa / 1000).toPrecision(4)) },
          ],
        },
        `${step.name} read`,
      )
    else if (reads && 'state' in reads.observable)
      entry(
        {
          kind: 'reading',
          reading: { state: reads.observable.state, kpa: Number((r.pa / 1000).toPrecision(4)) },
          note: 'Read to find the fault.',
        } as never,
        `${step.name} read`,
      )
  }
  const mended = (of: FaultRow) => {
    const [part] = of.of
    const isPart = build.variants.some((v) => v.parts.some((p) => p.id === part && p.kind === 'can'))
    if (
      !entry(
        { kind: 'fitted', ...(isPart ? { part } : {}), note: `Mended: ${lowered(of.name)}.` } as never,
        `Mended: ${lowered(of.name)}`,
      )
    )
      return
    save(
      { closed: { fault: of.id.slice(0, 60), says: of.name.slice(0, 200), on: today, fixed: undefined } },
      'Case closed',
    )
  }
  return (
    <div className="print-flow px-4 py-3">
      <div className="grid gap-x-8 gap-y-5 md:grid-cols-[minmax(0,1fr)_17rem]">
        <section aria-labelledby="found" className="min-w-0">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
            <h2 id="found" className="head">
              What was read, against what each fault would show
            </h2>
            <span className="text-soft" role="status">
              {job.progress !== undefined ? (
                <>
                  Trying every fault, {Math.round(100 * job.progress)} %{' '}
                  <button type="button" className="link-button" onClick={job.stop}>
                    Stop
                  </button>
                </>
              ) : (
                (job.failed ?? 'blue: yours; boxes: four cases in five of this very circuit with that one fault')
              )}
            </span>
          </div>
          {report && row && (
            <>
              {report.columns.length === 0 && (
                <p className="py-1">
                  Nothing was read yet, so the odds are those of the trade. Tick what is noticed, or begin with what
                  tells most a minute below.
                </p>
              )}
              {pulsates(build.engine) && (
                <p className="py-1 text-watch">
                  The pistons of this engine pump its crankcase: a gauge’s mean is not used here, only looks, trim and
                  catch.
                </p>
              )}
              <EvidencePicture report={report} chosen={row.id} onChoose={setChosen} />
            </>
          )}
          {!report && <p className="py-6 text-soft">Working out what every fault of this circuit would show…</p>}
        </section>
        <div className="space-y-5">
          <section aria-labelledby="complaint">
            <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
              <h2 id="complaint" className="head">
                Complaint
              </h2>
              {isOpen && (
                <button type="button" className="link-button" onClick={drop}>
                  Put away
                </button>
              )}
            </div>
            <label className="block py-1">
              <span className="text-soft">There since, if you know</span>
              <input
                type="date"
                className="field"
                max={today}
                value={since ?? ''}
                onChange={(e) => save({ since: e.target.value === '' ? undefined : e.target.value }, 'Trouble since')}
              />
            </label>
            {report && (
              <SymptomList
                symptoms={report.symptoms}
                ticked={symptoms}
                onTick={(id, seen) =>
                  save(
                    {
                      symptoms: [...symptoms.filter((t) => t.id !== id), ...(seen === undefined ? [] : [{ id, seen }])],
                    },
                    seen === undefined ? 'Symptom taken back' : seen ? 'Symptom seen' : 'Symptom not seen',
                  )
                }
              />
            )}
          </section>
          {recorded && (
            <p>
              From a recording: {recorded.map((r) => STATE_NAMES[r.id].toLowerCase()).join(', ')}
              {recorded.some((r) => r.beforeKpa !== undefined) ? ', before and after the change' : ''}.{' '}
              <button
                type="button"
                className="link-button"
                onClick={() => save({ recorded: undefined }, 'Recording left out')}
              >
                Leave it out
              </button>
            </p>
          )}
          {findings.length > 0 && (
            <section aria-labelledby="findings">
              <h2 id="findings" className="head border-b-[1.5px] border-ink pb-1">
                Found so far
              </h2>
              <ul>
                {findings.map((f) => (
                  <li key={f.id} className="border-b border-rule py-1">
                    {f.saw ?? `${f.kpa} kPa`} <span className="text-soft">({f.step.replaceAll('-', ' ')})</span>{' '}
                    <button
                      type="button"
                      className="link-button"
                      onClick={() => save({ findings: findings.filter((x) => x.id !== f.id) }, 'Finding taken back')}
                    >
                      Take back
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <div className="no-print">{odometer}</div>
          {problem && (
            <p role="alert" className="font-bold text-stop">
              {problem}
            </p>
          )}
        </div>
      </div>
      {report && row && (
        <div className="mt-5 space-y-5">
          <CureCard report={report} row={row} onMended={mended} />
          <NextSteps report={report} onResult={result} />
        </div>
      )}
      <PastCases />
    </div>
  )
}
