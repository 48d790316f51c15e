/** The log as a table: out, and in again from another program, its columns said, all of it or nothing. */
import { differenceInCalendarDays } from 'date-fns'
import { fail, ok, type Result } from '@/core/result'
import { STATE_IDS } from '@/core/engine/states'
import { LEVELS, LOG_KINDS, LOOKS, MAX_LOG, SEEN } from '../document/bounds'
import type { Field } from '../document/fields'
import { LOG_ENTRIES, LOG_FIELDS, READING_FIELDS, readingProblem } from '../document/log-fields'
import type { Build, LogEntry, Variant } from '../document/schema'
import { isSoundEntry } from '../document/sound-entry'
import { activeVariant, type Edit } from '../edit/edit'
import { difference } from '../edit/diff'
import { byLine, csvOf, readCsv, tableOf } from '../files/csv'

export const LOG_COLUMNS = [
  'date',
  'kind',
  'odometer_km',
  'can',
  'ml',
  'water_ml',
  'seen',
  'looks',
  'level',
  'sessions',
  'state',
  'at',
  'kpa',
  'lpm',
  'm_per_s',
  'orifice_mm',
  'trim_pct',
  'note',
] as const
export type LogColumn = (typeof LOG_COLUMNS)[number]
/** Columns that a table must have, and what other programs may call each. */
export const NEEDED: readonly LogColumn[] = ['date', 'odometer_km']
const ALSO: Readonly<Partial<Record<LogColumn, readonly string[]>>> = {
  date: ['day', 'datum', 'when'],
  kind: ['what', 'type', 'event'],
  odometer_km: ['odometer', 'km', 'mileage', 'kilometres', 'kilometers'],
  can: ['part', 'which', 'tank'],
  ml: ['volume', 'amount', 'millilitres', 'oil_ml'],
  water_ml: ['water'],
  note: ['notes', 'remark', 'comment'],
  kpa: ['pressure', 'pressure_kpa'],
}

/** The log as CSV, a row an entry, in the units of the build; `readLog` reads it again. */
export const logCsv = (build: Build): string => {
  const places = build.variants.flatMap((v) => [...v.parts, ...v.lines])
  const name = (id: string | undefined) => places.find((p) => p.id === id)?.name ?? id
  return csvOf([
    LOG_COLUMNS,
    ...build.log.map((e) => [
      e.date,
      e.kind,
      e.odometerKm,
      name(e.part),
      e.ml,
      e.waterMl,
      e.seen,
      e.looks,
      e.level,
      e.sessions,
      e.reading?.state,
      name(e.reading?.at),
      e.reading?.kpa,
      e.reading?.lpm,
      e.reading?.velocityMPerS,
      e.reading?.orificeMm,
      e.reading?.trimPct,
      e.note,
    ]),
  ])
}

/** Heads of a file, and the column that each of ours is likely to be in. */
export function guessColumns(text: string): {
  readonly heads: readonly string[]
  readonly guess: Readonly<Partial<Record<LogColumn, string>>>
} {
  const heads = tableOf(text)[0] ?? []
  const plain = (s: string) =>
    s
      .trim()
      .toLowerCase()
      .replaceAll(/[\s()]+/g, '_')
      .replace(/_$/, '')
  const guess: Partial<Record<LogColumn, string>> = {}
  for (const column of LOG_COLUMNS) {
    const found = heads.find((h) => plain(h) === column) ?? heads.find((h) => ALSO[column]?.includes(plain(h)))
    if (found !== undefined) guess[column] = found
  }
  return { heads, guess }
}

/** Figures of a row, or what is wrong with them. */
function figure(cell: string | undefined, field: Field, name: string, problems: string[]): number | undefined {
  if (!cell) return undefined
  const value = Number(cell.replace(',', '.').replace('−', '-'))
  if (value >= field.min && value <= field.max) return value
  problems.push(`${name} is not a number from ${field.min} to ${field.max}.`)
  return undefined
}
function word<T extends string>(
  cell: string | undefined,
  words: readonly T[],
  name: string,
  problems: string[],
): T | undefined {
  if (!cell) return undefined
  const found = words.find((w) => w === cell.trim().toLowerCase())
  if (found === undefined) problems.push(`${name} must be one of ${words.join(', ')}.`)
  return found
}

/**
 * Entries of a table by the columns that were said, in the order of the odometer; all of them or none.
 * @param columns head in the file of each of our columns
 * @param newId an id nobody has yet
 */
