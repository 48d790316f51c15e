/** From readings to faults: simulated cars are found again about as often as the odds say, and what is told of them is true of them. */
import { finish } from '@/core/job'
import type { Build, LogEntry } from '../document/schema'
import { validateBuild } from '../document/validate'
import { perform } from '../edit/edit-builders'
import { applyEdits } from '../edit/edit'
import { gradedFaults, withFault } from '../faults/graded-faults'
import { drivingStates } from '@/core/recording/driving-state'
import { engineModel } from '../model/engine'
import { newBuild } from '../schools/new-build'
import { reportRecording } from '../studies/recording-report'
import { simulateDrive } from '../studies/simulated-drive'
import { badNumbers } from '../testing'
import { openCase, saveCase } from './case-builders'
import { cureOf } from './cures'
import { faultSets, rankedSets, weighHypotheses } from './fault-odds'
import { EMPTY_CASE, makeFaultFinder, type CaseEvidence } from './find-faults'
import { gasSolver } from './gas-states'
import { makeEvaluator } from '../model/evaluator'
import { predict, type Predictions } from './predictions'
import { relinearised } from './relinearise'
import { simulatedCase } from './simulated-case'

const TODAY = '2026-11-28'
const car = (school: string, engineClass: 'i4-turbo' | 'i5-turbo' | 'v8-na' = 'i4-turbo'): Build =>
  newBuild({ name: 'x', engineClass, use: 'street', ambientC: 15, units: 'metric', school })
/** What a gauge reads of a build in some states, as entries of its log. */
function gauged(of: Build, states: readonly string[], date = '2026-11-20'): LogEntry[] {
  const gas = gasSolver(makeEvaluator())(of)!
  return states.map(
    (id, k) =>
      ({
        id: `${date}-${id}`,
        date,
        kind: 'reading',
        odometerKm: 1000 + k,
        reading: { state: id, kpa: Number((gas.find((s) => s.id === id)!.crankcase / 1000).toFixed(3)) },
      }) as LogEntry,
  )
}
const finder = makeFaultFinder()
const found = (build: Build, known: CaseEvidence = EMPTY_CASE) => finish(finder.find(build, known, TODAY))

test('simulated cars: the fault or its set is first in most, in the first three in nearly all', () => {
  const known = new Map<string, Predictions>()
  const tally = { first: 0, three: 0, all: 0, odds: 0 }
  for (let seed = 500; tally.all < 16; seed++) {
    const simulated = simulatedCase(seed)
    if (!simulated) continue
    const key = JSON.stringify(simulated.build)
    if (!known.has(key)) known.set(key, finish(predict(simulated.build)))
    const predictions = finish(relinearised(simulated.build, known.get(key)!, simulated.readings))
    const weighed = weighHypotheses(predictions, simulated.readings, [])
    const sets = faultSets(
      predictions,
      weighed.filter((w) => w.share > 0.002),
    )
    const groups = rankedSets(weighed, sets)
    const at = groups.findIndex((g) => g.includes(simulated.truth))
    tally.all++
    if (at === 0) tally.first++
    if (at >= 0 && at < 3) tally.three++
    tally.odds += weighed.find((w) => w.hypothesis.id === simulated.truth)!.share
    expect(weighed.reduce((sum, w) => sum + w.share, 0)).toBeCloseTo(1, 9)
  }
  // two binomial deviations below what docs/fault-finder.md finds of hundreds
  expect(tally.first / tally.all).toBeGreaterThan(0.5)
  expect(tally.three / tally.all).toBeGreaterThan(0.8)
  expect(tally.odds / tally.all).toBeGreaterThan(0.2)
})

test('a valve stuck open is told from its own readings, with its reason, and how to be sure of it', () => {
  const build = car('vacuum-side-can')
  const broken = withFault(build, 'pcv-open')!
  const { rows, columns, next } = found({ ...build, log: gauged(broken, ['idle', 'cruise', 'boost']) })
  expect(rows[0]!.kinds).toEqual(['stuck-open'])
  expect(rows[0]!.share).toBeGreaterThan(0.5)
  expect(rows[0]!.reason).toMatch(/stand/)
  expect(columns.map((c) => c.name)).toEqual(['Idle', 'Cruise', 'Boost'])
  expect(rows[0]!.boxes.every((b) => b.inside)).toBe(true)
  expect(rows.find((r) => r.id === 'nothing')!.boxes.some((b) => !b.inside)).toBe(true)
  expect(cureOf(build, rows[0]!)!.sure.map((s) => s.shows)).toContain('passes both ways')
  expect(badNumbers({ rows, next })).toEqual([])
})

test('a sound car is sound; with nothing read the odds are those beforehand, flat and in their order', () => {
  const build = car('vacuum-side-can')
  const sound = found({ ...build, log: gauged(build, ['idle', 'cruise', 'boost']) })
  expect(sound.rows[0]!.id).toBe('nothing')
  const blank = found(build)
  expect(blank.rows[0]!.id).toBe('nothing')
  expect(blank.rows[0]!.share).toBeLessThan(0.35)
  expect(blank.settled).toBeUndefined()
})

