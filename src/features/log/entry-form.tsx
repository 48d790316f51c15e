'use client'
/** A new entry, short enough for oily hands. */
import { useId, useState } from 'react'
import { unitLabel } from '@/core/units/units'
import type { Field } from '@/plan/document/fields'
import { LOG_ENTRIES, LOG_FIELDS } from '@/plan/document/log-fields'
import type { LogEntry, Variant } from '@/plan/document/schema'
import { planName } from '@/plan/schools/schools'
import { upsertLogEntry, setField } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { fieldUnit } from '@/plan/edit/typed'
import { unitFormatter } from '@/plan/document/words'
import type { CanForecast } from '@/plan/model/results'
import {
  changedEntry,
  draftOf,
  logEntryOf,
  type EntryDraft,
  type EntryProblems,
  type TypedKey,
} from '@/plan/service/entry-draft'
import { entryWarnings } from '@/plan/studies/sanity'
import { Choice } from './choice'
import { LEVEL_NAMES, LEVEL_PCT, LOOK_NAMES } from './entry-names'
import { ReadingFields } from './reading-fields'
import { useUnits, useWorkspace } from '../workspace/store'

const KINDS = (Object.keys(LOG_ENTRIES) as readonly LogEntry['kind'][]).filter((kind) => LOG_ENTRIES[kind].typed)
/** What was to be seen of a can that was emptied. */
const SEEN_NAMES: Readonly<Record<EntryDraft['seen'], string>> = {
  measured: 'So much',
  overflowed: 'Brim full or run over',
  dry: 'Dry, or a film',
}
const optionsOf = <T extends string>(names: Readonly<Record<T, string>>) =>
  (Object.keys(names) as T[]).map((value) => ({ value, name: names[value] }))
const FRESH: Pick<EntryDraft, 'seen' | 'looks' | 'typed' | 'note'> = {
  seen: 'measured',
  looks: 'oil',
  typed: {},
  note: '',
}

/** What is most likely to be noted: a can that is new, its contents, or where there is none a reading. */
const firstKind = (cans: readonly CanForecast[]): LogEntry['kind'] =>
  cans.length === 0 ? 'reading' : cans.some((c) => c.emptyAt !== undefined) ? 'emptied' : 'fitted'

/** What an entry that names no can is about. */
const NO_CAN = 'the engine itself'

/** Cans of the plan that was on the car, with the one that the entry names though it is there no more. */
function cansOfEntry(variant: Variant, { part }: LogEntry) {
  const cans = variant.parts.filter((p) => p.kind === 'can').map(({ id, name }) => ({ id, name, logged: true }))
  return part === undefined || cans.some((c) => c.id === part)
    ? cans
    : [...cans, { id: part, name: `${part}, not in the plan`, logged: true }]
}

/**
 * A new entry, or one of the log put right: every field of it, its plan and its can too.
 * @param entry the one to put right
 */
