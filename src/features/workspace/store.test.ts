import { newBuild } from '@/plan/schools/new-build'
import { setLine } from '@/plan/edit/edit-builders'
import type { Change } from '@/plan/edit/edit'
import { rebaseOnSaved, createWorkspace } from './store'

const build = newBuild({
  name: 'Test',
  engineClass: 'i5-turbo',
  use: 'street',
  ambientC: 10,
  units: 'metric',
  school: 'both-sides',
})
const open = () => createWorkspace({ id: 'x', build, revision: 1, today: '2026-01-01' })
const line = build.variants[0]!.lines.find((l) => l.kind === 'hose')!.id

test('what was typed while a save was on its way stands on the revision that the save made', () => {
  const store = open()
  store.getState().act(setLine(line, { lengthMm: 611 }))
  const sent = store.getState().pending
  store.getState().act(setLine(line, { lengthMm: 722 }))
  expect(store.getState().pending.map((c) => c.base)).toEqual([1, 1])
  store.getState().acknowledge(
    sent.map((c) => c.id),
    2,
    [],
  )
  // as of revision 1 the server would take this window's own save for another's, and see a clash
  expect(store.getState().pending.map((c) => c.base)).toEqual([2])
})

test('what others changed meanwhile is not passed over', () => {
  const set = (name: string, path: readonly string[]): Change => ({
    id: name,
    name,
    base: 1,
    edits: [{ op: 'set', path: [...path], value: name }],
  })
  const [same, other] = rebaseOnSaved([set('same', ['name']), set('other', ['about'])], [set('theirs', ['name'])], 3)
  expect([same!.base, other!.base]).toEqual([1, 3])
})

test('undo and redo are edits: the build goes back and forth exactly', () => {
  const store = open()
  const before = store.getState().build
  store.getState().act(setLine(line, { lengthMm: 611 }))
  const after = store.getState().build
  store.getState().undo()
  expect(store.getState().build).toEqual(before)
  store.getState().redo()
  expect(store.getState().build).toEqual(after)
  expect(store.getState().pending).toHaveLength(3)
})

const set = (path: readonly string[], value: unknown, id = crypto.randomUUID()): Change => ({
  id,
  name: 'theirs',
  edits: [{ op: 'set', path: [...path], value }],
})
const lengthPath = ['variants', 'a', 'lines', line, 'lengthMm']
const lengthOf = (store: ReturnType<typeof open>) =>
  store.getState().build.variants[0]!.lines.find((l) => l.id === line)!.lengthMm

test("undo after a merge asks before it takes back another device's later value, and leaves it when told to", () => {
  const store = open()
  const was = lengthOf(store)
  store.getState().act(setLine(line, { lengthMm: 611 }))
  const sent = store.getState().pending.map((c) => c.id)
  store.getState().acknowledge(sent, 3, [set(lengthPath, 777)])
  store.getState().undo()
  expect([lengthOf(store), store.getState().overtaken?.paths, store.getState().pending.length]).toEqual([
    777,
    [lengthPath],
    0,
  ])
  store.getState().leaveOvertaken()
  expect([lengthOf(store), store.getState().past.length]).toEqual([777, 0])
  // asked for all the same, it is done
  store.getState().act(setLine(line, { lengthMm: 612 }))
  store.getState().acknowledge(
    store.getState().pending.map((c) => c.id),
    5,
    [set(lengthPath, 888)],
  )
  store.getState().undo(true)
  expect(lengthOf(store)).toBe(777)
  expect(was).not.toBe(777)
})

test('what waits and no longer fits the build stays with its sender, and is not shown', () => {
  const store = open()
  store.getState().act(setLine(line, { lengthMm: 611 }))
  store.getState().act(setLine(line, { boreMm: 17 }))
  const { pending, build: now } = store.getState()
  const without = {
    ...now,
    variants: [{ ...now.variants[0]!, lines: now.variants[0]!.lines.filter((l) => l.id !== line) }],
  }
  store.getState().rebase({ document: without, revision: 2 }, pending)
  expect(store.getState().pending).toEqual(pending)
  expect(store.getState().build).toEqual(without)
})
