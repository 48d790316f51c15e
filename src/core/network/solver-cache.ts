/** What solvers of many like networks share. */
import { makeLayoutOf, type LayoutOf } from './layout'
import type { Sound } from './problem'

export type SolverCache = { readonly layoutOf: LayoutOf; readonly sound: Sound }

/** @example makeSolverCache().sound.elements // undefined */
export const makeSolverCache = (): SolverCache => ({ layoutOf: makeLayoutOf(), sound: { elements: undefined } })
