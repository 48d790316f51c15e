'use client'
/** The few that are really different: what each brings, costs and asks, and what would have to be otherwise for it to win. */
import { formatNumber, quantityText } from '@/core/units/format'
import { letterOf, unitFormatter } from '@/plan/document/words'
import { crankcaseText } from '@/plan/model/limits'
import { isDominated } from '@/plan/proposals/choose-offers'
import type { ShownOffer } from '@/plan/proposals/propose'
import { MARGIN } from '@/plan/studies/measure-parts'
import { useUnits } from '../workspace/store'
import { BEST_IN_NAMES, oilText } from './objectives'
import { PlanThumbnail } from './plan-thumbnail'

export function OfferList({
  offers,
  unplaced,
  chosen,
  onChoose,
  onTake,
}: {
  offers: readonly ShownOffer[]
  unplaced: ReadonlySet<string>
  chosen: number
  onChoose: (k: number) => void
  onTake: ((offer: ShownOffer) => void) | undefined
}) {
  return (
    <ol className="grid grid-cols-[minmax(0,1fr)] gap-x-8 md:grid-cols-2">
      {offers.map((o, k) => (
        <li
          key={o.name}
          className={`grid grid-cols-[minmax(0,1fr)_9.5rem] gap-x-3 [contain-intrinsic-size:auto_12rem] [content-visibility:auto] print:[content-visibility:visible] border-t-[1.5px] border-ink px-2 py-2 print:break-inside-avoid ${k === chosen ? 'bg-blue-wash' : ''}`}
        >
          <div className="min-w-0">
            <button
              type="button"
              className="w-full text-left font-bold"
              aria-pressed={k === chosen}
              onClick={() => onChoose(k)}
            >
              <span className="mr-2 text-blue">{letterOf(k)}</span>
              {o.name}
            </button>
            <Standing offer={o} shown={offers} />
            <Figures offer={o} />
            <Place offer={o} looking={unplaced.has(o.name)} />
            {o.wins && <p className="pt-1">It would win if {o.wins}.</p>}
            {o.replaced && <p className="pt-1">{o.replaced}</p>}
          </div>
          <div className="h-32">
            <PlanThumbnail build={o.build} label={`Schematic of ${letterOf(k)}`} />
          </div>
          {k === chosen && onTake && (
            <button
              type="button"
              className="button button-main no-print mt-1 justify-self-start"
              onClick={() => onTake(o)}
            >
              Make it a plan
            </button>
          )}
        </li>
      ))}
    </ol>
  )
}

/** What it is ahead in, and how near it stands to the first; or that another of those shown is better. */
function Standing({ offer, shown }: { offer: ShownOffer; shown: readonly ShownOffer[] }) {
  const first = shown[0]!
  const by = shown.findIndex((o) => isDominated(offer, o))
  if (by >= 0)
    return <p className="text-xs font-bold text-soft">another way, but {letterOf(by)} is as good or better in all</p>
  const near = offer !== first && offer.measure.total - first.measure.total < MARGIN
  const says = [
    ...(offer === first ? ['best all round'] : near ? ['as good as A, within what is known'] : []),
    ...offer.best.map((o) => BEST_IN_NAMES[o]),
  ]
  return says.length > 0 ? <p className="text-xs font-bold text-good">{says.join(' · ')}</p> : null
}

function Figures({ offer: o }: { offer: ShownOffer }) {
  const units = useUnits()
  const oil = oilText(o.figures.oil, units)
  const { highest, worstFailure } = o.measure.facts
  return (
    <>
      <p className="flex flex-wrap gap-x-4">
        <span>
          <strong className="fig text-lg">{oil.text}</strong> {oil.unit} to the intake
        </span>
        <span>
          <strong className="fig text-lg">{Math.round(o.figures.price)}</strong> parts
        </span>
        <span>
          <strong className="fig text-lg">{formatNumber(o.figures.hours, 2)}</strong> h
        </span>
      </p>
      <p className="text-soft">
        Crankcase at the bad end{' '}
        {highest === undefined ? 'without an answer' : crankcaseText(unitFormatter(units), highest)};{' '}
        {o.figures.looks < 0.5 ? 'hardly a look a year' : `${formatNumber(o.figures.looks, 2)} looks a year`}
        {worstFailure && `; worst if: ${worstFailure.name.toLowerCase()}`}
        {o.findings.length > 0 && `; to watch: ${o.findings.length}`}.
      </p>
    </>
  )
}

function Place({ offer: { place }, looking }: { offer: ShownOffer; looking: boolean }) {
  const units = useUnits()
  if (looking)
    return (
      <p role="status" className="text-soft">
        Looking for places and ways in the bay…
      </p>
    )
  if (!place) return <p className="text-soft">Its place in the bay was not looked for: try more plans.</p>
  const where = place.own ? 'In your bay' : 'In a ready bay of this layout'
  const hose = `${quantityText(place.hoseM, 'length', units, 2)} of hose`
  return place.left.length === 0 ? (
    <p className="text-soft">
      {where}: it fits, {hose}.
    </p>
  ) : (
    <details className="text-watch">
      <summary className="cursor-pointer">
        {where}: {place.left.length === 1 ? 'one thing finds' : `${place.left.length} things find`} no place yet
      </summary>
      <ul className="list-disc pl-5 text-ink">
        {place.left.map((l) => (
          <li key={l}>{l}</li>
        ))}
      </ul>
    </details>
  )
}
