'use client'
/** Where the car is driven: what the air there is like. */
import { atmosphericPressure } from '@/core/gas/air'
import { fromSi } from '@/core/units/units'
import { SITE_FIELDS } from '@/plan/document/fields'
import { setField } from '@/plan/edit/edit-builders'
import { NumberField } from '../workspace/figures/field'
import { useWorkspace } from '../workspace/store'

export function Place() {
  const site = useWorkspace((s) => s.build.site)
  const act = useWorkspace((s) => s.act)
  const barometer = fromSi('pressure', atmosphericPressure(site.altitudeM), 'kPa')
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
      {(['altitudeM', 'pressureKpa', 'ambientC', 'humidityPct'] as const).map((key) => (
        <NumberField
          key={key}
          field={SITE_FIELDS[key]}
          value={site[key]}
          estimate={key === 'pressureKpa' ? barometer : undefined}
          onChange={(v) => {
            if (v !== undefined || key === 'pressureKpa') act(setField(['site', key], v), undefined, `site ${key}`)
          }}
        />
      ))}
    </div>
  )
}
