'use client'
/** A hunt looked back on: what it was, what each step said, what a careful fitter would have done, and what it cost. */
import { formatNumber } from '@/core/units/format'
import { lowered } from '@/plan/document/words'
import type { HuntReview } from '@/plan/practice/hunt'

const percent = (share: number) => `${Math.round(100 * share)} %`

export function HuntReviewed({ review: r }: { review: HuntReview }) {
  return (
    <div className="space-y-6 pt-4">
      <section aria-labelledby="was">
        <h2 id="was" className={`text-lg font-bold ${r.isRight ? 'text-good' : 'text-stop'}`}>
          {r.isRight ? 'Found.' : 'Not found.'} It was: {r.truth.name}
          {r.truth.extent && `, ${r.truth.extent}`}.
        </h2>
        <p>
          {!r.isRight && <>You named: {r.named}. </>}
          <strong className="fig">{formatNumber(r.score, 4, 0)}</strong> points, {r.spent} minutes.
          {r.wrong && (
            <>
              {' '}
              A sound {lowered(r.wrong.part)} was replaced: {Math.round(r.wrong.price)} for parts,{' '}
              {formatNumber(r.wrong.hours, 2)} h, and the car comes back.
            </>
          )}
        </p>
        {r.dangers.map((d, k) => (
          <p key={`${d} ${k}`} className="border-l-4 border-stop pl-2 font-bold text-stop">
            {d}
          </p>
        ))}
        {r.cure.length > 0 && <p className="pt-1 text-soft">Mended so: {r.cure.join(' ')}</p>}
      </section>
      <section aria-labelledby="told">
        <h2 id="told" className="head border-b-[1.5px] border-ink pb-1">
          What each step told
        </h2>
        <ol>
          {r.steps.map((s, k) => (
            <li
              key={`${s.name} ${k}`}
              className="grid gap-x-6 border-b border-rule py-2 sm:grid-cols-[16rem_minmax(0,1fr)]"
            >
              <span>
                <span className="font-bold">{s.name}</span>
                {s.minutes > 0 && <span className="fig block text-soft">{s.minutes} min</span>}
              </span>
              <span>
                {s.odds.map((o) => (
                  <span key={o.name} className="grid grid-cols-[minmax(0,1fr)_8rem_3rem] items-center gap-2">
                    <span className={o.isTruth ? 'font-bold text-blue' : ''}>
                      {o.name}
                      {o.isTruth && <span className="sr-only"> (what it was)</span>}
                    </span>
                    <span aria-hidden className="h-2.5 bg-well">
                      <span
                        className={`block h-full ${o.isTruth ? 'bg-blue' : 'bg-rule-strong'}`}
                        style={{ width: `${Math.max(1, 100 * o.share)}%` }}
                      />
                    </span>
                    <span className="fig text-right">{percent(o.share)}</span>
                  </span>
                ))}
              </span>
            </li>
          ))}
        </ol>
      </section>
      <section aria-labelledby="careful">
        <h2 id="careful" className="head border-b-[1.5px] border-ink pb-1">
          A careful fitter
        </h2>
        {r.careful.steps.length === 0 ? (
          <p className="py-1">would have named it by the complaint alone: {r.careful.named}.</p>
        ) : (
          <>
            <ol className="list-decimal py-1 pl-5">
              {r.careful.steps.map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ol>
            <p>
              {r.careful.minutes} minutes, then: {r.careful.named}
              {r.careful.isRight ? ', which it was.' : '. It was not: not every fault shows in the time there is.'}
            </p>
          </>
        )}
      </section>
    </div>
  )
}
