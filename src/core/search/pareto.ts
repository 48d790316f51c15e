/**
 * Solutions of several objectives sorted by which is better than which: fast non-dominated sorting and crowding distance of NSGA-II (Deb,
 * Pratap, Agarwal & Meyarivan, IEEE Transactions on Evolutionary Computation 6, 2002).
 */

/** Less of each objective is better; `broken` is how far constraints are broken, 0 where none is. */
export type Scored = { readonly objectives: readonly number[]; readonly broken: number }

/**
 * Whether one is better than another: it breaks less, or breaks nothing and is as good in all and better in one.
 *
 * @example
 * import { dominates } from '@/core/search/pareto'
 *
 * console.log(dominates({ objectives: [1, 2], broken: 0 }, { objectives: [1, 3], broken: 0 })) // true
 */
export function dominates(a: Scored, b: Scored): boolean {
  if (a.broken !== b.broken) return a.broken < b.broken
  if (a.broken > 0) return false
  let better = false
  for (let k = 0; k < a.objectives.length; k++) {
    if (a.objectives[k]! > b.objectives[k]!) return false
    if (a.objectives[k]! < b.objectives[k]!) better = true
  }
  return better
}

/**
 * Indexes in fronts: the first holds those that none is better than, the second those that only the first is better than, and so on.
 *
 * @example
 * import { frontsOf } from '@/core/search/pareto'
 *
 * const scored = [[1, 1], [2, 2], [0, 3]].map((objectives) => ({ objectives, broken: 0 }))
 * console.log(frontsOf(scored)) // [ [ 0, 2 ], [ 1 ] ]
 */
export function frontsOf(all: readonly Scored[]): readonly (readonly number[])[] {
  const better = all.map(() => [] as number[])
  const worse = new Uint32Array(all.length)
  for (let i = 0; i < all.length; i++)
    for (let j = i + 1; j < all.length; j++) {
      if (dominates(all[i]!, all[j]!)) {
        better[i]!.push(j)
        worse[j]!++
      } else if (dominates(all[j]!, all[i]!)) {
        better[j]!.push(i)
        worse[i]!++
      }
    }
  const fronts: number[][] = []
  let front = [...all.keys()].filter((i) => worse[i] === 0)
  while (front.length > 0) {
    fronts.push(front)
    const next: number[] = []
    for (const i of front) for (const j of better[i]!) if (--worse[j]! === 0) next.push(j)
    front = next.toSorted((a, b) => a - b)
  }
  return fronts
}

/**
 * Indexes of those that none is better than, in their order: the first front alone, for thousands. Sorted by the sum of what they break and of
 * their ranks, one that is better always comes before (sort-filter skyline; Chomicki and others 2003).
 *
 * @example
 * import { frontOf } from '@/core/search/pareto'
 *
 * const scored = [[1, 1], [2, 2], [0, 3]].map((objectives) => ({ objectives, broken: 0 }))
 * console.log(frontOf(scored)) // [ 0, 2 ]
 */
export function frontOf(all: readonly Scored[]): readonly number[] {
  const width = all[0]?.objectives.length ?? 0
  const sums = new Float64Array(all.length)
  for (let k = 0; k < width; k++) {
    const order = [...all.keys()].toSorted((i, j) => all[i]!.objectives[k]! - all[j]!.objectives[k]!)
    let rank = 0
    order.forEach((i, n) => {
      // what is equal has one rank
      if (n > 0 && all[i]!.objectives[k] !== all[order[n - 1]!]!.objectives[k]) rank = n
      sums[i] = sums[i]! + rank
    })
  }
  const order = [...all.keys()].toSorted((i, j) => all[i]!.broken - all[j]!.broken || sums[i]! - sums[j]!)
  const front: number[] = []
  for (const i of order) if (!front.some((j) => dominates(all[j]!, all[i]!))) front.push(i)
  return front.toSorted((a, b) => a - b)
}

/**
 * How much room each of a front has about it: the sides of the box to its neighbours, each in shares of the front's own reach; the ends of
 * each objective have all the room there is.
 *
 * @example
 * import { crowdingOf } from '@/core/search/pareto'
 *
 * const scored = [[0, 4], [1, 2], [4, 0]].map((objectives) => ({ objectives, broken: 0 }))
 * console.log(crowdingOf(scored)[1]) // 2
 */
export function crowdingOf(front: readonly Scored[]): Float64Array {
  const room = new Float64Array(front.length)
  const count = front[0]?.objectives.length ?? 0
  for (let k = 0; k < count; k++) {
    const order = [...front.keys()].toSorted((a, b) => front[a]!.objectives[k]! - front[b]!.objectives[k]!)
    const at = (i: number) => front[order[i]!]!.objectives[k]!
    const reach = at(order.length - 1) - at(0)
    room[order[0]!] = Infinity
    room[order.at(-1)!] = Infinity
    if (!(reach > 0)) continue
    for (let i = 1; i + 1 < order.length; i++) room[order[i]!]! += (at(i + 1) - at(i - 1)) / reach
  }
  return room
}

/**
 * Some of a list that lie far apart: beginning with the first, each next is the one farthest from all that are taken (max-min distance).
 *
 * @example
 * import { farApart } from '@/core/search/pareto'
 *
 * console.log(farApart([0, 1, 9, 5], 3, (a, b) => Math.abs(a - b))) // [ 0, 9, 5 ]
 */
export function farApart<T>(all: readonly T[], most: number, distance: (a: T, b: T) => number): readonly T[] {
  const taken = all.slice(0, 1)
  while (taken.length < Math.min(most, all.length)) {
    const left = all.filter((x) => !taken.includes(x))
    const nearest = left.map((x) => Math.min(...taken.map((t) => distance(x, t))))
    taken.push(left[nearest.indexOf(Math.max(...nearest))]!)
  }
  return taken
}
