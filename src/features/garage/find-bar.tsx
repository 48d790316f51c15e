'use client'
/** The search of the garage: by words, in an order, and what is put away. */
import { useEffect, useState } from 'react'
import { EVERYTHING, findingQuery, readFinding, SORTS, type Finding, type Sort } from './find-builds'

/** What is asked for, kept in the address: the way back leads to the same list. */
export function useFinding(): { readonly finding: Finding; readonly find: (to: Partial<Finding>) => void } {
  const [finding, setFinding] = useState(EVERYTHING)
  useEffect(() => {
    const read = () => setFinding(readFinding(location.search))
    read()
    addEventListener('popstate', read)
    return () => removeEventListener('popstate', read)
  }, [])
  return {
    finding,
    find: (to) => {
      const next = { ...finding, ...to }
      setFinding(next)
      history.replaceState(null, '', `/${findingQuery(next)}`)
    },
  }
}

export function FindBar({
  finding,
  onChange,
  awayCount,
  found,
  of,
}: {
  finding: Finding
  onChange: (to: Partial<Finding>) => void
  awayCount: number
  found: number
  /** builds that it is searched among */
  of: number
}) {
  const asked = finding.find.trim() !== ''
  return (
    <div className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule pb-2">
      <input
        type="search"
        className="field min-h-11 !w-64"
        placeholder="Find a build, a plan, #tag"
        aria-label="Find builds"
        value={finding.find}
        onChange={(e) => onChange({ find: e.target.value })}
      />
      <label className="flex items-center gap-2">
        <span className="text-soft">Order</span>
        <select
          className="field min-h-11 !w-auto"
          value={finding.sort}
          onChange={(e) => onChange({ sort: e.target.value as Sort })}
        >
          {(Object.keys(SORTS) as Sort[]).map((key) => (
            <option key={key} value={key}>
              {SORTS[key]}
            </option>
          ))}
        </select>
      </label>
      {(awayCount > 0 || finding.away) && (
        <button
          type="button"
          className="link-button"
          aria-pressed={finding.away}
          onClick={() => onChange({ away: !finding.away })}
        >
          {finding.away ? 'Back to the list' : `Put away, ${awayCount}`}
        </button>
      )}
      <span role="status" className="text-soft">
        {asked && (found === 0 ? 'No build has all of these words.' : `${found} of ${of}`)}
        {!asked && finding.away && (of === 0 ? 'Nothing is put away.' : `${of} put away`)}
      </span>
    </div>
  )
}
