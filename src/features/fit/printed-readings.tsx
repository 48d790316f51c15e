'use client'
/** What the crankcase should read in each state, on the printed card: what it is made of, and the check that a hand can make on paper. */
import { exactQuantity, shownQuantity } from '@/plan/explain/print'
import { workingOf } from '@/plan/explain/workings'
import { isSolved } from '@/plan/model/results'
import { STATE_NAMES, unitFormatter } from '@/plan/document/words'
import { shownBuild, useUnits, useWorkspace } from '../workspace/store'

export function PrintedReadings() {
  const build = useWorkspace(shownBuild)
  const analysis = useWorkspace((s) => s.analysis)
  const evaluator = useWorkspace((s) => s.evaluator)
  const units = useUnits()
  const say = unitFormatter(units)
  return (
    <ul aria-label="Readings by the plan">
      {analysis.states.filter(isSolved).map((s) => {
        const working = workingOf(build, analysis, { kind: 'crankcase', state: s.id }, evaluator)
        return (
          <li key={s.id} className="mt-1">
            <strong>{STATE_NAMES[s.id]}:</strong> by the plan {say.pressure(s.crankcaseGauge)}. Read: ____________
            {working && (
              <p className="text-xs text-soft">
                {working.lines
                  .map((l) => `${l.name} ${l.symbol} = ${shownQuantity(l.value, units) ?? exactQuantity(l.value)}`)
                  .join('; ')}
                . {working.checks.map((c) => `By hand: ${c.says}, ${c.left} = ${c.right}.`).join(' ')}
              </p>
            )}
          </li>
        )
      })}
    </ul>
  )
}
