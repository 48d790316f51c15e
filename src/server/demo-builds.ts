/**
 * Demo data, all invented: five builds that share a workshop over a boatyard, on a cold northern estuary. Months of
 * log, its dates as days before
 * today so that the garage always looks lived in.
 */
import { addDays, formatISO, parseISO } from 'date-fns'
import type { Build, LogEntry } from '@/plan/document/schema'
import { perform } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { jobCard } from '@/plan/fit/card'
import { noteStock, tickStep } from '@/plan/fit/fit-builders'
import { can, direct, filter, hose, passage, port, space } from '@/plan/catalogue/parts'
import { clean, newBuild } from '@/plan/schools/new-build'
import { schoolOf, variantOf } from '@/plan/schools/schools'
import { inDemoBay } from './demo-bays'

type DatedEntry = Omit<LogEntry, 'id' | 'date'> & { daysAgo: number }

const withLog = (build: Build, today: string, entries: readonly DatedEntry[]): Build =>
  clean({
    ...build,
    log: entries.map(
      ({ daysAgo, ...entry }, i) =>
        ({
          id: `demo-${i + 1}`,
          date: formatISO(addDays(parseISO(today), -daysAgo), { representation: 'date' }),
          ...entry,
        }) as LogEntry,
    ),
  })

/** What the drawer of a boatyard workshop holds, and what the last order cost. */
function withStock(build: Build): Build {
  const noted = perform(
    build,
    noteStock('p-clamp', { have: 2, price: 1.8 }),
    noteStock('hose-rubber-19', { have: 400, price: 14.5 }),
  )
  if (!noted.ok) throw new Error(noted.reason)
  return noted.value
}

type Ticks = { readonly steps: number; readonly daysAgo: number; readonly minutes: readonly number[] }
/** A card ticked from its beginning, evening by evening: so many minutes a step. */
function withTicks(build: Build, today: string, { steps, daysAgo, minutes }: Ticks): Build {
  const variant = activeVariant(build)
  const begun =
    parseISO(formatISO(addDays(parseISO(today), -daysAgo), { representation: 'date' })).getTime() + 18 * 3_600_000
  let at = begun
  const builders = jobCard(build, variant)
    .steps.slice(0, steps)
    .map((step, i) => {
      const took = minutes[i % minutes.length]! * 60
      at += took * 1000
      return tickStep(variant.id, step, new Date(at).toISOString(), took)
    })
  const ticked = perform(build, ...builders)
  if (!ticked.ok) throw new Error(ticked.reason)
  return ticked.value
}

/** Boosted five, used on the road and a track day a month; nothing holds boost out of its can yet. */
function heron(): Build {
  const build = newBuild({
    name: 'Heron',
    engineClass: 'i5-turbo',
    use: 'street-track',
    ambientC: 6,
    altitudeM: 12,
    units: 'metric',
    kmPerYear: 9000,
  })
  const v = build.variants[0]!
  const parts = v.parts.map((p) => (p.kind === 'can' ? can('can', 'Catch can', 'hollow') : p))
  const planned = ['both-sides', 'two-outlets'].map((key, i) =>
    variantOf(schoolOf(key)!, build.engine, `plan-${i + 1}`),
  )
  return {
    ...build,
    site: { ...build.site, climate: 'cold-coast' as const },
    duty: { ...build.duty, checkEveryKm: 4500 },
    variants: [{ ...v, name: 'As it is driven', parts }, ...planned],
  }
}
const heronLived: Lived = (driven, today) =>
  withLog(withTicks(driven, today, { steps: 17, daysAgo: 318, minutes: [6, 10, 12, 30, 9] }), today, [
    { daysAgo: 318, kind: 'fitted', part: 'can', odometerKm: 61240, note: 'Can on the strut brace, hoses cut long.' },
    {
      daysAgo: 262,
      kind: 'emptied',
      part: 'can',
      odometerKm: 62860,
      ml: 24,
      waterMl: 9,
      note: 'First look. Thin, smells of fuel.',
    },
    { daysAgo: 204, kind: 'emptied', part: 'can', odometerKm: 64710, ml: 31, waterMl: 10 },
    {
      daysAgo: 171,
      kind: 'reading',
      odometerKm: 65500,
      reading: { state: 'idle', kpa: -0.05 },
      note: 'Water gauge at the dipstick tube.',
    },
    {
      daysAgo: 128,
      kind: 'emptied',
      part: 'can',
      odometerKm: 66980,
      ml: 35,
      waterMl: 8,
      note: 'After the June track day.',
    },
    { daysAgo: 90, kind: 'oil-added', odometerKm: 67900, ml: 400 },
    { daysAgo: 61, kind: 'emptied', part: 'can', odometerKm: 68840, ml: 33, waterMl: 9 },
    {
      daysAgo: 9,
      kind: 'checked',
      part: 'can',
      odometerKm: 70110,
      note: 'Tell-tale damp, not yet at the first ring.',
    },
  ])

