'use client'
/** The log as a table: out, and in again with its columns said and a look before anything is done. */
import { useState } from 'react'
import { Dialog } from '@/ui/dialog'
import { download } from '@/ui/download'
import { guessColumns, LOG_COLUMNS, logCsv, NEEDED, readLog, takeIn, type LogColumn } from '@/plan/service/log-csv'
import { useWorkspace } from '../workspace/store'

type Opened = { readonly name: string; readonly text: string; readonly heads: readonly string[] }
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
  state: 'State of a reading',
  kpa: 'Reading, kPa',
  note: 'Note',
}
const SHOWN = 5

export default function LogFiles() {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const edit = useWorkspace((s) => s.edit)
  const [opened, setOpened] = useState<Opened | undefined>(undefined)
  const [columns, setColumns] = useState<Readonly<Partial<Record<LogColumn, string>>>>({})
  const [done, setDone] = useState('')
  const read = opened && readLog(build, opened.text, columns, today, () => crypto.randomUUID())
  const choose = (file: File | undefined) => {
    if (!file) return
    void file.text().then((text) => {
      const { heads, guess } = guessColumns(text)
      setColumns(guess)
      setOpened({ name: file.name, text, heads })
    })
  }
  return (
    <div className="no-print flex flex-wrap gap-x-4">
      <button
        type="button"
        className="deed"
        onClick={() => download(`${build.name}, log.csv`, logCsv(build), 'text/csv')}
      >
        Log as CSV
      </button>
      <label className="deed">
        Read a log in
        <input
          type="file"
          accept=".csv,text/csv"
          className="sr-only"
          onChange={(e) => {
            choose(e.target.files?.[0])
            e.target.value = ''
          }}
        />
      </label>
      <span role="status" className="text-good">
        {done}
      </span>
      {opened && read && (
        <Dialog open title={`Read ${opened.name} in`} onClose={() => setOpened(undefined)}>
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
                  {opened.heads.map((h) => (
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
                    {e.reading ? `, ${e.reading.kpa} kPa` : ''}
                  </li>
                ))}
              </ul>
              <button
                type="button"
                className="button button-main mt-3"
                onClick={() => {
                  if (edit(takeIn(build, read.value), `${read.value.length} entries read from ${opened.name}`))
                    setDone(`${read.value.length} entries read in; undo takes them out again.`)
                  setOpened(undefined)
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
      )}
    </div>
  )
}
