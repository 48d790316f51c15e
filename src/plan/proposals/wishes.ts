/** What the builder asks for: what he will not do, what it may cost, how often he will look; what is not asked is assumed, and said. */
import { roadHours } from '@/core/service/rates'
import { fail, ok, type Result } from '@/core/result'
import { CANS } from '../catalogue/cans'
import { MEANS_NAMES, type Means } from '../catalogue/effort'
import type { Build } from '../document/schema'
import { setField, type EditBuilder } from '../edit/edit-builders'

export type Wishes = {
  /** nothing may leave into the open on public roads */
  readonly sealed: boolean
  /** the crankcase keeps its limits at the bad end of its band too, not only as it is likely */
  readonly badEnd: boolean
  /** what will not be done */
  readonly refused: readonly Means[]
  /** the most that parts may cost, and hours; Infinity: as it comes */
  readonly mostPrice: number
  readonly mostHours: number
  /** the most looks a year */
  readonly mostLooks: number
  /** the can that is in the drawer, by model: it is used, and costs nothing */
  readonly keepCan: string | undefined
}

/**
 * What was asked last of a build, else what is assumed.
 *
 * @example
 * import { wishesOf } from '@/plan/proposals/wishes'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(wishesOf(build).mostHours) // Infinity
 */
export function wishesOf(build: Build): Wishes {
  const { ask } = build
  if (!ask) return assumedWishes(build)
  const {
    sealed,
    badEnd = true,
    refused,
    keepCan,
    mostPrice = Infinity,
    mostHours = Infinity,
    mostLooks = Infinity,
  } = ask
  return { sealed, badEnd, refused, keepCan, mostPrice, mostHours, mostLooks }
}
/** Keeps what is asked with the build. */
export const keepWishes = ({ mostPrice, mostHours, mostLooks, ...rest }: Wishes): EditBuilder =>
  setField(['ask'], {
    ...rest,
    ...(Number.isFinite(mostPrice) ? { mostPrice } : {}),
    ...(Number.isFinite(mostHours) ? { mostHours } : {}),
    ...(Number.isFinite(mostLooks) ? { mostLooks } : {}),
  })

/**
 * What is assumed where nothing was asked: sealed where it sees public roads, the bench's own refusals, a look a month.
 *
 * @example
 * import { assumedWishes } from '@/plan/proposals/wishes'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(assumedWishes(build).sealed) // true
 */
export const assumedWishes = (build: Build): Wishes => ({
  sealed: roadHours(build.duty.hours) > 0,
  badEnd: true,
  refused: build.bench?.refuses ?? [],
  mostPrice: Infinity,
  mostHours: Infinity,
  mostLooks: 12,
  keepCan: undefined,
})

/** What may stop a plan, what needs no solving first. */
export const WALLS = [
  'means',
  'price',
  'hours',
  'drawer',
  'no answer',
  'law',
  'looks',
  'pressure',
  'finding',
  'bay',
] as const
export type PlanWall = (typeof WALLS)[number]
/** The same in a builder's words. */
export const WALL_NAMES: Readonly<Record<PlanWall, string>> = {
  means: 'ask for what you will not do',
  price: 'cost too much in parts',
  hours: 'take too many hours',
  drawer: 'have no use for the can in the drawer',
  'no answer': 'leave gas no way out in some state',
  law: 'vent into the open',
  looks: 'ask to be looked at too often',
  pressure: 'have the crankcase above +2 or below −8 kPa',
  finding: 'have a finding that no press mends',
  bay: 'do not fit the bay',
}

const isMeans = (x: unknown): x is Means => typeof x === 'string' && Object.hasOwn(MEANS_NAMES, x)

/** Wishes from JSON, what is left out assumed; fails with what is wrong. */
export function readWishes(value: unknown, build: Build): Result<Wishes> {
  if (value === null || typeof value !== 'object' || Array.isArray(value)) return fail('Wishes are an object.')
  const assumed = assumedWishes(build)
  const {
    sealed = assumed.sealed,
    badEnd = true,
    refused = assumed.refused,
    keepCan,
    ...rest
  } = value as Record<string, unknown>
  if (typeof sealed !== 'boolean') return fail('sealed is true or false.')
  if (typeof badEnd !== 'boolean') return fail('badEnd is true or false.')
  if (!Array.isArray(refused) || !refused.every(isMeans))
    return fail(`refused is a list of ${Object.keys(MEANS_NAMES).join(', ')}.`)
  if (keepCan !== undefined && !CANS.some((c) => c.key === keepCan))
    return fail(`keepCan is one of ${CANS.map((c) => c.key).join(', ')}.`)
  const most = { mostPrice: assumed.mostPrice, mostHours: assumed.mostHours, mostLooks: assumed.mostLooks }
  for (const [key, x] of Object.entries(rest)) {
    if (!(key in most)) return fail(`${key} is no wish.`)
    if (typeof x !== 'number' || !(x >= 0)) return fail(`${key} is a number, 0 or more.`)
    Object.assign(most, { [key]: x })
  }
  return ok({ sealed, badEnd, refused, keepCan: keepCan as string | undefined, ...most })
}
