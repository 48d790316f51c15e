'use client'
/** A new entry, short enough for oily hands. */
import { useId, useState } from 'react'
import { fromSi } from '@/core/units/units'
import { parseQuantity } from '@/core/units/parse'
import type { LogEntry } from '@/plan/document/schema'
import { note, setField } from '@/plan/edit/deeds'
import { activeVariant } from '@/plan/edit/edit'
import { teller } from '@/plan/document/words'
import { doubts } from '@/plan/studies/sanity'
import { Choice } from './choice'
import { LEVEL_NAMES, LEVEL_PCT, LOOK_NAMES } from './entries'
import { placesOf, ReadingFields, type ReadingDraft } from './reading-fields'
import { useUnits, useWorkspace } from '../workspace/store'

const KINDS = [
  { value: 'emptied', name: 'Emptied' },
  { value: 'checked', name: 'Looked' },
  { value: 'fitted', name: 'Fitted' },
  { value: 'oil-added', name: 'Oil added' },
  { value: 'level', name: 'Oil level' },
  { value: 'reading', name: 'Reading' },
] as const
/** Typed with a unit of length: a mark on a dipstick. */
const isLength = (text: string): boolean => /(mm|cm|in|")\s*$/i.test(text)
/** What was to be seen of a can that was emptied. */
const FOUND = [
  { value: 'measured', name: 'So much' },
  { value: 'overflowed', name: 'Brim full or run over' },
  { value: 'dry', name: 'Dry, or a film' },
] as const
type Kind = LogEntry['kind']
type Read = (
  key: keyof Draft,
  dimension: 'distance' | 'volume' | 'pressure' | 'gasFlow' | 'speed' | 'length',
  unit: string,
  needed: boolean,
  least?: number,
  most?: number,
) => number | undefined
type Draft = Partial<
  Record<'odometer' | 'ml' | 'water' | 'sessions' | 'kpa' | 'flow' | 'velocity' | 'orifice' | 'note', string>
>

export function EntryForm() {
  const units = useUnits()
  const today = useWorkspace((s) => s.today)
  const cans = useWorkspace((s) => s.analysis.cans)
  const act = useWorkspace((s) => s.act)
  const build = useWorkspace((s) => s.build)
  const plan = build.active
  const variant = activeVariant(build)
  const id = useId()
  const [kind, setKind] = useState<Kind>(cans[0]?.emptyAt === undefined ? 'fitted' : 'emptied')
  const [part, setPart] = useState<string | undefined>(cans.length === 1 ? cans[0]!.part : undefined)
  const [looks, setLooks] = useState<keyof typeof LOOK_NAMES>('oil')
  const [level, setLevel] = useState<keyof typeof LEVEL_NAMES>('full')
  const [doubted, setDoubted] = useState<readonly string[]>([])
  const [seen, setSeen] = useState<(typeof FOUND)[number]['value']>('measured')
  const [reading, setReading] = useState<ReadingDraft>({
    state: 'idle',
    way: 'crankcase',
    at: undefined,
    side: 'vacuum',
  })
  const [date, setDate] = useState(today)
  const [draft, setDraft] = useState<Draft>({})
  const [problems, setProblems] = useState<Readonly<Record<string, string>>>({})
  const [done, setDone] = useState('')
  const ofCan = kind === 'emptied' || kind === 'checked' || kind === 'fitted'
  // with more than one can it is chosen each time: what was meant for one went into the other
  const chosenPart = cans.some((c) => c.part === part) ? part : cans.length === 1 ? cans[0]!.part : undefined

  /** The reading as typed, in the units that a log is kept in. */
  function readingIn(read: Read): LogEntry['reading'] {
    const { state, way, at, side } = reading
    if (way === 'meter') return { state, lpm: read('flow', 'gasFlow', 'l/min', true, 0, 5000) }
    if (way === 'flow') return { state, at, lpm: read('flow', 'gasFlow', 'l/min', true, 0, 5000) }
    if (way === 'velocity') return { state, at, velocityMPerS: read('velocity', 'speed', 'm/s', true, 0, 340) }
    if (way === 'drop') return { state, at, kpa: read('kpa', 'pressure', 'kPa', true, 0, 400) }
    if (way === 'orifice') {
      const kpa = read('kpa', 'pressure', 'kPa', true, 0.001, 50)
      return { state, kpa, orificeMm: read('orifice', 'length', 'mm', true, 1, 60) }
    }
    const gauge = read('kpa', 'pressure', 'kPa', true, -60, 400)
    // a sign that was typed says which way by itself
    return { state, kpa: gauge === undefined ? undefined : side === 'vacuum' ? -Math.abs(gauge) : gauge }
  }

  /** What a can holds or gave: by the cup, or by the mark on its dipstick (typed with its unit of length), by the bowl's own shape. */
  function readContent(read: Read, needed: boolean): number | undefined {
    const box = variant.parts.find((p) => p.id === chosenPart)
    if (kind === 'oil-added' || box?.kind !== 'can' || !isLength(draft.ml ?? ''))
      return read('ml', 'volume', 'ml', needed, 0, 20_000)
    const mm = read('ml', 'length', 'mm', needed, 0, 1000)
    return mm === undefined ? undefined : Number(((mm / 10) * box.faceCm2).toPrecision(4))
  }

  function submit(sure = false): void {
    const found: Record<string, string> = {}
    const read: Read = (key, dimension, unit, needed, least = 0, most = Infinity) => {
      const text = draft[key]?.trim() ?? ''
      if (text === '') {
        if (needed) found[key] = 'Needed.'
        return undefined
      }
      const parsed = parseQuantity(text, dimension, units)
      if (!parsed.ok) {
        found[key] = parsed.reason
        return undefined
      }
      const value = Number(fromSi(dimension, parsed.value, unit).toPrecision(9))
      if (value < least || value > most) {
        found[key] =
          value < least ? (least === 0 ? 'Cannot be below zero.' : 'Too low to be true.') : 'Too large to be true.'
        return undefined
      }
      return value
    }
    const odometerKm = read('odometer', 'distance', 'km', true, 0, 2_000_000)
    const measured = kind === 'emptied' && seen === 'measured'
    const told = measured || kind === 'oil-added' || (kind === 'emptied' && seen === 'overflowed')
    const looked = kind === 'checked'
    const ml = told || looked ? readContent(read, told && seen !== 'overflowed') : undefined
    const waterMl = measured ? read('water', 'volume', 'ml', false, 0, 20_000) : undefined
    if (ml !== undefined && waterMl !== undefined && waterMl > ml) found.water = 'More than all that came out.'
    const levelNow = kind === 'level' ? level : undefined
    const taken = kind === 'reading' ? readingIn(read) : undefined
    if (taken && placesOf(variant, reading.way).length > 0 && reading.at === undefined) found.at = 'Say where.'
    const sessionsText = kind === 'emptied' ? (draft.sessions?.trim() ?? '') : ''
    const sessions = sessionsText === '' ? undefined : Number(sessionsText.replace(',', '.'))
    if (sessions !== undefined && !(sessions >= 0 && sessions <= 500))
      found.sessions = 'A number of sessions, 0 to 500.'
    if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) found.date = 'Choose a day.'
    else if (date > today) found.date = 'That day is still to come.'
    if (ofCan && chosenPart === undefined)
      found.part = cans.length === 0 ? 'There is no can in this circuit.' : 'Say which can it was.'
    setProblems(found)
    setDone('')
    if (Object.keys(found).length > 0) {
      setDoubted([])
      return
    }
    const entry = JSON.parse(
      JSON.stringify({
        id: crypto.randomUUID(),
        date,
        kind,
        odometerKm,
        plan,
        part: ofCan ? chosenPart : undefined,
        ml,
        waterMl,
        seen: kind === 'emptied' && seen !== 'measured' ? seen : undefined,
        looks: kind === 'emptied' && seen !== 'dry' && looks !== 'oil' ? looks : undefined,
        sessions,
        level: levelNow,
        reading: taken,
        note: draft.note?.trim() || undefined,
      }),
    ) as LogEntry
    const strange = sure ? [] : doubts(build, cans, entry, teller(units))
    setDoubted(strange)
    if (strange.length > 0) return
    act(
      levelNow === undefined ? note(entry) : [note(entry), setField(['engine', 'oilLevelPct'], LEVEL_PCT[levelNow])],
      `Log: ${KINDS.find((k) => k.value === kind)?.name.toLowerCase() ?? kind}`,
    )
    setDraft({})
    setSeen('measured')
    setLooks('oil')
    if (cans.length > 1) setPart(undefined)
    setDone(kind === 'emptied' ? 'Noted. The forecast has taken it in.' : 'Noted.')
  }

  const field = (key: keyof Draft, label: string, unit: string, placeholder?: string) => (
    <div>
      <label htmlFor={`${id}-${key}`} className="block text-xs text-soft">
        {label}
      </label>
      <div className="relative">
        <input
          id={`${id}-${key}`}
          className="field min-h-11 pr-10"
          inputMode="decimal"
          autoComplete="off"
          value={draft[key] ?? ''}
          placeholder={placeholder}
          aria-invalid={problems[key] !== undefined}
          aria-describedby={problems[key] ? `${id}-${key}-problem` : undefined}
          onChange={(e) => setDraft({ ...draft, [key]: e.target.value })}
        />
        <span className="pointer-events-none absolute right-1 top-1/2 -translate-y-1/2 text-xs text-soft" aria-hidden>
          {unit}
        </span>
      </div>
      {problems[key] && (
        <p id={`${id}-${key}-problem`} role="alert" className="text-xs font-bold text-stop">
          {problems[key]}
        </p>
      )}
    </div>
  )
  const metric = units.system === 'metric'
  return (
    <form
      className="no-print"
      aria-label="New entry"
      onSubmit={(e) => {
        e.preventDefault()
        submit()
      }}
    >
      <fieldset>
        <legend className="head w-full border-b-[1.5px] border-ink pb-1">New entry</legend>
        <div className="mt-2 flex flex-wrap gap-1" role="radiogroup" aria-label="What was done">
          {KINDS.map((k) => (
            <label
              key={k.value}
              className={`flex min-h-11 items-center rounded-[3px] border-[1.5px] px-3 has-focus-visible:outline-2 has-focus-visible:outline-blue ${kind === k.value ? 'border-blue bg-blue font-bold text-on-blue' : 'border-rule-strong hover:bg-well'}`}
            >
              <input
                type="radio"
                name={`${id}-kind`}
                className="sr-only"
                checked={kind === k.value}
                onChange={() => {
                  setKind(k.value)
                  setProblems({})
                  setDoubted([])
                  setDone('')
                }}
              />
              {k.name}
            </label>
          ))}
        </div>
        <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
          <div>
            <label htmlFor={`${id}-date`} className="block text-xs text-soft">
              Day
            </label>
            <input
              id={`${id}-date`}
              type="date"
              className="field min-h-11"
              value={date}
              max={today}
              onChange={(e) => setDate(e.target.value)}
              aria-invalid={problems.date !== undefined}
            />
            {problems.date && (
              <p role="alert" className="text-xs font-bold text-stop">
                {problems.date}
              </p>
            )}
          </div>
          {field('odometer', 'Odometer', metric ? 'km' : 'mi')}
          {ofCan && cans.length > 1 && (
            <Choice
              id={`${id}-part`}
              label="Which can"
              value={chosenPart ?? ''}
              options={[{ value: '', name: 'choose' }, ...cans.map((c) => ({ value: c.part, name: c.name }))]}
              onChange={(p) => setPart(p === '' ? undefined : p)}
              problem={problems.part}
            />
          )}
          {kind === 'emptied' && (
            <>
              <Choice id={`${id}-seen`} label="What was in it" value={seen} options={FOUND} onChange={setSeen} />
              {seen !== 'dry' &&
                field('ml', seen === 'measured' ? 'Came out, all' : 'Came out, if measured', metric ? 'ml' : 'fl oz')}
              {seen === 'measured' && field('water', 'of it water, if told apart', metric ? 'ml' : 'fl oz')}
              {seen !== 'dry' && (
                <Choice
                  id={`${id}-looks`}
                  label="It looked"
                  value={looks}
                  options={(Object.keys(LOOK_NAMES) as (keyof typeof LOOK_NAMES)[]).map((value) => ({
                    value,
                    name: LOOK_NAMES[value],
                  }))}
                  onChange={setLooks}
                />
              )}
              {field('sessions', 'Track sessions since, if any', '')}
            </>
          )}
          {kind === 'checked' && field('ml', 'In it, if seen', metric ? 'ml' : 'fl oz')}
          {kind === 'level' && (
            <Choice
              id={`${id}-level`}
              label="On the engine’s dipstick"
              value={level}
              options={(Object.keys(LEVEL_NAMES) as (keyof typeof LEVEL_NAMES)[]).map((value) => ({
                value,
                name: LEVEL_NAMES[value],
              }))}
              onChange={setLevel}
            />
          )}
          {kind === 'oil-added' && field('ml', 'Oil added', metric ? 'ml' : 'fl oz')}
          {kind === 'reading' && (
            <ReadingFields
              id={id}
              variant={variant}
              draft={reading}
              onChange={(to) => {
                setReading({ ...reading, ...to })
                setProblems({})
              }}
              field={field}
              problem={problems.at}
            />
          )}
        </div>
        <div className="mt-2">
          <label htmlFor={`${id}-note`} className="block text-xs text-soft">
            Note
          </label>
          <input
            id={`${id}-note`}
            className="field min-h-11"
            maxLength={500}
            value={draft.note ?? ''}
            onChange={(e) => setDraft({ ...draft, note: e.target.value })}
          />
        </div>
        {doubted.length > 0 && (
          <div role="alert" className="mt-2 border-l-4 border-watch px-2 py-1">
            {doubted.map((d) => (
              <p key={d}>{d}</p>
            ))}
            <button type="button" className="deed min-h-11" onClick={() => submit(true)}>
              It is so: note it
            </button>
          </div>
        )}
        <div className="mt-3 flex flex-wrap items-center gap-4">
          <button type="submit" className="button button-main">
            Note it
          </button>
          <span role="status" className="text-good">
            {done}
          </span>
        </div>
        {(kind === 'emptied' || kind === 'checked') && (
          <p className="mt-2 text-xs text-soft">
            By a measuring cup, or by the mark on the can’s dipstick: “25 mm” is turned into what its bowl holds there.
          </p>
        )}
        {kind === 'level' && (
          <p className="mt-2 text-xs text-soft">
            The engine’s oil level in this plan follows it: too much oil is whipped up and carried.
          </p>
        )}
        {kind === 'emptied' && (
          <p className="mt-2 text-xs text-soft">
            Hot oil burns: let it cool. What comes out is hazardous waste; take it where used oil is taken.
          </p>
        )}
      </fieldset>
    </form>
  )
}
