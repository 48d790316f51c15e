'use client'
/** All states side by side, small: a ladder each on one scale, so that a change is judged in all of them at once. */
import { useMemo } from 'react'
import type { StateResult } from '@/plan/model/results'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES } from '@/plan/document/words'
import { SEVERITY_COLOUR } from '@/ui/marks'
import { stateJudgement } from '../workspace/frame/state-switch'
import { Figure } from '../workspace/figures/figure'
import { useWorkspace } from '../workspace/store'
import { jointsOf } from './joints'
import { useLadderScale } from './ladder'
import { flowWidth, gasColour, isShut } from './look'

const [W, H] = [220, 150]

export function AllStates() {
  const variant = useWorkspace((s) => activeVariant(s.build))
  const states = useWorkspace((s) => s.analysis.states)
  const current = useWorkspace((s) => s.state)
  const show = useWorkspace((s) => s.show)
  const { joints, ways } = useMemo(() => jointsOf(variant), [variant])
  const { scale } = useLadderScale(states, 8, H - 8)
  const x = new Map(joints.map((j, i) => [j.id, 10 + ((W - 20) * (i + 0.5)) / Math.max(1, joints.length)]))
  return (
    <ul className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-x-3 gap-y-2 pt-1" aria-label="All states">
      {states.map((s) => (
        <li key={s.id}>
          <p className="flex items-baseline justify-between px-1">
            <span className="font-bold">{STATE_NAMES[s.id]}</span>
            <Gauge state={s} />
          </p>
          <button
            type="button"
            aria-label={STATE_NAMES[s.id]}
            aria-pressed={s.id === current}
            onClick={() => show(s.id)}
            className={`w-full border-b-[3px] text-left ${s.id === current ? 'border-blue bg-blue-wash' : 'border-transparent hover:bg-well'}`}
          >
            <svg viewBox={`0 0 ${W} ${H}`} className="w-full" aria-hidden>
              <rect x="0" y="0" width={W} height={scale(0)} fill="var(--pressure-wash)" />
              <rect x="0" y={scale(0)} width={W} height={H - scale(0)} fill="var(--vacuum-wash)" />
              <path d={`M0 ${scale(0)}H${W}`} stroke="var(--ink)" strokeWidth="1" />
              {s.solved &&
                ways.map((w) => {
                  const p = s.passages[w.id]
                  const [x1, y1, x2, y2] = [
                    x.get(w.from) ?? 0,
                    scale(s.gauge[w.from] ?? 0),
                    x.get(w.to) ?? 0,
                    scale(s.gauge[w.to] ?? 0),
                  ]
                  const d = `M${x1} ${y1}C${(x1 + x2) / 2} ${y1} ${(x1 + x2) / 2} ${y2} ${x2} ${y2}`
                  return isShut(p) ? (
                    <path
                      key={w.id}
                      d={d}
                      fill="none"
                      stroke="var(--rule-strong)"
                      strokeWidth="1.2"
                      strokeDasharray="2 3"
                    />
                  ) : (
                    <path
                      key={w.id}
                      d={d}
                      fill="none"
                      stroke={gasColour(p!)}
                      strokeWidth={Math.max(1.6, flowWidth(p!.flow) * 0.5)}
                    />
                  )
                })}
              {s.solved &&
                joints.map((j) => (
                  <circle
                    key={j.id}
                    cx={x.get(j.id)}
                    cy={scale(s.gauge[j.id] ?? 0)}
                    r={j.boundary ? 4 : 2.6}
                    fill="var(--sheet)"
                    stroke="var(--ink)"
                    strokeWidth="1.2"
                  />
                ))}
            </svg>
          </button>
        </li>
      ))}
    </ul>
  )
}

function Gauge({ state: s }: { state: StateResult }) {
  const judged = stateJudgement(s)
  if (!s.solved) return <span className="text-xs font-bold text-stop">no answer</span>
  return (
    <span className="text-xs font-bold" style={{ color: judged === 'ok' ? undefined : SEVERITY_COLOUR[judged] }}>
      <Figure of={{ kind: 'crankcase', state: s.id }} digits={2} sign />
    </span>
  )
}
