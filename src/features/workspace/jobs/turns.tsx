'use client'
/**
 * Singles and twins: their pistons pump the crankcase, and still flow says little of it. Every change is followed over the turn in the
 * worker; until it is, the rail says that what is shown is still flow.
 */
import { useEffect, useRef } from 'react'
import type { Build } from '@/plan/document/schema'
import { pulsates } from '@/plan/model/engine'
import { isCycleMean } from '@/plan/model/results'
import { useJob } from './jobs'
import { useWorkspace } from '../store'

const PAUSE_MS = 250

export function Turns() {
  const build = useWorkspace((s) => s.build)
  const single = pulsates(build.engine)
  return single ? <Following build={build} /> : null
}

function Following({ build }: { build: Build }) {
  const today = useWorkspace((s) => s.today)
  const overCycle = useWorkspace((s) => isCycleMean(s.analysis))
  const whatIf = useWorkspace((s) => s.whatIf)
  const takeWhole = useWorkspace((s) => s.takeWhole)
  const { start, stop, value, progress, failed } = useJob('whole')
  const fault = whatIf?.id
  const asked = useRef<{ number: number; of: Build | undefined; fault: string | undefined }>({
    number: 0,
    of: undefined,
    fault: undefined,
  })
  const needed = !overCycle
  useEffect(() => {
    if (!needed) return undefined
    const timer = setTimeout(() => {
      asked.current = { number: asked.current.number + 1, of: build, fault }
      start(build, today, asked.current.number, fault)
    }, PAUSE_MS)
    return () => clearTimeout(timer)
  }, [build, fault, needed, start, today])
  useEffect(() => {
    const { number, of, fault: tried } = asked.current
    if (value?.analysis && of && value.asked === number) takeWhole(of, value.analysis, tried)
  }, [value, takeWhole])
  if (overCycle)
    return (
      <p className="border-b border-rule py-2 text-xs text-soft">
        Pressures, flows and oil are means over a turn of the crank.
      </p>
    )
  return (
    <p role="status" className="border-b border-rule py-2 text-xs text-soft">
      {failed
        ? `The turn of the crank could not be followed (${failed}): this is still flow.`
        : 'Still flow, until the turn of the crank is followed'}
      {needed && progress !== undefined && (
        <>
          , {Math.round(100 * progress)} %{' '}
          <button type="button" className="link-button" onClick={stop}>
            Stop
          </button>
        </>
      )}
    </p>
  )
}
