/** What solvers of many like networks share. */
import { makeLayoutOf, type LayoutOf } from './layout'
import type { SoundElements } from './problem'

export type SolverCache = { readonly layoutOf: LayoutOf; readonly sound: SoundElements }

/**
 * @example
 * import { makeSolverCache } from '@/core/network/solver-cache'
 *
 * console.log(makeSolverCache().sound.elements) // undefined
 */
export const makeSolverCache = (): SolverCache => ({ layoutOf: makeLayoutOf(), sound: { elements: undefined } })
