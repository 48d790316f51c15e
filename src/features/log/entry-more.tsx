'use client'
/** One entry put right: its figures as they should have been, its pictures. */
import { LOG_FIELDS, READING_FIELDS } from '@/plan/document/log-fields'
import type { LogEntry } from '@/plan/document/schema'
import { upsertLogEntry } from '@/plan/edit/edit-builders'
import { NumberField } from '../workspace/figures/field'
import { PhotoStrip } from '../workspace/photos/photo-strip'
import { useWorkspace } from '../workspace/store'

export default function EntryMore({ entry }: { entry: LogEntry }) {
  const act = useWorkspace((s) => s.act)
  const today = useWorkspace((s) => s.today)
  const change = (to: Partial<LogEntry>) =>
    act(
      upsertLogEntry(JSON.parse(JSON.stringify({ ...entry, ...to })) as LogEntry),
      `Log entry of ${entry.date} changed`,
      `entry ${entry.id} ${Object.keys(to).join(' ')}`,
    )
  const filling = entry.kind === 'emptied' || entry.kind === 'oil-added'
  return (
    <div className="mt-1">
      <div className="grid grid-cols-2 gap-x-3 sm:grid-cols-4">
        <label className="text-xs text-soft">
          Day
          <input
            type="date"
            className="field min-h-11"
            max={today}
            defaultValue={entry.date}
            onBlur={(e) => {
              const date = e.target.value
              if (/^\d{4}-\d{2}-\d{2}$/.test(date) && date <= today && date !== entry.date) change({ date })
            }}
          />
        </label>
        <NumberField
          field={LOG_FIELDS.odometerKm}
          value={entry.odometerKm}
          onChange={(v) => v !== undefined && change({ odometerKm: v })}
        />
        {filling && (
          <NumberField field={LOG_FIELDS.ml} value={entry.ml} onChange={(ml) => ml !== undefined && change({ ml })} />
        )}
        {entry.kind === 'emptied' && (
          <NumberField
            field={LOG_FIELDS.waterMl}
            value={entry.waterMl}
            estimate={0}
            onChange={(waterMl) => change({ waterMl })}
          />
        )}
        {(Object.keys(READING_FIELDS) as (keyof typeof READING_FIELDS)[]).map(
          (key) =>
            entry.reading?.[key] !== undefined && (
              <NumberField
                key={key}
                field={READING_FIELDS[key]}
                value={entry.reading[key]}
                onChange={(v) => v !== undefined && change({ reading: { ...entry.reading!, [key]: v } })}
              />
            ),
        )}
      </div>
      <label className="block text-xs text-soft">
        Note
        <input
          className="field min-h-11"
          maxLength={500}
          defaultValue={entry.note ?? ''}
          onBlur={(e) => {
            const text = e.target.value.trim()
            if (text !== (entry.note ?? '')) change({ note: text === '' ? undefined : text })
          }}
        />
      </label>
      <PhotoStrip of={`entry ${entry.id}`} what={`the entry of ${entry.date}`} />
    </div>
  )
}
