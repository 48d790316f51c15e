/** The bay mirrored, the drive on the other side, and bodies read from the tape as they are called out. */
import { finish } from '@/core/job'
import { analyse } from '../analyse'
import { bayFor } from '../catalogue/bays'
import { activeVariant } from '../edit/edit'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { after } from '../testing'
import { setPointing } from './bay-builders'
import { tightGaps } from './clearance'
import { keepOutFromText } from './keep-out-text'
import { mirroredBay, otherDrive } from './mirror'
import { openBay } from './open-bay'

const METRIC = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
const IMPERIAL = { system: 'imperial', pressure: 'psi', flow: 'cfm' } as const
const plain = newBuild({
  name: 'x',
  engineClass: 'v8-na',
  use: 'street',
  ambientC: 10,
  units: 'metric',
  school: 'separator-return',
})
const opened = finish(openBay(plain, figuresOf(plain).states, bayFor(plain.engine))).build
const clocked = after(
  opened,
  setPointing('separator', { turnDeg: 30 }),
  setPointing('inlet.breather', { points: 'left' }),
)

test('mirrored, everything stands as far to the other side, names and clocking with it; twice it is as before', () => {
  const once = mirroredBay(clocked)
  if (!once.ok) throw new Error(once.reason)
  const { bay } = once.value.build
  expect(bay!.datum).toBe('Right strut top')
  for (const [i, s] of clocked.bay!.spots.entries()) expect(bay!.spots[i]!.leftMm).toBe(0 - s.leftMm)
  expect(bay!.keepOuts.find((k) => k.name === 'Left strut tower')!.leftMm).toBe(
    -clocked.bay!.keepOuts.find((k) => k.name === 'Right strut tower')!.leftMm,
  )
  // an inlet that looked 30 degrees past the left looks as far past the right
  expect(bay!.spots.find((s) => s.id === 'separator')!.turnDeg).toBe(150)
  expect(bay!.spots.find((s) => s.id === 'inlet.breather')!.points).toBe('right')
  expect(once.value.says).toMatch(/right strut top.*1 lid that is clocked/)
  const twice = mirroredBay(once.value.build)
  if (!twice.ok) throw new Error(twice.reason)
  expect(JSON.parse(JSON.stringify(twice.value.build.bay))).toEqual(JSON.parse(JSON.stringify(clocked.bay)))
})

test('a mirrored bay has the same lengths, gaps and drains', () => {
  const m = mirroredBay(opened)
  if (!m.ok) throw new Error(m.reason)
  const lengths = (b: typeof opened) => activeVariant(b).lines.map((l) => [l.id, l.lengthMm, l.bends])
  expect(lengths(m.value.build)).toEqual(lengths(opened))
  expect(tightGaps(m.value.build, activeVariant(m.value.build)).length).toBe(
    tightGaps(opened, activeVariant(opened)).length,
  )
  const heads = (b: typeof opened) =>
    analyse(b, '2026-11-25')
      .verdicts.filter((v) => v.rule === 'drain-back')
      .map((v) => v.title)
  expect(heads(m.value.build)).toEqual(heads(opened))
})

test('with the drive on the other side the servo and the steering change sides, and nothing else', () => {
  const right = otherDrive(opened)
  if (!right.ok) throw new Error(right.reason)
  const middle = opened.bay!.middleMm!
  for (const [i, k] of opened.bay!.keepOuts.entries()) {
    const there = right.value.build.bay!.keepOuts[i]!
    if (k.kind === 'brake' || k.kind === 'steering') expect(there.leftMm).toBeCloseTo(2 * middle - k.leftMm, 9)
    else expect(there).toEqual(k)
  }
  expect(right.value.says).toBe(
    'Right-hand drive: brake servo and steering shaft stand on the right now; all else stays.',
  )
  const again = otherDrive(right.value.build)
  expect(again.ok && again.value.says).toMatch(/^Left-hand drive/)
  const unknown = otherDrive({ ...opened, bay: { ...opened.bay!, middleMm: undefined } })
  expect(unknown.ok ? '' : unknown.reason).toMatch(/middle of the car/)
})

test('a body is read as it is called out: by its middle, by a corner, in any unit', () => {
  const read = (text: string, units: typeof METRIC | typeof IMPERIAL = METRIC) => {
    const r = keepOutFromText(text, units as never, 'k')
    if (!r.ok) throw new Error(r.reason)
    const { name, kind, forwardMm, leftMm, upMm, longMm, wideMm, highMm } = r.value
    return [name, kind, forwardMm, leftMm, upMm, longMm, wideMm, highMm]
  }
  // the rear right lower corner: the middle lies half of each size ahead, left and up of it (by hand)
  expect(read('battery, 240 x 175 x 190, corner at 300, -60, -250')).toEqual([
    'Battery',
    'electrical',
    420,
    27.5,
    -155,
    240,
    175,
    190,
  ])
  expect(read('Exhaust pipe, 300 × 60 × 60, middle at 100 -400 -200')).toEqual([
    'Exhaust pipe',
    'hot',
    100,
    -400,
    -200,
    300,
    60,
    60,
  ])
  expect(read('fuse box, 160x110x120, front left upper corner at 200, -30, -20')).toEqual([
    'Fuse box',
    'electrical',
    120,
    -85,
    -80,
    160,
    110,
    120,
  ])
  expect(read('servo, 10 x 8 x 8, middle at 2, -10, 1', IMPERIAL).slice(2)).toEqual([
    50.8,
    -254,
    25.4,
    254,
    expect.closeTo(203.2, 6),
    expect.closeTo(203.2, 6),
  ])
})

test('what is not understood is said, and where', () => {
  const why = (text: string) => {
    const r = keepOutFromText(text, METRIC as never, 'k')
    return r.ok ? '' : r.reason
  }
  expect(why('battery')).toMatch(/three sizes and where it is/)
  expect(why('battery, 240 x 175, corner at 1, 2, 3')).toMatch(/“240 x 175” are not three sizes/)
  expect(why('battery, 240 x 175 x 190, corner at 1, 2')).toMatch(/“1, 2” are not three distances/)
  expect(why('battery, 240 x 175 x 99999, corner at 1, 2, 3')).toMatch(/High, “99999”: At most/)
})
