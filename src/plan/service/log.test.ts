/** The log: tables in and out, doubts, track days, calibration, the calendar, and the size of a can. */
import { format } from 'date-fns'
import { parseICS } from 'node-ical'
import { finish } from '@/core/job'
import { activeVariant, applyEdits } from '../edit/edit'
import { analyse } from '../analyse'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { forecastChecks } from './forecast'
import { climateOf } from '../catalogue/climates'
import { LOG_KINDS } from '../document/bounds'
import type { Build, LogEntry, PartOf } from '../document/schema'
import { validateBuild } from '../document/validate'
import { setField, setLine, setPart, upsertLogEntry } from '../edit/edit-builders'
import { asOnCar, fittedPlan } from '../document/fitted-plan'
import { unitFormatter } from '../document/words'
import { isSolved } from '../model/results'
import { newBuild } from '../schools/new-build'
import { frost } from '../faults/frost'
import { sizeBins } from '@/core/separation/droplets'
import { MIST } from '@/core/separation/source'
import { gradeOf, liftOf } from '../studies/grade'
import { sizeCan } from '../studies/size-can'
import { after } from '../testing'
import { oilBalance } from './balance'
import { canRates } from './can-rates'
import { daysByMonth } from './days'
import { returnedBy } from './oil-water'
import { foundByMonth } from './by-month'
import { calendarOf, dueOf } from '../studies/calendar'
import { guessColumns, LOG_COLUMNS, logCsv, readLog, importEntries } from './log-csv'
import { entryWarnings } from '../studies/sanity'
import { summarise } from '../studies/summary'
import { intervalsOf } from './catch-rate'
import { TRACK_KM_PER_SESSION } from '../model/duty'
import { trackDay } from './track-day'

const DAY = '2026-11-25'
const build = (school = 'both-sides', use: 'street' | 'track' | 'street-track' = 'street-track'): Build =>
  newBuild({ name: 'Log', engineClass: 'i5-turbo', use, ambientC: 5, units: 'metric', school })
const can = (b: Build) => activeVariant(b).parts.find((p) => p.kind === 'can')!
let n = 0
const entry = (b: Build, date: string, odometerKm: number, more: Partial<LogEntry> = {}): LogEntry =>
  ({ id: `e${++n}`, date, odometerKm, kind: 'emptied', plan: b.active, part: can(b).id, ml: 30, ...more }) as LogEntry
const logged = (b: Build, ...log: LogEntry[]): Build => ({ ...b, log })
const ids = () => {
  let k = 0
  return () => `new-${++k}`
}

test('a log goes out as a table and comes back the same, whatever its columns are called', () => {
  const b = logged(
    build(),
    entry(build(), '2026-05-01', 1000, { kind: 'fitted', ml: undefined }),
    entry(build(), '2026-06-01', 2000, { waterMl: 10, looks: 'milky', sessions: 2, note: '=so it was' }),
    entry(build(), '2026-07-01', 3000, {
      kind: 'reading',
      part: undefined,
      ml: undefined,
      reading: { state: 'idle', kpa: -0.5 },
    }),
  )
  const text = logCsv(b)
  const empty = { ...b, log: [] }
  const { guess } = guessColumns(text)
  expect(Object.keys(guess)).toEqual([...LOG_COLUMNS])
  const read = readLog(empty, text, guess, { today: DAY, newId: ids() })
  if (!read.ok) throw new Error(read.reason)
  const plain = (e: LogEntry) => ({ ...e, id: '' })
  const back = applyEdits(empty, importEntries(empty, read.value))
  expect(back.ok && back.value.log.map(plain)).toEqual(JSON.parse(JSON.stringify(b.log.map(plain))))
  const other = guessColumns('Day,Mileage,Volume,Notes\n')
  expect(other.guess).toEqual({ date: 'Day', odometer_km: 'Mileage', ml: 'Volume', note: 'Notes' })
})

