/** Which things belong together, given pair by pair (union-find with path halving). */

export type Unions = {
  /** the name under which `id`'s set goes; itself until it is joined */
  readonly find: (id: string) => string
  /** makes one set of two; it goes under the first one's name */
  readonly join: (keep: string, other: string) => void
}

/**
 * Sets that grow by joining two members.
 *
 * @example
 * import { unions } from '@/core/unions'
 *
 * const sets = unions()
 * sets.join('a', 'b')
 * console.log(sets.find('a') === sets.find('b')) // true
 */
export function unions(): Unions {
  const up = new Map<string, string>()
  const find = (id: string): string => {
    let at = id
    for (let next = up.get(at); next !== undefined; next = up.get(at)) {
      const beyond = up.get(next)
      if (beyond !== undefined) up.set(at, beyond)
      at = next
    }
    return at
  }
  return {
    find,
    join: (keep, other) => {
      const [a, b] = [find(keep), find(other)]
      if (a !== b) up.set(b, a)
    },
  }
}
