'use client'
/** How the car is used: hours of each kind, distance a year, the rulebook's tank. */
import { ACTIVITIES, ACTIVITY_FACTS } from '@/core/service/rates'
import { DUTY_FIELDS, HOURS_FIELD } from '@/plan/document/fields'
import { setField } from '@/plan/edit/edit-builders'
import { exampleRuleMl } from '@/plan/catalogue/class-rule'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { useWorkspace } from '../workspace/store'

export function UsePanel() {
  const duty = useWorkspace((s) => s.build.duty)
  const displacementCc = useWorkspace((s) => s.build.engine.displacementCc)
  const act = useWorkspace((s) => s.act)
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
      {ACTIVITIES.map((a) => (
        <NumberField
          key={a}
          field={HOURS_FIELD}
          label={ACTIVITY_FACTS[a].name}
          value={duty.hours[a]}
          onChange={(v) => {
            // some use there must be
            if (v !== undefined && (v > 0 || ACTIVITIES.some((b) => b !== a && duty.hours[b] > 0)))
              act(setField(['duty', 'hours', a], v), `${ACTIVITY_FACTS[a].name}: ${v} h`, `hours ${a}`)
          }}
        />
      ))}
      {duty.hours.track > 0 && (
        <div>
          <span className="block text-xs text-soft" aria-hidden>
            Tyres on track
          </span>
          <Select
            label="Tyres on track"
            value={duty.tyres ?? 'road'}
            options={[
              { value: 'road', name: 'Road' },
              { value: 'slicks', name: 'Slicks' },
            ]}
            onChange={(v) => act(setField(['duty', 'tyres'], v === 'slicks' ? v : undefined))}
          />
        </div>
      )}
      <NumberField
        field={DUTY_FIELDS.catchRuleMl}
        value={duty.catchRuleMl}
        estimate={exampleRuleMl(displacementCc)}
        onChange={(v) => act(setField(['duty', 'catchRuleMl'], v), undefined, 'class rule')}
      />
      <NumberField
        field={DUTY_FIELDS.kmPerYear}
        value={duty.kmPerYear}
        onChange={(v) => {
          if (v !== undefined) act(setField(['duty', 'kmPerYear'], v), undefined, 'km')
        }}
      />
    </div>
  )
}
