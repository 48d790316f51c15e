'use client'
/** What should I build? Thousands of plans tried for this engine and these wishes, and the few worth choosing between. */
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { formatNumber } from '@/core/units/format'
import { letterOf } from '@/plan/document/words'
import { MAX_VARIANTS } from '@/plan/document/bounds'
import { OBJECTIVES, type Objective } from '@/plan/proposals/tried-plan'
import { PLANS_PER_PRESS, type SearchAsk, type ShownOffer } from '@/plan/proposals/propose'
import { takeOffer } from '@/plan/proposals/take-offer'
import { keepWishes, WALL_NAMES, wishesOf, type Wishes } from '@/plan/proposals/wishes'
import { Select } from '@/ui/select'
import { WideRegion } from '@/ui/wide-region'
import { useUnits, useWorkspace } from '../workspace/store'
import { MendThis } from './mend-this'
import { objectiveFigure, objectiveName, signedNumber } from './objectives'
import { OfferList } from './offer-list'
import { OtherPlaces } from './other-places'
import { TriedPicture } from './tried-picture'
import { useProposals, type ProposalsState } from './use-proposals'
import { WishesForm } from './wishes-form'

const SEED = 1
/** A wish that is typed is done with when nothing was typed for so long, ms. */
const TYPED_MS = 500

type Hold = 'all' | 'circuit'
const HOLDS = [
  { value: 'all', name: 'any circuit, any size' },
  { value: 'circuit', name: 'this circuit, its sizes' },
] as const satisfies readonly { value: Hold; name: string }[]

export function ProposalsStation() {
  const build = useWorkspace((s) => s.build)
  const id = useWorkspace((s) => s.id)
  const today = useWorkspace((s) => s.today)
  const act = useWorkspace((s) => s.act)
  const router = useRouter()
  const search = useProposals()
  const wishes = wishesOf(build)
  const [hold, setHold] = useState<Hold>('all')
  const [axes, setAxes] = useState<readonly [Objective, Objective]>(['hours', 'oil'])
  const [chosen, setChosen] = useState(0)
  const typing = useRef<ReturnType<typeof setTimeout>>(undefined)
  const { survey, offers, doing } = search

  const go = (plans: number, of: Wishes = wishes, held: Hold = hold) => {
    clearTimeout(typing.current)
    setChosen(0)
    const ask: SearchAsk = { build, wishes: of, hold: held === 'circuit' ? 'circuit' : undefined, seed: SEED, today }
    search.start(ask, plans)
  }
  const change = (next: Wishes) => {
    act(keepWishes(next), 'What is asked of proposals', 'ask')
    // other wishes: what was tried is sorted anew under them, and tried on
    clearTimeout(typing.current)
    if (search.ask) typing.current = setTimeout(() => go(search.plans, next), TYPED_MS)
  }
  const full = build.variants.length >= MAX_VARIANTS
  const take = (offer: ShownOffer) => {
    if (act(takeOffer(offer.build), `Plan ${offer.name} added`)) router.push(`/builds/${id}/circuit`)
  }
  // what was asked is kept with the build, and makes it no other
  const of = search.ask?.build
  const stale =
    survey !== undefined &&
    of !== undefined &&
    (of.engine !== build.engine || of.variants !== build.variants || of.duty !== build.duty || of.bay !== build.bay)
  return (
    <div className="px-4 py-3">
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-5 lg:grid-cols-[14rem_minmax(0,1fr)] print:grid-cols-[minmax(0,1fr)]">
        <div className="space-y-5">
          <WishesForm wishes={wishes} assumed={build.ask === undefined} onChange={change} />
          <div className="no-print space-y-2">
            <Select
              label="What may change"
              className="w-full"
              value={hold}
              options={HOLDS}
              onChange={(held) => {
                setHold(held)
                if (search.ask) go(PLANS_PER_PRESS, wishes, held)
              }}
            />
            <Running search={search} onGo={() => go(survey ? search.plans + PLANS_PER_PRESS : PLANS_PER_PRESS)} />
          </div>
          {search.failed !== undefined && (
            <p role="alert" className="font-bold text-stop">
              It could not be worked out: {search.failed}
            </p>
          )}
          {survey && <CrossedOut search={search} />}
        </div>
        <section aria-labelledby="tried" className="min-w-0">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
            <h2 id="tried" className="head">
              {survey ? 'Every plan that was tried' : 'What should I build?'}
            </h2>
            <span className="text-soft">{survey ? 'a cross: stopped' : ''}</span>
          </div>
          {!survey && <Before own={build.bay !== undefined} about={build.about} km={build.duty.kmPerYear} />}
          {stale && (
            <p role="status" className="border-l-4 border-watch pl-2">
              The engine, its use, bay or plans have changed since.{' '}
              <button type="button" className="link-button" onClick={() => go(search.plans)}>
                Try again
              </button>
            </p>
          )}
          {survey && (
            <>
              <Axes axes={axes} onChange={setAxes} />
              <TriedPicture
                dots={survey.dots}
                offers={offers}
                wishes={wishes}
                axes={axes}
                chosen={chosen}
                onChoose={setChosen}
              />
              <Steps offers={offers} chosen={chosen} />
            </>
          )}
        </section>
        <section aria-labelledby="offers" className="min-w-0 lg:col-span-2">
          <h2 id="offers" className="head pb-1">
            {offers.length > 0
              ? 'Really different'
              : survey && !doing && !search.stopped
                ? 'Nothing came through'
                : 'Offers'}
          </h2>
          {survey && !doing && offers.length === 0 && (
            <p>
              {search.stopped
                ? 'Stopped before a plan that keeps to all of it was found and judged: try more.'
                : 'No plan keeps to all of it: give way where most were crossed out, or try more. Where it is the crankcase, measure blow-by first: what is known is narrower than what is guessed.'}
            </p>
          )}
          {offers.length === 0 && doing && <p className="text-soft">The few worth choosing between stand here.</p>}
          <OfferList
            offers={offers}
            unplaced={search.unplaced}
            chosen={chosen}
            onChoose={setChosen}
            onTake={full || stale ? undefined : take}
          />
          {full && <p className="text-watch">Twelve plans are the most; take one away first.</p>}
          {survey && offers.length > 0 && <Circuits search={search} />}
        </section>
        <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-5 md:grid-cols-2 lg:col-span-2 print:grid-cols-[minmax(0,1fr)]">
          <MendThis />
          <OtherPlaces />
        </div>
      </div>
    </div>
  )
}

