'use client'
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useState } from 'react'
import { day } from '@/ui/dates'
import { Trash2 } from 'lucide-react'
import { quantityText } from '@/core/units/format'
import { toSi } from '@/core/units/units'
import { LOG_ENTRIES } from '@/plan/document/log-fields'
import type { LogEntry } from '@/plan/document/schema'
import { deleteLogEntry } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES, lowered, unitFormatter } from '@/plan/document/words'
import { quantityOf, readingPlace, readingText, valueOf } from '@/plan/service/readings'
import { useUnits, useWorkspace } from '../workspace/store'
import { LEVEL_NAMES, LOOK_NAMES } from './entry-names'
import { Moved } from './moved'

/** Rows beyond which only those in sight are drawn. */
const MANY = 80
const EntryMore = dynamic(() => importWithRetry(() => import('./entry-more')), { ssr: false })
const LongList = dynamic(() => importWithRetry(() => import('./long-list')), { ssr: false })

export function Entries() {
  const log = useWorkspace((s) => s.build.log)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const volume = (ml: number) => quantityText(toSi('volume', ml, 'ml'), 'volume', units, 3).replace(/\.0+(?= )/, '')
  const amount = (e: LogEntry): string => {
    if (e.seen === 'dry') return 'dry'
    if (e.seen === 'overflowed')
      return e.ml === undefined ? 'brim full or run over' : `${volume(e.ml)} or more, run over`
    return volume(e.ml ?? 0)
  }
  const build = useWorkspace((s) => s.build)
  const readingLine = (r: NonNullable<LogEntry['reading']>): string => {
    const [quantity, { value }] = [quantityOf(r), valueOf(build, r)]
    const place = readingPlace(build, { quantity, at: r.at }).replace('the ', '')
    return `${place} ${readingText(unitFormatter(units), quantity, value)}, ${STATE_NAMES[r.state].toLowerCase()}`
  }
  const what = (e: LogEntry): string => {
    const found = variant.parts.find((p) => p.id === e.part)
    const can = found ? lowered(found.name) : e.part
    switch (e.kind) {
      case 'emptied':
        return [
          `${can}: ${amount(e)}`,
          ...(e.waterMl === undefined ? [] : [`${volume(e.waterMl)} of it water`]),
          ...(e.looks === undefined || e.looks === 'oil' ? [] : [LOOK_NAMES[e.looks]]),
          ...(e.sessions === undefined ? [] : [`after ${e.sessions} sessions`]),
        ].join(', ')
      case 'checked':
        return e.ml === undefined ? (can ?? '') : `${can}: ${volume(e.ml)} in it`
      case 'level':
        return e.level ? LEVEL_NAMES[e.level] : ''
      case 'oil-added':
        return volume(e.ml ?? 0)
      case 'reading':
        return e.reading ? readingLine(e.reading) : ''
      default:
        return can ?? ''
    }
  }
  const [shown, setShown] = useState<string | undefined>(undefined)
  const rows = log.toReversed()
  const row = (e: LogEntry) => (
    <div className="grid grid-cols-[6.5rem_1fr_2.75rem] items-start gap-x-3 border-b border-rule py-1.5">
      <div>
        <time dateTime={e.date} className="block">
          {day(e.date)}
        </time>
        <span className="text-xs text-soft">{quantityText(e.odometerKm * 1000, 'distance', units, 7)}</span>
      </div>
      <div>
        <button
          type="button"
          className="text-left pointer-coarse:min-h-12"
          aria-expanded={shown === e.id}
          aria-label={`${LOG_ENTRIES[e.kind].name} ${what(e)}: change it, or see its pictures`}
          onClick={() => setShown(shown === e.id ? undefined : e.id)}
        >
          <strong>{LOG_ENTRIES[e.kind].name}</strong> {what(e)}
        </button>
        {e.note && <p className="text-soft">{e.note}</p>}
        {shown === e.id && <EntryMore entry={e} onDone={() => setShown(undefined)} />}
      </div>
      <button
        type="button"
        className="button-quiet no-print"
        aria-label={`Take out the entry of ${e.date}, ${LOG_ENTRIES[e.kind].name.toLowerCase()}`}
        onClick={() => act(deleteLogEntry(e.id), `Log entry of ${e.date} taken out`)}
      >
        <Trash2 size={16} aria-hidden />
      </button>
    </div>
  )
  return (
    <section aria-labelledby="entries">
      <h2 id="entries" className="head border-b-[1.5px] border-ink pb-1">
        Log, {log.length} {log.length === 1 ? 'entry' : 'entries'}
      </h2>
      <Moved />
      {rows.length > MANY ? (
        <LongList rows={rows} row={row} />
      ) : (
        <ul>
          {rows.map((e) => (
            <li key={e.id}>{row(e)}</li>
          ))}
        </ul>
      )}
    </section>
  )
}
