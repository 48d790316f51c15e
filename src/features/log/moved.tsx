'use client'
/** What the last entry of the log has moved: read out as it happens. */
import { useState } from 'react'
import { unitFormatter } from '@/plan/document/words'
import { forecastChanges } from '@/plan/service/moved'
import { useUnits, useWorkspace } from '../workspace/store'

export function Moved() {
  const log = useWorkspace((s) => s.build.log)
  const cans = useWorkspace((s) => s.analysis.cans)
  const units = useUnits()
  const [seen, setSeen] = useState<{ log: typeof log; cans: typeof cans; text: readonly string[] }>({
    log,
    cans,
    text: [],
  })
  // the forecast may come a moment after the entry: what it moved is shown once it is there
  if (cans !== seen.cans)
    setSeen({ log, cans, text: log === seen.log ? seen.text : forecastChanges(seen.cans, cans, unitFormatter(units)) })
  return (
    <div role="status">
      {seen.text.map((text) => (
        <p key={text} className="mt-1 border-l-4 border-blue pl-2">
          {text}
        </p>
      ))}
    </div>
  )
}
