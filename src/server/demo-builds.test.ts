import { finish } from '@/core/job'
import { analyse } from '@/plan/analyse'
import type { Build } from '@/plan/document/schema'
import { validateBuild } from '@/plan/document/validate'
import { engineModel } from '@/plan/model/engine'
import { driveOf } from '@/plan/recordings/drive'
import { unpackRecording } from '@/plan/recordings/parquet'
import { reportRecording } from '@/plan/studies/recording-report'
import { summarise } from '@/plan/studies/summary'
import { badNumbers } from '@/plan/testing'
import { demoBuilds } from './demo-builds'
import { demoRecordings } from './demo-recordings'

const DAY = '2026-11-25'
const builds = demoBuilds(DAY)
const named = (name: string) => builds.find((b) => b.name === name)!

test.each(builds.map((b) => [b.name, b] as const))(
  '%s is valid, has an answer in every state and a log that ends before today',
  (_, b) => {
    expect(validateBuild(b)).toEqual({ ok: true, build: b })
    const a = analyse(b, DAY)
    expect(a.states.every((s) => s.solved)).toBe(true)
    expect(b.log.length).toBeGreaterThan(2)
    expect(b.log.every((e) => e.date <= DAY)).toBe(true)
    // odometers only go up
    expect(b.log.map((e) => e.odometerKm)).toEqual(b.log.map((e) => e.odometerKm).toSorted((x, y) => x - y))
  },
)

test('among them a boosted direct-injected five, a V8 on track, a supercharged roadster and a single', () => {
  expect(named('Heron').engine).toMatchObject({ cylinders: 5, induction: 'turbo', injection: 'direct' })
  expect(named('Bittern').engine).toMatchObject({ cylinders: 8, induction: 'na' })
  expect(named('Bittern').duty.hours.track).toBeGreaterThan(0)
  expect(named('Wren').engine).toMatchObject({ induction: 'super' })
  expect(named('Dunlin').engine).toMatchObject({ cylinders: 1 })
})

test('each shows something of its own: boost in the can, a rising catch, frost, pumping pistons', () => {
  const rules = (name: string) =>
    analyse(named(name), DAY)
      .verdicts.filter((v) => v.severity !== 'ok')
      .map((v) => v.rule)
  expect(rules('Heron')).toContain('can-sees-boost')
  expect(analyse(named('Bittern'), DAY).cans[0]!.changed).toMatchObject({ rise: true })
  expect(rules('Wren')).toContain('freezing')
  expect(rules('Dunlin')).toContain('pulsation')
  expect(rules('Godwit')).toContain('drain-back')
})

test('a track can fills by the day: it cannot run a day of sessions unemptied (common practice, no source)', () => {
  const can = analyse(named('Bittern'), DAY).cans[0]!
  expect(can.sessions.low).toBeLessThan(12)
  expect(can.multiplier.entries).toBeGreaterThanOrEqual(6)
})

test('the garage tells a build in numbers that are numbers, the most urgent first', () => {
  const rows = builds.map((b) => summarise(b, analyse(b, DAY)))
  expect(badNumbers(rows)).toEqual([])
  expect(rows.filter((r) => r.cans.length === 0).map((r) => r.name)).toEqual(['Godwit'])
  for (const r of rows) {
    for (const { share } of r.cans) {
      expect(share.low).toBeLessThanOrEqual(share.mid)
      expect(share.mid).toBeLessThanOrEqual(share.high)
    }
  }
  const late: Build = {
    ...named('Dunlin'),
    log: named('Dunlin').log.concat({ id: 'now', date: DAY, kind: 'checked', odometerKm: 60000, part: 'can' }),
  }
  const overdue = summarise(late, analyse(late, DAY))
  expect(overdue.urgency).toBeLessThan(Math.min(...rows.map((r) => r.urgency)))
})

test('its recordings: a sound drive that leaves its band nowhere, and one since the breather hose folded', async () => {
  const build = named('Heron')
  const { facts, amb } = engineModel(build)
  const reports = []
  for (const { base64 } of demoRecordings(build).attachments) {
    const bytes = Buffer.from(base64, 'base64')
    const read = await unpackRecording(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
    if (!read.ok) throw new Error(read.reason)
    const drive = driveOf(read.value, facts, amb)
    if (!drive.ok) throw new Error(drive.reason)
    reports.push(finish(reportRecording(build, drive.value)).report)
  }
  const [sound, folded] = reports
  expect([sound!.places, sound!.fit!.change, sound!.fit!.explained]).toEqual([[], undefined, true])
  expect(folded!.places[0]!.state).toBe('boost')
  expect(folded!.fit!.change!.of).toBe('losses')
  expect(Math.abs(folded!.fit!.change!.at - 128)).toBeLessThan(10)
})
