/** ./ivent docs faults: how often the finder finds the fault of simulated cars, how well its odds hold, and what its next step saves. */
import { writeFileSync } from 'node:fs'
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { normalQuantile } from '@/core/service/normal'
import { drivingStates } from '@/core/recording/driving-state'
import { applyEdits } from '@/plan/edit/edit'
import { gradedFaults } from '@/plan/faults/graded-faults'
import { EMPTY_CASE, makeFaultFinder } from '@/plan/finder/find-faults'
import { engineModel } from '@/plan/model/engine'
import { makeEvaluator } from '@/plan/model/evaluator'
import { newBuild } from '@/plan/schools/new-build'
import { reportRecording } from '@/plan/studies/recording-report'
import { simulateDrive } from '@/plan/studies/simulated-drive'
import { gaugeError } from '@/plan/service/readings'
import { faultSets, rankedSets, weigh, type FaultFinding } from '@/plan/finder/fault-odds'
import { gasSolver } from '@/plan/finder/gas-states'
import { findingOf, looksOf } from '@/plan/finder/looks'
import { nextSteps } from '@/plan/finder/measure-next'
import { readingEvidence, type Evidence, type Observable } from '@/plan/finder/observables'
import { predict, type Predictions } from '@/plan/finder/predictions'
import { relinearised } from '@/plan/finder/relinearise'
import { simulatedCase, type SimulatedCase } from '@/plan/finder/simulated-case'

const [FAULTY, FOLLOWED, FIRST_SEED] = [Number(process.argv[2] ?? 300), Number(process.argv[3] ?? 30), 30000]
const [FOUND, MOST_STEPS] = [0.9, 25]
const [DRIVEN_SCHOOLS, DRIVES] = [['both-sides', 'vacuum-side-can', 'breather-side-can', 'two-outlets'], 6] as const
const EVERY_INSTRUMENT = ['crankcase', 'trim', 'catch'] as const
const known = new Map<string, Predictions>()
function predictionsOf({ build }: SimulatedCase): Predictions {
  const key = JSON.stringify(build)
  const had = known.get(key)
  if (had) return had
  const made = finish(predict(build))
  known.set(key, made)
  return made
}

/** Where the truth stands among sets, 0 first. */
function placeOf(
  dealt: SimulatedCase,
  evidence: readonly Evidence[],
  instruments: readonly Observable['kind'][],
): {
  place: number
  lead: number
  tenths: [number, boolean][]
} {
  const predictions = finish(relinearised(dealt.build, predictionsOf(dealt), evidence))
  const weighed = weigh(predictions, evidence, [])
  const sets = faultSets(
    predictions,
    weighed.filter((w) => w.share > 0.002),
    // what is not at hand tells nothing apart
    predictions.observables.filter((o) => instruments.includes(o.kind)),
  )
  const groups = rankedSets(weighed, sets)
  const shareOf = new Map(weighed.map((w) => [w.hypothesis.id, w.share]))
  return {
    place: groups.findIndex((g) => g.includes(dealt.truth)),
    lead: (groups[0] ?? []).reduce((sum, id) => sum + (shareOf.get(id) ?? 0), 0),
    tenths: weighed.map((w) => [w.share, w.hypothesis.id === dealt.truth]),
  }
}

