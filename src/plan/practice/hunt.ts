/** A fault hunt on a practice car: what each tool answers, how long it takes, what it risks, and what it tells as the finder sees it. */
import { uniforms } from '@/core/random'
import { normalQuantile } from '@/core/service/normal'
import { HOSE_EFFORT, PART_EFFORT } from '../catalogue/effort'
import type { Build } from '../document/schema'
import { unitFormatter } from '../document/words'
import { activeVariant } from '../edit/edit'
import { cureOf } from '../finder/cures'
import {
  faultSets,
  predictedBefore,
  predictedRange,
  rankedSets,
  weighHypotheses,
  type FaultFinding,
  type WeighedHypothesis,
} from '../finder/fault-odds'
import { gasSolver } from '../finder/gas-states'
import { NOTHING } from '../finder/hypotheses'
import { findingOf, looksOf, type Look } from '../finder/looks'
import { DRIVING_CAUTION, nextSteps, readingWork } from '../finder/measure-next'
import {
  readingEvidence,
  FILLING_SCATTER,
  LEAST_CATCH_RATIO,
  observableName,
  type Evidence,
  type Observable,
} from '../finder/observables'
import type { Predictions } from '../finder/predictions'
import { makeEvaluator } from '../model/evaluator'
import { engineModel } from '../model/engine'
import { extentAt } from '../faults/graded-faults'
import { gaugeError } from '../service/readings'
import { simulateDrive } from '../studies/simulated-drive'
import { TRIM_ERROR } from '../finder/simulated-case'
import type { PracticeCar } from './practice-car'
import { dangerOf, minutesOf, type HuntStep, type HuntTool } from './hunt-tools'

/** What a step said. */
export type TakenStep = HuntStep & {
  readonly name: string
  readonly says: string
  /** what the plan predicts there for a sound car, in words */
  readonly predicted: string | undefined
  /** with waiting and fetching */
  readonly minutes: number
  readonly danger: string | undefined
  readonly evidence: readonly Evidence[]
  readonly look: { readonly id: string; readonly saw: string } | undefined
}
export type HuntState = { readonly taken: readonly TakenStep[]; readonly spent: number; readonly isHot: boolean }

/** Tools of a car: readings, a drive with the logger, what can be looked at, and its cans emptied. */
export function toolsOf(build: Build, predictions: Pick<Predictions, 'observables'>): readonly HuntTool[] {
  const looks = looksOf(build).map(({ id, name, minutes, needs, caution }): HuntTool => {
    const engine = /cold/i.test(caution) ? 'cold' : 'any'
    return { id, group: 'look', name, minutes, needs, caution, engine, people: 1 }
  })
  const read = predictions.observables.flatMap((o): HuntTool[] => {
    if (o.kind !== 'trim' && o.kind !== 'crankcase') return []
    const isDriven = o.kind === 'crankcase' && o.state !== 'idle'
    return [{ ...readingWork(build, o), group: 'gauge', engine: 'warm', people: isDriven ? 2 : 1 }]
  })
  const cans = activeVariant(build).parts.flatMap((p): HuntTool[] =>
    p.kind === 'can'
      ? [
          {
            id: `empty-${p.id}`,
            group: 'can',
            name: `Empty the ${p.name.toLowerCase()} and measure`,
            minutes: 5,
            needs: 'a measuring cup',
            caution: 'Engine cold. Oil and water from a can are hazardous waste.',
            engine: 'cold',
            people: 1,
          },
        ]
      : [],
  )
  const drive: HuntTool = {
    id: 'drive',
    group: 'drive',
    name: 'Drive on with the logger',
    minutes: 25,
    needs: 'logger on the dipstick tube',
    caution: DRIVING_CAUTION,
    engine: 'warm',
    people: 2,
  }
  return [...read, ...cans, drive, ...looks]
}

/** A number that follows from text, so that a tool answers the same whenever it is asked. */
const numberOf = (text: string): number => [...text].reduce((n, c) => (n * 31 + c.codePointAt(0)!) % 1_000_003, 7)

/** Nearness of a sample to a state's point that counts as the state: share of its speed, Pa of its manifold; and least samples. */
const [NEAR_SPEED, NEAR_PA, LEAST_SAMPLES] = [0.15, 9000, 15]

