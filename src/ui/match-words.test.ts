/** Commands are found by their words: a command of the program before an edit, nothing where nothing matches. */
import { matchScore } from './match-words'

const EDITS = ['Turn the PCV valve round', 'Print nothing into the line', 'Put a check valve', 'Undo the tee']
const PROGRAM = ['Undo', 'Print', 'Metric units', 'Imperial units', 'Calendar of the garage', 'Job card as PDF']

const best = (typed: string): string | undefined =>
  [...EDITS.map((name) => ({ name, edits: true })), ...PROGRAM.map((name) => ({ name, edits: false }))]
    .map((c) => ({ name: c.name, score: matchScore(typed, c) }))
    .filter((c) => c.score > 0)
    .toSorted((a, b) => b.score - a.score)[0]?.name

test.each([
  ['undo', 'Undo'],
  ['print', 'Print'],
  ['units', 'Metric units'],
  ['imp un', 'Imperial units'],
  ['calendar', 'Calendar of the garage'],
  ['job pdf', 'Job card as PDF'],
  ['check', 'Put a check valve'],
  ['valve turn', 'Turn the PCV valve round'],
])('%s finds %s', (typed, name) => {
  expect(best(typed)).toBe(name)
})

test.each(['xyzzy', 'nd', 'rint', 'undo everything', 'valvess'])('%s finds nothing', (typed) => {
  expect(best(typed)).toBeUndefined()
})

test('other words of a command find it, behind what is called so', () => {
  expect(matchScore('night', { name: 'Day or night shift' })).toBeGreaterThan(0)
  expect(matchScore('dark', { name: 'Day or night shift', other: 'dark light theme' })).toBeGreaterThan(0)
  expect(matchScore('dark', { name: 'Dark line', edits: false })).toBeGreaterThan(
    matchScore('dark', { name: 'Day or night shift', other: 'dark light theme' }),
  )
  expect(matchScore('', { name: 'Anything' })).toBe(1)
})
