/** Cars with a fault that never were: an engine's truth drawn from its ranges, one fault of a severity, and what instruments read of it. */
import { uniforms } from '@/core/random'
import { normalQuantile } from '@/core/service/normal'
import { ENGINE_CLASSES } from '../catalogue/engines'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { gradedFaults, type GradedFault } from '../faults/graded-faults'
import { pulsates } from '../model/engine'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { gaugeError } from '../service/readings'
import { recentredInputs, uncertainInputs } from '../studies/uncertain'
import { gasSolver, type GasState } from './gas-states'
import { NOTHING, PRIOR_ODDS } from './hypotheses'
import { readingEvidence, FILLING_SCATTER, LEAST_CATCH_RATIO, type Evidence } from './observables'
import { catchRates, LOG_CATCH_DEVIATION } from './predictions'

export type SimulatedCase = {
  /** the build as its owner knows it */
  readonly build: Build
  /** id of the fault that it has; `nothing` where it is sound */
  readonly truth: string
  readonly fault: GradedFault | undefined
  readonly severity: number
  /** the car as it is: its own truth, and the fault */
  readonly car: Build
  /** gauge at idle, cruise and full load; then trim and catch */
  readonly readings: readonly Evidence[]
  /** the same things as they were read before the fault came */
  readonly soundReadings: readonly Evidence[]
}

/** Share of cars that have nothing. */
const SOUND_SHARE = 0.15
/** What a trim strays by, shares of 1. */
export const TRIM_ERROR = 0.02

/** A fault by its odds beforehand. */
function drawn(faults: readonly GradedFault[], share: number): GradedFault {
  const all = faults.reduce((sum, f) => sum + PRIOR_ODDS[f.kind], 0)
  let left = share * all
  return faults.find((f) => (left -= PRIOR_ODDS[f.kind]) < 0) ?? faults.at(-1)!
}

/** One simulated car; undefined where the draw gives none that can be. Same seed, same car. */
export function simulatedCase(seed: number): SimulatedCase | undefined {
  const uniform = uniforms(seed)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(uniform() * list.length)]!
  const normal = () => normalQuantile(uniform())
  const engineClass = pick(ENGINE_CLASSES).key
  const school = pick(SCHOOLS).key
  const build = newBuild({ name: 'Case', engineClass, use: 'street', ambientC: 15, units: 'metric', school })
  // a gauge of a pumping engine reads the mean of a turn, which this does not follow
  if (pulsates(build.engine)) return undefined
  const fault = uniform() < SOUND_SHARE ? undefined : drawn(gradedFaults(build), uniform())
  const severity = uniform()
  const broken = fault ? applyEdits(build, fault.editsAt(severity)) : ({ ok: true, value: build } as const)
  if (!broken.ok) return undefined
  const inputs = uncertainInputs(build)
  const scores = inputs.map(() => Math.max(-3, Math.min(3, normal())))
  const carOf = (of: Build) =>
    applyEdits(
      of,
      recentredInputs(inputs, of).flatMap((input, k) => input.edits(scores[k]!)),
    )
  const [car, soundCar] = [carOf(broken.value), carOf(build)]
  if (!car.ok || !soundCar.ok) return undefined
  const evaluator = makeEvaluator()
  const now = gasSolver(evaluator)(car.value)
  if (!now) return undefined
  const read = readingsOf(build, now, normal)
  const habit = LOG_CATCH_DEVIATION * normal()
  const cans = catchReader(build, evaluator, habit)
  const readings = [...read, ...cans(car.value, normal)]
  const sound = gasSolver(evaluator)(soundCar.value)
  const soundReadings = sound ? [...readingsOf(build, sound, normal), ...cans(soundCar.value, normal)] : []
  return {
    build,
    truth: fault?.id ?? NOTHING,
    fault,
    severity,
    car: car.value,
    readings,
    soundReadings: soundReadings.map((e) => ({ ...e, before: true })),
  }
}

/** Gauge at idle, cruise and full load, then the idle trim where it has a manifold, as instruments show a car's gas. */
function readingsOf(build: Build, gas: readonly GasState[], normal: () => number): readonly Evidence[] {
  const full = gas.find((s) => s.id === 'boost') ?? gas.find((s) => s.id === 'pull')
  const gauge = ['idle', 'cruise', full?.id].flatMap((id) => {
    const state = gas.find((s) => s.id === id)
    if (!state) return []
    const value = state.crankcase + gaugeError(state.crankcase) * normal()
    return [readingEvidence({ kind: 'crankcase', state: state.id }, value, gaugeError(value))]
  })
  const trim = (gas.find((s) => s.id === 'idle')?.unmetered ?? 0) + TRIM_ERROR * normal()
  const hasManifold = activeVariant(build).parts.some((p) => p.kind === 'manifold')
  return hasManifold ? [...gauge, readingEvidence({ kind: 'trim' }, trim, TRIM_ERROR)] : gauge
}

/**
 * What each can is found to have caught, over what its plan is thought to.
 * @param habit of this car, a logarithm: how much more oil it carries than thought
 */
function catchReader(build: Build, evaluator: Evaluator, habit: number) {
  const planned = catchRates(build, figuresOf(build, evaluator))
  return (car: Build, normal: () => number): readonly Evidence[] => {
    const rates = catchRates(car, figuresOf(car, evaluator))
    return [...planned].flatMap(([can, rate]) => {
      const times = ((rates.get(can) ?? Number.NaN) / rate) * Math.exp(habit + FILLING_SCATTER * normal())
      if (!Number.isFinite(times)) return []
      // an empty can says a lot
      const ratio = Math.max(LEAST_CATCH_RATIO, times)
      const read = readingEvidence({ kind: 'catch', can }, ratio, FILLING_SCATTER * ratio)
      return [times < ratio ? { ...read, atMost: true } : read]
    })
  }
}