test('a bad table is refused whole, with the line and the reason; five thousand rows go in at once', () => {
  const b = build('vacuum-side-can')
  const columns = { date: 'date', odometer_km: 'km', ml: 'ml' } as const
  const says = (text: string) => {
    const r = readLog(b, text, columns, { today: DAY, newId: ids() })
    return r.ok ? 'read' : r.reason
  }
  expect(says('date,km,ml\n2026-02-31,5,1')).toMatch(/Line 2: its date must be a day/)
  expect(says('date,km,ml\n2026-01-31,far,1\n2026-01-31,5,-3')).toMatch(/Line 2: odometer.*Line 3: ml/)
  expect(says('date,km,ml\n2027-01-31,5,1')).toMatch(/still to come/)
  expect(readLog(b, 'a,b\n1,2', {}, { today: DAY, newId: ids() }).ok).toBe(false)
  const rows = Array.from({ length: 4999 }, (_, i) => `2026-0${1 + (i % 9)}-01,${i},20`)
  const many = readLog(b, ['date,km,ml', ...rows].join('\n'), columns, { today: DAY, newId: ids() })
  if (!many.ok) throw new Error(many.reason)
  const next = applyEdits(b, importEntries(b, many.value))
  if (!next.ok) throw new Error(next.reason)
  expect(next.value.log.length).toBe(4999)
  expect(validateBuild(JSON.parse(JSON.stringify(next.value))).ok).toBe(true)
  const one = { ...next.value, log: [...next.value.log, ...many.value, ...many.value] }
  expect(readLog(one, 'date,km,ml\n2026-01-31,5,1', columns, { today: DAY, newId: ids() }).ok).toBe(false)
})

test('what is hard to believe is doubted in words, what fits is not', () => {
  const base = build('vacuum-side-can')
  const b = logged(base, entry(base, '2026-05-01', 1000, { kind: 'fitted' }), entry(base, '2026-06-01', 2000))
  const say = unitFormatter(b.units)
  const { cans } = analyse(b, DAY)
  const of = (e: LogEntry) => entryWarnings(b, cans, e, say).join(' ')
  expect(of(entry(b, '2026-07-01', 3000))).toBe('')
  expect(of(entry(b, '2026-07-01', 3000, { ml: 900 }))).toMatch(/900 ml from a can that holds 350/)
  expect(of(entry(b, '2026-07-01', 1500))).toMatch(/runs backwards/)
  expect(of(entry(b, '2026-04-01', 900))).toMatch(/fitted on 2026-05-01, after that/)
  expect(of(entry(b, '2026-06-02', 90_000))).toMatch(/in 1 days/)
  expect(of(entry(b, '2026-07-01', 3000, { kind: 'reading', reading: { state: 'idle', kpa: -30 } }))).toMatch(
    /more than a crankcase bears/,
  )
})

test('a track day: empty before it would run over in one case of ten, and what is ticked counts', () => {
  const base = build('vacuum-side-can', 'track')
  const small = after(base, setPart('can', { bowlMl: 15 }))
  const b = logged(small, entry(small, '2026-11-01', 1000, { kind: 'fitted' }))
  const [c] = analyse(b, DAY).cans
  const day = trackDay(c!, 12)
  expect(day.emptyAfter).toBeDefined()
  expect(day.fills[day.emptyAfter!]!.heavy).toBeGreaterThanOrEqual(1)
  if (day.emptyAfter! > 0) expect(day.fills[day.emptyAfter! - 1]!.heavy).toBeLessThan(1)
  for (const [i, f] of day.fills.entries()) expect(f.likely).toBeGreaterThan(i === 0 ? 0 : day.fills[i - 1]!.likely)
  // two sessions ticked: it holds more, and they are what the next emptying is set against
  const session = (k: number) =>
    entry(b, '2026-11-25', 1000, { id: `s${k}`, kind: 'session', part: undefined, ml: undefined })
  const driven = logged(b, ...b.log, session(1), session(2))
  const [d] = analyse(driven, '2026-11-25').cans
  const [before] = analyse(b, '2026-11-01').cans
  expect(d!.sessionsSince).toBe(2)
  expect(d!.now.mid).toBeGreaterThan(before!.now.mid)
  const emptied = logged(driven, ...driven.log, entry(driven, '2026-11-25', 1080, { ml: 40 }))
  const [e] = analyse(emptied, '2026-11-25').cans
  expect(e!.history[0]!.predicted.oil).toBeCloseTo(2 * e!.perSession.oil + 0, 9)
  expect(LOG_KINDS).toContain('session')
})

