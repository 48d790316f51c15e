'use client'
/** What the odometer shows at what is noted: asked, else as the last entry of the log has it; never a 0 that nobody read. */
import { useState, type ReactNode } from 'react'
import { LOG_FIELDS } from '@/plan/document/log-fields'
import { NumberField } from '../workspace/figures/field'
import { useWorkspace } from '../workspace/store'

/** Said where neither an entry nor the builder tells it. */
export const NO_ODOMETER = 'Enter what the odometer shows first.'

/** The field to show, and the km that hold: undefined while nobody has said. */
export function useOdometer(): { readonly km: number | undefined; readonly field: ReactNode } {
  const log = useWorkspace((s) => s.build.log)
  const [typed, setTyped] = useState<number | undefined>(undefined)
  const last = log.length > 0 ? Math.max(...log.map((e) => e.odometerKm)) : undefined
  return {
    km: typed ?? last,
    field: (
      <NumberField
        className="w-40"
        field={{ ...LOG_FIELDS.odometerKm, optional: true }}
        value={typed}
        {...(last === undefined ? {} : { estimate: last })}
        onChange={setTyped}
      />
    ),
  }
}
