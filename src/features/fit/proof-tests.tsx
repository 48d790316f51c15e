'use client'
/** Tests that are judged as they are entered: a valve that is blown through, a crankcase that is blown up. */
import { useState } from 'react'
import { parseQuantity } from '@/core/units/parse'
import { upsertLogEntry } from '@/plan/edit/edit-builders'
import type { LogEntry } from '@/plan/document/schema'
import { unitFormatter } from '@/plan/document/words'
import type { CardStep } from '@/plan/fit/steps/step'
import { tickStep } from '@/plan/fit/fit-builders'
import { leakNote, leakTest } from '@/plan/fit/leak'
import { useUnits, useWorkspace } from '../workspace/store'
import { NO_ODOMETER, useOdometer } from './odometer'

const BLOWN = {
  'one way only': undefined,
  'both ways':
    'It does not hold: stuck open, or its seat is dirty. Rinse it and blow again; else do not fit it. What if shows what it would do.',
  'neither way':
    'It lets nothing through: stuck shut, or too stiff for lungs. A spring of a few kilopascals opens to a pump with a gauge; else do not fit it.',
} as const

/** A valve: which way it passes. */
export function BlowTest({ onGood }: { onGood: () => void }) {
  const [bad, setBad] = useState<string | undefined>(undefined)
  return (
    <div className="no-print mt-1">
      <p id="blown" className="text-xs text-soft">
        It passed
      </p>
      <div role="group" aria-labelledby="blown" className="flex flex-wrap gap-2">
        {(Object.keys(BLOWN) as (keyof typeof BLOWN)[]).map((way) => (
          <button
            key={way}
            type="button"
            className="button min-h-11"
            onClick={() => {
              setBad(BLOWN[way])
              if (BLOWN[way] === undefined) onGood()
            }}
          >
            {way}
          </button>
        ))}
      </div>
      {bad && (
        <p role="alert" className="mt-1 font-bold text-fix">
          {bad}
        </p>
      )}
    </div>
  )
}

const SECONDS = 60
/** No more than this is blown into a crankcase, Pa. */
const MOST_PA = 3000

/** The crankcase blown up: where its pressure was, and where it is after a minute. */
export function LeakTestPanel({ step, plan }: { step: CardStep; plan: string }) {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const say = unitFormatter(units)
  const { km, field: odometer } = useOdometer()
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const judge = () => {
    const [a, b] = [parseQuantity(from, 'pressure', units), parseQuantity(to, 'pressure', units)]
    if (!a.ok || !b.ok) {
      setProblem(a.ok ? (b.ok ? '' : b.reason) : a.reason)
      return
    }
    if (!(a.value > 0 && a.value <= MOST_PA && b.value >= 0 && b.value <= a.value)) {
      setProblem(`From ${say.pressure(MOST_PA)} at most, down to what is left.`)
      return
    }
    if (km === undefined) {
      setProblem(NO_ODOMETER)
      return
    }
    const test = leakTest(build, a.value, b.value, SECONDS)
    const measured = `${say.pressure(a.value)} to ${say.pressure(b.value)} in a minute, as by a hole of ${say.length(test.holeM)}`
    const rings = say.length(Math.sqrt((4 * test.ringsM2) / Math.PI))
    setProblem(undefined)
    const judged = test.good
      ? 'It is tight.'
      : 'Something else leaks: soap on filler cap, dipstick, seals, every clamp and cap, in this order.'
    const entry = {
      id: crypto.randomUUID(),
      date: today,
      kind: 'checked',
      odometerKm: km,
      plan: build.active,
      note: leakNote(`${measured}; ring gaps alone are like ${rings}. ${judged}`),
    } as LogEntry
    act(
      test.good ? [upsertLogEntry(entry), tickStep(plan, step, new Date().toISOString())] : upsertLogEntry(entry),
      'Leak test',
    )
  }
  const field = (label: string, value: string, set: (v: string) => void) => (
    <label className="text-xs text-soft">
      {label}
      <input
        className="field min-h-11 !w-28"
        inputMode="decimal"
        autoComplete="off"
        placeholder={units.pressure}
        value={value}
        onChange={(e) => set(e.target.value)}
      />
    </label>
  )
  return (
    <form
      className="no-print mt-1 flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        judge()
      }}
    >
      {field('Blown to', from, setFrom)}
      {field('left after a minute', to, setTo)}
      {odometer}
      <button type="submit" className="button min-h-11" disabled={from.trim() === '' || to.trim() === ''}>
        Judge
      </button>
      {problem && (
        <p role="alert" className="basis-full font-bold text-stop">
          {problem}
        </p>
      )}
    </form>
  )
}
