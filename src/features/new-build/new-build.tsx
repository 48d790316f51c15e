'use client'
/** Eight questions, a whole plan. */
import { Brand } from '@/ui/brand'
import { USES, type Use } from '@/plan/catalogue/uses'
import { ENGINE_CLASSES, type EngineClass } from '@/plan/catalogue/engines'
import { useRouter } from 'next/navigation'
import { useDeferredValue, useEffect, useId, useMemo, useState, type ReactNode } from 'react'
import { unitLabel, type UnitChoice } from '@/core/units/units'
import { newBuild } from '@/plan/schools/new-build'
import type { Build, Engine } from '@/plan/document/schema'
import { DUTY_FIELDS, ENGINE_FIELDS, SITE_FIELDS } from '@/plan/document/fields'
import { fieldText, fieldUnit, readField } from '@/plan/edit/typed'
import { BenchFields } from '../engine/bench'
import { useJob } from '../workspace/jobs/jobs'
import { SeverityMark } from '@/ui/marks'
import { RankedSchool, WorthIt } from './ranked-school'
import { Select } from '@/ui/select'

const ASKED = {
  displacement: ENGINE_FIELDS.displacementCc,
  boost: ENGINE_FIELDS.boostKpa,
  km: DUTY_FIELDS.kmPerYear,
  ambient: SITE_FIELDS.ambientC,
  look: DUTY_FIELDS.checkEveryKm,
} as const
/** Usual air outside where it is not said, °C. */
const USUAL_C = 10
/** Distance between looks where it is not said, km: the first look of a new can. */
const LOOKS_KM = 1600
type Facts = Partial<Record<keyof typeof ASKED, string>>
const RINGS = [
  { value: 'tight', name: 'Fresh, tight' },
  { value: 'normal', name: 'Healthy' },
  { value: 'loose', name: 'Forged, loose' },
  { value: 'worn', name: 'Worn' },
] as const

const CHOICES = {
  metric: { system: 'metric', pressure: 'kPa', flow: 'l/min' },
  imperial: { system: 'imperial', pressure: 'inHg', flow: 'cfm' },
} as const satisfies Record<string, UnitChoice>

type Question = { readonly value?: number; readonly problem?: string }

/** Each fact as typed, read; one left empty keeps the class's. */
function readAll(typed: Facts, choice: UnitChoice): Record<keyof Facts, Question> {
  const read = (key: keyof Facts): Question => {
    const text = typed[key]?.trim() ?? ''
    if (text === '') return {}
    const parsed = readField(ASKED[key], choice, text)
    return parsed.ok ? { value: parsed.value } : { problem: parsed.reason }
  }
  return {
    displacement: read('displacement'),
    boost: read('boost'),
    km: read('km'),
    ambient: read('ambient'),
    look: read('look'),
  }
}

/** What was typed, in other units; what cannot be read stays as it was typed. */
function inUnits(typed: Facts, from: UnitChoice, to: UnitChoice): Facts {
  const asked = readAll(typed, from)
  return Object.fromEntries(
    (Object.keys(typed) as (keyof Facts)[]).map((key) => {
      const { value } = asked[key]
      return [key, value === undefined ? typed[key] : fieldText(ASKED[key], to, value)]
    }),
  )
}

