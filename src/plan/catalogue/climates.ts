/** Ready climates, invented: the coldest night to expect of each month, and its mean, C, January first. */
import type { CLIMATES } from '../document/bounds'
import type { Build } from '../document/schema'

/** How far a month's mean stands above its coldest night, K (estimate, as in the ready climates). */
const MEAN_ABOVE = 9

export type Climate = { readonly name: string; readonly nights: readonly number[]; readonly means: readonly number[] }
export const CLIMATE_FACTS: Readonly<Record<(typeof CLIMATES)[number], Climate>> = {
  'mild-coast': {
    name: 'Mild coast',
    nights: [-3, -3, -1, 1, 4, 8, 10, 10, 7, 4, 0, -2],
    means: [5, 5, 7, 9, 12, 15, 17, 17, 15, 11, 8, 6],
  },
  'cold-coast': {
    name: 'Cold northern coast',
    nights: [-11, -11, -8, -4, 0, 4, 7, 6, 3, -1, -5, -9],
    means: [-1, -1, 1, 5, 9, 13, 15, 15, 11, 7, 3, 0],
  },
  inland: {
    name: 'Inland, cold winters',
    nights: [-20, -18, -11, -4, 1, 6, 9, 8, 3, -3, -10, -17],
    means: [-5, -4, 1, 8, 14, 18, 20, 19, 14, 8, 2, -3],
  },
  mountain: {
    name: 'Mountain',
    nights: [-22, -21, -16, -10, -4, 0, 3, 3, -1, -7, -14, -20],
    means: [-6, -6, -3, 2, 7, 11, 13, 13, 9, 4, -2, -5],
  },
  hot: {
    name: 'Hot and dry',
    nights: [3, 4, 7, 10, 14, 18, 21, 21, 18, 13, 8, 4],
    means: [11, 13, 17, 21, 26, 31, 33, 33, 29, 23, 16, 12],
  },
}

/** The months of a build: its own nights, else a ready climate; undefined where neither is said. */
export function climateOf({ climate, nights }: Build['site']): Climate | undefined {
  if (nights) return { name: 'Your own months', nights, means: nights.map((n) => n + MEAN_ABOVE) }
  return climate && CLIMATE_FACTS[climate]
}
