import * as fc from 'fast-check'
import { applyEdits, invertEdits, type Edit } from './edit'
import { overtakenBy } from './undo'

type Doc = { readonly name: string; readonly lines: readonly { readonly id: string; readonly bore: number }[] }
const doc: Doc = {
  name: 'A',
  lines: [
    { id: 'x', bore: 10 },
    { id: 'y', bore: 12 },
  ],
}
const bore = (line: string, value: number): Edit => ({ op: 'set', path: ['lines', line, 'bore'], value })
const put = (line: string): Edit => ({
  op: 'insert',
  path: ['lines', line],
  value: { id: line, bore: 9 } as { id: string },
  before: 'x',
})

function after(document: Doc, edits: readonly Edit[]): Doc {
  const then = applyEdits(document, edits)
  if (!then.ok) throw new Error(then.reason)
  return then.value
}
const backOf = (edits: readonly Edit[]) => {
  const back = invertEdits(doc, edits)
  if (!back.ok) throw new Error(back.reason)
  return back.value
}

test.each<[string, Edit[], Edit[], (readonly string[])[]]>([
  ['nothing since', [bore('x', 11)], [], []],
  ['another thing since', [bore('x', 11)], [bore('y', 13)], []],
  ['the same thing since', [bore('x', 11)], [bore('x', 15)], [['lines', 'x', 'bore']]],
  ['set back to what it was', [bore('x', 11)], [bore('x', 10)], [['lines', 'x', 'bore']]],
  ['what was put in has been changed', [put('z')], [bore('z', 15)], [['lines', 'z']]],
  ['what was taken away was put in again', [{ op: 'remove', path: ['lines', 'x'] }], [], []],
  ['one of two', [bore('x', 11), bore('y', 11)], [bore('y', 15)], [['lines', 'y', 'bore']]],
  ['what it was set in is gone: undo says so itself', [bore('x', 11)], [{ op: 'remove', path: ['lines', 'x'] }], []],
])('%s', (_, mine, theirs, lost) => {
  expect(overtakenBy(after(after(doc, mine), theirs), mine, backOf(mine))).toEqual(lost)
})

test('undo is clean whatever was done, as long as nobody has touched the same since', () => {
  const edit = fc.oneof(
    fc.tuple(fc.constantFrom('x', 'y'), fc.integer({ min: 5, max: 20 })).map(([l, v]) => bore(l, v)),
    fc.string().map((value): Edit => ({ op: 'set', path: ['name'], value })),
  )
  fc.assert(
    fc.property(fc.array(edit, { minLength: 1, maxLength: 5 }), (mine) => {
      expect(overtakenBy(after(doc, mine), mine, backOf(mine))).toEqual([])
    }),
  )
})
