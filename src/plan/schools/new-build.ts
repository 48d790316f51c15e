/** A whole valid build from a handful of answers. */
import type { Activity } from '@/core/service/rates'
import { ACTIVITIES } from '@/core/service/rates'
import { FORMAT, FORMAT_VERSION, type Build, type Engine } from '../document/schema'
import { SCHOOLS, schoolOf, variantOf } from './schools'

/** Engines by general class: somewhere to start from. No real engine stands behind any of them. */
export const ENGINE_CLASSES = [
  {
    key: 'i4-turbo',
    name: 'Inline four, 2.0 l, turbo, direct injection',
    cylinders: 4,
    layout: 'inline',
    displacementCc: 1998,
    boreMm: 83,
    compression: 9.8,
    induction: 'turbo',
    injection: 'direct',
    idleRpm: 800,
    ratedRpm: 6200,
    boostKpa: 120,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'baffled',
  },
  {
    key: 'i5-turbo',
    name: 'Inline five, 2.5 l, turbo, direct injection',
    cylinders: 5,
    layout: 'inline',
    displacementCc: 2480,
    boreMm: 82.5,
    compression: 10,
    induction: 'turbo',
    injection: 'direct',
    idleRpm: 800,
    ratedRpm: 6500,
    boostKpa: 120,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'baffled',
  },
  {
    key: 'i6-turbo',
    name: 'Inline six, 3.0 l, turbo, direct injection',
    cylinders: 6,
    layout: 'inline',
    displacementCc: 2990,
    boreMm: 84,
    compression: 10.2,
    induction: 'turbo',
    injection: 'direct',
    idleRpm: 700,
    ratedRpm: 6500,
    boostKpa: 100,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'baffled',
  },
  {
    key: 'i4-super',
    name: 'Inline four, 1.6 l, supercharged, port injection',
    cylinders: 4,
    layout: 'inline',
    displacementCc: 1598,
    boreMm: 78,
    compression: 9,
    induction: 'super',
    injection: 'port',
    idleRpm: 850,
    ratedRpm: 6800,
    boostKpa: 60,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'unbaffled',
  },
  {
    key: 'v8-na',
    name: 'V8, 5.7 l, naturally aspirated, port injection',
    cylinders: 8,
    layout: 'vee',
    displacementCc: 5680,
    boreMm: 101,
    compression: 10.5,
    induction: 'na',
    injection: 'port',
    idleRpm: 750,
    ratedRpm: 6000,
    boostKpa: 0,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'baffled',
  },
  {
    key: 'v6-na',
    name: 'V6, 3.5 l, naturally aspirated, direct injection',
    cylinders: 6,
    layout: 'vee',
    displacementCc: 3490,
    boreMm: 94,
    compression: 11.2,
    induction: 'na',
    injection: 'direct',
    idleRpm: 700,
    ratedRpm: 6600,
    boostKpa: 0,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'baffled',
  },
  {
    key: 'f4-turbo',
    name: 'Flat four, 2.5 l, turbo, port injection',
    cylinders: 4,
    layout: 'flat',
    displacementCc: 2457,
    boreMm: 99.5,
    compression: 8.4,
    induction: 'turbo',
    injection: 'port',
    idleRpm: 750,
    ratedRpm: 6200,
    boostKpa: 100,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'unbaffled',
  },
  {
    key: 'i4-na',
    name: 'Inline four, 1.8 l, naturally aspirated, port injection',
    cylinders: 4,
    layout: 'inline',
    displacementCc: 1796,
    boreMm: 81,
    compression: 10.5,
    induction: 'na',
    injection: 'port',
    idleRpm: 850,
    ratedRpm: 6800,
    boostKpa: 0,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'unbaffled',
  },
  {
    key: 'vtwin-na',
    name: 'V-twin, 1.1 l, naturally aspirated, port injection',
    cylinders: 2,
    layout: 'vee',
    displacementCc: 1090,
    boreMm: 94,
    compression: 10.8,
    induction: 'na',
    injection: 'port',
    idleRpm: 1100,
    ratedRpm: 7200,
    boostKpa: 0,
    rings: 'normal',
    sump: 'dry',
    pickUp: 'unbaffled',
    pistonPhaseDeg: 90,
  },
  {
    key: 'single',
    name: 'Single, 450 cc, naturally aspirated, port injection',
    cylinders: 1,
    layout: 'inline',
    displacementCc: 449,
    boreMm: 96,
    compression: 12,
    induction: 'na',
    injection: 'port',
    idleRpm: 1700,
    ratedRpm: 9000,
    boostKpa: 0,
    rings: 'normal',
    sump: 'wet',
    pickUp: 'unbaffled',
  },
] as const satisfies readonly (Omit<Engine, 'overrides' | 'blowBy'> & { key: string; name: string })[]

