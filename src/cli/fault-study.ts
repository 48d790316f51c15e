/** ./ivent docs faults: how often the finder finds the fault of simulated cars, how well its odds hold, and what its next step saves. */
import { fork } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { availableParallelism } from 'node:os'
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
import { faultSets, rankedSets, weighHypotheses, type FaultFinding } from '@/plan/finder/fault-odds'
import { gasSolver } from '@/plan/finder/gas-states'
import { findingOf, looksOf } from '@/plan/finder/looks'
import { nextSteps } from '@/plan/finder/measure-next'
import { readingEvidence, type Evidence, type Observable } from '@/plan/finder/observables'
import { predict, type Predictions } from '@/plan/finder/predictions'
import { relinearised } from '@/plan/finder/relinearise'
import { simulatedCase, type SimulatedCase } from '@/plan/finder/simulated-case'

const [FAULTY, FOLLOWED, FIRST_SEED] = [Number(process.argv[2] ?? 300), Number(process.argv[3] ?? 30), 30000]
/** Cars are shared out to so many processes; one of them is told which it is. */
const PROCESSES = availableParallelism()
const PART = process.argv[4] === undefined ? undefined : Number(process.argv[4])
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
  simulated: SimulatedCase,
  evidence: readonly Evidence[],
  instruments: readonly Observable['kind'][],
): {
  place: number
  lead: number
  tenths: [number, boolean][]
} {
  const predictions = finish(relinearised(simulated.build, predictionsOf(simulated), evidence))
  const weighed = weighHypotheses(predictions, evidence, [])
  const sets = faultSets(
    predictions,
    weighed.filter((w) => w.share > 0.002),
    // what is not at hand tells nothing apart
    predictions.observables.filter((o) => instruments.includes(o.kind)),
  )
  const groups = rankedSets(weighed, sets)
  const shareOf = new Map(weighed.map((w) => [w.hypothesis.id, w.share]))
  return {
    place: groups.findIndex((g) => g.includes(simulated.truth)),
    lead: (groups[0] ?? []).reduce((sum, id) => sum + (shareOf.get(id) ?? 0), 0),
    tenths: weighed.map((w) => [w.share, w.hypothesis.id === simulated.truth]),
  }
}

