'use client'
/** The engine as the builder knows it: facts, condition, use, place. */
import { ACTIVITIES, ACTIVITY_FACTS } from '@/core/service/rates'
import { ENGINE_CLASSES } from '@/plan/catalogue/engines'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { fullLoadState } from '@/core/engine/states'
import { atmosphericPressure } from '@/core/gas/air'
import { quantityText } from '@/core/units/format'
import { exampleRuleMl } from '@/plan/verdicts/rules/law'
import { describeEngine } from '@/plan/schools/new-build'
import type { Engine } from '@/plan/document/schema'
import type { Edit } from '@/plan/edit/edit'
import { crankcaseCc, defaultOf, measuredFlow, pistonPhaseDeg, pulsates, surroundings } from '@/plan/model/engine'
import { STATE_NAMES } from '@/plan/explain/words'
import { Select } from '@/ui/select'
import { NumberField, type KeptAs } from '../workspace/field'
import { useUnits, useWorkspace } from '../workspace/store'
import { fromSi } from '@/core/units/units'

const LAYOUTS = [
  { value: 'inline', name: 'Inline or single' },
  { value: 'vee', name: 'Vee' },
  { value: 'flat', name: 'Flat' },
] as const
const INDUCTIONS = [
  { value: 'na', name: 'Naturally aspirated' },
  { value: 'turbo', name: 'Turbocharged' },
  { value: 'super', name: 'Supercharged' },
] as const
const INJECTIONS = [
  { value: 'port', name: 'Port', about: 'fuel washes the valves' },
  { value: 'direct', name: 'Direct', about: 'valves stay unwashed' },
  { value: 'dual', name: 'Port and direct' },
] as const
const RINGS = [
  { value: 'tight', name: 'Tight', about: 'fresh, small gaps: 0.5 % of air' },
  { value: 'normal', name: 'Normal', about: '1.0 %' },
  { value: 'loose', name: 'Loose forged', about: '1.8 %' },
  { value: 'worn', name: 'Worn', about: '3.5 %' },
] as const
const SUMPS = [
  { value: 'wet', name: 'Wet' },
  { value: 'dry', name: 'Dry', about: 'scavenge pumps to a tank' },
] as const
const PICK_UPS = [
  { value: 'unbaffled', name: 'Open', about: 'cams throw oil at it' },
  { value: 'baffled', name: 'Baffled' },
  { value: 'multipass', name: 'Multi-pass baffle' },
] as const

