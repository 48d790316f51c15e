/** What a recording says: known truths found again within their intervals, changes at their time, drives through files and back. */
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { drivingStates } from '@/core/recording/driving-state'
import { normalQuantile } from '@/core/service/normal'
import { applyEdits } from '../edit/edit'
import { faultsOf } from '../faults/faults'
import { engineModel } from '../model/engine'
import { isLearned } from '../model/learned'
import { driveOf } from '../recordings/drive'
import { readLoggerFile } from '../recordings/read-recording'
import { recordingLines, WRITING_STYLES } from '../recordings/write-recording'
import { newBuild } from '../schools/new-build'
import type { Build } from '../document/schema'
import { fitRecording, unknownsOf } from './recording-fit'
import { reportRecording } from './recording-report'
import { DRIVE_KINDS, USUAL_SENSOR, simulateDrive, type DriveKind, type DriveOptions } from './simulated-drive'

const car = (engineClass: 'i4-turbo' | 'v8-na' = 'i4-turbo', school = 'both-sides'): Build =>
  newBuild({ name: 'x', engineClass, use: 'street', ambientC: 15, units: 'metric', school })
function driven(build: Build, options: DriveOptions, as = build) {
  const drive = simulateDrive(as, options)
  const { facts, amb } = engineModel(build)
  return { ...drive, states: drivingStates(facts, amb, drive) }
}
const failing = (build: Build, id: string): Build => {
  const broken = applyEdits(build, faultsOf(build).find((f) => f.id === id)!.edits)
  if (!broken.ok) throw new Error(broken.reason)
  return broken.value
}

test('known truths lie in their intervals about as often as those say, the sensor’s offset too', () => {
  const uniform = uniforms(35)
  const normal = () => normalQuantile(uniform())
  const [inside, narrower] = [[] as boolean[], [] as number[]]
  for (let n = 0; n < 16; n++) {
    const build = n % 2 === 0 ? car() : car('v8-na', 'vacuum-side-can')
    const unknowns = unknownsOf(build)
    const truth = unknowns.map((u) => u.sigma * normal())
    const moved = applyEdits(
      build,
      unknowns.flatMap((u, i) => u.edits(truth[i]!)),
    )
    if (!moved.ok) throw new Error(moved.reason)
    const kind = (['street', 'hill', 'track'] as const)[n % 3]!
    const offsetPa = truth[unknowns.length - 1]!
    const drive = driven(build, { kind, seed: n, seconds: 240, sensor: { ...USUAL_SENSOR, offsetPa } }, moved.value)
    const fit = finish(fitRecording(build, drive))!
    // one that it does not explain says so, and claims nothing
    if (!fit.explained) continue
    for (const [i, f] of fit.figures.entries()) {
      const was = f.id === 'offset' ? drive.offBy : unknowns[i]!.shown(truth[i]!)
      inside.push(was >= f.now.low && was <= f.now.high)
      narrower.push((f.now.high - f.now.low) / (f.before.high - f.before.low))
    }
  }
  const share = inside.filter(Boolean).length / inside.length
  expect(inside.length).toBeGreaterThan(36)
  expect(share).toBeGreaterThan(0.75)
  expect(share).toBeLessThan(0.93)
  expect(Math.max(...narrower)).toBeLessThan(0.5)
})

test('a change is found within ten seconds of its time, and what it is of; a sound drive has none', () => {
  const build = car()
  const worn = failing(build, 'rings-worn')
  const at = 150
  const { change } = finish(
    fitRecording(build, driven(build, { kind: 'street', seed: 5, seconds: 300, fault: { build: worn, at } })),
  )!
  expect(change!.of).toBe('blowBy')
  expect(change!.known || change!.to - change!.from > 20).toBe(true)
  if (change!.known) expect(Math.abs(change!.at - at)).toBeLessThan(10)
  const blowBy = (figures: (typeof change & object)['before']) => figures.find((f) => f.id === 'blowBy')!.now.mid
  expect(blowBy(change!.before)).toBeCloseTo(1, 0.8)
  expect(blowBy(change!.after)).toBeGreaterThan(1.8)
  const sound = finish(fitRecording(build, driven(build, { kind: 'street', seed: 6, seconds: 300 })))!
  expect([sound.change, sound.explained]).toEqual([undefined, true])
})