export function readLog(
  build: Build,
  text: string,
  columns: Readonly<Partial<Record<LogColumn, string>>>,
  { today, newId }: { readonly today: string; readonly newId: () => string },
): Result<readonly LogEntry[]> {
  const missing = NEEDED.filter((c) => columns[c] === undefined)
  if (missing.length > 0)
    return fail(`Say which column holds the ${missing.join(' and the ').replace('odometer_km', 'odometer')}.`)
  const wanted = LOG_COLUMNS.flatMap((c) => (columns[c] === undefined ? [] : [columns[c]]))
  const read = readCsv(text, wanted)
  if (!read.ok) return read
  if (read.value.length + build.log.length > MAX_LOG) return fail(`The log would hold more than ${MAX_LOG} entries.`)
  const variant = activeVariant(build)
  const cans = variant.parts.filter((p) => p.kind === 'can')
  const problems: { line: number; says: string }[] = []
  const entries = read.value.map(({ line, cells }): LogEntry => {
    const wrong: string[] = []
    const cell = (c: LogColumn) => (columns[c] === undefined ? undefined : cells[columns[c]])
    const ml = figure(cell('ml'), LOG_FIELDS.ml, 'ml', wrong)
    const reading = readingIn(cell, variant, wrong)
    const kind =
      word(cell('kind'), LOG_KINDS, 'kind', wrong) ??
      (reading !== undefined ? 'reading' : ml !== undefined ? 'emptied' : 'checked')
    const named = cell('can')
    const can = named
      ? cans.find((p) => p.name.toLowerCase() === named.toLowerCase() || p.id === named)
      : cans.length === 1
        ? cans[0]
        : undefined
    const { ofCan } = LOG_ENTRIES[kind]
    if (named && !can && ofCan) wrong.push(`this plan has no can called ${named}.`)
    if (!named && !can && ofCan && cans.length > 1) wrong.push('says not which of the cans it was.')
    const date = (cell('date') ?? '').slice(0, 10)
    const odometerKm = figure(cell('odometer_km'), LOG_FIELDS.odometerKm, 'odometer', wrong)
    if (odometerKm === undefined && wrong.length === 0) wrong.push('has no odometer.')
    const says = kind === 'reading' ? readingProblem(reading) : undefined
    if (says) wrong.push(`its reading ${says}.`)
    const entry = {
      id: newId(),
      date,
      kind,
      odometerKm: odometerKm ?? 0,
      plan: build.active,
      ...(ofCan && can ? { part: can.id } : {}),
      ...(ml === undefined ? {} : { ml }),
      ...optional('waterMl', figure(cell('water_ml'), LOG_FIELDS.waterMl, 'water_ml', wrong)),
      ...optional('seen', word(cell('seen'), SEEN, 'seen', wrong)),
      ...optional('looks', word(cell('looks'), LOOKS, 'looks', wrong)),
      ...optional('level', word(cell('level'), LEVELS, 'level', wrong)),
      ...optional('sessions', figure(cell('sessions'), LOG_FIELDS.sessions, 'sessions', wrong)),
      ...(kind === 'reading' ? optional('reading', reading) : {}),
      ...optional('note', cell('note')?.slice(0, 500) || undefined),
    }
    if (wrong.length === 0 && !isSoundEntry(entry))
      wrong.push('its date must be a day of the calendar such as 2026-05-30.')
    if (wrong.length === 0 && differenceInCalendarDays(new Date(today), new Date(date)) < 0)
      wrong.push('its day is still to come.')
    for (const says of wrong) problems.push({ line, says })
    return entry as LogEntry
  })
  if (problems.length > 0) return fail(byLine(problems))
  if (entries.length === 0) return fail('The table holds no entries.')
  return ok(entries)
}
/** The reading of a row; undefined where it has none. */
function readingIn(cell: (c: LogColumn) => string | undefined, variant: Variant, wrong: string[]): LogEntry['reading'] {
  const figures = {
    ...optional('kpa', figure(cell('kpa'), READING_FIELDS.kpa, 'kpa', wrong)),
    ...optional('lpm', figure(cell('lpm'), READING_FIELDS.lpm, 'lpm', wrong)),
    ...optional('velocityMPerS', figure(cell('m_per_s'), READING_FIELDS.velocityMPerS, 'm_per_s', wrong)),
    ...optional('orificeMm', figure(cell('orifice_mm'), READING_FIELDS.orificeMm, 'orifice_mm', wrong)),
    ...optional('trimPct', figure(cell('trim_pct'), READING_FIELDS.trimPct, 'trim_pct', wrong)),
  }
  const state = word(cell('state'), STATE_IDS, 'state', wrong)
  if (Object.keys(figures).length === 0) return undefined
  if (state === undefined) wrong.push('a reading needs its state.')
  const named = cell('at')
  const place = [...variant.parts, ...variant.lines].find(
    (x) => x.id === named || x.name.toLowerCase() === named?.toLowerCase(),
  )
  if (named && !place) wrong.push(`this plan has nothing called ${named}.`)
  return { state: state ?? 'idle', ...optional('at', place?.id), ...figures }
}
const optional = <K extends string, V>(key: K, value: V | undefined) => (value === undefined ? {} : { [key]: value })

/** What puts entries into the log where they belong. */
export function importEntries(build: Build, entries: readonly LogEntry[]): readonly Edit[] {
  const log = [...build.log, ...entries].toSorted((a, b) => a.date.localeCompare(b.date) || a.odometerKm - b.odometerKm)
  return difference(build, { ...build, log })
}