test('calibration: each filling stands against the band of those before it alone', () => {
  const base = build('vacuum-side-can', 'street')
  const rates = analyse(base, DAY).cans[0]!.perMetre
  const ml = (rates.oil + rates.water) * 500_000 * 1e6
  const log = [
    entry(base, '2026-01-01', 0, { kind: 'fitted', ml: undefined }),
    ...[1, 2, 3, 4, 5].map((i) =>
      entry(base, `2026-0${i + 1}-01`, 500 * i, { ml: Math.round(10 * (i === 5 ? ml * 6 : ml)) / 10 }),
    ),
  ]
  const checksOf = (b: Build) => forecastChecks(b, figuresOf(b), can(b) as PartOf<'can'>, makeEvaluator())
  const all = checksOf(logged(base, ...log))
  expect(all.map((x) => x.inside)).toEqual([true, true, true, false])
  expect(checksOf(logged(base, ...log.slice(0, 4)))).toEqual(all.slice(0, 2))
})

test('months: each emptying in the month of its day, over the turn of the year, older ones left out', () => {
  const history = (date: string, oil: number, water: number) => ({
    history: [{ id: 'x', date, found: { oil, water }, predicted: { oil: 0, water: 0 }, metres: 1 }],
  })
  const months = foundByMonth(
    [
      history('2026-01-31', 3, 1),
      history('2025-12-01', 2, 0),
      history('2025-02-01', 9, 9),
      history('2026-01-02', 1, 1),
    ],
    '2026-02-10',
  )
  expect(months.map((m) => m.month)).toEqual([
    '2025-03',
    '2025-04',
    '2025-05',
    '2025-06',
    '2025-07',
    '2025-08',
    '2025-09',
    '2025-10',
    '2025-11',
    '2025-12',
    '2026-01',
    '2026-02',
  ])
  expect(months.filter((m) => m.oil + m.water > 0)).toEqual([
    { month: '2025-12', oil: 2, water: 0 },
    { month: '2026-01', oil: 4, water: 2 },
  ])
})

test('oil added is set against oil caught since the first can', () => {
  const b = build()
  const log = [
    entry(b, '2026-01-01', 500, { kind: 'oil-added', part: undefined, ml: 900 }),
    entry(b, '2026-02-01', 1000, { kind: 'fitted', ml: undefined }),
    entry(b, '2026-03-01', 2000, { ml: 100, waterMl: 40 }),
    entry(b, '2026-04-01', 3000, { kind: 'oil-added', part: undefined, ml: 300 }),
  ]
  expect(oilBalance(logged(b, ...log))).toEqual({
    addedM3: expect.closeTo(300e-6, 12),
    caughtM3: expect.closeTo(60e-6, 12),
    metres: 2_000_000,
  })
  expect(oilBalance(b)).toBeUndefined()
})

test('the calendar is an iCalendar file with a day for every can that is due (RFC 5545)', () => {
  const b = build('vacuum-side-can')
  const due = logged(b, entry(b, '2026-10-01', 1000, { kind: 'fitted' }))
  const list = dueOf([summarise(due, analyse(due, DAY)), summarise(b, analyse(b, DAY))])
  expect(list.length).toBe(1)
  const file = calendarOf(list, DAY)
  if (!file.ok) throw new Error(file.reason)
  expect(file.value).toContain('\r\nDURATION:P1D\r\n')
  // read back by a library that has not written it
  const [read, ...more] = Object.values(parseICS(file.value)).filter((x) => x?.type === 'VEVENT')
  if (read?.type !== 'VEVENT') throw new Error('no entry')
  expect(more).toEqual([])
  expect(read.summary).toBe('Log: look into the catch can')
  expect([read.datetype, format(read.start, 'yyyy-MM-dd')]).toEqual(['date', list[0]!.date])
  expect(Number(read.end) - Number(read.start)).toBe(24 * 3600 * 1000)
  expect(calendarOf([], DAY).ok).toBe(false)
})

