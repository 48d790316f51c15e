'use client'
/** The states side by side, each with its crankcase pressure and judgement; the one pressed is shown everywhere. Keys 1 to 6. */
import { ToggleGroup } from 'radix-ui'
import { atState, STATE_NAMES } from '@/plan/document/words'
import { useEffect, useMemo } from 'react'
import { formatQuantity, quantityText } from '@/core/units/format'
import type { StateId } from '@/core/engine/states'
import { isSolved, type StateResult } from '@/plan/model/results'
import { farReadings } from '@/plan/service/readings'
import { judgeState, LIMITS } from '@/plan/model/limits'
import type { Severity } from '@/plan/verdicts/verdict'
import { SEVERITY_COLOUR } from '@/ui/marks'
import { isTypingIn } from '@/ui/typing'
import { WorkingButton } from '../figures/working-popover'
import { useUnits, useWorkspace } from '../store'

export const stateJudgement = (s: StateResult): Severity => (s.solved ? judgeState(s) : 'stop')
const WORD: Readonly<Record<Severity, string>> = { stop: 'stop', fix: 'fix', watch: 'watch', ok: 'good' }

/** A little column: the good band, the atmosphere as a line, the crankcase as a pointer. Cube-root scale so that small vacuum is seen. */
function Column({ gauge, judged }: { gauge: number | undefined; judged: Severity }) {
  const scale = (pa: number) => 18 - 15 * Math.cbrt(Math.max(-20000, Math.min(20000, pa)) / 20000)
  return (
    <svg width="16" height="36" viewBox="0 0 16 36" aria-hidden className="shrink-0">
      <rect
        x="5"
        y={scale(0)}
        width="6"
        height={scale(LIMITS.crankcaseLow) - scale(0)}
        fill="var(--vacuum)"
        opacity="0.28"
      />
      <path d="M5.5 2v32M10.5 2v32" stroke="currentColor" opacity="0.45" />
      <path d={`M1 ${scale(0)}h14`} stroke="currentColor" strokeWidth="1.4" />
      {gauge !== undefined && (
        <path
          d={`M0 ${scale(gauge) - 4} l8 4 l-8 4z`}
          fill={judged === 'ok' ? 'currentColor' : SEVERITY_COLOUR[judged]}
          className="transition-transform"
          stroke="var(--paper)"
          strokeWidth="0.8"
        />
      )}
    </svg>
  )
}

export function StateSwitch() {
  const states = useWorkspace((s) => s.analysis.states)
  const current = useWorkspace((s) => s.pressed)
  const show = useWorkspace((s) => s.show)
  const units = useUnits()
  const build = useWorkspace((s) => s.build)
  const far = useMemo(() => farReadings(build, states.filter(isSolved)), [build, states])
  const active = states.some((s) => s.id === current) ? current : states[0]!.id

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTypingIn(event.target)) return
      const state = states[Number(event.key) - 1]
      if (state) show(state.id)
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [states, show])

  return (
    <ToggleGroup.Root
      type="single"
      value={active}
      onValueChange={(v) => {
        if (v) show(v as StateId)
      }}
      aria-label="Driving state"
      className="no-print flex overflow-x-auto border-b-[1.5px] border-ink"
    >
      {states.map((s, i) => {
        const judged = stateJudgement(s)
        const on = s.id === active
        const odd = far.find((f) => f.read.state === s.id && f.read.quantity === 'crankcase')
        const shown = s.solved ? formatQuantity(s.crankcaseGauge, 'pressure', units, 2) : undefined
        return (
          <div
            key={s.id}
            className={`relative flex-1 border-r border-rule last:border-r-0 ${odd ? 'min-w-[10.5rem]' : 'min-w-[8.2rem]'}`}
          >
            <ToggleGroup.Item
              value={s.id}
              className={`relative flex min-h-14 w-full items-center gap-2 px-3 text-left ${on ? 'bg-blue text-on-blue' : 'hover:bg-well'}`}
            >
              <kbd className={`text-xs ${on ? '' : 'text-faint'}`} aria-hidden>
                {i + 1}
              </kbd>
              <Column gauge={s.solved ? s.crankcaseGauge : undefined} judged={on ? 'ok' : judged} />
              <span className="min-w-0 flex-1">
                <span className="block text-xs">{STATE_NAMES[s.id]}</span>
                <span className="block whitespace-nowrap text-base font-bold leading-tight">
                  {shown ? (
                    <>
                      {s.solved && s.crankcaseGauge > 0 && /[1-9]/.test(shown.text) ? '+' : ''}
                      {shown.text} <span className="text-xs font-normal">{shown.unit}</span>
                    </>
                  ) : (
                    'no answer'
                  )}
                </span>
                {odd && (
                  <span className={`block text-[11px] leading-tight whitespace-nowrap italic ${on ? '' : 'text-fix'}`}>
                    read {quantityText(odd.read.value, 'pressure', units, 2)}
                  </span>
                )}
              </span>
              <span className="sr-only">, crankcase, {WORD[judged]}</span>
              {/* the judgement as a band: plain, dashed or toothed, so that it reads without colour */}
              <span
                aria-hidden
                className="absolute inset-x-0 bottom-0 h-1.5"
                style={{
                  color: on ? 'var(--on-blue)' : SEVERITY_COLOUR[judged],
                  background:
                    judged === 'ok'
                      ? 'none'
                      : judged === 'watch'
                        ? 'repeating-linear-gradient(90deg, currentColor 0 8px, transparent 8px 13px)'
                        : 'currentColor',
                }}
              />
            </ToggleGroup.Item>
            {on && s.solved && (
              <WorkingButton
                of={{ kind: 'crankcase', state: s.id }}
                digits={2}
                label={`Crankcase ${atState(s.id)}: the working`}
                className="no-print absolute right-1 top-0.5 min-h-7 cursor-help px-1 text-xs text-on-blue underline decoration-dotted underline-offset-4"
              >
                working
              </WorkingButton>
            )}
          </div>
        )
      })}
    </ToggleGroup.Root>
  )
}
