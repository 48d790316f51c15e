/**
 * What every fault would show of this very build: middle figures at some severities, and how they go with what is not known of the car. It
 * depends on the build alone, so that what is read later moves odds at once.
 */
import type { Job } from '@/core/job'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { extentAt, type GradedFault } from '../faults/graded-faults'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import type { Figures } from '../model/results'
import { canRates } from '../service/can-rates'
import { recentredInputs, uncertainInputs, type Uncertain } from '../studies/uncertain'
import { gasSolver, type GasState } from './gas-states'
import { hypothesesOf, type Hypothesis } from './hypotheses'
import { observablesOf, toScale, type Observable } from './observables'
import { symptomFigures, type SymptomFigures } from './symptoms'

/** A fault of one severity, worked out. */
export type FaultPoint = {
  /** 0 to 1 of the way from least to most */
  readonly share: number
  /** what it is a figure of, where the fault goes by degrees: `extent.says` tells it */
  readonly extent: number | undefined
  /** of each observable, on its scale: the middle, and its slopes by each unknown; the last one is this severity's own */
  readonly middle: Float64Array
  readonly slopes: readonly Float64Array[]
  /** where it was made straight about what was read: standard deviation of each observable by what that leaves open */
  readonly open?: Float64Array
  /** and what the sound car showed there, where something was read before the trouble */
  readonly before?: Required<Pick<FaultPoint, 'middle' | 'slopes' | 'open'>>
  /** logarithm by which its straight model explains more than the solved network does */
  readonly overstatement?: number
  readonly figures: SymptomFigures
}
export type WorkedHypothesis = Hypothesis & { readonly points: readonly FaultPoint[] }
export type Predictions = {
  readonly observables: readonly Observable[]
  /** the sound plan first */
  readonly hypotheses: readonly WorkedHypothesis[]
  /** unknowns of the car, then what multiplies its oil, then the severity */
  readonly unknowns: number
  /** m3 a metre by each can of the sound plan */
  readonly soundCatch: ReadonlyMap<string, number>
}

/** Severities at which a fault is worked out: middles of as many equal parts of its range. */
export const SEVERITY_SHARES = [0.1, 0.3, 0.5, 0.7, 0.9] as const
/** Standard deviation of a severity within its part, in parts. */
export const SEVERITY_DEVIATION = 1 / Math.sqrt(12)
/** What multiplies a can's catch before its log speaks, of its logarithm (methods 7). */
export const LOG_CATCH_DEVIATION = 0.8
/** An input that moves no reading by more than this where all is sound moves little else. */
const LITTLE = 0.02
/** More than this times what it would be tells no more, as a logarithm. */
const MOST_CATCH = 5

type Workshop = {
  readonly build: Build
  readonly evaluator: Evaluator
  readonly solve: (build: Build) => readonly GasState[] | undefined
  readonly observables: readonly Observable[]
  readonly inputs: readonly Uncertain[]
  /** m3 a metre by each can of the sound plan */
  readonly soundCatch: ReadonlyMap<string, number>
}

/** What each can of the active plan catches, m3 a metre; NaN where a state that it needs has no answer. */
export const catchRates = (build: Build, figures: Figures): ReadonlyMap<string, number> =>
  new Map(
    activeVariant(build).parts.flatMap((p) => {
      if (p.kind !== 'can') return []
      const { all, known } = canRates(build, figures, p.id).at(build.site.ambientC)
      return [[p.id, known ? all.oil + all.water : Number.NaN]]
    }),
  )

/** The same of all cans together; NaN without one. */
export const totalCatchRate = (rates: ReadonlyMap<string, number>): number =>
  rates.size === 0 ? Number.NaN : [...rates.values()].reduce((a, b) => a + b, 0)

/** Figures of gas on the scale of each observable; a catch is left at its sound one. */
export function scaledGas(observables: readonly Observable[], gas: readonly GasState[]): Float64Array {
  return Float64Array.from(observables, (o) => {
    if (o.kind === 'catch') return 0
    if (o.kind === 'trim') return toScale(o, gas.find((s) => s.id === 'idle')?.unmetered ?? 0)
    const state = gas.find((s) => s.id === o.state)
    return state ? toScale(o, o.kind === 'crankcase' ? state.crankcase : state.blowBy) : Number.NaN
  })
}

/** Slopes by the inputs: their mean over a standard deviation either way, or one way where an input moves little. */
function inputSlopes(shop: Workshop, of: Build, middle: Float64Array, strong: readonly boolean[] | undefined) {
  return recentredInputs(shop.inputs, of).map((input, i): Float64Array => {
    const moved = (z: number) => {
      const build = applyEdits(of, input.edits(z))
      const gas = build.ok ? shop.solve(build.value) : undefined
      return gas && scaledGas(shop.observables, gas)
    }
    const up = moved(1)
    if (!up) return new Float64Array(middle.length)
    const down = strong?.[i] === false ? undefined : moved(-1)
    return middle.map((m, k) => (down ? (up[k]! - down[k]!) / 2 : up[k]! - m))
  })
}

