/** The garage of a shop: found by words, sorted, tagged, put away. */
import { DEFAULT_SEARCH, findBuilds, searchQuery, readSearch, readTags, tagsOf } from './find-builds'
import type { ListedBuild } from './ticket'

const build = (name: string, more: Partial<{ tags: string[]; away: boolean; urgency: number; about: string }> = {}) =>
  ({
    id: name,
    name,
    revision: 1,
    savedAt: `2026-0${name.length % 9}-01`,
    pending: false,
    summary: { name, about: 'Inline four', plan: 'Both sides', tags: [], away: false, urgency: 0, ...more },
  }) as unknown as ListedBuild
const builds = [
  build('Teal 10', { urgency: 5, tags: ['track', 'customer'] }),
  build('Teal 9', { urgency: -3, tags: ['track'], about: 'Flat six' }),
  build('Ruff', { urgency: 2, away: true }),
  { id: 'x', name: 'Broken', revision: 1, savedAt: '2026-01-01', trouble: 'no' } as ListedBuild,
]
const names = (to: Partial<typeof DEFAULT_SEARCH>) =>
  findBuilds(builds, { ...DEFAULT_SEARCH, ...to }).map((b) => b.name)

test('all words must be there, in name, line, plan or tag, in any case', () => {
  expect(names({ find: 'teal SIX' })).toEqual(['Teal 9'])
  expect(names({ find: '#customer' })).toEqual(['Teal 10'])
  expect(names({ find: 'both track' })).toEqual(['Teal 9', 'Teal 10'])
  expect(names({ find: 'nothing like it' })).toEqual([])
})

test('most urgent first, what cannot be read before all; or by name with its numbers; or last changed', () => {
  expect(names({})).toEqual(['Broken', 'Teal 9', 'Teal 10'])
  expect(names({ sort: 'name' })).toEqual(['Broken', 'Teal 9', 'Teal 10'])
  expect(names({ sort: 'changed' })).toEqual(['Teal 10', 'Teal 9', 'Broken'])
})

test('what is put away is in a list of its own', () => {
  expect(names({ away: true })).toEqual(['Ruff'])
})

test('tags: typed with commas, counted, the most used first', () => {
  expect(readTags(' track, #customer ,, track')).toEqual(['track', 'customer'])
  expect(tagsOf(builds)).toEqual(['track', 'customer'])
})

test('what is asked for stands in the address, and nothing where it is as usual', () => {
  const asked = { find: 'teal six', sort: 'name', away: true } as const
  expect(readSearch(searchQuery(asked))).toEqual(asked)
  expect([searchQuery(DEFAULT_SEARCH), readSearch('?sort=constructor')]).toEqual(['', DEFAULT_SEARCH])
})
