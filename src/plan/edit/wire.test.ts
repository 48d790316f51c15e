/** What comes over the wire is taken for a change only where it is one to the last letter; ids stay within their length. */
import { newBuild } from '../schools/new-build'
import { activeVariant } from './edit'
import { sameJson } from './diff'
import { freshId } from './edit-builders'
import { reach, TAKE_OFFS } from './take-offs'
import { perform } from './edit-builders'
import { readChanges } from './wire'

const ID = '01234567-89ab-cdef-0123-456789abcdef'
const change = (id: string) => [{ id, name: 'x', edits: [{ op: 'set', path: ['name'], value: 'y' }], base: 1 }]

test.each([
  [ID, true],
  [`x${ID}`, false],
  [`${ID}x`, false],
  [ID.slice(1), false],
  [ID.toUpperCase(), false],
])('an id %s is one: %p', (id, ok) => {
  expect(readChanges(change(id)).ok).toBe(ok)
})

test.each([
  [[1, 2], [1, 2], true],
  [[1, 2], [1, 2, 3], false],
  [[1], { 0: 1 }, false],
  [{ 0: 1, length: 1 }, [1], false],
  [{ a: undefined }, {}, true],
  [null, {}, false],
  [{ a: [{ b: 1 }] }, { a: [{ b: 2 }] }, false],
])('%j and %j are the same JSON: %p', (a, b, same) => {
  expect(sameJson(a, b)).toBe(same)
  expect(sameJson(b, a)).toBe(same)
})

const build = newBuild({
  name: 'x',
  engineClass: 'i4-na',
  use: 'street',
  ambientC: 15,
  units: 'metric',
  school: 'stock',
})

test('an id that is taken gets a number, within forty letters', () => {
  const v = activeVariant(build)
  expect(freshId(v, 'new')).toBe('new')
  expect(freshId(v, 'pcv')).toBe('pcv-2')
  expect(freshId(v, 'x'.repeat(60))).toBe('x'.repeat(40))
  const long = { ...v, parts: [...v.parts, { ...v.parts[0]!, id: 'x'.repeat(40) }] }
  expect(freshId(long, 'x'.repeat(60))).toBe(`${'x'.repeat(38)}-2`)
})

test.each(TAKE_OFFS.map((t) => [t.kind, t] as const))(
  'a take-off of the %s is there, or comes with the builders',
  (kind, takeOff) => {
    const v = activeVariant(build)
    const { builders, end } = reach(v, takeOff)
    const then = perform(build, ...builders)
    if (!then.ok) throw new Error(then.reason)
    const part = activeVariant(then.value).parts.find((p) => p.id === end.part)!
    expect(part.kind).toBe(kind)
    expect(builders).toHaveLength(v.parts.some((p) => p.kind === kind) ? 0 : 1)
    if (builders.length > 0) expect(part.ports.some((p) => p.id === end.port)).toBe(true)
  },
)
