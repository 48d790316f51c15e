'use client'
/** What each state is taken to be; every figure may be replaced by one that was logged. */
import { fromSi } from '@/core/units/units'
import type { Override } from '@/plan/document/schema'
import { STATE_NAMES } from '@/plan/verdicts/verdict'
import { NumberField } from '../workspace/field'
import { Figure } from '../workspace/figure'
import { useWorkspace } from '../workspace/store'

export function StatesTable() {
  const states = useWorkspace((s) => s.analysis.states)
  const overrides = useWorkspace((s) => s.build.engine.overrides)
  const edit = useWorkspace((s) => s.edit)
  return (
    <section aria-labelledby="states" className="overflow-x-auto">
      <div className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1"><h2 id="states" className="head">What each state is</h2><span className="text-xs text-soft">◇ estimated; type a logged value over it, clear it to go back</span></div>
      <table className="table w-full min-w-[34rem] table-fixed">
        <thead><tr><th className="w-[13%]">State</th><th className="w-[20%]">Speed</th><th className="w-[17%]">Manifold, abs.</th><th className="w-[17%]">Depression</th><th className="w-[16%]">Gas</th><th className="!text-right">Engine air</th></tr></thead>
        <tbody>
          {states.map((s) => {
            const now: Override = overrides[s.id] ?? {}
            const op = s.operating
            const set = (key: keyof Override, value: number | undefined) => {
              const next = JSON.parse(JSON.stringify({ ...now, [key]: value })) as Override
              edit([{ op: 'set', path: ['engine', 'overrides', s.id], value: Object.keys(next).length > 0 ? next : undefined }], `${s.id} ${key}`)
            }
            const name = STATE_NAMES[s.id]
            return (
              <tr key={s.id}>
                <th scope="row" className="!text-sm !font-bold !text-ink">{name}</th>
                <td><NumberField hideLabel label={`${name}, speed`} value={now.rpm} estimate={Math.round(op.rpm / 10) * 10} digits={4} unit="rpm" path="engine.overrides.idle.rpm" onChange={(v) => set('rpm', v)} /></td>
                <td><NumberField hideLabel label={`${name}, manifold pressure`} value={now.manifoldKpa} estimate={fromSi('pressure', op.manifoldPa, 'kPa')} kept="Kpa" digits={3} path="engine.overrides.idle.manifoldKpa" onChange={(v) => set('manifoldKpa', v)} /></td>
                <td><NumberField hideLabel label={`${name}, inlet depression`} value={now.inletDepressionKpa} estimate={Number(fromSi('pressure', op.inletDepressionPa, 'kPa').toFixed(2))} kept="Kpa" digits={3} path="engine.overrides.idle.inletDepressionKpa" onChange={(v) => set('inletDepressionKpa', v)} /></td>
                <td><NumberField hideLabel label={`${name}, crankcase gas`} value={now.gasC} estimate={fromSi('temperature', op.gasK, 'C')} kept="C" digits={3} path="engine.overrides.idle.gasC" onChange={(v) => set('gasC', v)} /></td>
                <td className="text-right"><Figure of={{ kind: 'air', state: s.id }} /></td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}
