import { analyse } from '../analyse'
import { applyEdits } from '../edit/edit'
import { setFreshAir } from '../edit/fresh-air'
import { sameJson } from '../edit/diff'
import { validateBuild } from '../document/validate'
import type { Build } from '../document/schema'
import { solvedIn } from '../model/results'
import { uncertainInputs } from '../studies/uncertain'
import { newBuild } from '../schools/new-build'
import { freshAirOf, withFreshAir } from './fresh-air'

const build = (engineClass: 'i4-na' | 'i4-turbo', school = 'both-sides') =>
  newBuild({ name: 'Hill', engineClass, use: 'street', ambientC: 20, units: 'metric', school })
const done = (b: Build, change: Parameters<typeof setFreshAir>[0]): Build => {
  const then = applyEdits(b, setFreshAir(change)(b))
  if (!then.ok) throw new Error(then.reason)
  return then.value
}
const idle = (b: Build) => solvedIn(analyse(b, '2026-01-01'), 'idle')!.crankcaseGauge

test('what an engine says of its fresh air', () => {
  expect(freshAirOf({})).toBe('wide')
  expect(freshAirOf({ freshHoleMm: 4 })).toBe('metered')
  expect(freshAirOf({ freshAir: 'checked', freshHoleMm: 4 })).toBe('checked')
})

test('each way of taking fresh air stands in the plans, reads as it should at idle, and can be taken back', () => {
  const open = done(build('i4-na'), { freshAir: 'wide', freshHoleMm: undefined })
  const metered = done(open, { freshAir: 'metered', freshHoleMm: 4 })
  const checked = done(metered, { freshAir: 'checked' })
  for (const b of [open, metered, checked]) expect(validateBuild(b).ok).toBe(true)
  // methods 2: an open hose -0.01 to -0.06 kPa (x/ 3 by size), a metered hole -0.2 to -1.6
  expect(idle(open)).toBeGreaterThan(-180)
  expect(idle(metered)).toBeLessThan(-200)
  expect(idle(metered)).toBeGreaterThan(-1600)
  expect(idle(checked)).toBeLessThan(-200)
  // the check lets full load out as freely as the open hose does
  const pull = (b: Build) => solvedIn(analyse(b, '2026-01-01'), 'pull')!.crankcaseGauge
  expect(pull(checked)).toBeLessThan(pull(metered))
  expect(pull(checked) - pull(open)).toBeLessThan(600)
  for (const back of [done(checked, { freshAir: 'wide', freshHoleMm: undefined })])
    expect(sameJson(back, open)).toBe(true)
})

test('a hole is an input that a reading can tell, wherever it is drilled', () => {
  const holes = (b: Build) => uncertainInputs(b).filter((u) => u.name === 'Fresh-air hole').length
  const b = build('i4-turbo')
  expect(holes(b)).toBe(0)
  expect(holes(done(b, { freshAir: 'metered' }))).toBe(1)
  expect(holes(done(b, { freshAir: 'checked' }))).toBe(1)
})

test('a breather that the builder has led elsewhere is left alone', () => {
  const b = build('i4-turbo', 'vented-can')
  const { parts, lines } = b.variants[0]!
  const then = withFreshAir({ parts, lines }, { ...b.engine, freshAir: 'checked' })
  expect(then.lines).toEqual(lines)
})