/** Naturally aspirated eight, loose rings, track sessions; the can fills by the day, not by the month. */
function bittern(): Build {
  const build = newBuild({
    name: 'Bittern',
    engineClass: 'v8-na',
    use: 'track',
    ambientC: 9,
    units: 'metric',
    engine: { rings: 'loose', pickUp: 'unbaffled' },
    kmPerYear: 2600,
  })
  const v = build.variants[0]!
  const parts = v.parts.map((p) => (p.kind === 'can' ? can('can', 'Catch can', 'mesh') : p))
  return {
    ...build,
    about: 'V8, 5.7 l, naturally aspirated, loose forged rings',
    duty: { ...build.duty, checkEveryKm: 150 },
    variants: [{ ...v, parts }, variantOf(schoolOf('vented-can')!, build.engine, 'plan-1')],
  }
}
const bitternLived: Lived = (build, today) =>
  withLog(build, today, [
    { daysAgo: 190, kind: 'fitted', part: 'can', odometerKm: 11020 },
    {
      daysAgo: 176,
      kind: 'emptied',
      part: 'can',
      odometerKm: 11180,
      ml: 118,
      sessions: 4,
      note: 'Four sessions, dry and warm.',
    },
    { daysAgo: 148, kind: 'emptied', part: 'can', odometerKm: 11390, ml: 152, sessions: 5 },
    { daysAgo: 120, kind: 'emptied', part: 'can', odometerKm: 11550, ml: 109, sessions: 4 },
    { daysAgo: 92, kind: 'emptied', part: 'can', odometerKm: 11760, ml: 236, sessions: 5, note: 'New slicks.' },
    { daysAgo: 64, kind: 'emptied', part: 'can', odometerKm: 11930, ml: 214, sessions: 4 },
    { daysAgo: 50, kind: 'oil-added', odometerKm: 11930, ml: 900 },
    {
      daysAgo: 22,
      kind: 'emptied',
      part: 'can',
      odometerKm: 12100,
      ml: 224,
      sessions: 4,
      note: 'Worth a leak-down test this winter.',
    },
  ])

/** Supercharged small roadster for mountain roads, in imperial units; driven through frost. */
function wren(): Build {
  const build = newBuild({
    name: 'Wren',
    engineClass: 'i4-super',
    use: 'fast-road',
    ambientC: -3,
    units: 'imperial',
    kmPerYear: 7000,
  })
  const duty = { ...build.duty, checkEveryKm: 2400, hours: { ...build.duty.hours, shortCold: 2 } }
  return { ...build, duty }
}
/** With a complaint that is not followed up yet: its PCV valve has stuck open. */
const wrenLived: Lived = (build, today) => {
  const lived = withLog(build, today, [
    {
      daysAgo: 240,
      kind: 'fitted',
      part: 'can',
      odometerKm: 88400,
      note: 'Behind the headlamp, coldest corner there is.',
    },
    { daysAgo: 238, kind: 'reading', odometerKm: 88420, reading: { state: 'idle', kpa: -0.02 } as never },
    { daysAgo: 158, kind: 'emptied', part: 'can', odometerKm: 89950, ml: 132, waterMl: 84 },
    { daysAgo: 88, kind: 'emptied', part: 'can', odometerKm: 91300, ml: 104, waterMl: 61 },
    {
      daysAgo: 30,
      kind: 'emptied',
      part: 'can',
      odometerKm: 92380,
      ml: 141,
      waterMl: 103,
      note: 'Milky. Short runs all month.',
    },
    { daysAgo: 3, kind: 'reading', odometerKm: 92610, reading: { state: 'idle', kpa: -0.29 } as never },
    { daysAgo: 3, kind: 'reading', odometerKm: 92615, reading: { state: 'boost', kpa: -1.4 } as never },
  ])
  const day = (ago: number) => formatISO(addDays(parseISO(today), -ago), { representation: 'date' })
  return clean({
    ...lived,
    cases: [
      {
        id: 'demo-complaint',
        plan: lived.active,
        opened: day(4),
        since: day(45),
        symptoms: [
          { id: 'smoke-overrun', seen: true },
          { id: 'dipstick-lifts', seen: false },
        ],
        findings: [],
        recorded: undefined,
        closed: undefined,
      },
    ],
  })
}

