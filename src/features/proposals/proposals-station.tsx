'use client'
/** What should I build? Thousands of plans tried for this engine and these wishes, and the few worth choosing between. */
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { formatNumber } from '@/core/units/format'
import { addPlan } from '@/plan/edit/edit-builders'
import type { PlanOffer } from '@/plan/proposals/propose'
import { OBJECTIVES, type Objective } from '@/plan/proposals/tried-plan'
import { keepWishes, WALL_NAMES, wishesOf, type Wishes } from '@/plan/proposals/wishes'
import { Select } from '@/ui/select'
import { WideRegion } from '@/ui/wide-region'
import { useJob } from '../workspace/jobs/jobs'
import { useWorkspace } from '../workspace/store'
import { OfferList } from './offer-list'
import { offerLetter, OBJECTIVE_NAMES, TriedPicture, useFigureOf } from './tried-picture'
import { WishesForm } from './wishes-form'

/** Plans that are looked at at a press, and with each press more. */
const PLANS = 3000
const SEED = 1
const MOST_PLANS = 12
const CHOICES = OBJECTIVES.map((o) => ({ value: o, name: OBJECTIVE_NAMES[o] }))
const signed = (x: number) => (Math.abs(x) < 0.05 ? '0' : `${x > 0 ? '+' : '−'}${formatNumber(Math.abs(x), 2)}`)

/** The plan as it stands, mended at a press a step. */
function MendThis() {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const edit = useWorkspace((s) => s.edit)
  const { value, of, progress, start } = useJob('mend')
  const found = of?.[0] === build ? value : undefined
  return (
    <section aria-labelledby="mend" className="mt-6">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 id="mend" className="head">
          The plan as it stands, without a finding
        </h2>
        <button
          type="button"
          className="link-button"
          disabled={progress !== undefined}
          onClick={() => start(build, today)}
        >
          {progress === undefined ? 'Find the least that does it' : 'Trying its fixes…'}
        </button>
      </div>
      {found && (
        <>
          {found.steps.length === 0 && (
            <p className="py-1">
              {found.left.length === 0 ? 'Nothing is to be mended in it.' : 'No press mends what is left:'}
            </p>
          )}
          {found.steps.length > 0 && (
            <p className="py-1">
              {found.steps.length === 1 ? 'One step' : `${found.steps.length} steps`}, {signed(found.hours)} h,{' '}
              {signed(found.price)} for parts. Each is undone alone.
            </p>
          )}
          <ol className="list-decimal pl-5">
            {found.steps.map((s) => (
              <li key={s.label}>{s.label}</li>
            ))}
          </ol>
          {found.left.length > 0 && <p className="text-watch">Left: {found.left.join('; ')}.</p>}
          {found.steps.length > 0 && (
            <button
              type="button"
              className="button mt-1"
              onClick={() => {
                for (const s of found.steps) edit(s.edits, s.label)
              }}
            >
              Make {found.steps.length === 1 ? 'it' : 'all of them'}
            </button>
          )}
        </>
      )}
    </section>
  )
}

