/** A whole valid build from a handful of answers. */
import { ACTIVITIES, type Activity } from '@/core/service/rates'
import { ENGINE_CLASSES, type EngineClass } from '../catalogue/engines'
import { USES, type Use } from '../catalogue/uses'
import { FORMAT, FORMAT_VERSION } from '../document/bounds'
import type { Build, Engine } from '../document/schema'
import { SCHOOLS, schoolOf, variantOf } from './schools'

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

/** Shares of hours in each way of driving for a use (estimates). */
export function hoursOf(use: Use): Build['duty']['hours'] {
  const hours: Partial<Record<Activity, number>> = USES.find((u) => u.key === use)!.hours
  return Object.fromEntries(ACTIVITIES.map((a) => [a, hours[a] ?? 0])) as Record<Activity, number>
}

/**
 * A build from the first answers: engine class, use, school, site. Everything else is the preset of its class.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(build.variants[0].name) // 'Vacuum-side can'
 */
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
