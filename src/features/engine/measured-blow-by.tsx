'use client'
/** Blow-by that was read replaces the estimate; both ways of reading it, with the arithmetic done. */
import { useState } from 'react'
import { fullLoadState } from '@/core/engine/states'
import { quantityText } from '@/core/units/format'
import { fromSi } from '@/core/units/units'
import { BLOW_BY_FIELDS } from '@/plan/document/fields'
import type { Engine } from '@/plan/document/schema'
import { setField } from '@/plan/edit/edit-builders'
import { STATE_NAMES } from '@/plan/document/words'
import { measuredFlow, surroundings } from '@/plan/model/engine'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { useUnits, useWorkspace } from '../workspace/store'

type Method = 'none' | 'meter' | 'orifice'
const METHODS = [
  { value: 'none', name: 'Not measured', about: 'the ring class estimates it' },
  { value: 'meter', name: 'Flow meter', about: 'on the only way out, everything else plugged' },
  { value: 'orifice', name: 'Known orifice', about: 'everything plugged but one drilled hole; read the crankcase' },
] as const
type Measured = NonNullable<Engine['blowBy']>
type Draft = Pick<Measured, 'orificeMm' | 'kpa'>

export function MeasuredBlowBy() {
  const { engine } = useWorkspace((s) => s.build)
  const states = useWorkspace((s) => s.analysis.states)
  const act = useWorkspace((s) => s.act)
  const [chosen, setChosen] = useState<Method | undefined>(undefined)
  const measured = engine.blowBy
  const method: Method = measured ? (measured.lpm === undefined ? 'orifice' : 'meter') : (chosen ?? 'none')
  const state = measured?.state ?? fullLoadState(engine.induction)
  const set = (value: Measured | undefined) =>
    act(setField(['engine', 'blowBy'], value), 'Measured blow-by', 'engine blowBy')
  const estimate = fromSi('gasFlow', states.find((s) => s.id === state)?.blowBy ?? 0, 'l/min')
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
      <Labelled label="Blow-by measured by">
        <Select
          label="Blow-by measured by"
          value={method}
          options={METHODS}
          onChange={(m) => {
            setChosen(m)
            if (measured) set(undefined)
          }}
        />
      </Labelled>
      {method !== 'none' && (
        <Labelled label="Measured in">
          <Select
            label="State of the blow-by measurement"
            value={state}
            options={states.map((s) => ({ value: s.id, name: STATE_NAMES[s.id] }))}
            onChange={(s) => {
              if (measured) set({ ...measured, state: s })
            }}
          />
        </Labelled>
      )}
      {method === 'meter' && (
        <NumberField
          field={BLOW_BY_FIELDS.lpm}
          value={measured?.lpm}
          estimate={estimate}
          onChange={(v) => set(v === undefined ? undefined : { state, lpm: v })}
        />
      )}
      {method === 'orifice' && <ByOrifice measured={measured} state={state} onChange={set} />}
      {method !== 'none' && (
        <p className="col-span-2 text-xs text-soft">
          Hot engine, moving belts: fix the gauge before you start it, keep hands clear, stop if the crankcase climbs: 2
          kPa for long is enough to push a seal out.
        </p>
      )}
    </div>
  )
}

function Labelled({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div>
      <span className="block text-xs text-soft" aria-hidden>
        {label}
      </span>
      {children}
    </div>
  )
}

/** Both figures are needed before there is a flow; until then they wait here. */
function ByOrifice({
  measured,
  state,
  onChange,
}: {
  measured: Measured | undefined
  state: Measured['state']
  onChange: (m: Measured) => void
}) {
  const site = useWorkspace((s) => s.build.site)
  const states = useWorkspace((s) => s.analysis.states)
  const units = useUnits()
  const [draft, setDraft] = useState<Draft>({})
  const now: Draft = { orificeMm: measured?.orificeMm ?? draft.orificeMm, kpa: measured?.kpa ?? draft.kpa }
  const change = (to: Draft) => {
    const next = { ...now, ...to }
    setDraft(next)
    if (next.orificeMm !== undefined && next.kpa !== undefined)
      onChange({ state, orificeMm: next.orificeMm, kpa: next.kpa })
  }
  const gasK = states.find((s) => s.id === state)?.operating.gasK ?? 353
  return (
    <>
      <NumberField field={BLOW_BY_FIELDS.orificeMm} value={now.orificeMm} onChange={(v) => change({ orificeMm: v })} />
      <NumberField field={BLOW_BY_FIELDS.kpa} value={now.kpa} onChange={(v) => change({ kpa: v })} />
      <p className="self-end pb-2 text-xs text-soft">
        {measured?.kpa === undefined
          ? 'Give both, and the flow follows.'
          : `That is ${quantityText(measuredFlow(measured, surroundings(site), gasK), 'gasFlow', units, 3)} past the rings.`}
      </p>
    </>
  )
}