/** What the logger has of each state of a drive, through its own noise. */
function driven(practiceCar: PracticeCar, observables: readonly Observable[]): readonly Evidence[] {
  const drive = simulateDrive(practiceCar.car, { kind: 'hill', seed: practiceCar.seed + 1, seconds: 180, hz: 5 })
  const { states } = engineModel(practiceCar.build)
  return observables.flatMap((o) => {
    if (o.kind !== 'crankcase') return []
    const state = states.find((s) => s.id === o.state)
    if (!state) return []
    const samples = [...drive.crankcase].filter(
      (p, k) =>
        Number.isFinite(p) &&
        Math.abs(drive.rpm[k]! - state.rpm) < NEAR_SPEED * state.rpm &&
        Math.abs(drive.manifoldPa[k]! - state.manifoldPa) < NEAR_PA,
    )
    if (samples.length < LEAST_SAMPLES) return []
    const mean = samples.reduce((a, b) => a + b, 0) / samples.length
    return [readingEvidence(o, mean, 1.5 * gaugeError(mean))]
  })
}

type Answer = Pick<TakenStep, 'says' | 'predicted' | 'evidence' | 'look'>
/** What a tool says of a car. */
function answerOf(practiceCar: PracticeCar, predictions: Predictions, tool: HuntTool): Answer {
  const uniform = uniforms(practiceCar.seed * 1009 + numberOf(tool.id))
  const normal = () => normalQuantile(uniform())
  const say = unitFormatter(practiceCar.build.units)
  const sound = predictions.hypotheses[0]!
  const soundText = (e: Evidence): string | undefined => {
    const range = predictedRange(e.observable, predictedBefore(predictions, sound, e.observable), e.error)
    if (!range) return undefined
    const text = (x: number) =>
      e.observable.kind === 'trim'
        ? say.percent(x)
        : e.observable.kind === 'catch'
          ? `${x.toFixed(1)} times`
          : say.signed(x)
    return `${text(range.low)} to ${text(range.high)}`
  }
  const answer = (evidence: readonly Evidence[], says: string): Answer => ({
    says,
    predicted: evidence.length === 1 ? soundText(evidence[0]!) : undefined,
    evidence,
    look: undefined,
  })
  if (tool.group === 'look') {
    const look = looksOf(practiceCar.build).find((l) => l.id === tool.id)!
    const saw = shownBy(look, practiceCar, predictions)
    return { says: saw, predicted: undefined, evidence: [], look: { id: tool.id, saw } }
  }
  if (tool.group === 'drive') {
    const evidence = driven(practiceCar, predictions.observables)
    const says = evidence.map(
      (e) =>
        `${observableName(practiceCar.build, e.observable).toLowerCase()} ${say.signed(e.value)} (sound: ${soundText(e) ?? 'not known'})`,
    )
    return answer(evidence, says.length === 0 ? 'No state was held long enough.' : says.join('; '))
  }
  if (tool.group === 'can') {
    const known = practiceCar.readings.find(
      (r) => r.observable.kind === 'catch' && tool.id === `empty-${r.observable.can}`,
    )
    if (!known) return answer([], 'nothing that tells')
    return answer(
      [readingEvidence(known.observable, known.value, FILLING_SCATTER * known.value)],
      known.value <= LEAST_CATCH_RATIO
        ? 'nothing but a film'
        : `${known.value.toFixed(known.value < 2 ? 1 : 0)} times what the plan predicts`,
    )
  }
  const gas = gasSolver(makeEvaluator())(practiceCar.car) ?? []
  if (tool.id === 'read-trim') {
    const value = (gas.find((s) => s.id === 'idle')?.unmetered ?? 0) + TRIM_ERROR * normal()
    return answer([readingEvidence({ kind: 'trim' }, value, TRIM_ERROR)], `${say.percent(value)}`)
  }
  const id = tool.id.slice('read-crankcase-'.length)
  const state = gas.find((s) => s.id === id)
  if (!state) return answer([], 'the needle swings too much to read')
  const value = state.crankcase + gaugeError(state.crankcase) * normal()
  return answer([readingEvidence({ kind: 'crankcase', state: state.id }, value, gaugeError(value))], say.signed(value))
}
const shownBy = (look: Look, { truth }: PracticeCar, { hypotheses }: Predictions): string =>
  look.shows(hypotheses.find((h) => h.id === truth) ?? hypotheses[0]!)

