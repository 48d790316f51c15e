/** What works builds out: it owns every cache and every scratch array on the way. No module of core or plan keeps a state of its own. */
import { makeBlowBy } from '@/core/engine/blowby'
import type { OperatingState } from '@/core/engine/states'
import { makeSolverCache, type SolverCache } from '@/core/network/solver-cache'
import { makeCarry, type Carry } from '@/core/separation/carriage'
import { learn, type Learned } from '@/core/service/learn'
import { BLANK } from '@/core/service/prior'
import { makeNextFilling, type NextFilling } from '@/core/service/next-filling'
import { weakMemo } from '@/core/weak-memo'
import { blowByIn, makeEngineModel, type EngineModel, type EngineModelOf } from './engine'
import { makeNetworkOf, type NetworkOf } from './network'
import { makeResolve, type Resolve } from './resolve'

/**
 * Whoever works out many builds (a screen, a worker, a study, a test) makes one and hands it to what works them out. Two of them know
 * nothing of each other. One answer is never another's: what is kept was worked out of the same objects, which are never changed in place.
 */
export type Evaluator = {
  readonly engineModel: EngineModelOf
  /** kg/s of a state at a model's leak area */
  readonly blowByIn: (model: EngineModel, state: OperatingState) => number
  readonly resolve: Resolve
  readonly networkOf: NetworkOf
  readonly solverCache: SolverCache
  readonly carry: Carry
  readonly nextFilling: NextFilling
  /** what is known of a can that was never emptied, by the spread of its oil: most builds have no log yet, and are asked over and over */
  readonly unlearned: (oilSigma: number) => Learned
  /** `make` of an object, asked once about each */
  readonly once: <K extends object, V extends object>(make: (of: K, evaluator: Evaluator) => V, of: K) => V
}

/**
 * An evaluator that knows nothing yet.
 *
 * @example
 * import { makeEvaluator } from '@/plan/model/evaluator'
 *
 * console.log(makeEvaluator().unlearned(0.8) === makeEvaluator().unlearned(0.8)) // false
 */
export function makeEvaluator(): Evaluator {
  const blowBy = makeBlowBy()
  const answers = new Map<unknown, (of: object) => unknown>()
  const unlearned = new Map<number, Learned>()
  const evaluator: Evaluator = {
    engineModel: makeEngineModel(blowBy),
    blowByIn: (model, state) => blowByIn(model, state, blowBy),
    resolve: makeResolve(),
    networkOf: makeNetworkOf(),
    solverCache: makeSolverCache(),
    carry: makeCarry(),
    nextFilling: makeNextFilling(),
    unlearned(oilSigma) {
      const sigma = Math.round(oilSigma * 100) / 100
      const known = unlearned.get(sigma) ?? learn([], { ...BLANK, oil: { mu: 0, sigma } })
      unlearned.set(sigma, known)
      return known
    },
    once<K extends object, V extends object>(make: (of: K, by: Evaluator) => V, of: K): V {
      let known = answers.get(make)
      if (!known) answers.set(make, (known = weakMemo((k: object) => make(k as K, evaluator))))
      return known(of) as V
    },
  }
  return evaluator
}