test('with two cans the one that is fitted is told of, and the other says that it is not yet', () => {
  const b = build('both-sides')
  const [one, two] = activeVariant(b).parts.filter((p) => p.kind === 'can')
  const half = logged(b, entry(b, '2026-10-01', 1000, { kind: 'fitted', part: two!.id }))
  const { cans } = summarise(half, analyse(half, DAY))
  expect(cans.map((c) => [c.name, c.logged])).toEqual([
    [two!.name, true],
    [one!.name, false],
  ])
  expect(dueOf([summarise(half, analyse(half, DAY))]).map((d) => d.can)).toEqual([two!.name])
})

test('forecast and calendar follow the plan on the car, whichever is shown', () => {
  const b = build('vacuum-side-can')
  const idea = { ...activeVariant(build('both-sides')), id: 'idea' }
  const both = { ...b, variants: [...b.variants, idea], active: 'idea' }
  expect(fittedPlan(both)).toBeUndefined()
  expect(asOnCar(both)).toBe(both)
  // said by the log, by the newest of its entries
  const first = entry(b, '2026-10-01', 1000, { kind: 'fitted', plan: b.active })
  expect(fittedPlan(logged(both, first))?.id).toBe(b.active)
  expect(asOnCar(logged(both, first)).active).toBe(b.active)
  const later = entry(b, '2026-10-20', 1500, { kind: 'fitted', plan: 'idea' })
  expect(fittedPlan(logged(both, first, later))?.id).toBe('idea')
  // said by the builder, until a can is fitted with another plan
  const said = after(logged(both, first, later), setField(['fitted'], b.active))
  expect(fittedPlan(said)?.id).toBe(b.active)
  const newest = entry(b, '2026-11-01', 1700, { kind: 'fitted', plan: 'idea' })
  expect(fittedPlan(after(said, upsertLogEntry({ ...newest, id: 'newest' })))?.id).toBe('idea')
  const old = entry(b, '2026-09-01', 900, { kind: 'fitted', plan: 'idea' })
  expect(fittedPlan(after(said, upsertLogEntry({ ...old, id: 'old' })))?.id).toBe(b.active)
})

test('months of one’s own count before any ready climate', () => {
  const nights = [-30, -25, -9, 1, 3, 8, 11, 10, 6, 2, -4, -22]
  const b = after(
    build('vacuum-side-can', 'street'),
    setField(['site', 'climate'], 'hot'),
    setField(['site', 'nights'], nights),
  )
  expect(validateBuild(b).ok).toBe(true)
  expect(climateOf(b.site)!.nights).toEqual(nights)
  expect(frost(b, 10)!.first).toBeDefined()
  expect(validateBuild({ ...b, site: { ...b.site, nights: [1, 2] } }).ok).toBe(false)
  expect(climateOf(build().site)).toBeUndefined()
})

test('grade efficiency: rises with size where droplets are thrown, all together catch more than any stage alone', () => {
  const b = build('vacuum-side-can')
  const f = figuresOf(b)
  const s = f.states.filter(isSolved).find((x) => x.id === 'cruise')!
  const part = can(b)
  if (part.kind !== 'can') throw new Error('no can')
  const g = gradeOf(part, s, f.engine)!
  for (const p of g.points) {
    expect(p.all).toBeGreaterThanOrEqual(Math.max(...p.stages) - 1e-12)
    expect(p.all).toBeLessThanOrEqual(1)
  }
  expect(g.points.at(-1)!.all).toBeGreaterThan(0.95)
  expect(g.d50).toBeGreaterThan(0.2e-6)
  expect(gradeOf({ ...part, stages: [] }, s, f.engine)).toBeUndefined()
})