/** Plays steps on a practice car; the driver has just come in, so the engine is hot. Steps with an unknown tool are left out. */
export function playHunt(practiceCar: PracticeCar, predictions: Predictions, steps: readonly HuntStep[]): HuntState {
  const tools = toolsOf(practiceCar.build, predictions)
  let [isHot, spent] = [true, 0]
  const taken = steps.flatMap((step): TakenStep[] => {
    const tool = tools.find((t) => t.id === step.tool)
    if (!tool) return []
    const minutes = minutesOf(tool, isHot, step)
    const danger = dangerOf(tool, step, isHot)
    spent += minutes
    if (tool.engine === 'warm') isHot = true
    else if (tool.engine === 'cold' && step.cooled) isHot = false
    return [{ ...step, name: tool.name, minutes, danger, ...answerOf(practiceCar, predictions, tool) }]
  })
  return { taken, spent, isHot }
}

/** Odds by what was found, as the finder sees them. */
export function oddsAfter(
  practiceCar: PracticeCar,
  predictions: Predictions,
  taken: readonly TakenStep[],
): readonly WeighedHypothesis[] {
  const looks = looksOf(practiceCar.build)
  const findings = taken.flatMap(({ look: seen }): FaultFinding[] => {
    const look = seen && looks.find((l) => l.id === seen.id)
    return look ? [findingOf(look, seen.saw, predictions.hypotheses)] : []
  })
  // a gauge that was read again says no more than once
  const last = new Map(taken.flatMap((t) => t.evidence.map((e) => [JSON.stringify(e.observable), e] as const)))
  return weighHypotheses(predictions, [...last.values()], practiceCar.symptoms, findings)
}

/** Whether a fault is the one that the car has, alone or with what it brings (a lifted cap). */
const isOfTruth = ({ truth }: PracticeCar, id: string): boolean => id.split('+')[0] === truth
/** Whether a fault that was named is the one, or of the set that nothing tells apart from it. */
function isRight(
  practiceCar: PracticeCar,
  predictions: Predictions,
  weighed: readonly WeighedHypothesis[],
  named: string,
): boolean {
  if (isOfTruth(practiceCar, named)) return true
  const sets = faultSets(
    predictions,
    weighed.filter((w) => w.share > 0.002),
  )
  return rankedSets(weighed, sets).some((g) => g.includes(practiceCar.truth) && g.includes(named))
}

/** Odds at which a careful fitter names it. */
const SURE = 0.9

export type HuntAttempt = { readonly steps: readonly HuntStep[]; readonly named: string }
/** What a careful fitter does: the step that tells most a minute, waiting counted, until one is sure or time is up. */
export function carefulHunt(practiceCar: PracticeCar, predictions: Predictions): HuntAttempt {
  const tools = toolsOf(practiceCar.build, predictions)
  const steps: HuntStep[] = []
  for (;;) {
    const { taken, spent, isHot } = playHunt(practiceCar, predictions, steps)
    const weighed = oddsAfter(practiceCar, predictions, taken)
    const leader = weighed[0]!.hypothesis.id
    if (weighed[0]!.share >= SURE) return { steps, named: leader }
    const care = { cooled: true, helped: true }
    const [next] = nextSteps(practiceCar.build, predictions, weighed)
      .flatMap((s) => {
        const tool = tools.find((t) => t.id === s.id)
        if (!tool || s.reads?.pinched !== undefined || steps.some((x) => x.tool === s.id)) return []
        return [{ tool, minutes: minutesOf(tool, isHot, care), bits: s.bits }]
      })
      .filter((s) => spent + s.minutes <= practiceCar.minutes)
      .toSorted((a, b) => b.bits / b.minutes - a.bits / a.minutes)
    if (!next) return { steps, named: leader }
    steps.push({ tool: next.tool.id, ...care })
  }
}

/** Points: a fault found is worth so many minutes; what a danger and a car that comes back cost, minutes. */
const [FOUND_POINTS, DANGER_POINTS, COMES_BACK] = [120, 25, 45]
/** What a part that was sound costs, minutes: its hours, and its price at a hundred an hour (estimate). */
const AN_HOURS_PRICE = 100

export type HuntReview = {
  readonly truth: { readonly id: string; readonly name: string; readonly extent: string | undefined }
  readonly isRight: boolean
  readonly named: string
  /** what was found, with the odds after it, the likeliest first; and those of the truth */
  readonly steps: readonly {
    readonly name: string
    readonly minutes: number
    readonly odds: readonly { readonly name: string; readonly share: number; readonly isTruth: boolean }[]
  }[]
  readonly careful: {
    readonly steps: readonly string[]
    readonly minutes: number
    readonly isRight: boolean
    readonly named: string
  }
  /** what a wrong part cost; undefined where none was fitted */
  readonly wrong: { readonly part: string; readonly price: number; readonly hours: number } | undefined
  readonly dangers: readonly string[]
  readonly spent: number
  readonly score: number
  /** how it is mended, of what it truly is */
  readonly cure: readonly string[]
}