export function NewBuild() {
  const router = useRouter()
  const id = useId()
  const [name, setName] = useState('')
  const [units, setUnits] = useState<'metric' | 'imperial'>('metric')
  const [engineClass, setClass] = useState<EngineClass>('i4-turbo')
  const [use, setUse] = useState<Use>('street')
  const [rings, setRings] = useState<Engine['rings']>('normal')
  const [typed, setTyped] = useState<Facts>({})
  const [bench, setBench] = useState<Build['bench']>(undefined)
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const [busy, setBusy] = useState(false)
  const choice = CHOICES[units]
  const base = ENGINE_CLASSES.find((c) => c.key === engineClass)!
  const useFacts = USES.find((u) => u.key === use)!

  const asked = useMemo(() => readAll(typed, CHOICES[units]), [typed, units])
  const problems = Object.values(asked).some((r) => r.problem)
  const displacementCc = asked.displacement.value
  const boostKpa = asked.boost.value
  const kmPerYear = asked.km.value
  const ambientC = asked.ambient.value ?? USUAL_C
  const checkEveryKm = asked.look.value
  const build = useMemo(() => {
    const engine: Partial<Engine> = {}
    if (rings !== 'normal') engine.rings = rings
    if (displacementCc !== undefined) engine.displacementCc = displacementCc
    // a bigger engine of the class is a bigger bore, not a longer stroke alone
    if (displacementCc !== undefined)
      engine.boreMm = Number((base.boreMm * Math.cbrt(displacementCc / base.displacementCc)).toFixed(1))
    if (boostKpa !== undefined && base.induction !== 'na') engine.boostKpa = Math.max(1, boostKpa)
    const made = newBuild({
      name: 'Unnamed',
      engineClass,
      engine,
      use,
      kmPerYear,
      ambientC,
      units,
    })
    const duty = checkEveryKm === undefined ? made.duty : { ...made.duty, checkEveryKm }
    return { ...made, duty, ...(bench ? { bench } : {}) }
  }, [engineClass, rings, use, units, base, displacementCc, boostKpa, kmPerYear, ambientC, checkEveryKm, bench])
  // the list follows a moment behind the typing
  const settled = useDeferredValue(build)
  const ranking = useJob('rank')
  const { start } = ranking
  useEffect(() => start(settled, '2026-01-01'), [start, settled])
  const [stopped, setStopped] = useState<Build | undefined>(undefined)
  // what was worked out for other answers is not shown as of these
  const found = ranking.of?.[0] === build ? ranking.value : undefined
  const ranked = found?.ranked ?? []
  const [chosen, setChosen] = useState<string | undefined>(undefined)
  const pick = ranked.find((r) => r.key === chosen) ?? ranked.find((r) => !r.yardstick)
  const [all, setAll] = useState(false)

  const create = async (then: 'circuit' | 'proposals') => {
    if (name.trim() === '') return setProblem('Give the build a name first.')
    if (problems) return setProblem('Put the marked answers right first.')
    if (!pick) return setProblem('The ways to plumb it are still being worked out.')
    setBusy(true)
    const response = await fetch('/api/builds', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...build, name: name.trim(), variants: pick.build.variants }),
    }).catch(() => undefined)
    const reply = (await response?.json().catch(() => ({}))) as { id?: string; error?: string } | undefined
    if (!response?.ok || !reply?.id) {
      setBusy(false)
      return setProblem(reply?.error ?? 'Ivent does not answer. Your answers are still here.')
    }
    router.push(`/builds/${reply.id}/${then}`)
  }

  const ask = (key: keyof Facts, label: string, estimate: number) => (
    <div>
      <label htmlFor={`${id}-${key}`} className="sr-only">
        {label}
      </label>
      <div className="relative">
        <input
          id={`${id}-${key}`}
          className="field min-h-11 pr-12 text-base"
          inputMode="decimal"
          autoComplete="off"
          value={typed[key] ?? ''}
          placeholder={`◇ ${fieldText(ASKED[key], choice, estimate, 3)}`}
          aria-invalid={asked[key].problem !== undefined}
          onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
        />
        <span aria-hidden className="pointer-events-none absolute right-1 top-1/2 -translate-y-1/2 text-xs text-soft">
          {unitLabel(fieldUnit(ASKED[key], choice))}
        </span>
      </div>
      {asked[key].problem && (
        <p role="alert" className="text-xs font-bold text-stop">
          {asked[key].problem}
        </p>
      )}
    </div>
  )
  return (
    <div className="mx-auto max-w-[70rem] px-4 pb-12">
      <header className="flex items-center gap-3 border-b-[1.5px] border-ink py-3">
        <Brand />
        <h1 className="text-base">New build</h1>
      </header>
      <main>
        <form
          className="grid gap-x-12 gap-y-8 pt-4 md:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]"
          onSubmit={(e) => {
            e.preventDefault()
            void create('circuit')
          }}
        >
          <ol className="space-y-4 [counter-reset:question]">
            <Question title="What do you call it?">
              <input
                className="field min-h-11 text-base"
                aria-label="Name of the build"
                maxLength={80}
                value={name}
                autoComplete="off"
                onChange={(e) => {
                  setName(e.target.value)
                  setProblem(undefined)
                }}
              />
            </Question>
            <Question title="Which engine comes nearest?">
              <Select
                label="Engine class"
                value={engineClass}
                options={ENGINE_CLASSES.map((c) => ({ value: c.key, name: c.name }))}
                onChange={setClass}
                className="min-h-11 text-base"
              />
            </Question>
            <Question title="Displacement, if it differs">
              {ask('displacement', 'Displacement', base.displacementCc)}
            </Question>
            {base.induction !== 'na' && (
              <Question title="Boost at rated speed">{ask('boost', 'Boost at rated speed', base.boostKpa)}</Question>
            )}
            <Question title="How are its rings?">
              <Segments label="Rings" value={rings} options={RINGS} onChange={setRings} />
            </Question>
            <Question title="What is it for?" about={useFacts.about}>
              <Segments
                label="Use"
                value={use}
                options={USES.map((u) => ({ value: u.key, name: u.name }))}
                onChange={setUse}
              />
            </Question>
            <Question title="How far in a year?">{ask('km', 'Distance in a year', useFacts.kmPerYear)}</Question>
            <Question title="How often will you look into it?">
              {ask('look', 'Distance between looks', LOOKS_KM)}
            </Question>
            <Question title="What can you do for it?">
              <BenchFields bench={bench} onChange={setBench} />
            </Question>
            <Question title="Usual air outside">{ask('ambient', 'Usual air outside', USUAL_C)}</Question>
            <Question title="Your units">
              <Segments
                label="Units"
                value={units}
                options={[
                  { value: 'metric', name: 'Metric' },
                  { value: 'imperial', name: 'Imperial' },
                ]}
                onChange={(v) => {
                  setTyped(inUnits(typed, choice, CHOICES[v]))
                  setUnits(v)
                }}
              />
            </Question>
          </ol>
          <aside className="md:sticky md:top-4 md:self-start" aria-label="What comes of it">
            {found && <WorthIt worth={found.worth} />}
            <h2 className="head mt-4 border-b-[1.5px] border-ink pb-1">
              How to plumb it, best first for this engine and use
            </h2>
            {!found && (
              <p role="status" className="flex flex-wrap items-baseline gap-x-4 py-3 text-soft">
                {stopped === build || ranking.failed ? (
                  <>
                    {ranking.failed ? `They could not be worked out: ${ranking.failed}.` : 'Stopped.'}
                    <button
                      type="button"
                      className="link-button"
                      onClick={() => {
                        setStopped(undefined)
                        start(settled, '2026-01-01')
                      }}
                    >
                      Work them out
                    </button>
                  </>
                ) : (
                  <>
                    Working them out for this engine, {Math.round((ranking.progress ?? 0) * 100)} %
                    <button
                      type="button"
                      className="link-button"
                      onClick={() => {
                        setStopped(build)
                        ranking.stop()
                      }}
                    >
                      Stop
                    </button>
                  </>
                )}
              </p>
            )}
            <div role="radiogroup" aria-label="School">
              {(all ? ranked : ranked.slice(0, 4)).map((r) => (
                <RankedSchool
                  key={r.key}
                  of={r}
                  units={build.units}
                  picked={r === pick}
                  onPick={() => setChosen(r.key)}
                />
              ))}
            </div>
            {!all && ranked.length > 4 && (
              <button type="button" className="link-button" onClick={() => setAll(true)}>
                Show all {ranked.length}
              </button>
            )}
            {pick && <p className="mt-2">{pick.about} Every part and size is yours to change.</p>}
            <ul className="mt-2 space-y-1">
              {pick?.analysis.verdicts
                .filter((v) => v.severity !== 'ok')
                .slice(0, 3)
                .map((v) => (
                  <li key={`${v.rule} ${v.subject}`} className="flex gap-2">
                    <SeverityMark severity={v.severity} size={16} /> {v.title}
                  </li>
                ))}
            </ul>
            {problem && (
              <p role="alert" className="mt-4 border-l-4 border-stop pl-2 font-bold">
                {problem}
              </p>
            )}
            <button type="submit" className="button button-main mt-5 w-full" disabled={busy || !pick}>
              {busy ? 'Laying it out…' : 'Lay out the circuit'}
            </button>
            <button
              type="button"
              className="button mt-2 w-full"
              disabled={busy || !pick}
              onClick={() => void create('proposals')}
            >
              Lay it out, and let Ivent propose what to build
            </button>
            <p className="mt-3 text-xs text-soft">
              On public roads the crankcase system is an emission control: in many places it must stay sealed and
              unmodified. Ask your local authority.
            </p>
          </aside>
        </form>
      </main>
    </div>
  )
}