/** What each can catches over what the sound plan would, on its scale; 0 for what is no catch. */
export function scaledCatch(
  observables: readonly Observable[],
  rates: ReadonlyMap<string, number>,
  sound: ReadonlyMap<string, number>,
): Float64Array {
  return Float64Array.from(observables, (o) => {
    if (o.kind !== 'catch') return 0
    const [now, was] = [rates.get(o.can) ?? Number.NaN, sound.get(o.can) ?? Number.NaN]
    return was > 0 && now >= 0 ? Math.min(MOST_CATCH, toScale(o, now / was)) : Number.NaN
  })
}

/** How each catch of the sound plan goes with the inputs, a standard deviation of each: that of a faulty one is much the same. */
function catchSlopes({ build, evaluator, inputs, observables, soundCatch }: Workshop): readonly Float64Array[] {
  const moved = (input: Uncertain, z: number) => {
    const car = applyEdits(build, input.edits(z))
    return car.ok
      ? scaledCatch(observables, catchRates(car.value, figuresOf(car.value, evaluator)), soundCatch)
      : new Float64Array(observables.length)
  }
  return inputs.map((input) => {
    const [up, down] = [moved(input, 1), moved(input, -1)]
    return up.map((u, k) => (Number.isFinite(u - down[k]!) ? (u - down[k]!) / 2 : 0))
  })
}

type MadePoint = Omit<FaultPoint, 'slopes'> & { readonly rows: readonly Float64Array[] }

function pointOf(
  shop: Workshop,
  of: Build,
  share: number,
  strong: readonly boolean[] | undefined,
): MadePoint | undefined {
  const gas = shop.solve(of)
  if (!gas) return undefined
  const gasMiddle = scaledGas(shop.observables, gas)
  const rows = inputSlopes(shop, of, gasMiddle, strong)
  // after the trials its own answer is where the next begins
  const figures = figuresOf(of, shop.evaluator)
  const rates = catchRates(of, figures)
  const caught = scaledCatch(shop.observables, rates, shop.soundCatch)
  const middle = gasMiddle.map((m, k) => (shop.observables[k]!.kind === 'catch' ? caught[k]! : m))
  return { share, extent: undefined, middle, rows, figures: symptomFigures(of, gas, figures, totalCatchRate(rates)) }
}

/**
 * The points of one hypothesis, each with its slope by its own severity from its neighbours.
 * @param caught slopes of what cans catch by the inputs
 */
function workedPoints(
  shop: Workshop,
  h: Hypothesis,
  strong: readonly boolean[] | undefined,
  caught: readonly Float64Array[],
): readonly FaultPoint[] {
  const extent = h.fault?.extent
  const shares = extent ? SEVERITY_SHARES : [0.5]
  const made = shares.flatMap((share) => {
    const build = h.buildAt(share)
    return (build && pointOf(shop, build, share, strong)) ?? []
  })
  const oil = Float64Array.from(shop.observables, (o) => (o.kind === 'catch' ? LOG_CATCH_DEVIATION : 0))
  return made.map(({ rows, ...point }, k): FaultPoint => {
    const [before, after] = [made[k - 1] ?? made[k]!, made[k + 1] ?? made[k]!]
    const apart = Math.max(1, made.indexOf(after) - made.indexOf(before))
    const own = point.middle.map((_, o) => {
      const slope = (SEVERITY_DEVIATION * (after.middle[o]! - before.middle[o]!)) / apart
      return Number.isFinite(slope) ? slope : 0
    })
    const slopes = Array.from(point.middle, (_, o) =>
      Float64Array.of(...rows.map((r, i) => r[o]! + caught[i]![o]!), oil[o]!, own[o]!),
    )
    return { ...point, extent: extent && extentAt(extent, point.share), slopes }
  })
}

/** Crankcase that may lift a cap or a dipstick, Pa gauge. */
const LIFTS_PA = 3000

/** All that may be wrong with a build, worked out. Yields the share done. */
export function* predict(build: Build): Job<Predictions> {
  const evaluator = makeEvaluator()
  const figures = figuresOf(build, evaluator)
  const shop: Workshop = {
    build,
    evaluator,
    solve: gasSolver(evaluator),
    observables: observablesOf(
      build,
      figures.states.map((s) => s.id),
    ),
    inputs: uncertainInputs(build),
    soundCatch: catchRates(build, figures),
  }
  const caught = catchSlopes(shop)
  const lifts = (fault: GradedFault) => {
    const broken = applyEdits(build, fault.editsAt(0.7))
    const gas = broken.ok ? shop.solve(broken.value) : undefined
    return gas !== undefined && Math.max(...gas.map((s) => s.crankcase)) > LIFTS_PA
  }
  const tried = hypothesesOf(build, lifts)
  const hypotheses: WorkedHypothesis[] = []
  let strong: readonly boolean[] | undefined
  for (const [k, h] of tried.entries()) {
    const points = workedPoints(shop, h, strong, caught)
    if (points.length > 0) hypotheses.push({ ...h, points })
    // what moves the sound plan is tried both ways from then on
    strong ??= shop.inputs.map((_, i) => points[0]?.slopes.some((row) => Math.abs(row[i]!) > LITTLE) ?? true)
    yield (k + 1) / tried.length
  }
  return { observables: shop.observables, hypotheses, unknowns: shop.inputs.length + 2, soundCatch: shop.soundCatch }
}