/** Before anything was tried: for what it is, and what will happen. */
function Before({ own, about, km }: { own: boolean; about: string; km: number }) {
  return (
    <div className="max-w-[46rem] space-y-2 py-2">
      <p>
        For {about}, {formatNumber(km, 3)} km a year, in {own ? 'your bay' : 'a ready bay of its layout'}.
      </p>
      <p>
        Schools and what edits make of them, with cans, bores, checks, valves and restrictors from stock, are tried in
        their thousands; the few worth choosing between are named, with what a step from one to the next costs and
        brings. Hours and prices are those of the tables (estimates).
      </p>
    </div>
  )
}

/** A number of plans. */
const count = (n: number) => formatNumber(n, 6, 0)

const DOING_NAMES = {
  trying: 'plans considered',
  judging: 'judging what stands at the front',
  placing: 'looking for places and ways',
  comparing: 'trying the facts a little otherwise',
} as const
function Running({
  search: { doing, progress, plans, survey, stop },
  onGo,
}: {
  search: ReturnType<typeof useProposals>
  onGo: () => void
}) {
  if (!doing)
    return (
      <button type="button" className="button button-main w-full" onClick={onGo}>
        {survey ? `Try ${count(PLANS_PER_PRESS)} more` : 'Try plans'}
      </button>
    )
  return (
    <p role="status">
      <progress className="w-full" value={progress} max={1} aria-label="Trying plans" />
      {doing === 'trying'
        ? `${count(Math.round((plans * Math.min(1, progress)) / 100) * 100)} of ${count(plans)} ${DOING_NAMES.trying}`
        : DOING_NAMES[doing]}{' '}
      <button type="button" className="link-button" onClick={stop}>
        Stop
      </button>
    </p>
  )
}

/** What stopped plans, wall by wall, and the nearest that each stopped. */
function CrossedOut({ search: { survey, refused } }: { search: ProposalsState }) {
  if (!survey) return null
  return (
    <section aria-labelledby="crossed">
      <h2 id="crossed" className="head border-b-[1.5px] border-ink pb-1">
        Crossed out
      </h2>
      {survey.walls.length === 0 && refused.length === 0 && <p className="py-1 text-soft">Nothing was.</p>}
      {survey.walls.map((w) => (
        <details key={w.wall} className="border-b border-rule">
          <summary className="min-h-9 cursor-pointer content-center">
            <strong>{count(w.plans)}</strong> {WALL_NAMES[w.wall]}
          </summary>
          <p className="pb-1 text-soft">
            Nearest: {w.nearest.name}; {w.nearest.letIn}.
          </p>
        </details>
      ))}
      {refused.length > 0 && (
        <details className="border-b border-rule">
          <summary className="min-h-9 cursor-pointer content-center">
            <strong>{refused.length}</strong> near the front did not pass when judged in full
          </summary>
          <ul className="list-disc pb-1 pl-5 text-soft">
            {refused.map((r) => (
              <li key={`${r.name} ${r.because}`}>
                {r.name}: {WALL_NAMES[r.wall]} ({r.because})
              </li>
            ))}
          </ul>
        </details>
      )}
      <p className="pt-1 text-xs text-soft">
        {count(survey.considered)} plans considered, {count(survey.tried)} tried, {count(survey.solved)} worked out,{' '}
        {count(survey.sound)} passed.
      </p>
    </section>
  )
}

