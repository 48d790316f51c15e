/** The log of one can on the plan that it hangs in: what every filling says, against what the model would have gathered. */
import { WET_WALL_M3, type Amount, type Emptying } from '@/core/service/prior'
import { toSi } from '@/core/units/units'
import type { Build, LogEntry } from '../document/schema'
import type { CanForecast, DutyRates } from '../model/results'
import { predictedFor, type RatesByWeather } from './can-rates'

/** The plan on the engine when an entry was made. */
export const planOf = (build: Build, e: LogEntry): string => e.plan ?? build.variants[0]!.id

export type CanLog = {
  /** what fillings say, in the order in which they were driven, since the last work on the engine, and before it */
  readonly fillings: readonly Emptying[]
  readonly earlier: readonly Emptying[]
  readonly history: CanForecast['history']
  /** odometer in m when it was last empty, and the day; undefined before it is logged as fitted */
  readonly emptyAt: number | undefined
  readonly emptyOn: string | undefined
  /** what the model had gathered, m3, where it last ran over */
  readonly ranOver: number | undefined
  /** what it held when it was last looked into and not emptied */
  readonly look: CanForecast['look']
  /** odometer in m when it was last looked into since it was empty, whatever it held */
  readonly lookedAt: number | undefined
  /** sessions ticked since it was last empty, and since it was last empty or looked into */
  readonly sessionsSince: number
  readonly sessionsAfter: number
}

/**
 * What an emptying says: told apart or all together, or only that the bowl was full or had run over, or that there was
 * nothing to measure.
 */
function saidBy(e: LogEntry, predicted: DutyRates, bowlM3: number): Emptying {
  const ml = (v: number) => toSi('volume', v, 'ml')
  const all = ml(e.ml ?? 0)
  if (e.seen === 'overflowed' || all >= bowlM3) return { predicted, all: { atLeast: Math.max(all, bowlM3) } }
  if (e.seen === 'dry' || all === 0) return { predicted, all: { atMost: WET_WALL_M3 } }
  if (e.waterMl === undefined) return { predicted, all: { found: all } }
  const amount = (v: number): Amount => (v <= 0 ? { atMost: WET_WALL_M3 } : { found: v })
  return { predicted, oil: amount(all - ml(e.waterMl)), water: amount(ml(e.waterMl)) }
}

/** Oil and water of what came out, for showing it: as told apart, else split as the model would have it. */
function split(e: LogEntry, predicted: DutyRates, bowlM3: number): DutyRates {
  const all = e.ml === undefined && e.seen === 'overflowed' ? bowlM3 : toSi('volume', e.ml ?? 0, 'ml')
  const water =
    e.waterMl !== undefined
      ? toSi('volume', e.waterMl, 'ml')
      : (all * predicted.water) / Math.max(predicted.oil + predicted.water, 1e-12)
  return { oil: all - water, water }
}

/** The last look into a can that was not emptied then, with what it held, m3, and the odometer, m. */
function lookedInto(
  since: readonly LogEntry[],
  part: string,
): { entry: LogEntry; at: number; held: number } | undefined {
  const entry = since.findLast((e) => e.kind === 'checked' && e.part === part && e.ml !== undefined)
  return entry && { entry, at: entry.odometerKm * 1000, held: toSi('volume', entry.ml!, 'ml') }
}

/** A filling of which nobody says what was track. */
const withoutTrack = (e: Emptying): Emptying => ({
  ...e,
  predicted: { oil: e.predicted.oil, water: e.predicted.water },
})

/** Sessions that were ticked one by one between two entries of a plan, or up to now; undefined where none were. */
function sessionsOn(onPlan: readonly LogEntry[]) {
  let sessions = 0
  const before = new Map(onPlan.map((e) => [e, e.kind === 'session' ? sessions++ : sessions]))
  return (from: LogEntry | undefined, to?: LogEntry): number | undefined => {
    const n = (to ? before.get(to)! : sessions) - (from ? before.get(from)! : 0)
    return n === 0 ? undefined : n
  }
}

