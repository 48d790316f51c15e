'use client'
/** The engine as the builder knows it: facts, condition, use, place. */
import { ACTIVITIES, ACTIVITY_FACTS } from '@/core/service/rates'
import { statesOf, type StateId } from '@/core/engine/states'
import { describeEngine } from '@/plan/new-build'
import type { Engine } from '@/plan/document/schema'
import type { Edit } from '@/plan/edit/edit'
import { defaultOf } from '@/plan/engine'
import { STATE_NAMES } from '@/plan/verdicts/verdict'
import { Select } from '@/ui/select'
import { NumberField, type KeptAs } from '../workspace/field'
import { useWorkspace } from '../workspace/store'
import { fromSi } from '@/core/units/units'

const LAYOUTS = [{ value: 'inline', name: 'Inline or single' }, { value: 'vee', name: 'Vee' }, { value: 'flat', name: 'Flat' }] as const
const INDUCTIONS = [{ value: 'na', name: 'Naturally aspirated' }, { value: 'turbo', name: 'Turbocharged' }, { value: 'super', name: 'Supercharged' }] as const
const INJECTIONS = [{ value: 'port', name: 'Port', about: 'fuel washes the valves' }, { value: 'direct', name: 'Direct', about: 'valves stay unwashed' }, { value: 'dual', name: 'Port and direct' }] as const
const RINGS = [{ value: 'tight', name: 'Tight', about: 'fresh, small gaps: 0.5 % of air' }, { value: 'normal', name: 'Normal', about: '1.0 %' }, { value: 'loose', name: 'Loose forged', about: '1.8 %' }, { value: 'worn', name: 'Worn', about: '3.5 %' }] as const
const PICK_UPS = [{ value: 'unbaffled', name: 'Open', about: 'cams throw oil at it' }, { value: 'baffled', name: 'Baffled' }, { value: 'multipass', name: 'Multi-pass baffle' }] as const

export function Facts() {
  const build = useWorkspace((s) => s.build)
  const analysis = useWorkspace((s) => s.analysis)
  const edit = useWorkspace((s) => s.edit)
  const { engine, site, duty } = build
  const set = (key: keyof Engine, value: unknown) => {
    const edits: Edit[] = [{ op: 'set', path: ['engine', key], value }]
    const next = { ...engine, [key]: value } as Engine
    // a charger needs a boost, and the line under the name follows the facts
    if (key === 'induction') edits.push({ op: 'set', path: ['engine', 'boostKpa'], value: value === 'na' ? 0 : engine.boostKpa || 80 })
    if (build.about === describeEngine(engine)) edits.push({ op: 'set', path: ['about'], value: describeEngine(next) })
    edit(edits, `engine ${key}`)
  }
  const number = (key: keyof Engine & string, label: string, options: { kept?: KeptAs; unit?: string; estimate?: number } = {}) => (
    <NumberField label={label} value={engine[key] as number | undefined} path={`engine.${key}`} {...options} onChange={(v) => { if (v !== undefined || options.estimate !== undefined) set(key, v) }} />
  )
  const pick = <T extends string>(key: keyof Engine & string, label: string, options: readonly { value: T; name: string; about?: string }[]) => (
    <div><span className="block text-xs text-soft" aria-hidden>{label}</span><Select label={label} value={engine[key] as T} options={options} onChange={(v) => set(key, v)} /></div>
  )
  const present = statesOf(engine.induction)
  const measured = engine.blowBy
  const fullState: StateId = engine.induction === 'na' ? 'pull' : 'boost'
  const estimateLpm = fromSi('gasFlow', analysis.states.find((s) => s.id === (measured?.state ?? fullState))?.blowBy ?? 0, 'l/min')

  return (
    <div className="space-y-5 pb-6">
      <section aria-labelledby="facts">
        <h2 id="facts" className="head border-b-[1.5px] border-ink pb-1">Facts</h2>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
          {number('cylinders', 'Cylinders')}{pick('layout', 'Layout', LAYOUTS)}
          {number('displacementCc', 'Displacement', { kept: 'Cc' })}{number('boreMm', 'Bore', { kept: 'Mm' })}
          {number('compression', 'Compression ratio', { unit: ': 1' })}{pick('injection', 'Injection', INJECTIONS)}
          {pick('induction', 'Induction', INDUCTIONS)}{engine.induction === 'na' ? <div /> : number('boostKpa', 'Boost at rated speed', { kept: 'Kpa' })}
          {number('idleRpm', 'Idle', { unit: 'rpm' })}{number('ratedRpm', 'Rated speed', { unit: 'rpm' })}
          {number('idleManifoldKpa', 'Manifold at idle, absolute', { kept: 'Kpa', estimate: defaultOf(build, 'idleManifoldKpa') })}
          {number('inletDepressionKpa', 'Inlet depression, rated', { kept: 'Kpa', estimate: defaultOf(build, 'inletDepressionKpa') })}
        </div>
      </section>
      <section aria-labelledby="condition">
        <h2 id="condition" className="head border-b-[1.5px] border-ink pb-1">Condition</h2>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
          {pick('rings', 'Rings', RINGS)}{pick('pickUp', 'Breather pick-up', PICK_UPS)}
          <NumberField label="Blow-by, measured" value={measured?.lpm} kept="lpm" estimate={estimateLpm} digits={3} path="engine.blowBy.lpm" onChange={(v) => set('blowBy', v === undefined ? undefined : { state: measured?.state ?? fullState, lpm: v })} />
          <div><span className="block text-xs text-soft" aria-hidden>Measured in</span><Select label="State of the blow-by measurement" value={measured?.state ?? fullState} options={present.map((s) => ({ value: s, name: STATE_NAMES[s] }))} onChange={(s) => { if (measured) set('blowBy', { ...measured, state: s }) }} /></div>
        </div>
      </section>
      <section aria-labelledby="duty">
        <h2 id="duty" className="head border-b-[1.5px] border-ink pb-1">Use, in hours of each kind</h2>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
          {ACTIVITIES.map((a) => <NumberField key={a} label={ACTIVITY_FACTS[a].name} value={duty.hours[a]} unit="h" path={`duty.hours.${a}`} onChange={(v) => { if (v !== undefined && (v > 0 || ACTIVITIES.some((b) => b !== a && duty.hours[b] > 0))) edit([{ op: 'set', path: ['duty', 'hours', a], value: v }], `hours ${a}`) }} />)}
          <NumberField label="A year" value={duty.kmPerYear} kept="Km" path="duty.kmPerYear" onChange={(v) => { if (v !== undefined) edit([{ op: 'set', path: ['duty', 'kmPerYear'], value: v }], 'km') }} />
        </div>
      </section>
      <section aria-labelledby="place">
        <h2 id="place" className="head border-b-[1.5px] border-ink pb-1">Where it is driven</h2>
        <div className="mt-2 grid grid-cols-3 gap-x-4">
          <NumberField label="Altitude" value={site.altitudeM} kept="M" path="site.altitudeM" onChange={(v) => { if (v !== undefined) edit([{ op: 'set', path: ['site', 'altitudeM'], value: v }], 'altitude') }} />
          <NumberField label="Outside air" value={site.ambientC} kept="C" path="site.ambientC" onChange={(v) => { if (v !== undefined) edit([{ op: 'set', path: ['site', 'ambientC'], value: v }], 'ambient') }} />
          <NumberField label="Humidity" value={site.humidityPct} unit="%" path="site.humidityPct" onChange={(v) => { if (v !== undefined) edit([{ op: 'set', path: ['site', 'humidityPct'], value: v }], 'humidity') }} />
        </div>
      </section>
    </div>
  )
}
