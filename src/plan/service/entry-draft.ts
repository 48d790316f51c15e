/** A log entry as it is typed: read by the limits and units of the field tables, or what is wrong with it, field by field. */
import type { StateId } from '@/core/engine/states'
import type { UnitChoice } from '@/core/units/units'
import type { LEVELS, LOOKS, SEEN } from '../document/bounds'
import { LINE_FIELDS, type Field } from '../document/fields'
import { LOG_ENTRIES, LOG_FIELDS, QUANTITIES, READING_WAYS, type ReadingWay } from '../document/log-fields'
import type { LogEntry, Variant } from '../document/schema'
import { isThrough } from '../document/kinds'
import { fieldText, readField } from '../edit/typed'

/** Fields that are typed as text. */
export type TypedKey =
  keyof typeof LOG_FIELDS | { [W in ReadingWay]: keyof (typeof READING_WAYS)[W]['figures'] }[ReadingWay]

export type EntryDraft = {
  readonly kind: LogEntry['kind']
  readonly date: string
  /** the can it is about */
  readonly part: string | undefined
  /** what was to be seen of a can that was emptied: so much came out, or it had run over, or it was dry */
  readonly seen: 'measured' | (typeof SEEN)[number]
  readonly looks: (typeof LOOKS)[number]
  readonly level: (typeof LEVELS)[number]
  readonly reading: ReadingDraft
  readonly typed: Readonly<Partial<Record<TypedKey, string>>>
  readonly note: string
}
export type ReadingDraft = {
  readonly state: StateId
  readonly way: ReadingWay
  /** the part or hose that it was made at */
  readonly at: string | undefined
  readonly side: 'vacuum' | 'pressure'
}
/** What is wrong, by field. */
export type EntryProblems = Readonly<Partial<Record<TypedKey | 'date' | 'part' | 'at', string>>>

type EntryContext = {
  readonly variant: Variant
  /** cans that are emptied, by part */
  readonly cans: readonly string[]
  readonly units: UnitChoice
  readonly today: string
  readonly newId: () => string
  /** it may be about no can: a leak test of the engine that is put right */
  readonly withoutCan?: boolean
}

/** Places at which a way of reading can be used in a plan. */
export function placesOf(variant: Variant, way: ReadingWay): readonly { readonly id: string; readonly name: string }[] {
  const { at } = QUANTITIES[READING_WAYS[way].of]
  if (at === undefined) return []
  return at === 'part' ? variant.parts.filter((p) => isThrough(p.kind)) : variant.lines.filter((l) => l.kind === 'hose')
}

/** Typed with a unit of length: a mark on a dipstick. */
const isLength = (text: string): boolean => /(mm|cm|in|")\s*$/i.test(text)
/** A mark on a can's dipstick. */
const DIPSTICK: Field = { ...LINE_FIELDS.lengthMm, label: 'Mark on the dipstick', min: 0, max: 1000 }

/** The entry of a draft, or what keeps it from being one. */
export function logEntryOf(
  draft: EntryDraft,
  { variant, cans, units, today, newId, withoutCan = false }: EntryContext,
): { readonly entry: LogEntry; readonly problems?: undefined } | { readonly problems: EntryProblems } {
  const problems: Partial<Record<keyof EntryProblems, string>> = {}
  const { kind, seen, reading, date } = draft
  const read = (key: TypedKey, field: Field, needed = false): number | undefined => {
    const text = draft.typed[key]?.trim() ?? ''
    if (text === '') {
      if (needed) problems[key] = 'Needed.'
      return undefined
    }
    const value = readField(field, units, text)
    if (value.ok) return value.value
    problems[key] = value.reason
    return undefined
  }
  // with more than one can it is said each time: what was meant for one went into the other
  const part = cans.length === 1 && !withoutCan ? cans[0] : cans.find((c) => c === draft.part)
  const { ofCan } = LOG_ENTRIES[kind]
  if (ofCan && part === undefined && !withoutCan)
    problems.part = cans.length === 0 ? 'There is no can in this circuit.' : 'Say which can it was.'

  /** What a can holds or gave: by the cup, or by the mark on its dipstick, by the bowl's own shape. */
  function content(needed: boolean): number | undefined {
    const can = variant.parts.find((p) => p.id === part)
    if (kind === 'oil-added' || can?.kind !== 'can' || !isLength(draft.typed.ml ?? ''))
      return read('ml', LOG_FIELDS.ml, needed)
    const mm = read('ml', DIPSTICK, needed)
    return mm === undefined ? undefined : Number(((mm / 10) * can.faceCm2).toPrecision(4))
  }
  function figuresRead(): LogEntry['reading'] {
    const { state, way, at, side } = reading
    const figures: Partial<Record<string, number | undefined>> = {}
    for (const [key, field] of Object.entries(READING_WAYS[way].figures))
      figures[key] = read(key as TypedKey, field, true)
    // a sign that was typed says which way by itself
    if (way === 'crankcase' && side === 'vacuum' && figures.kpa !== undefined) figures.kpa = -Math.abs(figures.kpa)
    if (placesOf(variant, way).length > 0 && at === undefined) problems.at = 'Say where.'
    return { state, at: QUANTITIES[READING_WAYS[way].of].at && at, ...figures }
  }

  const emptied = kind === 'emptied'
  const measured = emptied && seen === 'measured'
  const odometerKm = read('odometerKm', LOG_FIELDS.odometerKm, true)
  const holds = kind === 'oil-added' || kind === 'checked' || (emptied && seen !== 'dry')
  const ml = holds ? content(measured || kind === 'oil-added') : undefined
  const waterMl = measured ? read('waterMl', LOG_FIELDS.waterMl) : undefined
  if (ml !== undefined && waterMl !== undefined && waterMl > ml) problems.waterMl = 'More than all that came out.'
  const sessions = emptied ? read('sessions', LOG_FIELDS.sessions) : undefined
  const taken = kind === 'reading' ? figuresRead() : undefined
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) problems.date = 'Choose a day.'
  else if (date > today) problems.date = 'That day is still to come.'
  if (odometerKm === undefined || Object.keys(problems).length > 0) return { problems }
  const entry: { [K in keyof LogEntry]: LogEntry[K] } = {
    id: newId(),
    date,
    kind,
    odometerKm,
    plan: variant.id,
    part: ofCan ? part : undefined,
    ml,
    waterMl,
    seen: emptied && seen !== 'measured' ? seen : undefined,
    looks: emptied && seen !== 'dry' && draft.looks !== 'oil' ? draft.looks : undefined,
    sessions,
    level: kind === 'level' ? draft.level : undefined,
    reading: taken,
    note: draft.note.trim() || undefined,
  }
  // what was not said is not there
  return { entry: JSON.parse(JSON.stringify(entry)) as LogEntry }
}