/** Minutes until one has nine in ten, by a policy; undefined where it never does. */
function followed(dealt: SimulatedCase, seed: number, byFinder: boolean): number | undefined {
  const before = predictionsOf(dealt)
  let predictions = before
  const uniform = uniforms(seed)
  const truth = before.hypotheses.find((h) => h.id === dealt.truth)!
  const gas = gasSolver(makeEvaluator())(dealt.car)!
  const looks = looksOf(dealt.build)
  const evidence: Evidence[] = []
  const findings: FaultFinding[] = []
  const done = new Set<string>()
  let minutes = 0
  const read = (observable: Observable) => {
    const value =
      observable.kind === 'trim'
        ? gas.find((s) => s.id === 'idle')!.unmetered + 0.02 * normalQuantile(uniform())
        : gas.find((s) => 'state' in observable && s.id === observable.state)!.crankcase
    const error = observable.kind === 'trim' ? 0.02 : gaugeError(value)
    const seen = observable.kind === 'trim' ? value : value + error * normalQuantile(uniform())
    evidence.push(readingEvidence(observable, seen, error))
    predictions = finish(relinearised(dealt.build, before, evidence))
  }
  const fixed = [
    ...predictions.observables.filter((o) => o.kind === 'crankcase' && o.state === 'idle'),
    ...predictions.observables.filter((o) => o.kind === 'trim'),
  ].map((o) => ({
    id: o.kind === 'trim' ? 'read-trim' : 'read-crankcase-idle',
    minutes: 3,
    observable: o as Observable | undefined,
  }))
  const rest = predictions.observables
    .filter((o) => o.kind === 'crankcase' && o.state !== 'idle')
    .map((o) => ({
      id: `read-crankcase-${'state' in o ? o.state : ''}`,
      minutes: 14,
      observable: o as Observable | undefined,
    }))
  const order = [...fixed, ...looks.map((l) => ({ id: l.id, minutes: l.minutes, observable: undefined })), ...rest]
  for (let step = 0; step < MOST_STEPS; step++) {
    const weighed = weigh(predictions, evidence, [], findings)
    if (weighed[0]!.share >= FOUND) return weighed[0]!.hypothesis.id === dealt.truth ? minutes : undefined
    const next = byFinder
      ? nextSteps(dealt.build, predictions, weighed).find((s) => !done.has(s.id) && s.reads?.pinched === undefined)
      : order.find((s) => !done.has(s.id))
    if (!next) return undefined
    done.add(next.id)
    minutes += next.minutes
    const observable = 'observable' in next ? next.observable : next.reads?.observable
    if (observable) read(observable)
    else {
      const look = looks.find((l) => l.id === next.id)!
      findings.push(findingOf(look, look.shows(truth), predictions.hypotheses))
    }
  }
  return undefined
}

const cases: SimulatedCase[] = []
for (let seed = FIRST_SEED; cases.filter((c) => c.fault).length < FAULTY; seed++) {
  const dealt = simulatedCase(seed)
  if (dealt) cases.push(dealt)
}
const tally = {
  /** odds of the first set, of all cars */
  led: 0,
  all: { first: 0, three: 0 },
  gauge: { first: 0, three: 0 },
  sound: 0,
  sounds: 0,
}
const tenths = Array.from({ length: 10 }, () => ({ n: 0, said: 0, true: 0 }))
const kinds = new Map<string, { n: number; first: number }>()
for (const dealt of cases) {
  const { place, lead, tenths: shares } = placeOf(dealt, dealt.readings, EVERY_INSTRUMENT)
  for (const [share, isTrue] of shares) {
    const t = tenths[Math.min(9, Math.floor(10 * share))]!
    t.n++
    t.said += share
    t.true += isTrue ? 1 : 0
  }
  tally.led += lead
  if (!dealt.fault) {
    tally.sounds++
    if (place === 0) tally.sound++
    continue
  }
  const gauge = placeOf(
    dealt,
    dealt.readings.filter((e) => e.observable.kind === 'crankcase'),
    ['crankcase'],
  ).place
  if (place === 0) tally.all.first++
  if (place >= 0 && place < 3) tally.all.three++
  if (gauge === 0) tally.gauge.first++
  if (gauge >= 0 && gauge < 3) tally.gauge.three++
  const k = kinds.get(dealt.fault.kind) ?? { n: 0, first: 0 }
  kinds.set(dealt.fault.kind, { n: k.n + 1, first: k.first + (place === 0 ? 1 : 0) })
}
/** Drives with a fault from half way on, as a logger has them. */
function recordedDrives(): { first: number; all: number; silent: number } {
  const counted = { first: 0, all: 0, silent: 0 }
  for (const [k, school] of DRIVEN_SCHOOLS.entries())
    for (let n = 0; n < DRIVES; n++) {
      const build = newBuild({
        name: 'x',
        engineClass: 'i5-turbo',
        use: 'street',
        ambientC: 15,
        units: 'metric',
        school,
      })
      const uniform = uniforms(500 + 10 * k + n)
      const faults = gradedFaults(build).filter((f) => f.kind !== 'overfull')
      const fault = faults[Math.floor(uniform() * faults.length)]!
      const broken = applyEdits(build, fault.editsAt(uniform()))
      if (!broken.ok) continue
      const { facts, amb } = engineModel(build)
      const driven = simulateDrive(build, {
        kind: 'hill',
        seed: 500 + 10 * k + n,
        seconds: 240,
        fault: { build: broken.value, at: 120 },
      })
      const { report } = finish(reportRecording(build, { ...driven, states: drivingStates(facts, amb, driven) }))
      if (!report.sides) {
        counted.silent++
        continue
      }
      const { before, after } = report.sides
      const recorded = after
        .filter((s) => s.seconds >= 5)
        .map((s) => {
          const was = before.find((b) => b.id === s.id && b.seconds >= 5)
          return {
            id: s.id,
            rpm: s.rpm,
            manifoldKpa: s.manifoldPa / 1000,
            kpa: s.measured.mid / 1000,
            beforeKpa: was && was.measured.mid / 1000,
          }
        })
      const { rows, sets } = finish(makeFaultFinder().find(build, { ...EMPTY_CASE, recorded }, '2026-01-01'))
      const leads = [rows[0]!.id, ...(sets.find((s) => s.includes(rows[0]!.id)) ?? [])]
      counted.all++
      if (leads.some((l) => l.split('+')[0] === fault.id)) counted.first++
    }
  return counted
}
const drives = recordedDrives()
const both = cases
  .filter((c) => c.fault)
  .slice(0, FOLLOWED)
  .map((c, k) => [followed(c, k, true), followed(c, k, false)] as const)