/** Days during which a plan had a fault that was then mended: what it gathered meanwhile says nothing of it as it is. */
function faultyOn(build: Build, plan: string): readonly { readonly from: string; readonly to: string }[] {
  return (build.cases ?? []).flatMap((c) =>
    c.plan === plan && c.closed && c.closed.fault !== NO_FAULT && c.closed.fixed !== false
      ? [{ from: c.since ?? c.opened, to: c.closed.on }]
      : [],
  )
}
/** What a case is closed with where nothing was wrong. */
const NO_FAULT = 'nothing'

/** A can of a plan, and what its bowl holds. */
type LoggedCan = { readonly plan: string; readonly can: string; readonly bowlM3: number }

/** What the log says of one can: its emptyings in the order of the odometer, each beside what the model predicted (m3). */
export function readCanLog(build: Build, { plan, can, bowlM3 }: LoggedCan, rates: RatesByWeather): CanLog {
  // in the order in which it was driven, however the log arrived
  const onPlan = build.log.filter((e) => planOf(build, e) === plan).toSorted((x, y) => x.odometerKm - y.odometerKm)
  const ticked = sessionsOn(onPlan)
  const faulty = faultyOn(build, plan)
  const said: Emptying[] = []
  const history: CanForecast['history'][number][] = []
  let emptied: LogEntry | undefined
  let logsTrack = false
  let ranOver: number | undefined
  let works = 0
  // each interval by the weather of its own months
  const predicted = (since: LogEntry, e: LogEntry, driven: number | undefined) => {
    logsTrack ||= driven !== undefined
    return predictedFor(rates.during(since.date, e.date), metresTo(e, since), driven)
  }
  const metresTo = (e: LogEntry, since: LogEntry) => (e.odometerKm - since.odometerKm) * 1000
  for (const e of onPlan) {
    if (e.part !== can || (e.kind !== 'fitted' && e.kind !== 'emptied')) continue
    if (e.kind === 'emptied' && emptied) {
      const model = predicted(emptied, e, e.sessions ?? ticked(emptied, e))
      const says = saidBy(e, model, bowlM3)
      const since = emptied.date
      const ofFault = faulty.some(({ from, to }) => e.date > from && since < to)
      if (!ofFault) said.push(says)
      if (says.all && 'atLeast' in says.all) ranOver = model.oil + model.water
      history.push({
        id: e.id,
        date: e.date,
        found: split(e, model, bowlM3),
        predicted: model,
        metres: metresTo(e, emptied),
        ...(ofFault ? { ofFault } : {}),
      })
    } else if (e.kind === 'fitted') works = said.length
    emptied = e
  }
  // a can that was looked into and left: what it held then is known better than what the road says of it
  const look = emptied && lookedInto(onPlan.slice(onPlan.indexOf(emptied) + 1), can)
  if (look && emptied) {
    said.push(saidBy(look.entry, predicted(emptied, look.entry, ticked(emptied, look.entry)), bowlM3))
  }
  const looked =
    emptied && onPlan.slice(onPlan.indexOf(emptied) + 1).findLast((e) => e.kind === 'checked' && e.part === can)
  const sessionsSince = emptied ? (ticked(emptied) ?? 0) : 0
  // road and track are told apart once a filling says how many sessions it took
  const fillings = logsTrack ? said : said.map(withoutTrack)
  return {
    fillings: fillings.slice(works),
    earlier: fillings.slice(0, works),
    history,
    emptyAt: emptied && emptied.odometerKm * 1000,
    emptyOn: emptied?.date,
    ranOver,
    lookedAt: looked && looked.odometerKm * 1000,
    look: look && { at: look.at, held: look.held, date: look.entry.date },
    sessionsSince,
    sessionsAfter: look ? (ticked(look.entry) ?? 0) : sessionsSince,
  }
}
