/** Evidence about the peak against the same evidence drawn: the mean likelihood of cars drawn from their ranges (MacKay, Information Theory, 29). */
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { normalCdf, normalQuantile } from '@/core/service/normal'
import type { Build } from '../document/schema'
import { applyEdits } from '../edit/edit'
import { gradedFaults } from '../faults/graded-faults'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { gaugeError } from '../service/readings'
import { recentredInputs, uncertainInputs } from '../studies/uncertain'
import { weighHypotheses, weighAsComputed } from './fault-odds'
import { gasSolver } from './gas-states'
import { observableRow, readingEvidence, type Evidence } from './observables'
import { LOG_CATCH_DEVIATION, catchRates, predict, scaledCatch, scaledGas, type Predictions } from './predictions'
import { relinearised } from './relinearise'
import { simulatedCase } from './simulated-case'

const build = newBuild({
  name: 'x',
  engineClass: 'i4-turbo',
  use: 'street',
  ambientC: 15,
  units: 'metric',
  school: 'vacuum-side-can',
})
const before = finish(predict(build))
const inputs = uncertainInputs(build)
const evaluator = makeEvaluator()
const solve = gasSolver(evaluator)

/** What a gauge reads of the build with a fault, its inputs off by these standard deviations. */
function read(
  fault: string | undefined,
  off: Readonly<Record<string, number>>,
  states = ['idle', 'boost'],
): Evidence[] {
  const broken =
    fault &&
    applyEdits(
      build,
      gradedFaults(build)
        .find((f) => f.id === fault)!
        .editsAt(0.5),
    )
  const of = broken && broken.ok ? broken.value : build
  const car = applyEdits(
    of,
    recentredInputs(inputs, of).flatMap((input) => input.edits(off[input.id] ?? 0)),
  )
  if (!car.ok) throw new Error(car.reason)
  return solve(car.value)!.flatMap((s) =>
    states.includes(s.id)
      ? [readingEvidence({ kind: 'crankcase', state: s.id }, s.crankcase, gaugeError(s.crankcase))]
      : [],
  )
}

/** Logarithm of the evidence of a fault, by the finder. */
function evidenceOf(predictions: Predictions, readings: readonly Evidence[], id: string): number {
  const { points } = weighHypotheses(predictions, readings, []).find((w) => w.hypothesis.id === id)!
  return Math.log(
    points.reduce((sum, p) => sum + Math.exp(p.evidence.log - (p.point.overstatement ?? 0)), 0) / points.length,
  )
}
/** What is so unlikely by the gauge alone adds nothing, as a logarithm. */
const HOPELESS = -12
type Drawn = { readonly of: Build; readonly predictions: Predictions; readonly draws: number }
/** The same, drawn. */
function drawnEvidence(
  readings: readonly Evidence[],
  id: string,
  { of, predictions, draws }: Drawn = { of: build, predictions: before, draws: 5000 },
): number {
  const uniform = uniforms(4)
  const { observables, soundCatch, hypotheses } = predictions
  const h = hypotheses.find((x) => x.id === id)!
  const logOf = (figures: Float64Array, read: readonly Evidence[]) =>
    read.reduce((all, e) => {
      const off = (e.scaled - figures[observableRow(observables, e.observable)]!) / e.error
      return all + (e.atMost ? Math.log(normalCdf(off)) : -(off ** 2) / 2 - Math.log(e.error * Math.sqrt(2 * Math.PI)))
    }, 0)
  const [catches, others] = [true, false].map((is) => readings.filter((e) => (e.observable.kind === 'catch') === is))
  const ownInputs = uncertainInputs(of)
  let sum = 0
  for (let n = 0; n < draws; n++) {
    const broken = h.buildAt(h.fault?.extent ? uniform() : 0.5)!
    const car = applyEdits(
      broken,
      recentredInputs(ownInputs, broken).flatMap((input) => input.edits(normalQuantile(uniform()))),
    )
    const gas = car.ok ? solve(car.value) : undefined
    if (!car.ok || !gas) continue
    const log = logOf(scaledGas(observables, gas), others!)
    if (log < HOPELESS) continue
    const habit = LOG_CATCH_DEVIATION * normalQuantile(uniform())
    const caught = () => scaledCatch(observables, catchRates(car.value, figuresOf(car.value, evaluator)), soundCatch)
    sum += Math.exp(
      log +
        (catches!.length === 0
          ? 0
          : logOf(
              caught().map((c) => c + habit),
              catches!,
            )),
    )
  }
  return Math.log(sum / draws)
}

test.each([
  ['a valve stuck open', 'pcv-open', { blowBy: 1.2 }, ['pcv-open', 'pcv-leaks']],
  ['a sound car', undefined, { blowBy: -1 }, ['nothing', 'breather-split', 'pcv-leaks']],
  ['worn rings', 'rings-worn', { blowBy: 0.5 }, ['rings-worn', 'nothing']],
] as const)(
  '%s: the evidence of each fault about its peak is what draws from all ranges give',
  (_, fault, off, tried) => {
    const readings = read(fault, off)
    const near = finish(relinearised(build, before, readings))
    for (const id of tried)
      expect([id, Math.abs(evidenceOf(near, readings, id) - drawnEvidence(readings, id)) < 0.5]).toEqual([id, true])
  },
)