/** The way in which a reading of the log was made. */
function wayOf(r: NonNullable<LogEntry['reading']>): ReadingWay {
  if (r.orificeMm !== undefined) return 'orifice'
  if (r.trimPct !== undefined) return 'trim'
  if (r.velocityMPerS !== undefined) return 'velocity'
  if (r.lpm !== undefined) return r.at === undefined ? 'meter' : 'flow'
  return r.at === undefined ? 'crankcase' : 'drop'
}

/** An entry of the log as it would be typed, in the units in use; a crankcase under vacuum as its size, the side beside it. */
export function draftOf(entry: LogEntry, units: UnitChoice): EntryDraft {
  const { reading } = entry
  const way = reading ? wayOf(reading) : 'crankcase'
  const figures: Readonly<Partial<Record<string, Field>>> = { ...LOG_FIELDS, ...READING_WAYS[way].figures }
  const values: Readonly<Partial<Record<string, unknown>>> = { ...reading, ...entry }
  const typed = Object.entries(figures).flatMap(([key, field]) => {
    const value = values[key]
    if (typeof value !== 'number' || field === undefined) return []
    const shown = way === 'crankcase' && key === 'kpa' ? Math.abs(value) : value
    return [[key, fieldText(field, units, shown, 7)]]
  })
  return {
    kind: entry.kind,
    date: entry.date,
    part: entry.part,
    seen: entry.seen ?? 'measured',
    looks: entry.looks ?? 'oil',
    level: entry.level ?? 'full',
    reading: {
      state: reading?.state ?? 'idle',
      way,
      at: reading?.at,
      side: (reading?.kpa ?? -1) > 0 ? 'pressure' : 'vacuum',
    },
    typed: Object.fromEntries(typed),
    note: entry.note ?? '',
  }
}

/** An entry as its draft was changed: a figure whose text nobody touched stays to the last digit what it was. */
export function changedEntry(
  entry: LogEntry,
  draft: EntryDraft,
  context: Omit<EntryContext, 'newId'>,
): ReturnType<typeof logEntryOf> {
  const before = draftOf(entry, context.units)
  const made = logEntryOf(draft, { ...context, newId: () => entry.id })
  if (made.problems) return made
  const same = (key: string) => draft.typed[key as TypedKey] === before.typed[key as TypedKey]
  const keep = <T extends object>(now: T, was: object): T =>
    Object.fromEntries(
      Object.entries(now).map(([key, value]) => {
        const old = (was as Readonly<Record<string, unknown>>)[key]
        return [key, typeof old === 'number' && same(key) ? old : (value as unknown)]
      }),
    ) as T
  const { reading } = made.entry
  const sameWay = draft.reading.way === before.reading.way && draft.reading.side === before.reading.side
  return {
    entry: {
      ...keep(made.entry, draft.kind === entry.kind ? entry : { odometerKm: entry.odometerKm }),
      ...(reading && entry.reading && sameWay ? { reading: keep(reading, entry.reading) } : {}),
    },
  }
}
