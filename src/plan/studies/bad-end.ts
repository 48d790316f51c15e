/**
 * The band of a crankcase pressure by two solutions instead of a thousand: every uncertain input is moved by one standard deviation alone,
 * and then all together to the 10 and 90 % points of what they do, each by its share of it (the extreme directions of linearised inputs).
 */
import type { StateId } from '@/core/engine/states'
import { scaled, type Job } from '@/core/job'
import type { Range } from '@/core/service/fill'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { pulsates } from '../model/engine'
import type { Evaluator } from '../model/evaluator'
import { solveGas } from '../model/gas-alone'
import { pulse } from '../model/pulsation'
import { engineInputs, uncertainInputs, type Uncertain } from './uncertain'

/** Standard deviations between the middle and the 90 % point. */
const NINETY = 1.2816

/** Standard deviations by which each uncertain input is moved, by its id; what is not named stays. */
export type Direction = ReadonlyMap<string, number>

/** The build with its inputs moved; undefined where that is no build. */
function movedBy(build: Build, inputs: readonly Uncertain[], by: Direction): Build | undefined {
  const moved = applyEdits(
    build,
    inputs.flatMap((input) => {
      const score = by.get(input.id) ?? 0
      return score === 0 ? [] : input.edits(score)
    }),
  )
  return moved.ok ? moved.value : undefined
}

/** Crankcase on still flow, Pa gauge; undefined where there is no answer. */
function stillGauge(build: Build, id: StateId, evaluator: Evaluator): number | undefined {
  const engine = evaluator.engineModel(build)
  const operating = engine.states.find((s) => s.id === id)
  return operating && solveGas(activeVariant(build), engine, operating, evaluator)?.crankcaseGauge
}

/** Crankcase as the engine has it: of one whose pistons pump, the mean of the turn. */
function* gaugeOf(build: Build, id: StateId, evaluator: Evaluator): Job<number | undefined> {
  if (!pulsates(build.engine)) return stillGauge(build, id, evaluator)
  const p = yield* pulse(build, id, evaluator)
  return p.ok ? p.value.mean - p.value.ambientPa : undefined
}

/**
 * The direction in which the inputs of a plan lead the crankcase of a state to the 90 % point of what they do, on still flow; turned round, to
 * the 10 % point. Empty where nothing moves it; undefined where there is no answer.
 */
export function worstDirection(
  build: Build,
  id: StateId,
  evaluator: Evaluator,
  inputs: readonly Uncertain[] = uncertainInputs(build),
): Direction | undefined {
  const still = stillGauge(build, id, evaluator)
  if (still === undefined) return undefined
  // what each does alone; one that leaves no answer is held still
  const does = inputs.map((input) => {
    const b = movedBy(build, inputs, new Map([[input.id, 1]]))
    const gauge = b && stillGauge(b, id, evaluator)
    return gauge === undefined ? 0 : gauge - still
  })
  const all = Math.hypot(...does)
  return new Map(all > 0 ? inputs.map((input, n) => [input.id, (NINETY * does[n]!) / all]) : [])
}

/** An engine with its inputs moved; undefined where that is none. */
export const movedEngine = (build: Build, by: Direction): Build['engine'] | undefined =>
  movedBy(build, engineInputs(build), by)?.engine

/** The way to a bad end: inputs moved, and the engine with its own moved already, since it is the same for many plans. */
export type BadWay = { readonly by: Direction; readonly engine: Build['engine'] }

/**
 * Crankcase of a state with the inputs of a plan moved, on still flow, Pa gauge; undefined where there is no answer.
 * @param plan the build, and what is uncertain of its plan, as `planInputs` has it
 */
export function movedGauge(
  { build, inputs }: { readonly build: Build; readonly inputs: readonly Uncertain[] },
  id: StateId,
  { by, engine }: BadWay,
  evaluator: Evaluator,
): number | undefined {
  const moved = movedBy(build, inputs, by)
  return moved && stillGauge({ ...moved, engine }, id, evaluator)
}

/**
 * Four in five of the crankcase pressures that a plan may have in a state, Pa gauge; an end is undefined where there is no answer there.
 * Yields the share done.
 * @param mid the pressure as it is shown
 */
export function* bandOf(
  build: Build,
  id: StateId,
  mid: number,
  evaluator: Evaluator,
): Job<{ readonly [K in keyof Range]: number | undefined }> {
  const inputs = uncertainInputs(build)
  const direction = worstDirection(build, id, evaluator, inputs)
  if (!direction) return { low: undefined, mid, high: undefined }
  if (direction.size === 0) return { low: mid, mid, high: mid }
  const least = movedBy(build, inputs, new Map([...direction].map(([input, score]) => [input, -score])))
  const most = movedBy(build, inputs, direction)
  const low = least && (yield* scaled(gaugeOf(least, id, evaluator), 0, 0.5))
  const high = most && (yield* scaled(gaugeOf(most, id, evaluator), 0.5, 0.5))
  return { low, mid, high }
}
