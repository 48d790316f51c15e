'use client'
/** The plans of a build: choose, add a school, copy, rename, take away; and compare. */
import { GitCompareArrows } from 'lucide-react'
import Link from 'next/link'
import { useState } from 'react'
import { MAX_VARIANTS } from '@/plan/document/bounds'
import { fittedPlan } from '@/plan/document/fitted-plan'
import { addPlan, removePlan, setField, showPlan, type EditBuilder } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { SCHOOLS, variantOf } from '@/plan/schools/schools'
import { copyName } from '@/ui/copy-name'
import { Dialog } from '@/ui/dialog'
import { useWorkspace } from '../store'

export function PlanMenu({ onClose }: { onClose: () => void }) {
  const build = useWorkspace((s) => s.build)
  const id = useWorkspace((s) => s.id)
  const act = useWorkspace((s) => s.act)
  const select = useWorkspace((s) => s.select)
  const [adding, setAdding] = useState(false)
  const variant = activeVariant(build)
  const fitted = fittedPlan(build)
  // two devices that add a plan do not mean the same one
  const freshVariant = () => `plan-${crypto.randomUUID().slice(0, 8)}`
  const change = (builder: EditBuilder, name: string) => {
    select(undefined)
    return act(builder, name)
  }
  const full = build.variants.length >= MAX_VARIANTS
  const nameOfCopy = (name: string) =>
    copyName(
      name,
      build.variants.map((v) => v.name),
    )
  return (
    <Dialog
      open
      onClose={onClose}
      title={adding ? 'Add a school' : 'Plans of this build'}
      about={
        adding
          ? 'A ready circuit, sized for this engine. It becomes a plan of its own; nothing of the others is lost.'
          : 'Circuits for the same engine, duty and log. The one chosen is what the stations show; forecast, reminder and garage follow the one on the car.'
      }
      wide
    >
      {adding ? (
        <>
          <ul className="grid gap-x-6 md:grid-cols-2">
            {SCHOOLS.map((s) => (
              <li key={s.key} className="border-b border-rule py-2">
                <button
                  type="button"
                  className="link-button text-base"
                  onClick={() => {
                    change(
                      addPlan(
                        variantOf(
                          { ...s, name: build.variants.some((v) => v.name === s.name) ? nameOfCopy(s.name) : s.name },
                          build.engine,
                          freshVariant(),
                        ),
                      ),
                      `Plan ${s.name} added`,
                    )
                    onClose()
                  }}
                >
                  {s.name}
                </button>
                <p className="text-sm text-soft">{s.about}</p>
                <p className="text-xs text-soft">
                  <strong>Service</strong> {s.service} <strong>Law</strong> {s.law}
                </p>
              </li>
            ))}
          </ul>
          <button type="button" className="button mt-4" onClick={() => setAdding(false)}>
            Back to the plans
          </button>
        </>
      ) : (
        <>
          <ul>
            {build.variants.map((v) => (
              <li
                key={v.id}
                className={`flex flex-wrap items-center gap-x-4 border-b border-rule py-1 ${v === variant ? 'bg-blue-wash' : ''}`}
              >
                <label className="flex min-h-11 flex-1 items-center gap-3 pl-2">
                  <input
                    type="radio"
                    name="plan"
                    className="size-4"
                    checked={v === variant}
                    onChange={() => change(showPlan(v.id), `Plan ${v.name} shown`)}
                  />
                  <span className="sr-only">{v.name}</span>
                  <input
                    className="field"
                    aria-label={`Name of ${v.name}`}
                    maxLength={80}
                    defaultValue={v.name}
                    onBlur={(e) => {
                      const name = e.target.value.trim()
                      if (name !== '' && name !== v.name)
                        act(setField(['variants', v.id, 'name'], name), `Plan renamed ${name}`)
                    }}
                  />
                </label>
                {fitted?.id === v.id ? (
                  <span className="text-soft">on the car</span>
                ) : (
                  <button
                    type="button"
                    className="link-button"
                    aria-label={`${v.name} is on the car`}
                    onClick={() => act(setField(['fitted'], v.id), `Plan ${v.name} is on the car`)}
                  >
                    {fitted ? 'An idea: put it on the car' : 'It is on the car'}
                  </button>
                )}
                <button
                  type="button"
                  className="link-button"
                  disabled={full}
                  onClick={() =>
                    change(addPlan({ ...v, id: freshVariant(), name: nameOfCopy(v.name) }), `Plan ${v.name} copied`)
                  }
                >
                  Copy
                </button>
                <button
                  type="button"
                  className="link-button"
                  disabled={build.variants.length === 1}
                  onClick={() => change(removePlan(v.id), `Plan ${v.name} taken away`)}
                >
                  Take away
                </button>
              </li>
            ))}
          </ul>
          <div className="mt-4 flex flex-wrap gap-3">
            <button type="button" className="button button-main" disabled={full} onClick={() => setAdding(true)}>
              Add a school
            </button>
            <Link className="button" href={`/builds/${id}/proposals`} prefetch={false} onClick={onClose}>
              What should I build?
            </Link>
            {build.variants.length > 1 && (
              <Link className="button" href={`/builds/${id}/compare`} prefetch={false} onClick={onClose}>
                <GitCompareArrows size={18} aria-hidden /> Compare them
              </Link>
            )}
          </div>
          {full && <p className="mt-2 text-soft">Twelve plans are the most; take one away first.</p>}
        </>
      )}
    </Dialog>
  )
}