export type EngineClass = (typeof ENGINE_CLASSES)[number]['key']

export const USES = [
  {
    key: 'street',
    name: 'Street',
    about: 'daily driving, some motorway',
    hours: { street: 6, motorway: 3, shortCold: 1 },
    kmPerYear: 14000,
  },
  {
    key: 'fast-road',
    name: 'Fast road',
    about: 'street, mountain roads at the weekend',
    hours: { street: 5, motorway: 2, mountain: 2 },
    kmPerYear: 9000,
  },
  {
    key: 'street-track',
    name: 'Street and track',
    about: 'driven to the track, a day a month',
    hours: { street: 5, motorway: 3, mountain: 1, track: 0.6 },
    kmPerYear: 8000,
  },
  { key: 'track', name: 'Track', about: 'trailered, sessions only', hours: { track: 9, street: 1 }, kmPerYear: 2500 },
  { key: 'drag', name: 'Drag', about: 'passes and staging', hours: { drag: 8, street: 2 }, kmPerYear: 800 },
  {
    key: 'towing',
    name: 'Towing',
    about: 'long pulls, loaded',
    hours: { towing: 6, motorway: 3, street: 1 },
    kmPerYear: 18000,
  },
] as const satisfies readonly {
  key: string
  name: string
  about: string
  hours: Partial<Record<Activity, number>>
  kmPerYear: number
}[]
export type Use = (typeof USES)[number]['key']

export type Answers = {
  readonly name: string
  readonly engineClass: EngineClass
  /** facts that differ from the class */
  readonly engine?: Partial<Omit<Engine, 'overrides'>>
  readonly use: Use
  /** key of the school to start with */
  readonly school?: string
  readonly kmPerYear?: number
  readonly ambientC: number
  readonly altitudeM?: number
  readonly units: 'metric' | 'imperial'
}

const METRIC = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
const IMPERIAL = { system: 'imperial', pressure: 'inHg', flow: 'cfm' } as const

export function hoursOf(use: Use): Build['duty']['hours'] {
  const hours: Partial<Record<Activity, number>> = USES.find((u) => u.key === use)!.hours
  return Object.fromEntries(ACTIVITIES.map((a) => [a, hours[a] ?? 0])) as Record<Activity, number>
}

export function newBuild(a: Answers): Build {
  const { key: _key, name: className, ...facts } = ENGINE_CLASSES.find((c) => c.key === a.engineClass)!
  const engine: Engine = { ...facts, overrides: {} as Engine['overrides'], blowBy: undefined, ...a.engine }
  if (engine.induction === 'na') engine.boostKpa = 0
  const use = USES.find((u) => u.key === a.use)!
  const changed = a.engine !== undefined && Object.keys(a.engine).length > 0
  return clean({
    format: FORMAT,
    version: FORMAT_VERSION,
    name: a.name,
    about: changed ? describeEngine(engine) : className,
    units: a.units === 'metric' ? { ...METRIC } : { ...IMPERIAL },
    site: { altitudeM: a.altitudeM ?? 100, ambientC: a.ambientC, humidityPct: 65 },
    engine,
    duty: { kmPerYear: a.kmPerYear ?? use.kmPerYear, checkEveryKm: 1600, hours: hoursOf(a.use) },
    active: 'a',
    variants: [variantOf(schoolOf(a.school ?? 'vacuum-side-can') ?? SCHOOLS[0]!, engine, 'a')],
    log: [],
  })
}

/** Fields that hold nothing are not written: a build is what its JSON says. */
export const clean = <T>(build: T): T => JSON.parse(JSON.stringify(build)) as T

const COUNT = [
  '',
  'single',
  'twin',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
]
/** "Inline five, 2.5 l, turbo, direct injection" */
export function describeEngine(
  e: Pick<Engine, 'cylinders' | 'layout' | 'displacementCc' | 'induction' | 'injection'>,
): string {
  const form =
    e.layout === 'vee'
      ? `V${e.cylinders}`
      : e.layout === 'flat'
        ? `Flat ${COUNT[e.cylinders]}`
        : e.cylinders === 1
          ? 'Single'
          : `Inline ${COUNT[e.cylinders]}`
  const size =
    e.displacementCc < 1000 ? `${Math.round(e.displacementCc)} cc` : `${(e.displacementCc / 1000).toFixed(1)} l`
  return `${form}, ${size}, ${{ na: 'naturally aspirated', turbo: 'turbo', super: 'supercharged' }[e.induction]}, ${e.injection} injection`
}