test('what is ticked moves odds, "not seen" too; a look settles, and is taken back', () => {
  const build = car('vacuum-side-can')
  const share = (known: Partial<CaseEvidence>, id: string) =>
    found(build, { ...EMPTY_CASE, ...known }).rows.find((r) => r.id === id)?.share ?? 0
  const lean = (seen: boolean) => ({ symptoms: [{ id: 'lean-idle', seen }] })
  expect(share(lean(true), 'suction-off')).toBeGreaterThan(2 * share({}, 'suction-off'))
  expect(share(lean(false), 'suction-off')).toBeLessThan(0.3 * share({}, 'suction-off'))
  const looked = { findings: [{ id: 'f', step: 'level', saw: 'above full', kpa: undefined }] }
  expect(share(looked, 'oil-overfull')).toBeGreaterThan(0.5)
  const sound = { findings: [{ id: 'f', step: 'level', saw: 'as it should be', kpa: undefined }] }
  expect(share(sound, 'oil-overfull')).toBeLessThan(0.15 * share({}, 'oil-overfull'))
})

test('how the car read while it was sound narrows what it shows now: the fault is surer with it than without', () => {
  const build = car('two-outlets', 'i5-turbo')
  const fault = gradedFaults(build).find((f) => f.id === 'can-frozen')!
  const broken = applyEdits(build, fault.editsAt(0.5))
  if (!broken.ok) throw new Error(broken.reason)
  const now = gauged(broken.value, ['idle', 'boost'])
  const before = gauged(build, ['idle', 'boost'], '2026-05-02')
  const share = (log: readonly LogEntry[]) =>
    found({ ...build, log: [...log] }, { ...EMPTY_CASE, since: '2026-10-01' }).rows.find((r) => r.id === 'can-frozen')!
      .share
  expect(share([...before, ...now])).toBeGreaterThan(share(now))
})

test('what no reading tells apart is said to be one set; the next step is the most telling a minute', () => {
  const build = car('two-outlets', 'i5-turbo')
  const broken = withFault(build, 'check-manifold-shut')!
  const { sets, next, rows } = found({ ...build, log: gauged(broken, ['idle', 'cruise', 'boost']) })
  const set = sets.find((s) => s.includes('check-manifold-shut'))!
  expect(set).toContain('restrictor-frozen')
  expect(rows.slice(0, 4).map((r) => r.id)).toContain('check-manifold-shut')
  const gain = next.map((s) => s.bits / s.minutes)
  expect(gain).toEqual(gain.toSorted((a, b) => b - a))
  expect(next.map((s) => s.id)).toContain('blow-check-manifold')
  // nothing that would draw seals in is offered
  expect(next.map((s) => s.id)).not.toContain('pinch-fresh')
})

test('a case is kept with the build, closed and opened again', () => {
  const build = car('vacuum-side-can')
  const plan = build.active
  const made = {
    id: 'c1',
    plan,
    opened: TODAY,
    since: undefined,
    symptoms: [{ id: 'squeal', seen: true }],
    findings: [{ id: 'f1', step: 'level', saw: 'as it should be', kpa: undefined }],
    recorded: undefined,
    closed: undefined,
  }
  const saved = perform(build, saveCase(made))
  if (!saved.ok) throw new Error(saved.reason)
  expect(validateBuild(JSON.parse(JSON.stringify(saved.value)))).toMatchObject({ ok: true })
  expect(openCase(saved.value)?.id).toBe('c1')
  const closed = perform(
    saved.value,
    saveCase({ ...made, closed: { fault: 'pcv-open', says: 'PCV valve stuck open', on: TODAY, fixed: undefined } }),
  )
  expect(closed.ok && openCase(closed.value)).toBeUndefined()
})

test.each(['both-sides', 'vented-can', 'separator-return', 'stock-regulator'])(
  'every fault of %s that can be looked for has a cure and is one that the engine can have',
  (school) => {
    const build = car(school)
    const faults = gradedFaults(build)
    expect(faults.length).toBeGreaterThan(8)
    for (const f of faults) {
      const cure = cureOf(build, { of: [f.of], kinds: [f.kind] })!
      expect(cure.steps.length).toBeGreaterThan(0)
      expect([f.id, cure.sure.length > 0]).toEqual([f.id, true])
      for (const share of [0, 1]) expect([f.id, applyEdits(build, f.editsAt(share)).ok]).toEqual([f.id, true])
    }
  },
)

test('a recording with a fault from a time on: its states before and after tell the fault', () => {
  const tally = { first: 0, all: 0 }
  for (const [school, id, seed] of [
    ['both-sides', 'breather-flat', 4],
    ['vacuum-side-can', 'pcv-open', 5],
  ] as const) {
    const build = car(school)
    const fault = gradedFaults(build).find((f) => f.id === id)!
    const broken = applyEdits(build, fault.editsAt(0.1))
    if (!broken.ok) throw new Error(broken.reason)
    const { facts, amb } = engineModel(build)
    const driven = simulateDrive(build, { kind: 'hill', seed, seconds: 240, fault: { build: broken.value, at: 120 } })
    const { report } = finish(reportRecording(build, { ...driven, states: drivingStates(facts, amb, driven) }))
    const { before, after } = report.sides!
    const recorded = after
      .filter((s) => s.seconds >= 5)
      .map((s) => ({
        id: s.id,
        rpm: s.rpm,
        manifoldKpa: s.manifoldPa / 1000,
        kpa: s.measured.mid / 1000,
        beforeKpa: before.find((b) => b.id === s.id && b.seconds >= 5)?.measured.mid,
      }))
      .map(({ beforeKpa, ...r }) => ({ ...r, beforeKpa: beforeKpa === undefined ? undefined : beforeKpa / 1000 }))
    const { rows, sets } = found(build, { ...EMPTY_CASE, recorded })
    const leads = [rows[0]!.id, ...(sets.find((s) => s.includes(rows[0]!.id)) ?? [])]
    tally.all++
    if (leads.some((l) => l.split('+')[0] === id)) tally.first++
  }
  expect(tally).toEqual({ first: 2, all: 2 })
})