test('what a can catches jumps where a flow turns: its part in the evidence is what draws give', () => {
  // a separator that is full and is found dry: about the peak of all else, the slopes of a sound one ruled it out
  const { build: of, readings, truth } = simulatedCase(50054)!
  expect(truth).toBe('separator-full')
  const predictions = finish(predict(of))
  const near = finish(relinearised(of, predictions, readings))
  for (const id of [truth, 'breather-off']) {
    const drawn = drawnEvidence(readings, id, { of, predictions, draws: 5000 })
    expect([id, Math.abs(evidenceOf(near, readings, id) - drawn) < 1]).toEqual([id, true])
  }
})

test('a peak that one step from the first slopes does not reach is reached: a folded hose is not taken for a leaking valve', () => {
  const { build: of, readings, truth } = simulatedCase(30229)!
  expect(truth).toBe('manifold-line-flat')
  const predictions = finish(predict(of))
  const near = finish(relinearised(of, predictions, readings))
  const drawn = drawnEvidence(readings, truth, { of, predictions, draws: 4000 })
  expect(Math.abs(evidenceOf(near, readings, truth) - drawn)).toBeLessThan(1)
})

test.each([
  ['a can that is dry after a hose came off, which caught little before too', 30366, 'breather-off'],
  ['two cans whose shares turn over with the car, each emptied while it was sound', 30165, 'suction-off'],
  ['a car that is sound far from the middle of its ranges', 30032, 'breather-off'],
] as const)('%s: with how it read before, the fault that it has leads', (_, seed, fault) => {
  const { build: of, readings, soundReadings, truth } = simulatedCase(seed)!
  expect(truth).toBe(fault)
  const all = [...soundReadings, ...readings]
  const [first] = weighHypotheses(finish(relinearised(of, finish(predict(of)), all)), all, [])
  expect([first!.hypothesis.id, first!.share > 0.8]).toEqual([fault, true])
})

test('worn rings, which a straight model about the middle of all ranges takes for what they are not, lead', () => {
  const readings = read('rings-worn', { blowBy: 0.5 })
  const near = finish(relinearised(build, before, readings))
  expect(weighHypotheses(near, readings, [])[0]!.hypothesis.id).toBe('rings-worn')
  // what can explain it too is not ruled out, as it was
  expect(evidenceOf(near, readings, 'nothing')).toBeGreaterThan(evidenceOf(before, readings, 'nothing') + 10)
})

test('what was read while the car was sound holds the car where it was: the fault stands out', () => {
  const car = { blowBy: 0.5 }
  const was = read(undefined, car).map((e) => ({ ...e, before: true }))
  const share = (readings: readonly Evidence[]) =>
    weighHypotheses(finish(relinearised(build, before, readings)), readings, []).find(
      (w) => w.hypothesis.id === 'rings-worn',
    )!.share
  const now = read('rings-worn', car)
  expect(share([...was, ...now])).toBeGreaterThan(1.5 * share(now))
})

test('with nothing read since the trouble is there, nothing is worked out', () => {
  expect(finish(relinearised(build, before, []))).toBe(before)
  expect(
    finish(
      relinearised(
        build,
        before,
        read(undefined, {}).map((e) => ({ ...e, before: true })),
      ),
    ),
  ).toBe(before)
})

test('what readings rule out keeps a fiftieth of its odds beforehand, in case it was computed wrongly, and looks still count in full', () => {
  const readings = read('rings-worn', {}).map((e) => ({ ...e, error: e.error / 10 }))
  const computed = new Map(weighAsComputed(before, readings).map((w) => [w.hypothesis.id, w.share]))
  const odds = before.hypotheses.reduce((sum, h) => sum + h.odds, 0)
  const weighed = weighHypotheses(before, readings, [])
  for (const { hypothesis, share } of weighed)
    expect(share).toBeCloseTo(0.98 * computed.get(hypothesis.id)! + (0.02 * hypothesis.odds) / odds, 9)
  const [leader] = weighed
  const ruledOut = weighed.filter(({ hypothesis }) => computed.get(hypothesis.id)! < (0.1 * hypothesis.odds) / odds)
  expect(ruledOut.length).toBeGreaterThan(5)
  // a part that is seen whole is out, whatever was computed
  const seenWhole = { chanceWith: (h: { id: string }) => (h.id === leader!.hypothesis.id ? 1e-6 : 1) }
  const looked = weighHypotheses(before, readings, [], [seenWhole]).find(
    (w) => w.hypothesis.id === leader!.hypothesis.id,
  )!
  expect(looked.share).toBeLessThan(1e-3)
  // without readings they are the odds beforehand
  for (const { hypothesis, share } of weighHypotheses(before, [], []))
    expect(share).toBeCloseTo(hypothesis.odds / odds, 9)
})
