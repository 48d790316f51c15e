'use client'
/** Flow, velocity, drop and where it goes, oil and water, in each state. */
import { WATER_POURED } from '@/core/gas/oil'
import { formatQuantity } from '@/core/units/format'
import { shownUnit, unitLabel } from '@/core/units/units'
import { isThrough } from '@/plan/document/kinds'
import type { Line, Part } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { dropShares } from '@/plan/explain/drop-shares'
import { STATE_NAMES } from '@/plan/document/words'
import { resolve } from '@/plan/model/resolve'
import type { StateResult } from '@/plan/model/results'
import { Figure } from '../../workspace/figures/figure'
import { useUnits, useWorkspace } from '../../workspace/store'
import { isShut } from '../look'

type Props = { line: Line | undefined; part: Part | undefined }

export function EveryState({ line, part }: Props) {
  const states = useWorkspace((s) => s.analysis.states)
  const current = useWorkspace((s) => s.state)
  const units = useUnits()
  if ((line && line.kind !== 'hose') || (part && !isThrough(part.kind))) return null
  return (
    <div className="mt-3 overflow-x-auto pb-4">
      <h3 className="head border-b border-rule-strong pb-1">In every state</h3>
      <table className="table w-full text-xs [&_td]:!h-7 [&_td]:!px-0.5 [&_td]:!py-1 [&_th]:!h-7 [&_th]:!px-0.5 [&_th]:!py-1">
        <thead>
          <tr className="align-bottom">
            <th>State</th>
            <th className="!text-right">
              Flow
              <span className="block">{units.flow}</span>
            </th>
            {line && (
              <th className="!text-right">
                Speed
                <span className="block">{unitLabel(shownUnit('speed', units))}</span>
              </th>
            )}
            <th className="!text-right">
              Drop
              <span className="block">{unitLabel(units.pressure)}</span>
            </th>
            {line && (
              <th className="!text-right">
                wall · bends
                <span className="block">· ends, %</span>
              </th>
            )}
            <th className="!text-right">
              Oil, water
              <span className="block">{unitLabel(shownUnit('liquidRate', units))}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {states.map((s) => (
            <StateRow key={s.id} state={s} chosen={{ line, part }} on={s.id === current} />
          ))}
        </tbody>
      </table>
      {line && (
        <p className="pt-1 text-xs text-soft">
          Of the drop: so much along the wall, round the bends, at the ends and tees. Minus runs against the way the
          line is named.
        </p>
      )}
    </div>
  )
}

function StateRow({ state: s, chosen: { line, part }, on }: { state: StateResult; chosen: Props; on: boolean }) {
  const variant = useWorkspace((w) => activeVariant(w.build))
  const units = useUnits()
  const { id } = (line ?? part)!
  const p = s.solved ? s.passages[id] : undefined
  const shape = line && resolve(variant).lines.get(line.id)?.shape
  const shares =
    shape && p && !isShut(p)
      ? dropShares(shape, s.operating.gasK, p.flow, p.teeLoss ? p.teeLoss / Math.abs(p.gaugeFrom - p.gaugeTo) : 0)
      : undefined
  const percent = (x: number) => Math.round(x * 100)
  return (
    <tr className={on ? 'bg-blue-wash' : ''}>
      <th scope="row" className="!text-ink">
        {STATE_NAMES[s.id]}
      </th>
      {!p || isShut(p) ? (
        <td colSpan={line ? 5 : 3} className="text-right text-soft">
          {s.solved ? 'shut' : 'no answer'}
        </td>
      ) : (
        <>
          <td className="text-right">
            <Figure of={{ kind: 'flow', id, state: s.id }} digits={2} bare />
          </td>
          {line && (
            <td className="text-right">
              <Figure of={{ kind: 'velocity', id, state: s.id }} digits={2} bare />
            </td>
          )}
          <td className="text-right">
            <Figure of={{ kind: 'drop', id, state: s.id }} digits={2} absolute bare />
          </td>
          {shares && (
            <td className="whitespace-nowrap text-right">
              {percent(shares.friction)} · {percent(shares.bends)} · {percent(shares.ends)}
            </td>
          )}
          <td className="whitespace-nowrap text-right">
            <Figure of={{ kind: 'oil', id, state: s.id }} digits={2} bare />,{' '}
            {formatQuantity(p.water / WATER_POURED, 'liquidRate', units, 2).text}
          </td>
        </>
      )}
    </tr>
  )
}