const settled = both.filter(([a, b]) => a !== undefined && b !== undefined) as [number, number][]
const meanOf = (xs: readonly number[]) => xs.reduce((a, b) => a + b, 0) / Math.max(1, xs.length)
const percent = (n: number, of: number) => `${Math.round((100 * n) / Math.max(1, of))} %`

const text = `# The fault finder, tried on simulated cars

Written by \`./ivent docs faults\` (${FAULTY} faulty cars and ${tally.sounds} sound ones, over all engine classes and schools whose pistons do not
pump; each engine's truth drawn from its ranges, one fault by its odds beforehand, its severity even in the logarithm, instruments with their noise; seeds from ${FIRST_SEED}).
A set is what no reading with the instruments at hand tells apart by 0.1 bit; what is too slight to show is in one set with "nothing is wrong".

| read | the fault or its set first | in the first three |
|---|---|---|
| gauge at idle, cruise and full load, catch, idle trim | ${percent(tally.all.first, FAULTY)} | ${percent(tally.all.three, FAULTY)} |
| gauge alone | ${percent(tally.gauge.first, FAULTY)} | ${percent(tally.gauge.three, FAULTY)} |

Sound cars: "nothing is wrong", or a set with it, first in ${percent(tally.sound, tally.sounds)}. Over all cars, faulty and sound, the odds of the first set come to
${percent(tally.led, cases.length)} in the mean, and it is the right one in ${percent(tally.all.first + tally.sound, cases.length)}: where the two agree, the readings say no more.

## Do odds hold what they say?
| odds said | how often | mean of what was said | true |
|---|---|---|---|
${tenths.map((t, k) => `| ${10 * k} to ${10 * k + 10} % | ${t.n} | ${t.n ? percent(t.said, t.n) : ''} | ${t.n ? percent(t.true, t.n) : ''} |`).join('\n')}

## From a recording
${drives.all} drives up a hill, a fault of an even severity from half way on, told by the states before and after alone: the fault, its set, or the fault with what it brings first in
${percent(drives.first, drives.all)}; ${drives.silent} more showed no change in any state that was held.

## By what is wrong
| fault | cars | it or its set first |
|---|---|---|
${[...kinds]
  .toSorted((a, b) => b[1].n - a[1].n)
  .map(([kind, k]) => `| ${kind} | ${k.n} | ${percent(k.first, k.n)} |`)
  .join('\n')}

## What to do next
${FOLLOWED} of the faulty cars from nothing known to nine in ten: by the finder's next step, and by the same steps in one order (gauge at idle,
trim, looks, gauge when driven). Of those that both settled rightly (${settled.length}): ${meanOf(settled.map(([a]) => a)).toFixed(0)} minutes in the mean against
${meanOf(settled.map(([, b]) => b)).toFixed(0)}. Settled at all: ${both.filter(([a]) => a !== undefined).length} against ${both.filter(([, b]) => b !== undefined).length}.
`
writeFileSync('docs/fault-finder.md', text)
console.log(text)