function Question({ title, about, children }: { title: string; about?: string; children: ReactNode }) {
  return (
    <li className="grid grid-cols-[2rem_1fr] gap-x-3">
      <span
        aria-hidden
        className="mt-0.5 grid size-7 place-items-center rounded-full border-[1.5px] border-blue text-xs font-bold text-blue [counter-increment:question] before:content-[counter(question)]"
      />
      <div>
        <p className="text-base font-bold">
          {title}
          {about && <span className="ml-2 text-sm font-normal text-soft">{about}</span>}
        </p>
        {children}
      </div>
    </li>
  )
}

function Segments<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: T
  options: readonly { value: T; name: string }[]
  onChange: (v: T) => void
}) {
  const id = useId()
  return (
    <div role="radiogroup" aria-label={label} className="flex flex-wrap gap-1 pt-1">
      {options.map((o) => (
        <label
          key={o.value}
          className={`flex min-h-11 items-center rounded-[3px] border-[1.5px] px-3 has-focus-visible:outline-2 has-focus-visible:outline-blue ${value === o.value ? 'border-blue bg-blue font-bold text-on-blue' : 'border-rule-strong hover:bg-well'}`}
        >
          <input
            type="radio"
            className="sr-only"
            name={id}
            checked={value === o.value}
            onChange={() => onChange(o.value)}
          />
          {o.name}
        </label>
      ))}
    </div>
  )
}