const LEADERS = 3

/** What a wrong part costs, for whatever was named beside the truth. */
function wrongPart(practiceCar: PracticeCar, predictions: Predictions, named: string): HuntReview['wrong'] {
  const h = predictions.hypotheses.find((x) => x.id === named)
  const [of] = h?.of ?? []
  if (of === undefined) return undefined
  const { parts, lines } = activeVariant(practiceCar.build)
  const part = parts.find((p) => p.id === of)
  const line = lines.find((l) => l.id === of)
  const effort = part ? PART_EFFORT[part.kind] : line ? HOSE_EFFORT : undefined
  return effort && { part: part?.name ?? line!.name, price: effort.price, hours: effort.hours }
}

/** Points of a hunt: what a found fault is worth, less its minutes, dangers and what was fitted for nothing. */
function scoreOf({ isRight: found, spent, dangers, wrong, named }: Scored): number {
  const parts = wrong ? 60 * wrong.hours + (60 * wrong.price) / AN_HOURS_PRICE : 0
  const back = found ? 0 : COMES_BACK + (named === NOTHING ? 0 : parts)
  return (found ? FOUND_POINTS : 0) - spent - DANGER_POINTS * dangers - back
}
type Scored = Pick<HuntReview, 'isRight' | 'spent' | 'wrong' | 'named'> & { readonly dangers: number }

/** How a hunt went: what each step said, whether it was found, what it cost. */
function outcomeOf(practiceCar: PracticeCar, predictions: Predictions, { steps, named }: HuntAttempt) {
  const { taken, spent } = playHunt(practiceCar, predictions, steps)
  const found = isRight(practiceCar, predictions, oddsAfter(practiceCar, predictions, taken), named)
  const dangers = taken.flatMap((t) => t.danger ?? [])
  const wrong = found ? undefined : wrongPart(practiceCar, predictions, named)
  const score = scoreOf({ isRight: found, spent, dangers: dangers.length, wrong, named })
  return { taken, spent, isRight: found, dangers, wrong, score }
}

/** The score of a hunt alone. */
export const huntScore = (practiceCar: PracticeCar, predictions: Predictions, played: HuntAttempt): number =>
  outcomeOf(practiceCar, predictions, played).score

/** A hunt looked back on. */
export function reviewHunt(practiceCar: PracticeCar, predictions: Predictions, played: HuntAttempt): HuntReview {
  const nameOf = (id: string) => predictions.hypotheses.find((h) => h.id === id)?.name ?? id
  const { taken, score, ...outcome } = outcomeOf(practiceCar, predictions, played)
  const oddsOf = (n: number) => {
    const weighed = oddsAfter(practiceCar, predictions, taken.slice(0, n))
    const shown = weighed.filter((w, k) => k < LEADERS || w.hypothesis.id === practiceCar.truth)
    return shown.map((w) => ({
      name: w.hypothesis.name,
      share: w.share,
      isTruth: isOfTruth(practiceCar, w.hypothesis.id),
    }))
  }
  const careful = carefulHunt(practiceCar, predictions)
  const carefully = outcomeOf(practiceCar, predictions, careful)
  const truth = predictions.hypotheses.find((h) => h.id === practiceCar.truth)
  const { fault } = practiceCar
  return {
    truth: {
      id: practiceCar.truth,
      name: truth?.name ?? fault?.name ?? 'Nothing is wrong',
      extent: fault?.extent?.says(extentAt(fault.extent, practiceCar.severity)),
    },
    ...outcome,
    named: nameOf(played.named),
    steps: [
      { name: 'what the driver says', minutes: 0, odds: oddsOf(0) },
      ...taken.map((t, k) => ({ name: t.name, minutes: t.minutes, odds: oddsOf(k + 1) })),
    ],
    careful: {
      steps: carefully.taken.map((t) => `${t.name}: ${t.says}`),
      minutes: carefully.spent,
      isRight: carefully.isRight,
      named: nameOf(careful.named),
    },
    score: Math.round(score),
    cure: (truth && cureOf(practiceCar.build, truth)?.steps) ?? [],
  }
}
