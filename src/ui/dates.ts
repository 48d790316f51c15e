/** Days and moments as people read them, by the browser's own formatter: a date library's words would weigh 10 kB on every page. */
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
const DAY_LONG = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' })
const DAY_SHORT = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' })
const MOMENT = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  second: '2-digit',
})

/** '2026-05-30' as 30 May 2026 (long: 30 May 2026 with the month in full; short: 30 May). */
export const day = (iso: string, length: 'long' | 'medium' | 'short' = 'medium'): string =>
  ({ long: DAY_LONG, medium: DAY, short: DAY_SHORT })[length].format(new Date(`${iso}T00:00Z`))

/** A full timestamp in the reader's own time zone. */
export const moment = (iso: string): string => MOMENT.format(new Date(iso))
