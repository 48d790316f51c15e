'use client'
/** The search of the garage: by words, in an order, and what is put away. */
import { useEffect, useState } from 'react'
import { setQuery } from '@/ui/address-query'
import { DEFAULT_SEARCH, searchQuery, readSearch, SORTS, type GarageSearch, type Sort } from './find-builds'

/** What is asked for, kept in the address: the way back leads to the same list. */
export function useGarageSearch(): {
  readonly search: GarageSearch
  readonly find: (to: Partial<GarageSearch>) => void
} {
  const [search, setSearch] = useState(DEFAULT_SEARCH)
  useEffect(() => {
    const read = () => setSearch(readSearch(location.search))
    read()
    addEventListener('popstate', read)
    return () => removeEventListener('popstate', read)
  }, [])
  return {
    search,
    find: (to) => {
      const next = { ...search, ...to }
      setSearch(next)
      setQuery('/', searchQuery(next))
    },
  }
}

export function FindBar({
  search,
  onChange,
  awayCount,
  found,
  of,
}: {
  search: GarageSearch
  onChange: (to: Partial<GarageSearch>) => void
  awayCount: number
  found: number
  /** builds that it is searched among */
  of: number
}) {
  const asked = search.find.trim() !== ''
  return (
    <div className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule pb-2">
      <input
        type="search"
        className="field min-h-11 !w-64"
        placeholder="Find a build, a plan, #tag"
        aria-label="Find builds"
        value={search.find}
        onChange={(e) => onChange({ find: e.target.value })}
      />
      <label className="flex items-center gap-2">
        <span className="text-soft">Order</span>
        <select
          className="field min-h-11 !w-auto"
          value={search.sort}
          onChange={(e) => onChange({ sort: e.target.value as Sort })}
        >
          {(Object.keys(SORTS) as Sort[]).map((key) => (
            <option key={key} value={key}>
              {SORTS[key]}
            </option>
          ))}
        </select>
      </label>
      {(awayCount > 0 || search.away) && (
        <button
          type="button"
          className="link-button"
          aria-pressed={search.away}
          onClick={() => onChange({ away: !search.away })}
        >
          {search.away ? 'Back to the list' : `Put away, ${awayCount}`}
        </button>
      )}
      <span role="status" className="text-soft">
        {asked && (found === 0 ? 'No build has all of these words.' : `${found} of ${of}`)}
        {!asked && search.away && (of === 0 ? 'Nothing is put away.' : `${of} put away`)}
      </span>
    </div>
  )
}