function Axes({
  axes,
  onChange,
}: {
  axes: readonly [Objective, Objective]
  onChange: (axes: readonly [Objective, Objective]) => void
}) {
  const units = useUnits()
  const choices = OBJECTIVES.map((o) => ({ value: o, name: objectiveName(o, units) }))
  return (
    <div className="no-print flex flex-wrap gap-4 py-1">
      {([0, 1] as const).map((k) => (
        <Select
          key={k}
          label={k === 0 ? 'Across' : 'Up'}
          className="!w-72"
          value={axes[k]}
          options={choices}
          onChange={(o) => onChange(k === 0 ? [o, axes[1]] : [axes[0], o])}
        />
      ))}
    </div>
  )
}

/** From the chosen one to each other: what the step costs and brings. */
function Steps({ offers, chosen }: { offers: readonly ShownOffer[]; chosen: number }) {
  const units = useUnits()
  const from = offers[chosen]
  if (!from || offers.length < 2) return null
  return (
    <WideRegion label="From one to the others">
      <table className="table table-stacked w-full">
        <caption className="head py-1 text-left">From {letterOf(chosen)}, what a step costs and brings</caption>
        <thead>
          <tr>
            <th scope="col">to</th>
            {OBJECTIVES.map((o) => (
              <th key={o} scope="col" className="num">
                {objectiveName(o, units)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {offers.map((to, k) =>
            k === chosen ? null : (
              <tr key={to.name}>
                <th scope="row">
                  {letterOf(chosen)} → {letterOf(k)}
                </th>
                {OBJECTIVES.map((o) => (
                  <td key={o} className="num" data-head={objectiveName(o, units)}>
                    {signedNumber(
                      objectiveFigure(o, to.figures[o], units) - objectiveFigure(o, from.figures[o], units),
                      0.095,
                    )}
                  </td>
                ))}
              </tr>
            ),
          )}
        </tbody>
      </table>
    </WideRegion>
  )
}

/** Every circuit, and why it is or is not among the offers. */
function Circuits({ search: { survey, offers, refused, best } }: { search: ProposalsState }) {
  if (!survey) return null
  const shown = offers.map((o) => o.measure.total)
  const says = (c: (typeof survey.circuits)[number]): string => {
    const letters = offers.flatMap((o, k) => (o.circuit === c.key ? [letterOf(k)] : []))
    if (letters.length > 0) return `offered: ${letters.join(', ')}`
    const passed = best[c.key]
    if (passed) {
      const points = `its best costs ${Math.round(passed.points)} points`
      if (passed.dominatedBy === undefined)
        return `passes; ${points}, those shown ${Math.round(Math.min(...shown))} to ${Math.round(Math.max(...shown))}`
      const by = offers.findIndex((o) => o.name === passed.dominatedBy)
      return `passes; ${points}, and ${by < 0 ? passed.dominatedBy : letterOf(by)} is better or as good in all that is shown`
    }
    const stopped = refused.findLast((r) => r.circuit === c.key)
    if (stopped) return `its best ${stopped.wall === 'bay' ? 'did not fit' : 'was stopped'}: ${stopped.because}`
    if (c.sound > 0) return 'passes; none of its plans stands at the front'
    return c.wall ? `all that were tried ${WALL_NAMES[c.wall]}` : 'not tried yet'
  }
  return (
    <details className="mt-2 border-t border-rule">
      <summary className="min-h-9 cursor-pointer content-center font-bold">
        Each circuit, and why it is or is not here
      </summary>
      <ul>
        {survey.circuits.map((c) => (
          <li key={c.key} className="grid gap-x-4 border-b border-rule py-1 sm:grid-cols-[16rem_minmax(0,1fr)]">
            <span className="font-bold">{c.name}</span>
            <span>
              {says(c)}{' '}
              <span className="text-soft">
                ({c.sound} of {c.tried} pass)
              </span>
            </span>
          </li>
        ))}
      </ul>
    </details>
  )
}