test('the size of a can: wide enough not to fade, a bowl for the look and for one missed, and what pays stands first', () => {
  const b = build('vacuum-side-can')
  const r = finish(sizeCan(b, 'can', DAY))
  if (!r.ok) throw new Error(r.reason)
  expect(r.value.sizes.length).toBeGreaterThan(3)
  for (const s of r.value.sizes) {
    expect(s.bowlMissedM3).toBeGreaterThanOrEqual(s.bowlM3)
    const taken = applyEdits(b, s.edits)
    if (!taken.ok) throw new Error(taken.reason)
    expect(validateBuild(JSON.parse(JSON.stringify(taken.value))).ok).toBe(true)
    const kept = Math.min(
      ...figuresOf(taken.value)
        .states.filter(isSolved)
        .map((x) => x.cans['can']?.kept ?? 1),
    )
    expect(kept).toBeCloseTo(s.kept, 6)
  }
  expect(r.value.pays).toBe(r.value.sizes[0]!.key)
  expect(finish(sizeCan(b, 'nothing', DAY)).ok).toBe(false)
})

test('emptyings that tell sessions teach road and track apart; what comes next goes by what is driven', () => {
  const b = build('breather-side-can')
  const rates = analyse(b, DAY).cans[0]!
  expect(rates.perMetre.track).toBeGreaterThan(0)
  const ml = (m3: number) => Number((m3 * 1e6).toPrecision(4))
  // the road makes what the model says, the track three times as much
  const log: LogEntry[] = [entry(b, '2026-03-01', 10_000, { kind: 'fitted', ml: undefined })]
  for (let i = 1; i <= 8; i++) {
    const km = i % 2 ? 3000 : TRACK_KM_PER_SESSION
    const at = log.at(-1)!.odometerKm + km
    const sessions = i % 2 ? 0 : 1
    const offTrack = Math.max(0, km - sessions * TRACK_KM_PER_SESSION)
    const found = offTrack * 1000 * roadRate(b) + 3 * sessions * rates.perSession.oil
    log.push(entry(b, `2026-0${3 + (i >> 1)}-1${i}`, at, { ml: ml(found), waterMl: 0, sessions }))
  }
  const c = analyse({ ...b, log }, DAY).cans[0]!
  expect(Math.exp(c.multiplier.mu)).toBeGreaterThan(0.8)
  expect(Math.exp(c.multiplier.mu)).toBeLessThan(1.35)
  expect(Math.exp(c.trackMultiplier!.mu)).toBeGreaterThan(2.2)
  expect(Math.exp(c.trackMultiplier!.mu)).toBeLessThan(3.4)
  expect(c.oilTimes).toBeGreaterThan(Math.exp(c.multiplier.mu))
  expect(c.sessions.mid).toBeLessThan(rates.sessions.mid / 2)
  // the same fillings without their sessions are one multiplier
  const mute = log.map((e) => ({ ...e, sessions: undefined }))
  expect(analyse({ ...b, log: mute as LogEntry[] }, DAY).cans[0]!.trackMultiplier).toBeUndefined()
  // and what each interval gave is shared out, none of it lost
  const intervals = intervalsOf(b, figuresOf(b).states, c)
  for (const [i, h] of intervals.entries()) {
    expect(h.road + h.track).toBeCloseTo(c.history[i]!.found.oil, 12)
    expect(h.track > 0).toBe(i % 2 === 1)
    expect(h.gas).toBeGreaterThan(0)
  }
})

/** Oil of the road, m3 a metre: the duty's without its track, over the road's own metres. */
function roadRate(b: Build): number {
  const off = { ...b, duty: { ...b.duty, hours: { ...b.duty.hours, track: 0 } } }
  return analyse(off, DAY).cans[0]!.perMetre.oil
}

