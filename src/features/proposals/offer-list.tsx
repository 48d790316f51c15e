'use client'
/** The few that are really different: what each brings, costs and asks, and what would have to be otherwise for it to win. */
import { quantityText } from '@/core/units/format'
import type { PlanOffer } from '@/plan/proposals/propose'
import { useUnits } from '../workspace/store'
import { offerLetter, useFigureOf } from './tried-picture'

const round = (x: number, digits = 2) => (Math.abs(x) < 0.05 ? '0' : Number(x.toPrecision(digits)).toString())

export function OfferList({
  offers,
  chosen,
  onChoose,
  onTake,
}: {
  offers: readonly PlanOffer[]
  chosen: number
  onChoose: (k: number) => void
  onTake: (offer: PlanOffer) => void
}) {
  const figure = useFigureOf()
  const units = useUnits()
  return (
    <ol>
      {offers.map((o, k) => (
        <li key={o.name} className={`border-t-[1.5px] border-ink px-2 py-2 ${k === chosen ? 'bg-blue-wash' : ''}`}>
          <button
            type="button"
            className="w-full text-left font-bold"
            aria-pressed={k === chosen}
            onClick={() => onChoose(k)}
          >
            <span className="mr-2 text-blue">{offerLetter(k)}</span>
            {o.name}
          </button>
          <p className="flex flex-wrap gap-x-4">
            <span>
              <strong className="fig text-lg">{round(figure('oil', o.figures.oil))}</strong> ml / 1 000 km
            </span>
            <span>
              <strong className="fig text-lg">{Math.round(o.figures.price)}</strong> parts
            </span>
            <span>
              <strong className="fig text-lg">{round(o.figures.hours)}</strong> h
            </span>
          </p>
          <p className="text-soft">
            {o.measure.facts.highest === undefined
              ? 'no answer at the bad end'
              : `crankcase at the bad end ${quantityText(o.measure.facts.highest, 'pressure', units, 2)}`}
            ; {o.figures.looks < 0.5 ? 'hardly a look a year' : `${round(o.figures.looks)} looks a year`}
            {o.measure.facts.worstFailure && `; worst if: ${o.measure.facts.worstFailure.name.toLowerCase()}`}
            {o.findings.length > 0 && `; to watch: ${o.findings.length}`}.
          </p>
          {o.wins && <p>It would win if {o.wins}.</p>}
          {k === chosen && (
            <button type="button" className="button button-main mt-1" onClick={() => onTake(o)}>
              Make it a plan
            </button>
          )}
        </li>
      ))}
    </ol>
  )
}
