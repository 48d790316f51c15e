'use client'
/** What the job costs a customer: parts, hours at a rate, tax; kept with the build, handed over as a page. */
import { ESTIMATE_FIELDS } from '@/plan/document/fit-fields'
import { activeVariant } from '@/plan/edit/edit'
import { estimateLines, estimateOf } from '@/plan/fit/estimate'
import { setEstimate } from '@/plan/fit/fit-builders'
import type { Item } from '@/plan/fit/lists'
import type { StateResult } from '@/plan/model/results'
import { effortOf } from '@/plan/studies/effort'
import { NumberField } from '../workspace/figures/field'
import { saveListPdf } from '../workspace/frame/save-files'
import { useWorkspace } from '../workspace/store'

export function CustomerEstimate({ items, states }: { items: readonly Item[]; states: readonly StateResult[] }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const said = build.fit?.estimate
  const usual = effortOf(build, activeVariant(build)).hours
  const lines = estimateLines(estimateOf(build, items, usual), said?.taxPct)
  return (
    <details className="mt-2 border-b border-rule">
      <summary className="min-h-11 py-2 font-bold">Estimate for a customer</summary>
      <div className="grid max-w-xl grid-cols-2 gap-x-4 gap-y-1 sm:grid-cols-4">
        {(['hours', 'ratePerHour', 'taxPct'] as const).map((key) => (
          <NumberField
            key={key}
            field={ESTIMATE_FIELDS[key]}
            value={said?.[key]}
            estimate={key === 'hours' ? Number(usual.toFixed(1)) : 0}
            onChange={(v) => act(setEstimate({ [key]: v }), 'Estimate for a customer', `estimate ${key}`)}
          />
        ))}
        <label className="block self-start pt-0.5">
          <span className="text-xs text-soft">Currency</span>
          <input
            className="field"
            maxLength={8}
            defaultValue={said?.currency}
            onBlur={(e) => {
              const currency = e.target.value.trim()
              if (currency !== (said?.currency ?? ''))
                act(setEstimate({ currency: currency === '' ? undefined : currency }), 'Currency of the estimate')
            }}
          />
        </label>
      </div>
      <dl className="mt-2 grid max-w-md grid-cols-[1fr_auto] gap-x-6">
        {lines.map(([what, amount], i) => (
          <div key={what} className={`contents ${i === lines.length - 1 ? 'font-bold' : ''}`}>
            <dt>{what}</dt>
            <dd className="fig text-right">{amount}</dd>
          </div>
        ))}
      </dl>
      <button type="button" className="link-button" onClick={() => void saveListPdf(build, { states }, 'estimate')}>
        The estimate as PDF
      </button>
    </details>
  )
}
