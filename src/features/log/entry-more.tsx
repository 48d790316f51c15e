'use client'
/** One entry put right, with its pictures. */
import type { LogEntry } from '@/plan/document/schema'

import { photoOf } from '../workspace/photos/photo-of'
import { PhotoStrip } from '../workspace/photos/photo-strip'
import { EntryForm } from './entry-form'

export default function EntryMore({ entry, onDone }: { entry: LogEntry; onDone: () => void }) {
  return (
    <div className="mt-1">
      <EntryForm entry={entry} onDone={onDone} />
      <PhotoStrip of={photoOf.entry(entry.id)} what={`the entry of ${entry.date}`} />
    </div>
  )
}
