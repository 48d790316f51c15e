/** From a complaint to its cause: every fault that this build can have, by its odds, with its reason, and what to do next. */
import { scaled, type Job } from '@/core/job'
import type { Range } from '@/core/range'
import { withLearnedRates } from '../analyse'
import type { FaultCase, Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { FaultKind } from '../faults/faults'
import { pulsates } from '../model/engine'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { isWithinPredicted, evidenceFoundText, reasonOf, type ComparedReading } from './fault-reason'
import {
  faultSets,
  predictedBefore,
  predictedRange,
  likeliestPoint,
  weighHypotheses,
  type FaultFinding,
  type TickedSymptom,
  type WeighedHypothesis,
} from './fault-odds'
import { findingOf, looksOf } from './looks'
import { nextSteps, pinchedChances, type NextStep } from './measure-next'
import {
  atRecorded,
  evidenceIn,
  observableKey,
  observableName,
  withRecorded,
  type Evidence,
  type Observable,
} from './observables'
import { predict, type Predictions } from './predictions'
import { chanceSeen, SYMPTOM_IDS, SYMPTOMS, type SymptomId } from './symptoms'
import { relinearised } from './relinearise'
import { unitFormatter } from '../document/words'

/** What is known beside the log. */
export type CaseEvidence = Pick<FaultCase, 'symptoms' | 'findings' | 'since' | 'recorded'>
export const EMPTY_CASE: CaseEvidence = { symptoms: [], findings: [], since: undefined, recorded: undefined }

export type ReadColumn = {
  readonly key: string
  readonly name: string
  readonly says: string
  readonly observable: Observable
  readonly value: number
  readonly date: string
  /** entry from before the trouble: it says how the car was */
  readonly before: boolean
}
export type FaultRow = {
  readonly id: string
  readonly name: string
  readonly of: readonly string[]
  readonly kinds: readonly FaultKind[]
  /** 0 to 1 */
  readonly share: number
  /** how far it has gone, likely, where it goes by degrees */
  readonly extent: string | undefined
  /** of the way from least to most, likely */
  readonly severity: number | undefined
  readonly reason: string
  /** of each column: four cases in five of this build with this fault alone, and whether what was read lies in it */
  readonly boxes: readonly { readonly range: Range | undefined; readonly inside: boolean }[]
}
export type FaultReport = {
  readonly columns: readonly ReadColumn[]
  readonly rows: readonly FaultRow[]
  /** ids that no reading of a running engine tells apart */
  readonly sets: readonly (readonly string[])[]
  readonly next: readonly NextStep[]
  /** one has nine in ten, nothing is left that tells, or neither */
  readonly settled: 'found' | 'no more to tell' | undefined
  /** symptoms that this plan can show, in words */
  readonly symptoms: readonly { readonly id: SymptomId; readonly name: string }[]
}

/** Odds at which a fault counts as found. */
const FOUND = 0.9
/** Faults that are listed one by one: those with so much of the odds, and so many at least. */
const [LEAST_SHARE, LEAST_ROWS, MOST_ROWS] = [0.005, 7, 16]

const isSymptom = (id: string): id is SymptomId => (SYMPTOM_IDS as readonly string[]).includes(id)

/** What a case says, as what it makes of each fault. */
function findingsOf(
  build: Build,
  predictions: Predictions,
  { findings }: CaseEvidence,
  weighed: readonly WeighedHypothesis[],
): readonly FaultFinding[] {
  const looks = looksOf(build)
  return findings.flatMap((f): FaultFinding[] => {
    const look = looks.find((l) => l.id === f.step)
    if (look && f.saw !== undefined) return [findingOf(look, f.saw, predictions.hypotheses)]
    if (!f.step.startsWith('pinch-') || f.kpa === undefined) return []
    const chances = pinchedChances(predictions, weighed, { line: f.step.slice('pinch-'.length), pa: 1000 * f.kpa })
    return [{ chanceWith: (h) => chances.get(h.id) ?? 1 }]
  })
}

/** Last of each thing that was read since the trouble is there. */
const nowOf = (evidence: readonly Evidence[]): readonly Evidence[] =>
  evidence.filter(
    (e, k) =>
      !e.before &&
      evidence.findLastIndex((x) => !x.before && observableKey(x.observable) === observableKey(e.observable)) === k,
  )

type Reckoned = { readonly build: Build; readonly evidence: readonly Evidence[]; readonly known: CaseEvidence }
/**
 * @param before what each fault would show before anything was read @param predictions the same, straight about where it explains what was
 */
function report({ build, evidence, known }: Reckoned, before: Predictions, predictions: Predictions): FaultReport {
  const symptoms = known.symptoms.flatMap(({ id, seen }): TickedSymptom[] => (isSymptom(id) ? [{ id, seen }] : []))
  const first = weighHypotheses(predictions, evidence, symptoms)
  const findings = findingsOf(build, predictions, known, first)
  const weighed = findings.length === 0 ? first : weighHypotheses(predictions, evidence, symptoms, findings)
  const say = unitFormatter(build.units)
  const now = nowOf(evidence)
  const sound = before.hypotheses[0]!
  const boxOf = (of: string, e: Evidence) => {
    const hypothesis = before.hypotheses.find((h) => h.id === of)!
    return predictedRange(e.observable, predictedBefore(before, hypothesis, e.observable), e.error)
  }
  const rows = weighed.flatMap((w, k): FaultRow[] => {
    const isNothing = w.hypothesis.id === sound.id
    if (!isNothing && (k >= MOST_ROWS || (k >= LEAST_ROWS && w.share < LEAST_SHARE))) return []
    const compared = now.map((e): ComparedReading => ({
      evidence: e,
      sound: boxOf(sound.id, e),
      shown: boxOf(w.hypothesis.id, e),
    }))
    const best = likeliestPoint(w).point
    const { fault, id, name, of, kinds } = w.hypothesis
    return [
      {
        id,
        name,
        of,
        kinds,
        share: w.share,
        extent: fault?.extent && best.extent !== undefined ? fault.extent.says(best.extent) : undefined,
        severity: fault?.extent ? best.share : undefined,
        reason: reasonOf(build, w, compared),
        boxes: compared.map(({ evidence: e, shown }) => ({
          range: shown,
          inside: isWithinPredicted(e, shown),
        })),
      },
    ]
  })
  const likely = weighed.filter((w) => w.share > LEAST_SHARE / 2).slice(0, MOST_ROWS)
  const next = nextSteps(build, predictions, weighed).filter((s) => !known.findings.some((f) => f.step === s.id))
  const leader = weighed[0]!
  return {
    columns: now.map((e) => ({
      key: observableKey(e.observable),
      name: observableName(build, e.observable),
      says: evidenceFoundText(say, e),
      observable: e.observable,
      value: e.value,
      date: e.date,
      before: e.before,
    })),
    rows,
    sets: faultSets(predictions, likely),
    next,
    settled: leader.share >= FOUND ? 'found' : next.length === 0 ? 'no more to tell' : undefined,
    symptoms: SYMPTOM_IDS.filter((id) => {
      const figures = sound.points[0]!.figures
      return chanceSeen(id, figures, figures) !== undefined
    }).map((id) => ({ id, name: SYMPTOMS[id].name })),
  }
}

/** What the predictions of a build depend on: not its log, nor its cases. */
const keyOf = (build: Build): string =>
  JSON.stringify([build.engine, activeVariant(build), build.site, build.duty, build.learned, lately(build)])
/** What was worked on is likelier to be at fault. */
const lately = (build: Build) => build.log.flatMap((e) => (e.kind === 'fitted' ? [e.part, e.odometerKm] : []))

export type FaultFinder = {
  /** Yields the share done; what was worked out of the plan before is not worked out again. */
  readonly find: (build: Build, known: CaseEvidence, today: string) => Job<FaultReport>
}

/**
 * A finder that keeps what it worked out of the last build.
 *
 * @example
 * import { finish } from '@/core/job'
 * import { makeFaultFinder } from '@/plan/finder/find-faults'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const known = { readings: [], findings: [], symptoms: [] }
 * const build = newBuild({ name: 'Plain four', engineClass: 'i4-na', use: 'street', school: 'stock', ambientC: 10, units: 'metric' })
 * const { rows } = finish(makeFaultFinder().find(build, known, '2026-11-24'))
 * console.log(rows[0].name) // 'Nothing is wrong'
 */
export function makeFaultFinder(): FaultFinder {
  let kept: { readonly key: string; readonly predictions: Predictions } | undefined
  let near: { readonly key: string; readonly predictions: Predictions } | undefined
  return {
    *find(asBuilt, known, today) {
      const recorded = known.recorded ?? []
      const build = atRecorded(asBuilt, recorded)
      const key = keyOf(build)
      if (kept?.key !== key) kept = { key, predictions: yield* scaled(predict(build), 0, 0.7) }
      const evaluator = makeEvaluator()
      const worked = withLearnedRates(build, figuresOf(build, evaluator), today, evaluator)
      // where the pistons pump, a gauge reads the mean of a turn, which still flow does not know
      const evidence = withRecorded(evidenceIn(build, worked, known.since), recorded).filter(
        (e) => e.observable.kind !== 'crankcase' || !pulsates(build.engine),
      )
      // the mean of a state as driven is not the steady state: about a peak that would be taken for the car, or for a fault
      const read = recorded.length > 0 ? [] : evidence
      const readKey = `${key} ${JSON.stringify(read)}`
      if (near?.key !== readKey)
        near = { key: readKey, predictions: yield* scaled(relinearised(build, kept.predictions, read), 0.7, 0.25) }
      yield 0.95
      return report({ build, evidence, known }, kept.predictions, near.predictions)
    },
  }
}
