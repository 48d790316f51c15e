'use client'
/** What other cars of its kind have taught: how much, from how many; gone by or left out at one press. */
import { useEffect, useState } from 'react'
import { formatNumber } from '@/core/units/format'
import { multiplierAt } from '@/core/service/multiplier'
import type { KindPrior } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { setField } from '@/plan/edit/edit-builders'
import { isOfKind } from '@/plan/service/kind-prior'
import { day } from '@/ui/dates'
import { useWorkspace } from '../workspace/store'

/** What the garage has to offer; none while it is asked, and where it does not answer. */
function useOffered(): KindPrior | undefined {
  const id = useWorkspace((s) => s.id)
  const [offered, setOffered] = useState<KindPrior | undefined>(undefined)
  useEffect(() => {
    const stop = new AbortController()
    void fetch(`/api/builds/${id}/kind`, { signal: stop.signal })
      .then(async (answer) => {
        if (answer.ok) setOffered(((await answer.json()) as { prior?: KindPrior }).prior)
      })
      .catch(() => undefined)
    return () => stop.abort()
  }, [id])
  return offered
}

const from = ({ cars, emptyings }: KindPrior) =>
  `${cars} other ${cars === 1 ? 'car' : 'cars'} of its kind (${emptyings} ${emptyings === 1 ? 'emptying' : 'emptyings'})`

export function KindPriorNote() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const offered = useOffered()
  const variant = activeVariant(build)
  const kept = build.kindPrior && isOfKind(build.kindPrior, build, variant) ? build.kindPrior : undefined
  const shown = kept ?? offered
  if (!shown) return null
  const names = new Map(variant.parts.map((p) => [p.id, p.name]))
  const goesBy = kept !== undefined && !kept.off
  const newer = goesBy && offered && offered.emptyings !== kept.emptyings ? offered : undefined
  const goBy = (prior: KindPrior) => act(setField(['kindPrior'], prior), 'Goes by other cars of its kind')
  return (
    <section aria-labelledby="kind" className="border-t-[1.5px] border-ink pt-2">
      <h2 id="kind" className="head">
        Cars of its kind
      </h2>
      <p className="mt-1">
        {goesBy
          ? `The forecast starts from what ${from(kept)} had taught by ${day(kept.date, 'long')}; its own log counts for more with every emptying.`
          : `What ${from(shown)} taught is left out: the forecast starts from estimates.`}
      </p>
      <ul className="mt-1 text-soft">
        {shown.cans.map((c) => {
          const times = (q: number) => formatNumber(multiplierAt({ mu: c.oilMu, sigma: c.oilSigma }, q), 2)
          return (
            <li key={c.id}>
              {names.get(c.id) ?? c.id}: {times(0.5)} × the oil of the model, {times(0.1)} to {times(0.9)} in four cars
              of five
            </li>
          )
        })}
      </ul>
      <p className="no-print mt-1 flex flex-wrap gap-x-4">
        {goesBy ? (
          <button
            type="button"
            className="link-button"
            onClick={() => act(setField(['kindPrior', 'off'], true), 'Other cars of its kind left out')}
          >
            Leave them out
          </button>
        ) : (
          <button type="button" className="link-button" onClick={() => goBy(offered ?? { ...shown, off: undefined })}>
            Go by them
          </button>
        )}
        {newer && (
          <button type="button" className="link-button" onClick={() => goBy(newer)}>
            Take in what they have taught since ({newer.emptyings} emptyings of {newer.cars} cars)
          </button>
        )}
      </p>
    </section>
  )
}