export function Facts() {
  const build = useWorkspace((s) => s.build)
  const edit = useWorkspace((s) => s.edit)
  const { engine, site, duty } = build
  const set = (key: keyof Engine, value: unknown) => {
    const edits: Edit[] = [{ op: 'set', path: ['engine', key], value }]
    const next = { ...engine, [key]: value } as Engine
    // a charger needs a boost, and the line under the name follows the facts
    if (key === 'induction')
      edits.push({ op: 'set', path: ['engine', 'boostKpa'], value: value === 'na' ? 0 : engine.boostKpa || 80 })
    if (build.about === describeEngine(engine)) edits.push({ op: 'set', path: ['about'], value: describeEngine(next) })
    edit(edits, `engine ${key}`)
  }
  const number = (
    key: keyof Engine & string,
    label: string,
    options: { kept?: KeptAs; unit?: string; estimate?: number } = {},
  ) => (
    <NumberField
      label={label}
      value={engine[key] as number | undefined}
      path={`engine.${key}`}
      {...options}
      onChange={(v) => {
        if (v !== undefined || options.estimate !== undefined) set(key, v)
      }}
    />
  )
  const pick = <T extends string>(
    key: keyof Engine & string,
    label: string,
    options: readonly { value: T; name: string; about?: string }[],
  ) => (
    <div>
      <span className="block text-xs text-soft" aria-hidden>
        {label}
      </span>
      <Select label={label} value={engine[key] as T} options={options} onChange={(v) => set(key, v)} />
    </div>
  )
  return (
    <div className="space-y-5 pb-6">
      <section aria-labelledby="facts">
        <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
          <h2 id="facts" className="head">
            Facts
          </h2>
          <Popover.Root>
            <Popover.Trigger className="deed">Start from a class</Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                className="menu max-h-[60vh] w-80 overflow-auto p-1"
                align="end"
                sideOffset={4}
                aria-label="Engine classes"
              >
                {ENGINE_CLASSES.map(({ key, name, ...facts }) => (
                  <Popover.Close
                    key={key}
                    className="menu-item w-full text-left hover:bg-blue-wash"
                    onClick={() =>
                      edit([
                        { op: 'set', path: ['engine'], value: { ...facts, overrides: {} } },
                        { op: 'set', path: ['about'], value: name },
                      ])
                    }
                  >
                    {name}
                  </Popover.Close>
                ))}
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        </div>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
          {number('cylinders', 'Cylinders')}
          {pick('layout', 'Layout', LAYOUTS)}
          {number('displacementCc', 'Displacement', { kept: 'Cc' })}
          {number('boreMm', 'Bore', { kept: 'Mm' })}
          {number('compression', 'Compression ratio', { unit: ': 1' })}
          {pick('injection', 'Injection', INJECTIONS)}
          {pick('induction', 'Induction', INDUCTIONS)}
          {engine.induction === 'na'
            ? pick('sump', 'Sump', SUMPS)
            : number('boostKpa', 'Boost at rated speed', { kept: 'Kpa' })}
          {number('idleRpm', 'Idle', { unit: 'rpm' })}
          {number('ratedRpm', 'Rated speed', { unit: 'rpm' })}
          {number('idleManifoldKpa', 'Manifold at idle, absolute', {
            kept: 'Kpa',
            estimate: defaultOf(build, 'idleManifoldKpa'),
          })}
          {number('inletDepressionKpa', 'Inlet depression, rated', {
            kept: 'Kpa',
            estimate: defaultOf(build, 'inletDepressionKpa'),
          })}
          {number('inletFouling', 'Air filter fouling, ×', { estimate: defaultOf(build, 'inletFouling') })}
          {engine.induction !== 'na' && pick('sump', 'Sump', SUMPS)}
          {pulsates(engine) &&
            number('crankcaseCc', 'Crankcase, free volume', { kept: 'Cc', estimate: crankcaseCc(engine) })}
          {engine.cylinders === 2 &&
            number('pistonPhaseDeg', 'Pistons apart, crank degrees', { unit: 'deg', estimate: pistonPhaseDeg(engine) })}
        </div>
      </section>
      <section aria-labelledby="condition">
        <h2 id="condition" className="head border-b-[1.5px] border-ink pb-1">
          Condition
        </h2>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
          {pick('rings', 'Rings', RINGS)}
          {pick('pickUp', 'Breather pick-up', PICK_UPS)}
        </div>
        <MeasuredBlowBy />
      </section>
      <section aria-labelledby="duty">
        <h2 id="duty" className="head border-b-[1.5px] border-ink pb-1">
          Use, in hours of each kind
        </h2>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
          {ACTIVITIES.map((a) => (
            <NumberField
              key={a}
              label={ACTIVITY_FACTS[a].name}
              value={duty.hours[a]}
              unit="h"
              path={`duty.hours.${a}`}
              onChange={(v) => {
                if (v !== undefined && (v > 0 || ACTIVITIES.some((b) => b !== a && duty.hours[b] > 0)))
                  edit([{ op: 'set', path: ['duty', 'hours', a], value: v }], `hours ${a}`)
              }}
            />
          ))}
          <NumberField
            label="Class asks for a tank of"
            value={duty.catchRuleMl}
            estimate={exampleRuleMl(engine.displacementCc)}
            kept="Ml"
            path="duty.catchRuleMl"
            onChange={(v) => edit([{ op: 'set', path: ['duty', 'catchRuleMl'], value: v }], 'class rule')}
          />
          <NumberField
            label="A year"
            value={duty.kmPerYear}
            kept="Km"
            path="duty.kmPerYear"
            onChange={(v) => {
              if (v !== undefined) edit([{ op: 'set', path: ['duty', 'kmPerYear'], value: v }], 'km')
            }}
          />
        </div>
      </section>
      <section aria-labelledby="place">
        <h2 id="place" className="head border-b-[1.5px] border-ink pb-1">
          Where it is driven
        </h2>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
          <NumberField
            label="Altitude"
            value={site.altitudeM}
            kept="M"
            path="site.altitudeM"
            onChange={(v) => {
              if (v !== undefined) edit([{ op: 'set', path: ['site', 'altitudeM'], value: v }], 'altitude')
            }}
          />
          <NumberField
            label="Barometer"
            value={site.pressureKpa}
            estimate={fromSi('pressure', atmosphericPressure(site.altitudeM), 'kPa')}
            kept="Kpa"
            digits={4}
            path="site.pressureKpa"
            onChange={(v) => edit([{ op: 'set', path: ['site', 'pressureKpa'], value: v }], 'barometer')}
          />
          <NumberField
            label="Outside air"
            value={site.ambientC}
            kept="C"
            path="site.ambientC"
            onChange={(v) => {
              if (v !== undefined) edit([{ op: 'set', path: ['site', 'ambientC'], value: v }], 'ambient')
            }}
          />
          <NumberField
            label="Humidity"
            value={site.humidityPct}
            unit="%"
            path="site.humidityPct"
            onChange={(v) => {
              if (v !== undefined) edit([{ op: 'set', path: ['site', 'humidityPct'], value: v }], 'humidity')
            }}
          />
        </div>
      </section>
    </div>
  )
}

