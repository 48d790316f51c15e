/** Words for what is chosen in an entry of the log. */
import type { LEVELS, LOOKS } from '@/plan/document/bounds'

/** What came out looked like, and what that tells (common practice, no source). */
export const LOOK_NAMES = {
  oil: 'clear oil',
  dark: 'dark and thick',
  milky: 'milky: water in it',
  fuel: 'smells of fuel',
} as const satisfies Record<(typeof LOOKS)[number], string>
/** Where the engine's oil stood, and what of its sump that is above or below the full mark, % (estimates; 1 l of 6 between marks). */
export const LEVEL_NAMES = {
  over: 'above the full mark',
  full: 'at the full mark',
  between: 'between the marks',
  low: 'at the lower mark',
  under: 'below the lower mark',
} as const satisfies Record<(typeof LEVELS)[number], string>
export const LEVEL_PCT = { over: 10, full: 0, between: -8, low: -16, under: -22 } as const satisfies Record<
  (typeof LEVELS)[number],
  number
>