export function EntryForm({ entry: old, onDone }: { entry?: LogEntry; onDone?: () => void }) {
  const units = useUnits()
  const today = useWorkspace((s) => s.today)
  const forecasts = useWorkspace((s) => s.analysis.cans)
  const act = useWorkspace((s) => s.act)
  const build = useWorkspace((s) => s.build)
  const [plan, setPlan] = useState(old ? (old.plan ?? build.variants[0]!.id) : undefined)
  const variant = build.variants.find((v) => v.id === plan) ?? activeVariant(build)
  const id = useId()
  const [draft, setDraft] = useState<EntryDraft>(
    old
      ? draftOf(old, units)
      : {
          ...FRESH,
          kind: firstKind(forecasts),
          date: today,
          part: undefined,
          level: 'full',
          reading: { state: 'idle', way: 'crankcase', at: undefined, side: 'vacuum' },
        },
  )
  const cans = old
    ? cansOfEntry(variant, old)
    : forecasts.map((c) => ({ id: c.part, name: c.name, logged: c.emptyAt !== undefined }))
  const withoutCan = old !== undefined && old.part === undefined
  const [doubted, setDoubted] = useState<readonly string[]>([])
  const [problems, setProblems] = useState<EntryProblems>({})
  const [done, setDone] = useState('')
  const { kind, seen, looks, level, reading } = draft
  const { ofCan } = LOG_ENTRIES[kind]
  const change = (to: Partial<EntryDraft>) => setDraft({ ...draft, ...to })

  function submit(sure = false): void {
    const context = { variant, cans: cans.map((c) => c.id), units, today, withoutCan }
    const made = old
      ? changedEntry(old, draft, context)
      : logEntryOf(draft, { ...context, newId: () => crypto.randomUUID() })
    setProblems(made.problems ?? {})
    setDone('')
    if (made.problems) {
      setDoubted([])
      return
    }
    const { entry } = made
    const others = old ? { ...build, log: build.log.filter((e) => e.id !== old.id) } : build
    const strange = sure ? [] : entryWarnings(others, forecasts, entry, unitFormatter(units))
    setDoubted(strange)
    if (strange.length > 0) return
    act(
      kind === 'level'
        ? [upsertLogEntry(entry), setField(['engine', 'oilLevelPct'], LEVEL_PCT[level])]
        : upsertLogEntry(entry),
      old ? `Log entry of ${old.date} changed` : `Log: ${LOG_ENTRIES[kind].name.toLowerCase()}`,
    )
    if (old) {
      onDone?.()
      return
    }
    change({ ...FRESH, part: undefined })
    setDone(kind === 'emptied' ? 'Noted. The forecast has taken it in.' : 'Noted.')
  }

  const field = (key: TypedKey, of: Field, placeholder?: string) => (
    <div>
      <label htmlFor={`${id}-${key}`} className="block text-xs text-soft">
        {of.label}
      </label>
      <div className="relative">
        <input
          id={`${id}-${key}`}
          className="field min-h-11 pr-10"
          inputMode="decimal"
          autoComplete="off"
          value={draft.typed[key] ?? ''}
          placeholder={placeholder}
          aria-invalid={problems[key] !== undefined}
          aria-describedby={problems[key] ? `${id}-${key}-problem` : undefined}
          onChange={(e) => change({ typed: { ...draft.typed, [key]: e.target.value } })}
        />
        <span className="pointer-events-none absolute right-1 top-1/2 -translate-y-1/2 text-xs text-soft" aria-hidden>
          {unitLabel(fieldUnit(of, units))}
        </span>
      </div>
      {problems[key] && (
        <p id={`${id}-${key}-problem`} role="alert" className="text-xs font-bold text-stop">
          {problems[key]}
        </p>
      )}
    </div>
  )
  return (
    <form
      className="no-print"
      aria-label={old ? `The entry of ${old.date}` : 'New entry'}
      onSubmit={(e) => {
        e.preventDefault()
        submit()
      }}
    >
      <fieldset>
        <legend className={old ? 'sr-only' : 'head w-full border-b-[1.5px] border-ink pb-1'}>
          {old ? `The entry of ${old.date}` : 'New entry'}
        </legend>
        <div
          className={`mt-2 flex-wrap gap-1 ${LOG_ENTRIES[kind].typed ? 'flex' : 'hidden'}`}
          role="radiogroup"
          aria-label="What was done"
        >
          {KINDS.map((k) => (
            <label
              key={k}
              className={`flex min-h-11 items-center rounded-[3px] border-[1.5px] px-3 has-focus-visible:outline-2 has-focus-visible:outline-blue ${kind === k ? 'border-blue bg-blue font-bold text-on-blue' : 'border-rule-strong hover:bg-well'}`}
            >
              <input
                type="radio"
                name={`${id}-kind`}
                className="sr-only"
                checked={kind === k}
                onChange={() => {
                  change({ kind: k })
                  setProblems({})
                  setDoubted([])
                  setDone('')
                }}
              />
              {LOG_ENTRIES[k].name}
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
              value={draft.date}
              max={today}
              onChange={(e) => change({ date: e.target.value })}
              aria-invalid={problems.date !== undefined}
            />
            {problems.date && (
              <p role="alert" className="text-xs font-bold text-stop">
                {problems.date}
              </p>
            )}
          </div>
          {field('odometerKm', LOG_FIELDS.odometerKm)}
          {plan !== undefined && build.variants.length > 1 && (
            <Choice
              id={`${id}-plan`}
              label="Plan on the car then"
              value={plan}
              options={build.variants.map((v) => ({ value: v.id, name: planName(v, build.engine) }))}
              onChange={setPlan}
            />
          )}
          {ofCan && (cans.length > 1 || withoutCan) && (
            <Choice
              id={`${id}-part`}
              label="Which can"
              value={draft.part ?? ''}
              options={[
                { value: '', name: withoutCan ? NO_CAN : 'choose' },
                // of what is not fitted yet that is what there is to note
                ...cans.map((c) => ({
                  value: c.id,
                  name: c.logged || kind === 'fitted' ? c.name : `${c.name}, not yet noted as fitted`,
                })),
              ]}
              onChange={(p) => change({ part: p === '' ? undefined : p })}
              problem={problems.part}
            />
          )}
          {kind === 'emptied' && (
            <>
              <Choice
                id={`${id}-seen`}
                label="What was in it"
                value={seen}
                options={optionsOf(SEEN_NAMES)}
                onChange={(to) => change({ seen: to })}
              />
              {seen !== 'dry' &&
                field('ml', seen === 'measured' ? LOG_FIELDS.ml : { ...LOG_FIELDS.ml, label: 'Came out, if measured' })}
              {seen === 'measured' && field('waterMl', LOG_FIELDS.waterMl)}
              {seen !== 'dry' && (
                <Choice
                  id={`${id}-looks`}
                  label="It looked"
                  value={looks}
                  options={optionsOf(LOOK_NAMES)}
                  onChange={(to) => change({ looks: to })}
                />
              )}
              {field('sessions', LOG_FIELDS.sessions)}
            </>
          )}
          {kind === 'checked' && field('ml', { ...LOG_FIELDS.ml, label: 'In it, if seen' })}
          {kind === 'level' && (
            <Choice
              id={`${id}-level`}
              label="On the engine’s dipstick"
              value={level}
              options={optionsOf(LEVEL_NAMES)}
              onChange={(to) => change({ level: to })}
            />
          )}
          {kind === 'oil-added' && field('ml', { ...LOG_FIELDS.ml, label: 'Oil added' })}
          {kind === 'reading' && (
            <ReadingFields
              id={id}
              variant={variant}
              draft={reading}
              onChange={(to) => {
                change({ reading: { ...reading, ...to } })
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
            value={draft.note}
            onChange={(e) => change({ note: e.target.value })}
          />
        </div>
        {doubted.length > 0 && (
          <div role="alert" className="mt-2 border-l-4 border-watch px-2 py-1">
            {doubted.map((d) => (
              <p key={d}>{d}</p>
            ))}
            <button type="button" className="link-button min-h-11" onClick={() => submit(true)}>
              It is so: note it
            </button>
          </div>
        )}
        <div className="mt-3 flex flex-wrap items-center gap-4">
          <button type="submit" className="button button-main">
            {old ? 'Change it' : 'Note it'}
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
