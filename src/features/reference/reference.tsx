/** The reference: every rule that the verdicts judge by, every school, and the cautions. No number here depends on a build. */
import { Brand } from '@/ui/brand'
import type { UnitChoice } from '@/core/units/units'
import { unitFormatter } from '@/plan/document/words'
import { SCHOOLS } from '@/plan/schools/schools'
import { RULE_PAGES } from '@/plan/verdicts/pages'
import { SizeTables } from './sizes'

const CAUTIONS = [
  'Hot engine, hot oil, exhaust: let it cool before a hand goes near. Moving belts and fans: engine off.',
  'A lifted car stands on stands on level ground, never on the jack.',
  'Welding on oily castings: degrease twice, mind the fumes and the light; leave it to a welder who is licensed for it where the law asks that.',
  'Grinding and drilling: goggles, and no chips in the engine; mind fuel lines and wiring behind the panel.',
  'Used oil and what a can holds are hazardous waste: take them where used oil is taken.',
  'Pressure or deep vacuum by mistake blows out seals: start with a gauge on the crankcase and a hand on the key.',
  'On public roads the crankcase system is an emission control: in many places it must stay sealed and unmodified. Ask the local authority. In racing the rulebook decides.',
] as const

export function Reference({ units }: { units: UnitChoice }) {
  return (
    <div className="mx-auto max-w-[62rem] px-4 pb-16">
      <header className="flex items-center gap-3 border-b-[1.5px] border-ink py-3">
        <Brand />
        <h1 className="text-base">Reference</h1>
        <nav aria-label="Parts of the reference" className="ml-auto flex flex-wrap gap-x-4">
          <a className="link-button" href="#rules">
            Rules
          </a>
          <a className="link-button" href="#sizes">
            Sizes
          </a>
          <a className="link-button" href="#schools">
            Schools
          </a>
          <a className="link-button" href="#cautions">
            Cautions
          </a>
        </nav>
      </header>
      <main>
        <Rules units={units} />
        <SizeTables units={units} />
        <Schools />
        <section aria-labelledby="cautions">
          <h2 id="cautions" className="pt-8 text-xl">
            Cautions
          </h2>
          <ul className="mt-2 list-disc space-y-1 pl-5">
            {CAUTIONS.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
        </section>
      </main>
    </div>
  )
}

function Rules({ units }: { units: UnitChoice }) {
  const say = unitFormatter(units)
  return (
    <section aria-labelledby="rules">
      <h2 id="rules" className="pt-6 text-xl">
        What the verdicts judge by
      </h2>
      {RULE_PAGES.map(([id, page]) => (
        <article
          key={id}
          id={id}
          className="grid gap-x-6 border-b border-rule py-3 target:bg-blue-wash md:grid-cols-[13rem_1fr]"
        >
          <h3 className="text-base">{page.title}</h3>
          <dl className="grid grid-cols-[5rem_1fr] gap-x-3">
            <dt className="text-soft">Looks at</dt>
            <dd>{page.looks}</dd>
            <dt className="text-soft">Turns</dt>
            <dd>{page.threshold(say)}</dd>
            <dt className="text-soft">Why</dt>
            <dd>{page.why}</dd>
            <dt className="text-soft">To do</dt>
            <dd>{page.does}</dd>
          </dl>
        </article>
      ))}
    </section>
  )
}

function Schools() {
  return (
    <section aria-labelledby="schools">
      <h2 id="schools" className="pt-8 text-xl">
        The schools
      </h2>
      {SCHOOLS.map((s) => (
        <article key={s.key} id={s.key} className="grid gap-x-6 border-b border-rule py-3 md:grid-cols-[13rem_1fr]">
          <h3 className="text-base">{s.name}</h3>
          <div>
            <p>{s.about}</p>
            <p className="mt-1 text-soft">
              <strong>Service</strong> {s.service}
            </p>
            <p className="text-soft">
              <strong>Law</strong> {s.law}
            </p>
          </div>
        </article>
      ))}
    </section>
  )
}