type Method = 'none' | 'meter' | 'orifice'
const METHODS = [
  { value: 'none', name: 'Not measured', about: 'the ring class estimates it' },
  { value: 'meter', name: 'Flow meter', about: 'on the only way out, everything else plugged' },
  { value: 'orifice', name: 'Known orifice', about: 'everything plugged but one drilled hole; read the crankcase' },
] as const

/** Blow-by that was read replaces the estimate; both ways of reading it, with the arithmetic done. */
function MeasuredBlowBy() {
  const { engine, site } = useWorkspace((s) => s.build)
  const analysis = useWorkspace((s) => s.analysis)
  const edit = useWorkspace((s) => s.edit)
  const units = useUnits()
  const [chosen, setChosen] = useState<Method | undefined>(undefined)
  const [draft, setDraft] = useState<{ orificeMm?: number; kpa?: number }>({})
  const measured = engine.blowBy
  const method: Method = measured ? (measured.lpm === undefined ? 'orifice' : 'meter') : (chosen ?? 'none')
  const state = measured?.state ?? fullLoadState(engine.induction)
  const set = (value: Engine['blowBy']) => edit([{ op: 'set', path: ['engine', 'blowBy'], value }], 'engine blowBy')
  const estimate = fromSi('gasFlow', analysis.states.find((s) => s.id === state)?.blowBy ?? 0, 'l/min')
  const orifice = (change: { orificeMm?: number; kpa?: number }) => {
    const next = { orificeMm: measured?.orificeMm, kpa: measured?.kpa, ...draft, ...change }
    setDraft(next)
    if (next.orificeMm !== undefined && next.kpa !== undefined) set({ state, orificeMm: next.orificeMm, kpa: next.kpa })
  }
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
      <div>
        <span className="block text-xs text-soft" aria-hidden>
          Blow-by measured by
        </span>
        <Select
          label="Blow-by measured by"
          value={method}
          options={METHODS}
          onChange={(m) => {
            setChosen(m)
            setDraft({})
            if (measured) set(undefined)
          }}
        />
      </div>
      {method !== 'none' && (
        <div>
          <span className="block text-xs text-soft" aria-hidden>
            Measured in
          </span>
          <Select
            label="State of the blow-by measurement"
            value={state}
            options={analysis.states.map((s) => ({ value: s.id, name: STATE_NAMES[s.id] }))}
            onChange={(s) => {
              if (measured) set({ ...measured, state: s })
            }}
          />
        </div>
      )}
      {method === 'meter' && (
        <NumberField
          label="Blow-by, measured"
          value={measured?.lpm}
          kept="lpm"
          estimate={estimate}
          digits={3}
          path="engine.blowBy.lpm"
          onChange={(v) => set(v === undefined ? undefined : { state, lpm: v })}
        />
      )}
      {method === 'orifice' && (
        <>
          <NumberField
            label="Orifice bore"
            value={measured?.orificeMm ?? draft.orificeMm}
            kept="Mm"
            digits={3}
            path="engine.blowBy.orificeMm"
            onChange={(v) => orifice({ orificeMm: v })}
          />
          <NumberField
            label="Crankcase, gauge"
            value={measured?.kpa ?? draft.kpa}
            kept="Kpa"
            digits={3}
            path="engine.blowBy.kpa"
            onChange={(v) => orifice({ kpa: v })}
          />
          <p className="self-end pb-2 text-xs text-soft">
            {measured?.kpa === undefined
              ? 'Give both, and the flow follows.'
              : `That is ${quantityText(measuredFlow(measured, surroundings(site), analysis.states.find((s) => s.id === state)?.operating.gasK ?? 353), 'gasFlow', units, 3)} past the rings.`}
          </p>
        </>
      )}
      {method !== 'none' && (
        <p className="col-span-2 text-xs text-soft">
          Hot engine, moving belts: fix the gauge before you start it, keep hands clear, stop if the crankcase climbs: 2
          kPa for long is enough to push a seal out.
        </p>
      )}
    </div>
  )
}