test('a folded breather hose: out of the band in boost, worst first, since its time, and not explained away', () => {
  const build = car()
  const fault = { build: failing(build, 'breather-flat'), at: 120 }
  const { report } = finish(reportRecording(build, driven(build, { kind: 'hill', seed: 4, seconds: 200, fault })))
  const [worst] = report.places
  expect(worst!.state).toBe('boost')
  expect(worst!.from).toBeGreaterThanOrEqual(120)
  expect(report.places.map((p) => Math.abs(p.worst.beyond))).toEqual(
    report.places.map((p) => Math.abs(p.worst.beyond)).toSorted((a, b) => b - a),
  )
  expect(report.fit!.change!.at).toBeGreaterThan(110)
  expect(report.fit!.change!.at).toBeLessThan(130)
})

test('what is accepted stands in the plan as learned, and the plan then predicts what was read', () => {
  const build = car()
  const unknowns = unknownsOf(build)
  const moved = applyEdits(build, unknowns[0]!.edits(0.3))
  if (!moved.ok) throw new Error(moved.reason)
  const drive = driven(build, { kind: 'hill', seed: 5, seconds: 200 }, moved.value)
  const blowBy = finish(fitRecording(build, drive))!.figures[0]!
  expect(blowBy.now.mid).toBeCloseTo(Math.exp(0.3), 1)
  const taken = applyEdits(build, blowBy.adopt)
  if (!taken.ok) throw new Error(taken.reason)
  expect(isLearned(taken.value, ['engine', 'blowByTimes'])).toBe(true)
  const again = finish(fitRecording(taken.value, drive))!.figures[0]!
  expect(again.now.mid).toBeCloseTo(1, 1)
})

test.each(WRITING_STYLES.map((style, k) => [k, style] as const))(
  'a drive through a file of style %i and back',
  (_, style) => {
    const build = car()
    const { facts, amb } = engineModel(build)
    const drive = simulateDrive(build, { kind: 'street', seed: 3 })
    const read = readLoggerFile([...recordingLines(drive, style, amb.pressurePa)].join('\r\n'))
    if (!read.ok) throw new Error(read.reason)
    const back = driveOf(read.value, facts, amb)
    if (!back.ok) throw new Error(back.reason)
    expect(read.value.bad.count).toBe(0)
    expect(back.value.seconds).toHaveLength(drive.seconds.length)
    for (let k = 0; k < drive.seconds.length; k += 97) {
      expect(back.value.seconds[k]).toBeCloseTo(drive.seconds[k]! - drive.seconds[0]!, 1)
      expect(Math.abs(back.value.rpm[k]! - drive.rpm[k]!)).toBeLessThan(1)
      expect(Math.abs(back.value.manifoldPa[k]! - drive.manifoldPa[k]!)).toBeLessThan(60)
      if (Number.isFinite(drive.crankcase[k]))
        expect(Math.abs(back.value.crankcase[k]! - drive.crankcase[k]!)).toBeLessThan(1)
    }
  },
)

test('every drive goes with every engine; the same seed gives the same drive', () => {
  for (const kind of DRIVE_KINDS)
    for (const build of [car(), car('v8-na', 'vented-can')]) {
      const [a, b] = [1, 1].map((seed) => simulateDrive(build, { kind: kind as DriveKind, seed }))
      expect(a).toEqual(b)
      expect(a!.crankcase.filter(Number.isFinite).length).toBeGreaterThan(0.98 * a!.seconds.length)
    }
})

test('a recording without what bears on the crankcase says what is missing', () => {
  const build = car()
  const { facts, amb } = engineModel(build)
  const read = readLoggerFile('Time,RPM\n0,800\n1,900\n')
  expect(read.ok && driveOf(read.value, facts, amb)).toEqual({
    ok: false,
    reason:
      'It has no column for manifold pressure and crankcase pressure: say which one it is, or lay another recording beside it.',
  })
})
