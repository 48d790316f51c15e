/** What is due, as a calendar file: a day for every can that must be looked at. */
import { createEvents } from 'ics'
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

/** Cans with a day by which to look, the first due first. */
export const dueOf = (summaries: readonly BuildSummary[]): readonly Due[] =>
  summaries
    .flatMap((s): Due[] =>
      s.can?.checkDate && s.can.logged
        ? [{ build: s.name, can: s.can.name, date: s.can.checkDate, reason: s.can.checkReason }]
        : [],
    )
    .toSorted((a, b) => a.date.localeCompare(b.date))

/** An iCalendar file (RFC 5545) of all-day entries; fails when nothing is due. */
export function calendarOf(due: readonly Due[]): Result<string> {
  if (due.length === 0) return fail('No can has a day by which to look at it yet: log when it was fitted.')
  const made = createEvents(
    due.map(({ build, can, date, reason }) => {
      const [y, m, d] = date.split('-').map(Number) as [number, number, number]
      return {
        // the same can keeps its entry: a calendar moves it instead of adding another
        uid: `${encodeURIComponent(`${build}-${can}`)}@ivent`,
        start: [y, m, d] as [number, number, number],
        duration: { days: 1 },
        title: `${build}: look into the ${can.toLowerCase()}`,
        description: `${REASONS[reason]} Let it cool first; what comes out goes where used oil is taken.`,
        productId: 'ivent',
        alarms: [
          { action: 'display' as const, description: 'Look into the can', trigger: { hours: 12, before: true } },
        ],
      }
    }),
  )
  return made.value ? ok(made.value) : fail('The calendar could not be written.')
}