/** Single-cylinder motorcycle with a vented can: no vacuum side at all. */
function dunlin(): Build {
  const build = newBuild({
    name: 'Dunlin',
    engineClass: 'single',
    use: 'street',
    ambientC: 8,
    units: 'metric',
    kmPerYear: 5000,
  })
  return {
    ...build,
    duty: { ...build.duty, checkEveryKm: 1000, hours: { ...build.duty.hours, shortCold: 0, mountain: 2 } },
    variants: [
      {
        id: 'a',
        name: 'Vented can',
        school: 'vented-can',
        parts: [
          space('crankcase', 'crankcase', 'Crankcase', port('top1', 'Timing chest')),
          passage('passage', 'Timing chest', 14, 2),
          space(
            'cover',
            'cover',
            'Cam cover',
            port('below', 'From the crankcase'),
            port('breather', 'Breather nipple'),
          ),
          can('can', 'Breather can', 'baffled'),
          filter('vent', 'Vent filter'),
          space('atmosphere', 'atmosphere', 'Open air', port('vent', 'Under the seat')),
        ],
        lines: [
          direct('passage-in', 'Timing chest, lower end', 'crankcase.top1', 'passage.in'),
          direct('passage-out', 'Timing chest, upper end', 'passage.out', 'cover.below'),
          hose('breather', 'Breather line', {
            from: 'cover.breather',
            to: 'can.in',
            boreMm: 12.7,
            lengthMm: 380,
            bends: [[90, 45]],
          }),
          hose('vent-line', 'Vent line', { from: 'can.out', to: 'vent.in', boreMm: 12.7, lengthMm: 260 }),
          direct('vent-end', 'Filter mouth', 'vent.out', 'atmosphere.vent'),
        ],
      },
    ],
  }
}
const dunlinLived: Lived = (build, today) =>
  withLog(build, today, [
    { daysAgo: 140, kind: 'fitted', part: 'can', odometerKm: 14200 },
    { daysAgo: 101, kind: 'emptied', part: 'can', odometerKm: 14910, ml: 96 },
    { daysAgo: 55, kind: 'emptied', part: 'can', odometerKm: 15600, ml: 88 },
  ])

/** Boosted five with a separator that gives its oil back, its bay measured: too low on the tower, so that boost holds the oil up. */
function godwit(): Build {
  return newBuild({
    name: 'Godwit',
    engineClass: 'i5-turbo',
    use: 'fast-road',
    ambientC: 9,
    units: 'metric',
    kmPerYear: 7000,
    school: 'separator-return',
  })
}
const godwitLived: Lived = (build, today) => {
  return withLog(withTicks(withStock(build), today, { steps: 14, daysAgo: 121, minutes: [12, 25, 8, 40, 15] }), today, [
    { daysAgo: 120, kind: 'fitted', odometerKm: 51200, note: 'Separator in the front corner, return to the block.' },
    { daysAgo: 64, kind: 'oil-added', odometerKm: 52300, ml: 250 },
    { daysAgo: 20, kind: 'oil-added', odometerKm: 53400, ml: 400, note: 'More than before: does the return drain?' },
  ])
}

/** A build's plan, and what has been lived with it since: ticks and log. */
type Lived = (build: Build, today: string) => Build
export const DEMOS: readonly { readonly plan: () => Build; readonly lived: Lived }[] = [
  { plan: heron, lived: heronLived },
  { plan: bittern, lived: bitternLived },
  { plan: wren, lived: wrenLived },
  { plan: dunlin, lived: dunlinLived },
  { plan: godwit, lived: godwitLived },
]

export const demoBuilds = (today: string): Build[] => DEMOS.map((d) => d.lived(inDemoBay(d.plan()), today))
