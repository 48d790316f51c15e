'use client'
/** A log from another program: its columns said, a look at what it holds, and then all of it or nothing. */
import { useState } from 'react'
import { Dialog } from '@/ui/dialog'
import { guessColumns, LOG_COLUMNS, NEEDED, readLog, importEntries, type LogColumn } from '@/plan/service/log-csv'
import type { Build, LogEntry } from '@/plan/document/schema'
import { unitFormatter } from '@/plan/document/words'
import { quantityOf, readingText, valueOf } from '@/plan/service/readings'
import { useWorkspace } from '../workspace/store'

const WORDS: Readonly<Record<LogColumn, string>> = {
  date: 'Day',
  kind: 'What was done',
  odometer_km: 'Odometer, km',
  can: 'Which can',
  ml: 'Came out, ml',
  water_ml: 'of it water, ml',
  seen: 'Overflowed or dry',
  looks: 'It looked',
  sessions: 'Track sessions',
  level: 'Oil level, by the dipstick',
  state: 'State of a reading',
  at: 'Where it was read',
  kpa: 'Reading, kPa',
  lpm: 'Reading, l/min',
  m_per_s: 'Reading, m/s',
  orifice_mm: 'Orifice of a reading, mm',
  trim_pct: 'Fuel trim, %',
  note: 'Note',
}
const SHOWN = 5

const readingFigure = (build: Build, r: NonNullable<LogEntry['reading']>): string =>
  readingText(unitFormatter(build.units), quantityOf(r), valueOf(build, r).value)

export default function LogImport({
  name,
  text,
  onClose,
}: {
  name: string
  text: string
  onClose: (done: string) => void
}) {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const edit = useWorkspace((s) => s.edit)
  const { heads, guess } = guessColumns(text)
  const [columns, setColumns] = useState<Readonly<Partial<Record<LogColumn, string>>>>(guess)
  const read = readLog(build, text, columns, { today, newId: () => crypto.randomUUID() })
  return (
    <Dialog open title={`Read ${name} in`} onClose={() => onClose('')}>
      <p className="text-soft">Say which of its columns is which; nothing is done before you say so.</p>
      <div className="mt-2 grid gap-x-4 gap-y-1 sm:grid-cols-2">
        {LOG_COLUMNS.map((c) => (
          <label key={c} className="flex items-center justify-between gap-2">
            <span>
              {WORDS[c]}
              {NEEDED.includes(c) ? '' : <span className="text-soft"> if any</span>}
            </span>
            <select
              className="field !w-40"
              aria-label={`Column of ${WORDS[c]}`}
              value={columns[c] ?? ''}
              onChange={(e) => setColumns({ ...columns, [c]: e.target.value === '' ? undefined : e.target.value })}
            >
              <option value="">none</option>
              {heads.map((h) => (
                <option key={h} value={h}>
                  {h}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      {read.ok ? (
        <>
          <p className="mt-3 font-bold">
            {read.value.length} entries, {read.value[0]!.date} to {read.value.at(-1)!.date}
          </p>
          <ul className="text-sm text-soft">
            {read.value.slice(0, SHOWN).map((e) => (
              <li key={e.id}>
                {e.date}, {e.odometerKm} km: {e.kind}
                {e.ml === undefined ? '' : `, ${e.ml} ml`}
                {e.reading ? `, ${readingFigure(build, e.reading)}` : ''}
              </li>
            ))}
          </ul>
          <button
            type="button"
            className="button button-main mt-3"
            onClick={() => {
              const took = edit(importEntries(build, read.value), `${read.value.length} entries read from ${name}`)
              onClose(took ? `${read.value.length} entries read in; undo takes them out again.` : '')
            }}
          >
            Take them in
          </button>
        </>
      ) : (
        <p role="alert" className="mt-3 font-bold text-stop">
          {read.reason} Nothing was changed.
        </p>
      )}
    </Dialog>
  )
}
