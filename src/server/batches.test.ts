/** Batches of changes in every order, and two devices at once: nothing acknowledged is missing, nothing is half, and replaying the changes gives the head. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import * as fc from 'fast-check'
import { newBuild } from '@/plan/schools/new-build'
import { applyEdits, valueAt, type Change, type Edit } from '@/plan/edit/edit'
import type { Build } from '@/plan/document/schema'
import { createBuild, readBuild } from './builds'
import { saveChanges, setAside, type Saved } from './changes'
import { entriesOf } from './log'
import { listRevisions, listSetAside, readRevision } from './revisions'
import { closeStore, query } from './store'

const folder = mkdtempSync(join(tmpdir(), 'ivent-batches-'))
beforeAll(() => {
  process.env.IVENT_DATA = folder
})
afterAll(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

const document = newBuild({
  name: 'Batch',
  engineClass: 'i4-turbo',
  use: 'street',
  ambientC: 10,
  units: 'metric',
  school: 'both-sides',
})
const lines = document.variants[0]!.lines.map((l) => l.id)
const change = (edits: readonly Edit[], base?: number): Change => ({
  id: crypto.randomUUID(),
  name: 'typed',
  edits,
  ...(base === undefined ? {} : { base }),
})
const bore = (line: string, mm: number): Edit => ({
  op: 'set',
  path: ['variants', 'a', 'lines', line, 'boreMm'],
  value: mm,
})
const entry = (id: string, odometerKm = 100): Edit => ({
  op: 'insert',
  path: ['log', id],
  value: { id, date: '2026-05-01', kind: 'checked', odometerKm, part: 'can' } as { id: string },
  before: null,
})
/** Leaves no whole build: lines lead to it. */
const unsound: Edit = { op: 'remove', path: ['variants', 'a', 'parts', 'crankcase'] }

const headOf = async (id: string) => (await readBuild(id))!.document
const boreIn = (b: Build, line: string) => valueAt(b, ['variants', 'a', 'lines', line, 'boreMm'])

/** Every order of three things. */
const ORDERS = [
  [0, 1, 2],
  [0, 2, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 0, 1],
  [2, 1, 0],
]

test.each(ORDERS)(
  'a clash among three changes, in the order %i %i %i: what comes before it is in the head',
  async (...order) => {
    const { id } = await createBuild(document)
    const [first, second, third] = lines as [string, string, string]
    await saveChanges(id, 1, [change([bore(second, 11)])])
    const sent = order.map((k) => change([bore([first, second, third][k]!, 17 + k)]))
    const at = order.indexOf(1)
    const answer = await saveChanges(id, 1, sent)
    expect(answer).toMatchObject({ status: 'clash', change: sent[at]!.id, revision: 2 + at })
    const head = await headOf(id)
    for (const [i, k] of order.entries())
      expect([k, boreIn(head, [first, second, third][k]!)]).toEqual([
        k,
        i < at ? 17 + k : k === 1 ? 11 : boreIn(document, [first, second, third][k]!),
      ])
    // what was acknowledged is passed over when it is sent again, the clash answered alike, and what came after it saved without it
    expect(await saveChanges(id, 1, sent)).toMatchObject({ status: 'clash', change: sent[at]!.id })
    expect(
      await saveChanges(
        id,
        1,
        sent.filter((_, i) => i !== at),
      ),
    ).toMatchObject({ status: 'saved' })
    const then = await headOf(id)
    expect([boreIn(then, first), boreIn(then, second), boreIn(then, third)]).toEqual([17, 11, 19])
    expect((await listSetAside(id)).map((a) => a.id)).toEqual([sent[at]!.id])
  },
)

test.each(ORDERS)(
  'a refusal among an entry and a bore, in the order %i %i %i: nothing of it or after it is there',
  async (...order) => {
    const { id } = await createBuild(document)
    const all = [change([entry('e1')]), change([entry('half'), unsound]), change([bore(lines[0]!, 17)])]
    const sent = order.map((k) => all[k]!)
    const at = order.indexOf(1)
    const answer = await saveChanges(id, 1, sent)
    expect(answer).toMatchObject({ status: 'refused', change: all[1]!.id, revision: 1 + at })
    const saved = (k: number) => order.indexOf(k) < at
    const { log, ...head } = await headOf(id)
    expect(log.map((e) => e.id)).toEqual(saved(0) ? ['e1'] : [])
    expect(boreIn(head as Build, lines[0]!)).toBe(saved(2) ? 17 : boreIn(document, lines[0]!))
    // put aside on purpose, it is kept, and the rest goes on
    expect(await setAside(id, 1, [all[1]!])).toBe(true)
    expect(
      await saveChanges(
        id,
        1,
        sent.filter((c) => c !== all[1]),
      ),
    ).toMatchObject({ status: 'saved' })
    const then = await headOf(id)
    expect([then.log.map((e) => e.id), boreIn(then, lines[0]!)]).toEqual([['e1'], 17])
    expect((await listSetAside(id)).map((a) => a.id)).toEqual([all[1]!.id])
  },
)