test('a look that says how much stood in it narrows what it holds now, until it is emptied', () => {
  const b = after(build('breather-side-can'), setField(['duty', 'checkEveryKm'], 50_000))
  const log = [
    entry(b, '2026-03-01', 10_000, { kind: 'fitted', ml: undefined }),
    entry(b, '2026-04-01', 11_000, { kind: 'checked', ml: 60 }),
  ]
  const day = '2026-04-01'
  const blind = analyse(logged(b, log[0]!, { ...log[1]!, ml: undefined } as LogEntry), day).cans[0]!
  const seen = analyse(logged(b, ...log), day).cans[0]!
  expect(seen.now).toEqual({
    low: expect.closeTo(60e-6, 9),
    mid: expect.closeTo(60e-6, 9),
    high: expect.closeTo(60e-6, 9),
  })
  expect(seen.multiplier.entries).toBe(1)
  expect(blind.multiplier.entries).toBe(0)
  expect(seen.distance.high / seen.distance.low).toBeLessThan(blind.distance.high / blind.distance.low)
  // what is left of the bowl is what there is to drive
  expect(seen.checkBy).toBeCloseTo(11_000_000 + ((seen.bowlM3 - 60e-6) / seen.bowlM3) * seen.distance.low, -1)
  const emptied = analyse(logged(b, ...log, entry(b, '2026-04-01', 11_000, { ml: 62 })), day).cans[0]!
  expect(emptied.look).toBeUndefined()
  expect(emptied.now.mid).toBe(0)
  expect(emptied.multiplier.entries).toBe(1)
})

test('the same driving predicts the same from whatever odometer it begins at, looked into or not', () => {
  const b = build('vacuum-side-can')
  const cold = { ...b, site: { ...b.site, climate: 'inland' as const } }
  const distance = (from: number) =>
    analyse(
      logged(
        cold,
        entry(b, '2026-01-05', from, { kind: 'fitted', ml: undefined }),
        entry(b, '2026-02-01', from + 400, { kind: 'checked', ml: 20 }),
        entry(b, '2026-03-01', from + 1000, {
          kind: 'reading',
          part: undefined,
          ml: undefined,
          reading: { state: 'idle', kpa: -0.1 },
        }),
      ),
      '2026-03-01',
    ).cans[0]!.distance
  const young = distance(0)
  const old = distance(200_000)
  for (const q of ['low', 'mid', 'high'] as const) expect(old[q]).toBeCloseTo(young[q], 0)
})

test('nothing that came out says what a dry can says: so much as a wall holds, or less', () => {
  const b = build('vacuum-side-can')
  const fitted = entry(b, '2026-03-01', 10_000, { kind: 'fitted', ml: undefined })
  const after1000 = (found: Partial<LogEntry>) =>
    analyse(logged(b, fitted, entry(b, '2026-04-01', 11_000, found)), '2026-04-02').cans[0]!
  const dry = after1000({ ml: undefined, seen: 'dry' })
  expect(after1000({ ml: 0 }).multiplier).toEqual(dry.multiplier)
  expect(dry.multiplier.mu).toBeLessThan(after1000({ ml: 5 }).multiplier.mu - 0.3)
})

test('the next look is the earliest that anything asks for, and says what', () => {
  const b = build('breather-side-can', 'street')
  const fitted = entry(b, '2026-03-01', 10_000, { kind: 'fitted', ml: undefined })
  const next = (x: Build, day = '2026-03-02') => {
    const { checkBy, checkReason } = analyse(x, day).cans[0]!
    return [checkReason, Math.round(checkBy / 1000)]
  }
  const every = (km: number) => setField(['duty', 'checkEveryKm'], km)
  expect(next(logged(b, fitted))).toEqual(['first look', 10_300])
  expect(next(after(logged(b, fitted), every(200)))).toEqual(['own interval', 10_200])
  // once looked into it is new no more; from that look on the own interval runs
  const looked = entry(b, '2026-03-10', 10_250, { kind: 'checked', ml: undefined })
  expect(next(after(logged(b, fitted, looked), every(1000)))).toEqual(['own interval', 11_250])
  const rare = after(logged(b, fitted, looked), every(50_000))
  expect(next(rare)[0]).toBe('forecast')
  // where it ran over it is looked into before it has been driven so far again
  const over = entry(b, '2026-04-10', 12_000, { seen: 'overflowed', ml: undefined })
  const again = next(logged(rare, fitted, looked, over), '2026-04-11')
  expect(again[1]).toBeLessThanOrEqual(14_000)
  const calm = entry(b, '2026-06-10', 13_000, { ml: 5 })
  expect(
    next(logged(rare, fitted, looked, over, calm, { ...calm, id: 'n', date: '2026-07-01', odometerKm: 14_000 })),
  ).toEqual(['ran over', 16_000])
})

