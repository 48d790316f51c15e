/** What to do next to find the fault: by how much it is expected to tell of which one it is, a minute of work. */
import { informationOf } from '@/core/inference/information'
import type { Range } from '@/core/range'
import type { Build } from '../document/schema'
import { lowered } from '../document/words'
import { activeVariant, applyEdits } from '../edit/edit'
import { setLine } from '../edit/edit-builders'
import { makeEvaluator } from '../model/evaluator'
import {
  densities,
  predictedNormals,
  predictedRange,
  likeliestPoint,
  USUAL_ERROR,
  type WeighedHypothesis,
} from './fault-odds'
import { gasSolver } from './gas-states'
import { NOTHING } from './hypotheses'
import { chanceOf, looksOf, outcomesOf } from './looks'
import { fromScale, observableName, toScale, type Observable } from './observables'
import type { Predictions } from './predictions'

/** What a step would show with one of the leaders: a band of figures, or words. */
export type Shown = { readonly hypothesis: string; readonly range?: Range | undefined; readonly says?: string }
export type NextStep = {
  readonly id: string
  readonly name: string
  readonly minutes: number
  readonly needs: string
  readonly caution: string
  /** what is read, where it is a figure; a hose is held shut meanwhile */
  readonly reads?: { readonly observable: Observable; readonly pinched?: string } | undefined
  /** what can be seen, where it is a look */
  readonly outcomes?: readonly string[] | undefined
  readonly bits: number
  readonly shows: readonly Shown[]
}

/** Leaders for whom it is said what a step would show; faults that are considered at all. */
const [LEADERS, CONSIDERED, LEAST_SHARE] = [3, 12, 0.004]
/** A step that tells less than this is not offered, bits. */
const LEAST_BITS = 0.02
const MOST_STEPS = 12
/** Crankcase that seals bear for a moment, Pa either way. */
const SAFE_PA = 4000

/** What is read of a car that is driven. */
export const DRIVING_CAUTION =
  'Somebody else drives, on a road or track where that may be done; eyes on it only when parked or as passenger.'
const READING_WORK: Readonly<Record<string, readonly [minutes: number, needs: string, caution: string]>> = {
  idle: [
    3,
    'manometer on the dipstick tube, engine warm',
    'Hot engine, moving belt and fan: hose and gauge clear of them.',
  ],
  trim: [3, 'scan tool, engine warm', ''],
  driven: [14, 'gauge in the cabin, a second person', DRIVING_CAUTION],
}
/** What reading a running engine takes, under the id by which the step is known. */
export function readingWork(
  build: Build,
  o: Observable,
): Pick<NextStep, 'id' | 'name' | 'minutes' | 'needs' | 'caution'> {
  const [minutes, needs, caution] =
    READING_WORK[o.kind === 'trim' ? 'trim' : 'state' in o && o.state === 'idle' ? 'idle' : 'driven']!
  return {
    id: `read-${o.kind}${'state' in o ? `-${o.state}` : ''}`,
    name: o.kind === 'trim' ? 'Fuel trim at idle' : `Crankcase, ${observableName(build, o).toLowerCase()}`,
    minutes,
    needs,
    caution,
  }
}

/** The faults that are worth considering, and their weights. */
const worthConsidering = (weighed: readonly WeighedHypothesis[]) =>
  weighed.slice(0, CONSIDERED).filter((w, k) => k < 2 || w.share >= LEAST_SHARE)

function readingSteps(build: Build, predictions: Predictions, top: readonly WeighedHypothesis[]): NextStep[] {
  return predictions.observables.flatMap((o): NextStep[] => {
    // what a can catches is known when it is emptied, and no sooner
    if (o.kind === 'catch' || o.kind === 'blowBy') return []
    const of = top.map((w) => predictedNormals(predictions, w, o))
    const error = USUAL_ERROR[o.kind]
    const likely = densities(of, error)
    if (!likely) return []
    return [
      {
        ...readingWork(build, o),
        reads: { observable: o },
        bits: informationOf(
          top.map((w) => w.share),
          likely,
        ),
        shows: top
          .slice(0, LEADERS)
          .map((w, k) => ({ hypothesis: w.hypothesis.id, range: predictedRange(o, of[k]!, error) })),
      },
    ]
  })
}

