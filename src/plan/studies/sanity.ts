/** What of an entry is hard to believe: said as it is typed, with a way to say that it is so. */
import type { Build, LogEntry } from '../document/schema'
import type { CanForecast } from '../model/results'
import type { UnitFormatter } from '../document/words'
import { quantityOf } from '../service/readings'

/** Fuller than this of its bowl by volume nothing comes out of a can (it runs over first); a day's driving, km. */
const OVER = 1.05
const DAY_KM = 2000

/** Doubts about an entry that is not in the log yet, each a sentence; none when it fits what is known. */
export function entryWarnings(
  build: Build,
  cans: readonly CanForecast[],
  e: Omit<LogEntry, 'id'>,
  say: UnitFormatter,
): readonly string[] {
  const out: string[] = []
  const plan = e.plan ?? build.variants[0]!.id
  const can = cans.find((c) => c.part === e.part)
  const ml = (v: number) => say.volume(v * 1e-6)
  if (e.kind === 'emptied' && can && e.ml !== undefined && e.ml * 1e-6 > OVER * can.bowlM3)
    out.push(`${ml(e.ml)} from a can that holds ${say.volume(can.bowlM3)}.`)
  const before = build.log.filter((x) => x.date <= e.date).at(-1)
  const after = build.log.find((x) => x.date > e.date)
  if (before && e.odometerKm < before.odometerKm)
    out.push(
      `The odometer stood at ${say.distance(before.odometerKm * 1000)} on ${before.date}; now it runs backwards.`,
    )
  if (after && e.odometerKm > after.odometerKm)
    out.push(`The odometer stood at ${say.distance(after.odometerKm * 1000)} later, on ${after.date}.`)
  if (before && e.odometerKm - before.odometerKm > DAY_KM * Math.max(1, days(before.date, e.date)))
    out.push(`That is ${say.distance((e.odometerKm - before.odometerKm) * 1000)} in ${days(before.date, e.date)} days.`)
  const fitted = build.log.find(
    (x) => x.kind === 'fitted' && x.part === e.part && (x.plan ?? build.variants[0]!.id) === plan,
  )
  if (
    (e.kind === 'emptied' || e.kind === 'checked') &&
    fitted &&
    (e.date < fitted.date || e.odometerKm < fitted.odometerKm)
  )
    out.push(`It was fitted on ${fitted.date}, after that.`)
  if (e.kind === 'reading' && e.reading && quantityOf(e.reading) === 'crankcase' && Math.abs(e.reading.kpa!) > 12)
    out.push(
      `${say.pressure(e.reading.kpa! * 1000)} is more than a crankcase bears for long: look at the unit, and which way the gauge was turned.`,
    )
  return out
}
const days = (a: string, b: string) => Math.max(1, Math.round((Date.parse(b) - Date.parse(a)) / 86_400_000))
