/** Builds of the garage found by words and put in order. Pure. */
import type { ListedBuild } from './ticket'

export const SORTS = {
  urgent: 'most urgent first',
  name: 'by name',
  changed: 'last changed first',
} as const
export type Sort = keyof typeof SORTS

export type GarageSearch = {
  /** words that a build must have all of, in its name, line, tags or plan */
  readonly find: string
  readonly sort: Sort
  /** those put away, instead of those in the list */
  readonly away: boolean
}
export const DEFAULT_SEARCH: GarageSearch = { find: '', sort: 'urgent', away: false }

const summaryOf = (b: ListedBuild) => ('pending' in b ? b.summary : undefined)
/** Before everything: a build that cannot be read needs its owner first; after everything: what is not known yet. */
const urgencyOf = (b: ListedBuild) => ('trouble' in b ? -Infinity : (summaryOf(b)?.urgency ?? Infinity))

export const isAway = (b: ListedBuild): boolean => summaryOf(b)?.away === true

const haystack = (b: ListedBuild): string => {
  const s = summaryOf(b)
  return [b.name, s?.about, s?.plan, ...(s?.tags ?? []).map((t) => `#${t}`)].filter(Boolean).join(' ').toLowerCase()
}

const ORDER: Readonly<Record<Sort, (a: ListedBuild, b: ListedBuild) => number>> = {
  urgent: (a, b) => {
    const [x, y] = [urgencyOf(a), urgencyOf(b)]
    return x === y ? 0 : x - y
  },
  name: (a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }),
  changed: (a, b) => b.savedAt.localeCompare(a.savedAt),
}

/** The builds that are asked for, in the order that is asked for; of equals as they stand. */
export function findBuilds(builds: readonly ListedBuild[], { find, sort, away }: GarageSearch): readonly ListedBuild[] {
  const words = find.toLowerCase().split(/\s+/).filter(Boolean)
  return builds.filter((b) => isAway(b) === away && words.every((w) => haystack(b).includes(w))).toSorted(ORDER[sort])
}

/** Tags in use, the most used first. */
export function tagsOf(builds: readonly ListedBuild[]): readonly string[] {
  const uses = new Map<string, number>()
  for (const b of builds) for (const t of summaryOf(b)?.tags ?? []) uses.set(t, (uses.get(t) ?? 0) + 1)
  return [...uses].toSorted(([a, m], [b, n]) => n - m || a.localeCompare(b)).map(([t]) => t)
}

/** Tags as they are typed: parted by commas, without the sign before them, each once. */
export const readTags = (text: string): readonly string[] => [
  ...new Set(
    text
      .split(',')
      .map((t) => t.trim().replace(/^#/, ''))
      .filter(Boolean),
  ),
]

/** What is asked for, as the part of an address behind the question mark; nothing where it is as usual. */
export function searchQuery({ find, sort, away }: GarageSearch): string {
  const query = new URLSearchParams()
  if (find.trim() !== '') query.set('find', find.trim())
  if (sort !== DEFAULT_SEARCH.sort) query.set('sort', sort)
  if (away) query.set('away', '1')
  return query.size > 0 ? `?${query}` : ''
}

export function readSearch(search: string): GarageSearch {
  const query = new URLSearchParams(search)
  const sort = query.get('sort')
  return {
    find: query.get('find') ?? '',
    sort: sort !== null && Object.hasOwn(SORTS, sort) ? (sort as Sort) : DEFAULT_SEARCH.sort,
    away: query.has('away'),
  }
}
