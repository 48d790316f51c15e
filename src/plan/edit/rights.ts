/** What a device at the car may change: everything, ticks and log, or nothing. The same rule on the device and where it is saved. */
import { sameJson } from './diff'
import type { Edit } from './edit'

/** What a device may do: everything, tick the card and keep the log, or look. */
export type Rights = 'all' | 'log' | 'look'
export const RIGHTS: readonly Rights[] = ['all', 'log', 'look']

/**
 * Whether a value from outside names rights.
 *
 * @example
 * import { isRights } from '@/plan/edit/rights'
 *
 * console.log([isRights('log'), isRights('everything')]) // [ true, false ]
 */
export const isRights = (value: unknown): value is Rights => (RIGHTS as readonly unknown[]).includes(value)

/** What ticking and logging writes: entries of the log, ticks, which plan is on the car, and the oil level that was read at the dipstick. */
const isOfLog = ({ path: [first, second] }: Edit): boolean =>
  (first === 'log' && second !== undefined) ||
  (first === 'fit' && second === 'ticks') ||
  first === 'fitted' ||
  (first === 'engine' && second === 'oilLevelPct')

/** The first tick makes the notes of the card, empty but for it. */
const isFirstTick = (edit: Edit): boolean =>
  edit.op === 'set' &&
  sameJson(edit.path, ['fit']) &&
  edit.value !== null &&
  typeof edit.value === 'object' &&
  Object.entries(edit.value).every(
    ([key, x]) => key === 'ticks' || x === undefined || (Array.isArray(x) && x.length === 0),
  )

/**
 * Whether a device with these rights may make these edits.
 * @param edits of one change; none of them is checked against the build
 * @returns true with all rights; of one that ticks and logs, true where every edit is a tick, a log entry or what a log entry tells; of one
 * that looks, false, of nothing too
 * @example
 * import { permits } from '@/plan/edit/rights'
 * console.log(permits('log', [{ op: 'set', path: ['engine', 'boreMm'], value: 84 }])) // false
 */
export const permits = (rights: Rights, edits: readonly Edit[]): boolean =>
  rights === 'all' || (rights === 'log' && edits.every((e) => isOfLog(e) || isFirstTick(e)))

/** Why a device may not, in words for its holder. */
export const NOT_PERMITTED: Readonly<Record<Exclude<Rights, 'all'>, string>> = {
  log: 'This device ticks and logs; the plan is changed at the bench, or by a device that may do all.',
  look: 'This device may look and change nothing. It is given more rights at the bench, under Devices.',
}
