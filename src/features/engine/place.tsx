'use client'
/** Where the car is driven: what the air there is like. */
import { atmosphericPressure } from '@/core/gas/air'
import { quantityText } from '@/core/units/format'
import { fromSi, toSi } from '@/core/units/units'
import { SITE_FIELDS } from '@/plan/document/fields'
import { setField } from '@/plan/edit/edit-builders'
import { NumberField } from '../workspace/figures/field'
import { useUnits, useWorkspace } from '../workspace/store'

/** What weather moves a barometer by, kPa; beyond it another height explains it (estimate). */
const FAR_KPA = 5
const SEA_LEVEL_KPA = 101.3

export function Place() {
  const site = useWorkspace((s) => s.build.site)
  const act = useWorkspace((s) => s.act)
  const barometer = fromSi('pressure', atmosphericPressure(site.altitudeM), 'kPa')
  const units = useUnits()
  const seaLevel =
    site.pressureKpa !== undefined &&
    site.pressureKpa - barometer > FAR_KPA &&
    Math.abs(site.pressureKpa - SEA_LEVEL_KPA) < FAR_KPA
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
      {seaLevel && (
        <p role="alert" className="col-span-full border-l-4 border-watch pl-2">
          At {quantityText(site.altitudeM, 'altitude', units, 3)} a barometer shows about{' '}
          {quantityText(toSi('pressure', barometer, 'kPa'), 'pressure', units, 3)}; what is entered is near the weather
          report’s, which is reduced to sea level. Read the barometer itself, or leave the field empty.
        </p>
      )}
    </div>
  )
}
