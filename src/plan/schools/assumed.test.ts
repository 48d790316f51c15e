/** What nobody entered: figures of a school, a class or a use, until someone types another. */
import { setField, setLine, setPart } from '../edit/edit-builders'
import { setFreshAir } from '../edit/fresh-air'
import { after } from '../testing'
import { SCHOOLS } from './schools'
import { assumedIn } from './assumed'
import { newBuild } from './new-build'

const build = (school = 'both-sides') =>
  newBuild({ name: 'x', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric', school })
const at = (list: 'lines' | 'parts', id: string, ...rest: string[]) => ['variants', 'a', list, id, ...rest]

test.each(SCHOOLS.map((s) => s.key))('%s: every size of it is an estimate', (school) => {
  const b = build(school)
  const assumed = assumedIn(b)
  const [variant] = b.variants
  for (const l of variant!.lines)
    for (const key of ['boreMm', 'lengthMm', 'bends'])
      expect([l.id, assumed(at('lines', l.id, key))]).toEqual([l.id, true])
})

test('what is typed is entered, and only that', () => {
  const b = build()
  const line = b.variants[0]!.lines.find((l) => l.kind === 'hose')!
  const can = b.variants[0]!.parts.find((p) => p.kind === 'can')!
  const typed = after(b, setLine(line.id, { lengthMm: 613 }), setPart(can.id, { bowlMl: 377 }))
  const assumed = assumedIn(typed)
  expect(assumed(at('lines', line.id, 'lengthMm'))).toBe(false)
  expect(assumed(at('lines', line.id, 'boreMm'))).toBe(true)
  expect(assumed(at('parts', can.id, 'bowlMl'))).toBe(false)
  expect(assumed(at('parts', can.id, 'faceCm2'))).toBe(true)
})

test('an engine that is another than its class keeps the sizes of its school as estimates', () => {
  const b = after(build(), setField(['engine', 'displacementCc'], 2345))
  const line = b.variants[0]!.lines.find((l) => l.kind === 'hose')!
  const assumed = assumedIn(b)
  expect(assumed(['engine', 'displacementCc'])).toBe(false)
  expect(assumed(['engine', 'ratedRpm'])).toBe(true)
  expect(assumed(at('lines', line.id, 'boreMm'))).toBe(true)
  // fresh air let in another way is part of the school for that engine
  expect(assumedIn(after(b, setFreshAir({ freshAir: 'metered' })))(at('lines', line.id, 'boreMm'))).toBe(true)
})

test('hours of a use are estimates until one of them is changed', () => {
  expect(assumedIn(build())(['duty', 'hours', 'city'])).toBe(true)
  const own = after(build(), setField(['duty', 'hours'], { ...build().duty.hours, track: 3.3 }))
  expect(assumedIn(own)(['duty', 'hours', 'track'])).toBe(false)
})

test('what no class, school or use has a figure for was entered', () => {
  expect(assumedIn(build())(['site', 'ambientC'])).toBe(false)
})
