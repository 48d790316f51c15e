'use client'
/** How the engine breathes: in each state what comes past the rings, and which way it leaves. */
import { formatQuantity } from '@/core/units/format'
import type { StateResult } from '@/plan/analysis'
import type { Variant } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES } from '@/plan/verdicts/verdict'
import { Figure } from '../workspace/figure'
import { useUnits, useWorkspace } from '../workspace/store'

type Sides = { readonly vacuumOut: number; readonly vacuumIn: number; readonly breatherOut: number; readonly breatherIn: number }

/** Gas over each border of the circuit, kg/s. */
function sidesOf(s: StateResult, variant: Variant): Sides {
  const sum = (kinds: readonly string[], sign: 1 | -1) => (s.solved ? variant.parts.filter((p) => kinds.includes(p.kind)).reduce((t, p) => t + Math.max(0, sign * (s.into[p.id]?.gas ?? 0)), 0) : 0)
  return { vacuumOut: sum(['manifold'], 1), vacuumIn: sum(['manifold'], -1), breatherOut: sum(breather, 1), breatherIn: sum(breather, -1) }
}

export function Breathing() {
  const states = useWorkspace((s) => s.analysis.states)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const current = useWorkspace((s) => s.state)
  const show = useWorkspace((s) => s.show)
  const units = useUnits()
  const sides = states.map((s) => sidesOf(s, variant))
  const most = Math.max(1e-6, ...sides.flatMap((s) => [s.vacuumOut + s.vacuumIn, s.breatherOut, s.breatherIn]))
  const text = (kg: number) => { const f = formatQuantity(kg, 'gasFlow', units, 2); return f.text }
  const bar = (kg: number, colour: string, hatched: boolean) => ({ width: `${Math.max(0.6, 100 * kg / most)}%`, background: hatched ? `repeating-linear-gradient(135deg, ${colour} 0 3px, transparent 3px 7px)` : colour, border: `1.5px solid ${colour}` })
  return (
    <section aria-labelledby="breathing">
      <div className="flex items-baseline justify-between gap-2 border-b-[1.5px] border-ink pb-1">
        <h2 id="breathing" className="head">How it breathes</h2>
        <span className="text-xs text-soft">{units.flow}; solid leaves the engine, hatched is fresh air coming in</span>
      </div>
      <div className="grid grid-cols-[5rem_1fr_6.5rem_1fr] items-center gap-x-2 pt-1 text-xs text-soft" aria-hidden>
        <span /><span className="text-right">breather side</span><span className="text-center">blow-by</span><span>vacuum side</span>
      </div>
      <ul>
        {states.map((s, i) => {
          const side = sides[i]!
          const on = s.id === current
          return (
            <li key={s.id} className={`grid grid-cols-[5rem_1fr_6.5rem_1fr] items-center gap-x-2 border-b border-rule ${on ? 'bg-blue-wash' : ''}`}>
              <button type="button" onClick={() => show(s.id)} className="min-h-11 pl-1 text-left font-bold">{STATE_NAMES[s.id]}</button>
              <div className="flex flex-col items-end gap-0.5 py-1">
                {side.breatherOut > 1e-7 && <Bar style={bar(side.breatherOut, 'var(--oil-laden)', false)} label={`${text(side.breatherOut)} out by the breather`} text={text(side.breatherOut)} left />}
                {side.breatherIn > 1e-7 && <Bar style={bar(side.breatherIn, 'var(--air)', true)} label={`${text(side.breatherIn)} fresh air in by the breather`} text={text(side.breatherIn)} left />}
              </div>
              <div className="text-center text-base font-bold"><Figure of={{ kind: 'blowBy', state: s.id }} /></div>
              <div className="flex flex-col items-start gap-0.5 py-1">
                {side.vacuumOut > 1e-7 && <Bar style={bar(side.vacuumOut, 'var(--vacuum)', false)} label={`${text(side.vacuumOut)} out to the manifold`} text={text(side.vacuumOut)} />}
                {side.vacuumIn > 1e-7 && <Bar style={bar(side.vacuumIn, 'var(--stop)', true)} label={`${text(side.vacuumIn)} blows in from the manifold`} text={text(side.vacuumIn)} />}
                {s.solved && side.vacuumOut <= 1e-7 && side.vacuumIn <= 1e-7 && variant.parts.some((p) => p.kind === 'manifold') && <span className="text-xs text-soft">shut</span>}
              </div>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

function Bar({ style, label, text, left }: { style: React.CSSProperties; label: string; text: string; left?: boolean }) {
  return (
    <div className={`flex w-full items-center gap-1.5 ${left ? 'justify-end' : ''}`}>
      {left && <span className="text-xs" aria-hidden>{text}</span>}
      <div className="h-3.5" style={style} role="img" aria-label={label} />
      {!left && <span className="text-xs" aria-hidden>{text}</span>}
    </div>
  )
}
