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
import { uncertainInputs, type Uncertain } from './uncertain'

/** Standard deviations between the middle and the 90 % point. */
const NINETY = 1.2816

/** The build with every input moved by so many standard deviations; undefined where that is no build. */
function movedBy(build: Build, inputs: readonly Uncertain[], scores: readonly number[]): Build | undefined {
  const moved = applyEdits(
    build,
    inputs.flatMap((input, i) => (scores[i] === 0 ? [] : input.edits(scores[i]!))),
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
 * Four in five of the crankcase pressures that a plan may have in a state, Pa gauge; an end is undefined where there is no answer there.
 * Yields the share done.
 * @param mid the pressure as it is told
 */
export function* bandOf(
  build: Build,
  id: StateId,
  mid: number,
  evaluator: Evaluator,
): Job<{ readonly [K in keyof Range]: number | undefined }> {
  const inputs = uncertainInputs(build)
  const still = stillGauge(build, id, evaluator)
  if (still === undefined) return { low: undefined, mid, high: undefined }
  // what each does alone; one that leaves no answer is held still
  const does = inputs.map((_, n) => {
    const b = movedBy(
      build,
      inputs,
      inputs.map((_x, k) => (k === n ? 1 : 0)),
    )
    const gauge = b && stillGauge(b, id, evaluator)
    return gauge === undefined ? 0 : gauge - still
  })
  const all = Math.hypot(...does)
  if (!(all > 0)) return { low: mid, mid, high: mid }
  const end = (sign: 1 | -1) =>
    movedBy(
      build,
      inputs,
      does.map((d) => (sign * NINETY * d) / all),
    )
  const [least, most] = [end(-1), end(1)]
  const low = least && (yield* scaled(gaugeOf(least, id, evaluator), 0, 0.5))
  const high = most && (yield* scaled(gaugeOf(most, id, evaluator), 0.5, 0.5))
  return { low, mid, high }
}
