/** What is due, as a calendar file: a day for every can that must be looked at. */
import ICAL from 'ical.js'
import { fail, ok, type Result } from '@/core/result'
import type { LookReason } from '../model/results'
import type { BuildSummary } from './summary'

export type Due = { readonly build: string; readonly can: string; readonly date: string; readonly reason: LookReason }

/** Why a day stands in the calendar. */
const REASONS: Readonly<Record<LookReason, string>> = {
  'first look': 'Its first look: new as it is, it says most.',
  'own interval': 'Your own interval is up.',
  forecast: 'By the forecast one in ten is full by this day.',
  'ran over': 'As much will have gathered as when it last ran over.',
}

/** Cans with a day by which to look, the first due first; a build that is put away asks for nothing. */
export const dueOf = (summaries: readonly BuildSummary[]): readonly Due[] =>
  summaries
    .filter((s) => !s.away)
    .flatMap((s) =>
      s.cans.flatMap((can): Due[] =>
        can.checkDate && can.logged
          ? [{ build: s.name, can: can.name, date: can.checkDate, reason: can.checkReason }]
          : [],
      ),
    )
    .toSorted((a, b) => a.date.localeCompare(b.date))

/** One can's day: all day long, with a word the evening before. */
function entryOf({ build, can, date, reason }: Due, today: string): ICAL.Component {
  const entry = new ICAL.Component('vevent')
  // the same can keeps its entry: a calendar moves it instead of adding another
  entry.addPropertyWithValue('uid', `${encodeURIComponent(`${build}-${can}`)}@ivent`)
  entry.addPropertyWithValue('dtstamp', ICAL.Time.fromDateTimeString(`${today}T00:00:00Z`))
  entry.addPropertyWithValue('dtstart', ICAL.Time.fromDateString(date))
  entry.addPropertyWithValue('duration', ICAL.Duration.fromString('P1D'))
  entry.addPropertyWithValue('summary', `${build}: look into the ${can.toLowerCase()}`)
  entry.addPropertyWithValue(
    'description',
    `${REASONS[reason]} Let it cool first; what comes out goes where used oil is taken.`,
  )
  const alarm = new ICAL.Component('valarm')
  alarm.addPropertyWithValue('action', 'DISPLAY')
  alarm.addPropertyWithValue('description', 'Look into the can')
  alarm.addPropertyWithValue('trigger', ICAL.Duration.fromString('-PT12H'))
  entry.addSubcomponent(alarm)
  return entry
}

/**
 * An iCalendar file (RFC 5545) of all-day entries; fails when nothing is due.
 * @param today the day on which it is written
 */
export function calendarOf(due: readonly Due[], today: string): Result<string> {
  if (due.length === 0) return fail('No can has a day by which to look at it yet: log when it was fitted.')
  const calendar = new ICAL.Component('vcalendar')
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('prodid', '-//Ivent//Looks that are due//EN')
  for (const d of due) calendar.addSubcomponent(entryOf(d, today))
  return ok(`${calendar.toString()}\r\n`)
}
