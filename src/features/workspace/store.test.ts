import { newBuild } from '@/plan/schools/new-build'
import { setLine } from '@/plan/edit/deeds'
import type { Change } from '@/plan/edit/edit'
import { advance, createWorkspace } from './store'

const build = newBuild({
  name: 'Test',
  engineClass: 'i5-turbo',
  use: 'street',
  ambientC: 10,
  units: 'metric',
  school: 'both-sides',
})
const open = () => createWorkspace('x', build, 1, '2026-01-01', undefined)
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
  const [same, other] = advance([set('same', ['name']), set('other', ['about'])], [set('theirs', ['name'])], 3)
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