test('what was typed for something that another device took away is set aside, with what is typed on it later', async () => {
  const { id } = await createBuild(document)
  await saveChanges(id, 1, [change([{ op: 'remove', path: ['variants', 'a', 'lines', lines[0]!] }])])
  const mine = [change([bore(lines[0]!, 17)]), change([bore(lines[1]!, 18)])]
  expect(await saveChanges(id, 1, mine)).toMatchObject({
    status: 'clash',
    change: mine[0]!.id,
    clashes: [{ theirs: { op: 'remove' } }],
  })
  expect((await listSetAside(id)).map((a) => a.id)).toEqual([mine[0]!.id])
  expect(await setAside(id, 1, mine.slice(0, 1))).toBe(true)
  expect(await listSetAside(id)).toHaveLength(1)
})

/** A device with what it has made and not yet seen acknowledged. */
type Device = { base: number; pending: Change[]; acknowledged: Set<string>; aside: Set<string> }

const somePath = fc.oneof(
  fc
    .record({ line: fc.constantFrom(...lines.slice(0, 4)), mm: fc.integer({ min: 8, max: 20 }) })
    .map(({ line, mm }) => [bore(line, mm)]),
  fc
    .constantFrom(...lines.slice(0, 4))
    .map((line): Edit[] => [{ op: 'remove', path: ['variants', 'a', 'lines', line] }]),
  fc.integer({ min: 1, max: 5 }).map((n) => [entry(`e${n}`, 100 * n)]),
  fc.integer({ min: 1, max: 5 }).map((n): Edit[] => [{ op: 'remove', path: ['log', `e${n}`] }]),
  fc
    .tuple(fc.integer({ min: 6, max: 9 }), fc.integer({ min: 8, max: 20 }))
    .map(([n, mm]) => [entry(`e${n}`), bore(lines[0]!, mm)]),
  fc.constant([entry('never'), unsound]),
  fc
    .string({ minLength: 1, maxLength: 6 })
    .map((name): Edit[] => [{ op: 'set', path: ['about'], value: `about ${name}` }]),
)
/** What happens next: a device types, sends what it has, sends it and never hears the answer, or sends it backwards. */
const step = fc.record({
  device: fc.constantFrom(0, 1),
  act: fc.oneof(
    { weight: 3, arbitrary: fc.record({ kind: fc.constant('type' as const), edits: somePath }) },
    {
      weight: 2,
      arbitrary: fc.record({ kind: fc.constantFrom('send' as const, 'lost' as const, 'backwards' as const) }),
    },
  ),
})

/** Takes an answer in as a device does: acknowledged up to where it stopped; what stopped it is left out, the rest waits. */
function take(device: Device, sent: readonly Change[], answer: Saved): void {
  if (answer.status === 'missing') throw new Error('the build is there')
  const at = answer.status === 'saved' ? sent.length : sent.findIndex((c) => c.id === answer.change)
  const done = new Set(sent.slice(0, at).map((c) => c.id))
  for (const c of done) device.acknowledged.add(c)
  if (answer.status !== 'saved') {
    done.add(answer.change)
    if (answer.status === 'clash') device.aside.add(answer.change)
  }
  device.pending = device.pending.filter((c) => !done.has(c.id))
  if (answer.status === 'saved') device.base = answer.revision
}

async function check(id: string, devices: readonly Device[]): Promise<void> {
  const rows = await query<{ id: string; number: number | null; edits: readonly Edit[]; state: string }>(
    'select id, number, edits, state from change where build_id = $1 order by number',
    [id],
  )
  const saved = rows.filter((r) => r.state === 'saved')
  // nothing acknowledged is missing
  for (const d of devices) {
    for (const c of d.acknowledged) expect(saved.map((r) => r.id)).toContain(c)
    for (const c of d.aside) expect(rows.map((r) => r.id)).toContain(c)
  }
  // one change a revision, and replaying them gives the head and the log
  const revisions = (await listRevisions(id)).map((r) => r.number).filter((n) => n > 1)
  expect(saved.map((r) => r.number)).toEqual(revisions.toReversed())
  const start = { ...(await readRevision(id, 1))!, log: [] }
  const replayed = applyEdits<Build>(
    start,
    saved.flatMap((r) => r.edits),
  )
  if (!replayed.ok) throw new Error(replayed.reason)
  const head = await headOf(id)
  const byId = (b: Build) => ({ ...b, log: b.log.toSorted((x, y) => x.id.localeCompare(y.id)) })
  expect(byId(head)).toEqual(byId(replayed.value))
  // nothing is half: of the refused one, whose entry would have fitted, there is nothing
  expect((await entriesOf(query, id)).map((e) => e.id)).not.toContain('never')
  // what comes with another edit came with it
  const names = new Set(saved.flatMap((r) => r.edits.flatMap((e) => (e.op === 'insert' ? [e.path.at(-1)!] : []))))
  for (const e of head.log) expect(names).toContain(e.id)
}

test('two devices, any order of typing, sending, lost answers and batches sent backwards', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 24 }), async (steps) => {
      const { id } = await createBuild(document)
      const devices: Device[] = [0, 1].map(() => ({ base: 1, pending: [], acknowledged: new Set(), aside: new Set() }))
      for (const { device: which, act } of steps) {
        const device = devices[which]!
        if (act.kind === 'type') device.pending.push(change(act.edits, device.base))
        else {
          const sent = act.kind === 'backwards' ? device.pending.toReversed() : [...device.pending]
          const answer = await saveChanges(id, device.base, sent)
          if (act.kind !== 'lost') take(device, sent, answer)
        }
      }
      await check(id, devices)
    }),
    { numRuns: 120, seed: 11 },
  )
})
