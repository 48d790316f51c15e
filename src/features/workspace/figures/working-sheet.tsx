'use client'
/** The working of one figure: relation, inputs with where they come from, what it depends on most, source. */
import { useMemo, useState } from 'react'
import type { FigureRef } from '@/plan/explain/figures'
import { workingOf } from '@/plan/explain/workings'
import { influences } from '@/plan/studies/sensitivity'
import type { Origin } from '@/plan/explain/figure'
import { QuantityText } from '@/ui/quantity'
import { shownBuild, useUnits, useWorkspace } from '../store'

const ORIGIN: Readonly<Record<Origin, { sign: string; name: string; className: string }>> = {
  measured: { sign: '●', name: 'measured', className: 'text-good font-bold' },
  entered: { sign: '■', name: 'entered', className: 'text-ink' },
  learned: { sign: '◈', name: 'learned from readings', className: 'text-blue' },
  estimated: { sign: '◇', name: 'estimated', className: 'text-fix italic' },
  computed: { sign: '=', name: 'computed', className: 'text-soft' },
}
function OriginMark({ origin }: { origin: Origin }) {
  const o = ORIGIN[origin]
  return (
    <span className={o.className} title={o.name}>
      <span aria-hidden>{o.sign}</span>
      <span className="sr-only">{o.name}</span>
    </span>
  )
}

/** The working itself; the sensitivities are worked out when it opens. */
export function WorkingSheet({ of }: { of: FigureRef }) {
  const build = useWorkspace(shownBuild)
  const analysis = useWorkspace((s) => s.analysis)
  const evaluator = useWorkspace((s) => s.evaluator)
  const today = useWorkspace((s) => s.today)
  const units = useUnits()
  const [asked] = useState(of)
  const working = workingOf(build, analysis, asked, evaluator)
  const strongest = useMemo(() => influences(build, today, asked), [build, today, asked])
  if (!working) return <p>This figure has no value in this state.</p>
  return (
    <div className="max-h-[70vh] overflow-auto">
      <div className="flex items-baseline justify-between gap-3">
        <h3 className="head">{working.title}</h3>
        <span className="text-lg font-bold">
          <QuantityText q={working.result} units={units} />
        </span>
      </div>
      <p className="mt-2 border-l-2 border-blue pl-2">{working.relation}</p>
      <table className="mt-3 w-full">
        <caption className="sr-only">Inputs</caption>
        <tbody>
          {working.inputs.map((i) => (
            <tr key={i.name} className="border-b border-rule">
              <th scope="row" className="py-1 text-left font-normal">
                <OriginMark origin={i.origin} /> {i.name}
              </th>
              <td className="py-1 text-right">
                <QuantityText q={i.value} units={units} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {strongest.length > 0 && (
        <>
          <h4 className="head mt-3">A tenth more of</h4>
          <ul>
            {strongest.map((s) => (
              <li key={s.name} className="flex justify-between gap-3 py-0.5">
                <span>{s.name}</span>
                <span>
                  makes it <QuantityText q={{ si: s.to, dimension: working.result.dimension }} units={units} />
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-3 text-xs text-soft">{working.source}</p>
      {working.note && <p className="mt-1 text-xs text-soft">{working.note}</p>}
      <p className="mt-2 text-xs text-soft">
        {(Object.keys(ORIGIN) as Origin[]).map((o) => (
          <span key={o} className="mr-2 whitespace-nowrap">
            <OriginMark origin={o} /> {ORIGIN[o].name}
          </span>
        ))}
      </p>
    </div>
  )
}