/** What is read at idle with a hose held shut: with each fault, on the scale of pressures. */
function pinchedFigures(top: readonly WeighedHypothesis[], line: string): readonly number[] {
  const solve = gasSolver(makeEvaluator())
  return top.map((w) => {
    const best = likeliestPoint(w)
    const broken = w.hypothesis.buildAt(best.point.share)
    const has = broken && activeVariant(broken).lines.some((l) => l.id === line)
    const shut = has ? applyEdits(broken, setLine(line, { boreMm: 1 })(broken)) : undefined
    const idle = shut?.ok ? solve(shut.value)?.find((s) => s.id === 'idle') : undefined
    return idle ? toScale(IDLE, idle.crankcase) : Number.NaN
  })
}
const IDLE: Observable = { kind: 'crankcase', state: 'idle' }

/** @param sound the car with nothing wrong */
function pinchSteps(
  build: Build,
  predictions: Predictions,
  top: readonly WeighedHypothesis[],
  sound: readonly WeighedHypothesis[],
): NextStep[] {
  const [, , caution] = READING_WORK.idle!
  return activeVariant(build).lines.flatMap((l): NextStep[] => {
    if (l.kind !== 'hose') return []
    const middles = pinchedFigures([...top, ...sound], l.id)
    // one that might draw seals in or push them out is not offered, be the car sound after all
    if (middles.some((m) => !(Math.abs(fromScale(IDLE, m)) <= SAFE_PA))) return []
    const of = top.map((w, k) => {
      const spread = predictedNormals(predictions, w, IDLE)
      const deviation = Math.sqrt(spread.reduce((sum, n) => sum + n.weight * n.deviation ** 2, 0))
      return [{ weight: 1, mean: middles[k]!, deviation }]
    })
    const likely = densities(of, USUAL_ERROR.crankcase)
    if (!likely) return []
    return [
      {
        id: `pinch-${l.id}`,
        name: `Crankcase at idle with the ${lowered(l.name)} held shut`,
        minutes: 4,
        needs: 'manometer on the dipstick tube, hose clamp pliers, engine warm',
        caution: `${caution} A few seconds only.`,
        reads: { observable: IDLE, pinched: l.id },
        bits: informationOf(
          top.map((w) => w.share),
          likely,
        ),
        shows: top.slice(0, LEADERS).map((w, k) => ({
          hypothesis: w.hypothesis.id,
          range: predictedRange(IDLE, of[k]!, USUAL_ERROR.crankcase),
        })),
      },
    ]
  })
}

function lookSteps(build: Build, top: readonly WeighedHypothesis[]): NextStep[] {
  const hypotheses = top.map((w) => w.hypothesis)
  return looksOf(build).flatMap((look): NextStep[] => {
    const outcomes = outcomesOf(look, hypotheses)
    if (outcomes.length < 2) return []
    const rows = hypotheses.map((h) => outcomes.map((o) => chanceOf(look, o, outcomes, h)))
    const { id, name, minutes, needs, caution } = look
    return [
      {
        id,
        name,
        minutes,
        needs,
        caution,
        outcomes,
        bits: informationOf(
          top.map((w) => w.share),
          rows,
        ),
        shows: hypotheses.slice(0, LEADERS).map((h) => ({ hypothesis: h.id, says: look.shows(h) })),
      },
    ]
  })
}

/** How likely a figure that was read with a hose held shut is with each fault. @param kpa Pa gauge on the scale of pressures */
export function pinchedChances(
  predictions: Predictions,
  weighed: readonly WeighedHypothesis[],
  { line, pa }: { readonly line: string; readonly pa: number },
): ReadonlyMap<string, number> {
  const middles = pinchedFigures(weighed, line)
  const at = toScale(IDLE, pa)
  return new Map(
    weighed.map((w, k) => {
      const spread = predictedNormals(predictions, w, IDLE).reduce((sum, n) => sum + n.weight * n.deviation ** 2, 0)
      const wide = Math.sqrt(spread + USUAL_ERROR.crankcase ** 2)
      const z = (at - middles[k]!) / wide
      // misread now and then, like any other
      return [w.hypothesis.id, Number.isFinite(z) ? 0.02 + Math.exp((-z * z) / 2) / wide : 0.02]
    }),
  )
}

/** Steps worth doing, the most telling a minute first. */
export function nextSteps(
  build: Build,
  predictions: Predictions,
  weighed: readonly WeighedHypothesis[],
): readonly NextStep[] {
  const top = worthConsidering(weighed)
  const sound = weighed.filter((w) => w.hypothesis.id === NOTHING && !top.includes(w))
  return [
    ...readingSteps(build, predictions, top),
    ...pinchSteps(build, predictions, top, sound),
    ...lookSteps(build, top),
  ]
    .filter((s) => s.bits >= LEAST_BITS)
    .toSorted((a, b) => b.bits / b.minutes - a.bits / a.minutes)
    .slice(0, MOST_STEPS)
}