test('the garage and the calendar tell the look that the log tells', () => {
  const b = build('breather-side-can', 'street')
  const fitted = logged(b, entry(b, '2026-03-01', 10_000, { kind: 'fitted', ml: undefined }))
  const a = analyse(fitted, '2026-03-02')
  const seen = summarise(fitted, a).cans[0]!
  expect([seen.checkBy, seen.checkDate]).toEqual([a.cans[0]!.checkBy, a.cans[0]!.checkDate])
  expect(dueOf([summarise(fitted, a)])[0]!.date).toBe(a.cans[0]!.checkDate)
})

test('an interval is predicted by its own months, and the next filling by the months ahead', () => {
  const plain = build('breather-side-can', 'street')
  const b = after(plain, setField(['site', 'climate'], 'inland'))
  const [winter, summer] = ['2026-01-01', '2026-07-01'].map(
    (day) => canRates(b, figuresOf(b), can(b).id).during(day, day).all,
  )
  expect(winter!.water).toBeGreaterThan(1.5 * summer!.water)
  expect(winter!.oil).toBe(summer!.oil)
  // two months in one: by their days
  const both = canRates(b, figuresOf(b), can(b).id).during('2026-01-22', '2026-02-11').all
  const [jan, feb] = [0, 1].map((m) => canRates(b, figuresOf(b), can(b).id).inMonth(m).all.water)
  expect(both.water).toBeCloseTo((jan! + feb!) / 2, 15)
  expect(daysByMonth('2025-12-30', '2026-01-03')).toEqual([2, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 2])
  // fitted in autumn it is full sooner than fitted in spring
  const small = after(b, setPart(can(b).id, { bowlMl: 60 }))
  const from = (day: string) =>
    analyse(logged(small, entry(b, day, 10_000, { kind: 'fitted', ml: undefined })), day).cans[0]!
  expect(from('2026-10-15').distance.mid).toBeLessThan(from('2026-04-15').distance.mid)
  expect(from('2026-10-15').history).toEqual([])
  // where nobody says what winters it sees the year is one
  expect(canRates(plain, figuresOf(plain), can(plain).id).seasonal).toBe(false)
})

test('the water that a drain takes to the sump is told, the colder the more', () => {
  const drained = newBuild({
    name: 'Log',
    engineClass: 'v8-dry',
    use: 'street',
    ambientC: 5,
    units: 'metric',
    school: 'separator-return',
  })
  const part = activeVariant(drained).parts.find((p) => p.kind === 'can') as PartOf<'can'>
  const here = returnedBy(drained, figuresOf(drained), part)!
  const cold = after(drained, setField(['site', 'climate'], 'inland'))
  const there = returnedBy(cold, figuresOf(cold), part)!
  expect(there.airK).toBeLessThan(here.airK)
  expect(there.water).toBeGreaterThan(here.water)
  const verdict = analyse(cold, DAY).verdicts.find((v) => v.subject === `${part.id}-returns`)
  expect(verdict?.severity).toBe('watch')
  const bowl = build('breather-side-can', 'street')
  expect(returnedBy(bowl, figuresOf(bowl), can(bowl) as PartOf<'can'>)).toBeUndefined()
})