export function ProposalsStation() {
  const build = useWorkspace((s) => s.build)
  const id = useWorkspace((s) => s.id)
  const today = useWorkspace((s) => s.today)
  const act = useWorkspace((s) => s.act)
  const router = useRouter()
  const wishes = wishesOf(build)
  const [asked, setAsked] = useState(PLANS)
  const [axes, setAxes] = useState<readonly [Objective, Objective]>(['hours', 'oil'])
  const [chosen, setChosen] = useState(0)
  const job = useJob('propose')
  const figure = useFigureOf()
  const found = job.value
  const go = (plans: number, of = wishes) => {
    setAsked(plans)
    setChosen(0)
    job.start(build, of, today, { plans, seed: SEED })
  }
  const change = (next: Wishes) => {
    act(keepWishes(next), 'What is asked of proposals', 'ask')
    // another wish: what was tried is tried again under it at once
    if (found ?? job.progress !== undefined) go(asked, next)
  }
  const full = build.variants.length >= MOST_PLANS
  const take = (offer: PlanOffer) => {
    const [variant] = offer.build.variants
    const known = new Set(build.variants.map((v) => v.id))
    const free = 'abcdefghijklmnop'.split('').find((x) => !known.has(x)) ?? crypto.randomUUID().slice(0, 8)
    if (act(addPlan({ ...variant!, id: free }), `Plan ${offer.name} added`)) router.push(`/builds/${id}/circuit`)
  }
  // what was asked is kept with the build, and makes it no other
  const of = job.of?.[0]
  const stale =
    found !== undefined &&
    of !== undefined &&
    (of.engine !== build.engine || of.variants !== build.variants || of.duty !== build.duty)
  const best = found?.offers[chosen]
  return (
    <div className="px-4 py-3">
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[14rem_minmax(0,1fr)]">
        <div className="space-y-5">
          <WishesForm wishes={wishes} onChange={change} />
          {job.progress === undefined ? (
            <button
              type="button"
              className="button button-main w-full"
              onClick={() => go(found ? asked + PLANS : PLANS)}
            >
              {found ? `Try ${PLANS} more` : 'Try plans'}
            </button>
          ) : (
            <p role="status">
              <progress className="w-full" value={job.progress} max={1} aria-label="Trying plans" />
              {Math.round((asked * Math.min(1, job.progress / 0.8)) / 100) * 100} of {asked} plans looked at{' '}
              <button type="button" className="link-button" onClick={job.stop}>
                Stop
              </button>
            </p>
          )}
          {job.failed !== undefined && (
            <p role="alert" className="font-bold text-stop">
              It could not be worked out: {job.failed}
            </p>
          )}
          {found && (
            <section aria-labelledby="crossed">
              <h2 id="crossed" className="head border-b-[1.5px] border-ink pb-1">
                Crossed out
              </h2>
              {found.walls.length === 0 && <p className="py-1 text-soft">Nothing was.</p>}
              {found.walls.map((w) => (
                <details key={w.wall} className="border-b border-rule">
                  <summary className="min-h-9 cursor-pointer content-center">
                    <strong>{w.plans}</strong> {WALL_NAMES[w.wall]}
                  </summary>
                  {w.nearest && (
                    <p className="pb-1 text-soft">
                      Nearest: {w.nearest.name}, {formatNumber(w.nearest.figures.hours, 2)} h,{' '}
                      {Math.round(w.nearest.figures.price)} for parts.
                    </p>
                  )}
                </details>
              ))}
              <p className="pt-1 text-xs text-soft">
                {found.considered} plans looked at, {found.solved} worked out.
              </p>
            </section>
          )}
        </div>
        <section aria-labelledby="tried" className="min-w-0">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
            <h2 id="tried" className="head">
              {found ? 'Every plan that was tried' : 'What should I build?'}
            </h2>
            <span className="text-soft">a cross: stopped by a wall</span>
          </div>
          {!found && (
            <p className="py-2">
              Schools, cans, bores, checks and restrictors from stock are tried in their thousands for this engine, its
              use and what you will do; the few worth choosing between are named, with what a step from one to the next
              costs and brings. Hours and prices are those of the tables (estimates).
            </p>
          )}
          {stale && (
            <p role="status" className="border-l-4 border-watch pl-2">
              The engine or its plans have changed since.{' '}
              <button type="button" className="link-button" onClick={() => go(asked)}>
                Try again
              </button>
            </p>
          )}
          {found && (
            <>
              <div className="flex flex-wrap gap-4 py-1">
                {([0, 1] as const).map((k) => (
                  <Select
                    key={k}
                    label={k === 0 ? 'Across' : 'Up'}
                    className="!w-72"
                    value={axes[k]}
                    options={CHOICES}
                    onChange={(o) => setAxes(k === 0 ? [o as Objective, axes[1]] : [axes[0], o as Objective])}
                  />
                ))}
              </div>
              <TriedPicture proposals={found} axes={axes} chosen={chosen} onChoose={setChosen} />
              {best && found.offers.length > 1 && (
                <WideRegion label="From one to the others">
                  <table className="table w-full">
                    <caption className="head py-1 text-left">
                      From {offerLetter(chosen)}, what a step costs and brings
                    </caption>
                    <thead>
                      <tr>
                        <th scope="col">to</th>
                        {OBJECTIVES.map((o) => (
                          <th key={o} scope="col" className="num">
                            {OBJECTIVE_NAMES[o].split(',')[0]}
                          </th>
                        ))}
                      </tr>
                    </thead>
                    <tbody>
                      {found.offers.map((o, k) =>
                        k === chosen ? null : (
                          <tr key={o.name}>
                            <th scope="row">
                              {offerLetter(chosen)} → {offerLetter(k)}
                            </th>
                            {OBJECTIVES.map((x) => (
                              <td key={x} className="num">
                                {signed(figure(x, o.figures[x]) - figure(x, best.figures[x]))}
                              </td>
                            ))}
                          </tr>
                        ),
                      )}
                    </tbody>
                  </table>
                </WideRegion>
              )}
            </>
          )}
        </section>
        <section aria-labelledby="offers" className="min-w-0 lg:col-span-2">
          <h2 id="offers" className="head pb-1">
            {found ? (found.offers.length > 0 ? 'Really different' : 'Nothing came through') : 'Offers'}
          </h2>
          {found?.offers.length === 0 && (
            <p>No plan keeps to all of it: give way where most were crossed out, or try more.</p>
          )}
          {found && (
            <OfferList
              offers={found.offers}
              chosen={chosen}
              onChoose={setChosen}
              onTake={(o) => {
                if (!full) take(o)
              }}
            />
          )}
          {full && <p className="text-watch">Twelve plans are the most; take one away first.</p>}
        </section>
      </div>
      <MendThis />
    </div>
  )
}
