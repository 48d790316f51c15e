/** What a device may change at the car: ticks and log, and nothing beside them. */
import { noteStock, tickStep } from '../fit/fit-builders'
import { newBuild } from '../schools/new-build'
import type { Build, LogEntry } from '../document/schema'
import { applyEdits, invertEdits, type Edit } from './edit'
import { deleteLogEntry, editsOf, setField, upsertLogEntry, type EditBuilder } from './edit-builders'
import { permits } from './rights'

const build = newBuild({ name: 'Test', engineClass: 'i4-turbo', use: 'street', ambientC: 20, units: 'metric' })
const entry = { id: 'e1', date: '2026-02-01', odometerKm: 1000, kind: 'note', note: 'dry' } as unknown as LogEntry
const step = { key: 'hose', says: 'Push the hose on' }

function edits(of: Build, builder: EditBuilder): readonly Edit[] {
  const made = editsOf(of, builder)
  if (!made.ok) throw new Error(made.reason)
  return made.value
}
function after(of: Build, list: readonly Edit[]): Build {
  const done = applyEdits(of, list)
  if (!done.ok) throw new Error(done.reason)
  return done.value
}
const [tick, untick] = [tickStep('a', step, '2026-02-01T08:00:00Z'), tickStep('a', step, undefined)]
const ticked = after(build, edits(build, tick))
const logged = after(build, edits(build, upsertLogEntry(entry)))

test.each<[string, readonly Edit[], boolean]>([
  ['the first tick of a card', edits(build, tick), true],
  ['another tick', edits(ticked, tickStep('a', { ...step, key: 'clamp' }, '2026-02-01T09:00:00Z')), true],
  ['a tick taken off', edits(ticked, untick), true],
  ['an entry', edits(build, upsertLogEntry(entry)), true],
  ['an entry put right', edits(logged, upsertLogEntry({ ...entry, odometerKm: 1200 })), true],
  ['an entry taken out', edits(logged, deleteLogEntry('e1')), true],
  ['which plan is on the car', edits(build, setField(['fitted'], 'a')), true],
  ['what the dipstick told', edits(build, setField(['engine', 'oilLevelPct'], 80)), true],
  ['a bore', edits(build, setField(['engine', 'boreMm'], 84)), false],
  ['the name', edits(build, setField(['name'], 'Mine')), false],
  ['the plan that is shown', edits(build, setField(['active'], 'b')), false],
  ['a price', edits(build, noteStock('hose', { price: 3 })), false],
  ['a price beside ticks that stand there', edits(ticked, noteStock('hose', { price: 3 })), false],
  [
    'an entry and a bore in one change',
    [...edits(build, upsertLogEntry(entry)), ...edits(build, setField(['engine', 'boreMm'], 84))],
    false,
  ],
  ['the whole log at once', [{ op: 'set', path: ['log'], value: [] }], false],
  ['all notes of the card taken away', [{ op: 'unset', path: ['fit'] }], false],
])('%s', (_, list, may) => {
  expect(permits('log', list)).toBe(may)
  expect(permits('all', list)).toBe(true)
  expect(permits('look', list)).toBe(false)
})

test('what was ticked or logged can be taken back', () => {
  for (const [of, list] of [
    [ticked, edits(ticked, untick)],
    [build, edits(build, upsertLogEntry(entry))],
  ] as const) {
    const back = invertEdits(of, list)
    expect(back.ok && permits('log', back.value)).toBe(true)
  }
})