test('the grade-efficiency curve is the very one that the state was carried by, and lift is its own velocity', () => {
  const bent = build('vacuum-side-can')
  // along straight hoses: what bends throw to the wall the can keeps as a liquid, whatever its curve
  const b = after(
    bent,
    ...activeVariant(bent).lines.map((l) =>
      setLine(l.id, { bends: [], from: { ...l.from, elbowDeg: undefined }, to: { ...l.to, elbowDeg: undefined } }),
    ),
  )
  const f = figuresOf(b)
  const part = can(b)
  if (part.kind !== 'can') throw new Error('no can')
  for (const s of f.states.filter(isSolved)) {
    const g = gradeOf(part, s, f.engine)
    const c = s.cans[part.id]!
    if (!g || !(c.oilIn.mist > 0)) continue
    // mist shared out over its sizes, each caught as the curve has it (linear in the logarithm between its points)
    const at = (d: number) => {
      const i = Math.max(
        1,
        g.points.findIndex((p) => p.d >= d),
      )
      const [low, high] = [g.points[i - 1]!, g.points[i]!]
      const share = Math.log(d / low.d) / Math.log(high.d / low.d)
      return low.all + Math.max(0, Math.min(1, share)) * (high.all - low.all)
    }
    const caught = sizeBins({ ...MIST, fraction: 1 }, 200).reduce((sum, bin) => sum + bin.share * at(bin.d), 0) * c.kept
    // by the clean side it keeps a third of that
    const share = s.passages[part.id]!.flow < 0 ? 1 / 3 : 1
    expect(caught * share).toBeCloseTo(c.caught.mist / c.oilIn.mist, 2)
  }
  const lift = liftOf(part, f.states, f.engine)!
  const narrow = after(
    b,
    setPart(part.id, { faceCm2: part.faceCm2 * (lift.leastDiameterM / lift.diameterM) ** 2 * 0.8 }),
  )
  const there = figuresOf(narrow)
  const worst = Math.min(...there.states.filter(isSolved).map((s) => s.cans[part.id]?.kept ?? 1))
  expect(worst).toBeLessThan(1)
  const wide = after(
    b,
    setPart(part.id, { faceCm2: part.faceCm2 * (lift.leastDiameterM / lift.diameterM) ** 2 * 1.05 }),
  )
  expect(
    Math.min(
      ...figuresOf(wide)
        .states.filter(isSolved)
        .map((s) => s.cans[part.id]?.kept ?? 1),
    ),
  ).toBe(1)
})

test('what a can gathered while something was broken teaches nothing once that is mended; not fixed, it does', () => {
  const b = build('both-sides', 'street')
  const model = (() => {
    const { all } = canRates(b, figuresOf(b), can(b).id).at(b.site.ambientC)
    return (all.oil + all.water) * 1e6 * 1e6
  })()
  // ml in 1 000 km as the model has it, then four times that while a hose was split, then mended
  const ml = (times: number) => Number((model * times).toPrecision(3))
  const log = [
    entry(b, '2026-01-10', 1000, { kind: 'fitted', ml: undefined }),
    entry(b, '2026-02-10', 2000, { ml: ml(1) }),
    entry(b, '2026-03-10', 3000, { ml: ml(1.1) }),
    entry(b, '2026-04-10', 4000, { ml: ml(0.9) }),
    entry(b, '2026-05-10', 5000, { ml: ml(4.2) }),
    entry(b, '2026-06-10', 6000, { ml: ml(3.9) }),
  ]
  const oilTimes = (fixed: boolean | undefined, fault = 'breather-split') => {
    const closed = { fault, says: 'Breather line split', on: '2026-06-12', fixed }
    const c = {
      id: 'c',
      plan: b.active,
      opened: '2026-06-01',
      since: '2026-04-12',
      symptoms: [],
      findings: [],
      recorded: undefined,
      closed,
    }
    return analyse({ ...b, log, cases: [c] }, DAY).cans.find((x) => x.part === can(b).id)!
  }
  const asIt = analyse({ ...b, log }, DAY).cans.find((x) => x.part === can(b).id)!
  const mended = oilTimes(true)
  const sound = analyse({ ...b, log: log.slice(0, 4) }, DAY).cans.find((x) => x.part === can(b).id)!
  expect(mended.multiplier.mu).toBeCloseTo(sound.multiplier.mu, 9)
  expect(mended.multiplier.mu).toBeLessThan(asIt.multiplier.mu - 0.3)
  expect(mended.history.map((h) => h.ofFault === true)).toEqual([false, false, false, true, true])
  expect(mended.doubted).toEqual([])
  // asked about and not fixed, or nothing found: all of it counts
  expect(oilTimes(false).multiplier.mu).toBeCloseTo(asIt.multiplier.mu, 9)
  expect(oilTimes(true, 'nothing').multiplier.mu).toBeCloseTo(asIt.multiplier.mu, 9)
})