/** Minutes until one has nine in ten, by a policy; undefined where it never does. */
function followed(simulated: SimulatedCase, seed: number, byFinder: boolean): number | undefined {
  const before = predictionsOf(simulated)
  let predictions = before
  const uniform = uniforms(seed)
  const truth = before.hypotheses.find((h) => h.id === simulated.truth)!
  const gas = gasSolver(makeEvaluator())(simulated.car)!
  const looks = looksOf(simulated.build)
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
    predictions = finish(relinearised(simulated.build, before, evidence))
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
    const weighed = weighHypotheses(predictions, evidence, [], findings)
    if (weighed[0]!.share >= FOUND) return weighed[0]!.hypothesis.id === simulated.truth ? minutes : undefined
    const next = byFinder
      ? nextSteps(simulated.build, predictions, weighed).find((s) => !done.has(s.id) && s.reads?.pinched === undefined)
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

const cases: { readonly seed: number; readonly simulated: SimulatedCase }[] = []
for (let seed = FIRST_SEED; cases.filter((c) => c.simulated.fault).length < FAULTY; seed++) {
  const simulated = simulatedCase(seed)
  if (simulated) cases.push({ seed, simulated })
}
/** What is read of a car, and with which instruments. */
const READ = {
  all: { instruments: EVERY_INSTRUMENT, evidence: ({ readings }: SimulatedCase) => readings },
  before: {
    instruments: EVERY_INSTRUMENT,
    evidence: ({ soundReadings, readings }: SimulatedCase) => [...soundReadings, ...readings],
  },
  gauge: {
    instruments: ['crankcase'],
    evidence: ({ readings }: SimulatedCase) => readings.filter((e) => e.observable.kind === 'crankcase'),
  },
} as const
type Read = keyof typeof READ
const READS = Object.keys(READ) as readonly Read[]
/** What the finder makes of one car; and minutes to settle it, by its next steps and by one order, where both were followed. */
type CarResult = {
  readonly seed: number
  readonly reads: Readonly<Record<Read, ReturnType<typeof placeOf>>>
  readonly minutes: readonly [number | null, number | null] | undefined
}
function resultOf(simulated: SimulatedCase, { seed, nth }: { seed: number; nth: number | undefined }): CarResult {
  const tried = READS.map((read) => {
    const { evidence, instruments } = READ[read]
    return [read, placeOf(simulated, evidence(simulated), instruments)] as const
  })
  return {
    seed,
    reads: Object.fromEntries(tried) as CarResult['reads'],
    minutes:
      nth === undefined ? undefined : [followed(simulated, nth, true) ?? null, followed(simulated, nth, false) ?? null],
  }
}

/** The cars, with those of one build in one process, where what it predicts is worked out once. */
function carsOf(part: number) {
  const builds = new Map<string, number>()
  let faulty = 0
  return cases.flatMap(({ seed, simulated }) => {
    const nth = simulated.fault && faulty++ < FOLLOWED ? faulty - 1 : undefined
    const key = JSON.stringify(simulated.build)
    if (!builds.has(key)) builds.set(key, builds.size)
    return builds.get(key)! % PROCESSES === part ? [{ seed, nth, simulated }] : []
  })
}
/** Results of all cars, from as many processes as there are cores. */
const resultsOfAll = (): Promise<readonly CarResult[]> =>
  Promise.all(
    Array.from(
      { length: PROCESSES },
      (_, part) =>
        new Promise<readonly CarResult[]>((resolve, reject) => {
          const child = fork(process.argv[1]!, [String(FAULTY), String(FOLLOWED), String(part)])
          child.on('message', (results: readonly CarResult[]) => resolve(results))
          child.on('exit', (code) => {
            if (code !== 0) reject(new Error(`part ${part} ended with ${code}`))
          })
        }),
    ),
  ).then((parts) => parts.flat())

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

const meanOf = (xs: readonly number[]) => xs.reduce((sum, x) => sum + x, 0) / Math.max(1, xs.length)
const percent = (n: number, of: number) => `${Math.round((100 * n) / Math.max(1, of))} %`

function textOf(results: readonly CarResult[], drives: ReturnType<typeof recordedDrives>): string {
  const bySeed = new Map(results.map((r) => [r.seed, r]))
  const cars = cases.map(({ seed, simulated }) => ({ fault: simulated.fault, ...bySeed.get(seed)! }))
  const [faulty, sound] = [cars.filter((c) => c.fault), cars.filter((c) => !c.fault)]
  const isFirst = (read: Read) => (c: CarResult) => c.reads[read].place === 0
  const within = (of: readonly CarResult[], is: (c: CarResult) => boolean) => percent(of.filter(is).length, of.length)
  const readRow = (read: Read, what: string): string =>
    `| ${[
      what,
      within(faulty, isFirst(read)),
      within(faulty, ({ reads }) => reads[read].place >= 0 && reads[read].place < 3),
      within(sound, isFirst(read)),
      percent(meanOf(cars.map((c) => c.reads[read].lead)), 1),
      within(cars, isFirst(read)),
    ].join(' | ')} |`
  const tenth = (read: Read, k: number): readonly (number | string)[] => {
    const said = cars.flatMap((c) =>
      c.reads[read].tenths.filter(([share]) => Math.min(9, Math.floor(10 * share)) === k),
    )
    return said.length === 0
      ? [0, '', '']
      : [
          said.length,
          percent(meanOf(said.map(([share]) => share)), 1),
          percent(said.filter(([, is]) => is).length, said.length),
        ]
  }
  const kinds = [...new Set(faulty.map((c) => c.fault!.kind))]
    .map((kind) => ({ kind, of: faulty.filter((c) => c.fault!.kind === kind) }))
    .toSorted((a, b) => b.of.length - a.of.length)
  const both = results.flatMap(({ minutes }) => (minutes ? [minutes] : []))
  const settled = both.flatMap(([a, b]) => (a !== null && b !== null ? [[a, b] as const] : []))
  const settledBy = (k: 0 | 1) => both.filter((m) => m[k] !== null).length
  return `# The fault finder, tried on simulated cars

Written by \`./ivent docs faults\` (${faulty.length} faulty cars and ${sound.length} sound ones, over all engine classes and schools whose pistons do not
pump; each engine's truth drawn from its ranges, one fault by its odds beforehand, its severity even in the logarithm, instruments with their noise; seeds from ${FIRST_SEED}).
A set is what no reading with the instruments at hand tells apart by 0.1 bit; what is too slight to show is in one set with "nothing is wrong".

| read | the fault or its set first | in the first three | sound: "nothing" or its set first | odds of the first set | the first set is right |
|---|---|---|---|---|---|
${readRow('all', 'gauge at idle, cruise and full load, catch, idle trim; nothing known of the car before')}
${readRow('before', 'the same, and the same read once while the car was sound')}
${readRow('gauge', 'gauge alone')}

The last two columns are of all cars, faulty and sound, in the mean: where they agree, the readings say no more.

## Do odds hold what they say?
All readings, with nothing known of the car before, and with the same read once while it was sound.

| odds said | how often | mean of what was said | true | read before too: how often | mean of what was said | true |
|---|---|---|---|---|---|---|
${Array.from({ length: 10 }, (_, k) => `| ${10 * k} to ${10 * k + 10} % | ${[...tenth('all', k), ...tenth('before', k)].join(' | ')} |`).join('\n')}

## From a recording
${drives.all} drives up a hill, a fault of an even severity from half way on, told by the states before and after alone: the fault, its set, or the fault with what it brings first in
${percent(drives.first, drives.all)}; ${drives.silent} more showed no change in any state that was held.

## By what is wrong
| fault | cars | it or its set first | read before too |
|---|---|---|---|
${kinds.map(({ kind, of }) => `| ${kind} | ${of.length} | ${within(of, isFirst('all'))} | ${within(of, isFirst('before'))} |`).join('\n')}

## What to do next
${both.length} of the faulty cars from nothing known to nine in ten: by the finder's next step, and by the same steps in one order (gauge at idle,
trim, looks, gauge when driven). Of those that both settled rightly (${settled.length}): ${meanOf(settled.map(([a]) => a)).toFixed(0)} minutes in the mean against
${meanOf(settled.map(([, b]) => b)).toFixed(0)}. Settled at all: ${settledBy(0)} against ${settledBy(1)}.
`
}

async function study(): Promise<void> {
  const results = resultsOfAll()
  // meanwhile, in this one
  const drives = recordedDrives()
  const text = textOf(await results, drives)
  writeFileSync('docs/fault-finder.md', text)
  console.log(text)
}
if (PART === undefined) void study()
else {
  const cars = carsOf(PART)
  const results = cars.map(({ simulated, ...of }, k) => {
    console.error(`part ${PART}: ${k + 1} of ${cars.length}`)
    return resultOf(simulated, of)
  })
  process.send!(results, () => process.exit(0))
}
