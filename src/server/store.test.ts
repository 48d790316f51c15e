import { mkdtempSync, writeFileSync, existsSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newBuild } from '@/plan/schools/new-build'
import type { Build, LogEntry } from '@/plan/document/schema'
import type { Change, Edit } from '@/plan/edit/edit'
import { createBuild, exportBuild, listBuilds, readBuild, removeArriving, removeBuild } from './builds'
import { saveChanges, saveDocument } from './changes'
import {
  addFile,
  MAX_CARRIED,
  MAX_RECORDINGS,
  storedAttachment,
  storedRecording,
  type Attachment,
  type Recording,
} from './files'
import { splitImport } from './import-file'
import { takeLock } from './lock'
import { addEntries, logPage } from './log'
import { listRevisions, listSetAside, markRevision, readRevision } from './revisions'
import { closeStore, query, transaction } from './store'

const folder = mkdtempSync(join(tmpdir(), 'ivent-test-'))
const build = (name: string) =>
  newBuild({ name, engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })

beforeAll(() => {
  process.env.IVENT_DATA = folder
})
afterAll(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

type Exported = Build & { recordings?: Recording[]; attachments?: Attachment[] }
async function exported(id: string): Promise<Exported> {
  let text = ''
  for await (const piece of (await exportBuild(id))!.pieces) text += piece
  return JSON.parse(text) as Exported
}

/** A change of the build's name, or of anything else. */
const change = (name: string, edits: readonly Edit[] = [{ op: 'set', path: ['name'], value: name }]): Change => ({
  id: crypto.randomUUID(),
  name,
  edits,
})
const bore = (line: string, mm: number): Edit => ({
  op: 'set',
  path: ['variants', 'a', 'lines', line, 'boreMm'],
  value: mm,
})

test('a build comes back as it was written, through every revision', async () => {
  const made = await createBuild(build('One'))
  expect(await saveChanges(made.id, 1, [change('Two')])).toEqual({ status: 'saved', revision: 2, others: [] })
  expect((await readBuild(made.id))!.document).toEqual({ ...made.document, name: 'Two' })
  expect(await readRevision(made.id, 1)).toEqual(made.document)
  expect((await listRevisions(made.id)).map((r) => [r.number, r.note])).toEqual([
    [2, 'Two'],
    [1, 'new'],
  ])
  expect((await listBuilds()).map((b) => b.document.name)).toContain('Two')
})

test('different things changed by two devices meet; each is told what the other did', async () => {
  const made = await createBuild(build('Both'))
  const [theirs, mine] = [change('Theirs'), change('wider', [bore('suction', 15.9)])]
  await saveChanges(made.id, 1, [theirs])
  const saved = await saveChanges(made.id, 1, [mine])
  expect(saved).toMatchObject({ status: 'saved', revision: 3, others: [{ id: theirs.id, number: 2 }] })
  const { document } = (await readBuild(made.id))!
  expect([document.name, document.variants[0]!.lines.find((l) => l.id === 'suction')!.boreMm]).toEqual(['Theirs', 15.9])
})

test('the same thing changed by both shows both sides and loses neither', async () => {
  const made = await createBuild(build('Same'))
  const [theirs, mine, later] = [change('Theirs'), change('Mine'), change('wider', [bore('suction', 15.9)])]
  await saveChanges(made.id, 1, [theirs])
  const clash = await saveChanges(made.id, 1, [mine, later])
  expect(clash).toMatchObject({
    status: 'clash',
    revision: 2,
    change: mine.id,
    clashes: [{ path: ['name'], mine: mine.edits[0], theirs: theirs.edits[0] }],
  })
  expect((await readBuild(made.id))!.document.name).toBe('Theirs')
  expect((await listSetAside(made.id)).map((a) => a.id)).toEqual([mine.id])
  // sent again unchanged it is answered alike, and kept once
  expect(await saveChanges(made.id, 1, [mine])).toMatchObject({ status: 'clash', change: mine.id })
  expect(await listSetAside(made.id)).toHaveLength(1)
  // put in its place on purpose, on top of theirs
  expect(await saveChanges(made.id, 2, [{ ...mine, id: crypto.randomUUID() }])).toMatchObject({
    status: 'saved',
    revision: 3,
  })
  expect((await readBuild(made.id))!.document.name).toBe('Mine')
})

test('a change sent twice, its answer lost, counts once', async () => {
  const made = await createBuild(build('Twice'))
  const note: LogEntry = {
    id: 'e1',
    date: '2026-05-01',
    kind: 'checked',
    odometerKm: 100,
    part: 'can',
    reading: undefined,
  }
  const first = change('noted', [{ op: 'insert', path: ['log', 'e1'], value: note, before: null }])
  await saveChanges(made.id, 1, [first])
  expect(await saveChanges(made.id, 1, [first, change('Next')])).toMatchObject({
    status: 'saved',
    revision: 3,
    others: [],
  })
  const found = (await readBuild(made.id))!
  expect([found.document.log.length, found.document.name]).toEqual([1, 'Next'])
})

test('what would leave no whole build is refused, or is a clash when others took it away', async () => {
  const made = await createBuild(build('Whole'))
  const gone = change('gone', [{ op: 'remove', path: ['variants', 'a', 'parts', 'can'] }])
  expect(await saveChanges(made.id, 1, [gone])).toMatchObject({ status: 'refused', change: gone.id })
  expect((await readBuild(made.id))!.revision).toBe(1)
  const cut = change('cut', [{ op: 'remove', path: ['variants', 'a', 'lines', 'suction'] }])
  await saveChanges(made.id, 1, [cut])
  expect(await saveChanges(made.id, 1, [change('wider', [bore('suction', 15.9)])])).toMatchObject({ status: 'clash' })
})

test('a whole document put in meets what others did as edits do', async () => {
  const made = await createBuild(build('Put'))
  await saveChanges(made.id, 1, [change('wider', [bore('suction', 15.9)])])
  const put = await saveDocument(made.id, 1, { ...made.document, about: 'Put in whole' }, { name: 'by file' })
  expect(put).toMatchObject({ status: 'saved', revision: 3 })
  const { document } = (await readBuild(made.id))!
  expect([document.about, document.variants[0]!.lines.find((l) => l.id === 'suction')!.boreMm]).toEqual([
    'Put in whole',
    15.9,
  ])
})

test('ten thousand entries of a log are noted, listed by the page and exported in one file', async () => {
  const made = await createBuild(build('Long'))
  const entries = Array.from({ length: 10_000 }, (_, i): LogEntry => ({
    id: `e${i}`,
    date: `20${String(10 + Math.floor(i / 1000)).padStart(2, '0')}-01-${String(1 + (i % 28)).padStart(2, '0')}`,
    kind: 'checked',
    odometerKm: i,
    part: 'can',
    reading: undefined,
  }))
  await transaction((q) => addEntries(q, made.id, entries))
  const page = await logPage(query, made.id, 100)
  expect([page.total, page.entries.length, page.next]).toEqual([10_000, 100, '100'])
  const last = await logPage(query, made.id, 100, 9900)
  expect([last.entries.length, last.next]).toEqual([100, undefined])
  expect(new Set([...page.entries, ...last.entries].map((e) => e.id)).size).toBe(200)
  const one = change('noted', [
    {
      op: 'insert',
      path: ['log', 'new'],
      value: Object.assign({}, entries[0], { id: 'new', date: '2026-01-01' }),
      before: null,
    },
  ])
  expect(await saveChanges(made.id, 1, [one])).toMatchObject({ status: 'saved' })
  expect((await exported(made.id)).log).toHaveLength(10_001)
  // an edit of the circuit does not touch them
  expect(await saveChanges(made.id, 2, [change('wider', [bore('suction', 12)])])).toMatchObject({ status: 'saved' })
  expect((await logPage(query, made.id, 1)).total).toBe(10_001)
})

test('recordings and pictures travel in the one file and come out of it as they were', async () => {
  const made = await createBuild(build('Files'))
  const pixel = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
  const picture = { name: 'bay.png', type: 'image/png', about: 'as found', data: pixel }
  const recording = {
    name: 'Pull',
    startedAt: '2026-05-01T10:00:00Z',
    channels: [{ name: 'crankcase', unit: 'kPa' }],
    samples: [
      [0, -0.4],
      [0.1, 1.2],
    ],
  }
  for (const each of [storedRecording(recording), storedAttachment(picture)])
    expect(await transaction((q) => addFile(q, made.id, each))).toMatchObject({ ok: true })
  const file = await exported(made.id)
  expect([file.recordings, file.attachments]).toEqual([[recording], [picture]])
  const taken = splitImport(file)
  if (!taken.ok) throw new Error(JSON.stringify(taken.problems))
  const again = await createBuild(taken.build, 'brought in', taken.files)
  expect(await exported(again.id)).toEqual(file)
  // bytes without their padding are read all the same
  const unpadded = splitImport({ ...file, attachments: [{ ...picture, data: pixel.replace(/=+$/, '') }] })
  if (!unpadded.ok) throw new Error(JSON.stringify(unpadded.problems))
  const lenient = await createBuild(unpadded.build, 'brought in', unpadded.files)
  expect((await exported(lenient.id)).attachments).toEqual([picture])
  // a script that says it is a picture is none
  const disguised = { ...picture, data: Buffer.from('<script>').toString('base64') }
  expect(splitImport({ ...file, attachments: [disguised] })).toMatchObject({
    ok: false,
    problems: [{ path: 'attachments › 1', message: 'is not of the kind that it says' }],
  })
  // a recording as Parquet goes with the build, larger than a picture may be; by its first bytes too
  const type = 'application/vnd.apache.parquet'
  const parquet = {
    ...picture,
    type,
    data: Buffer.concat([Buffer.from('PAR1'), Buffer.alloc(4_000_000)]).toString('base64'),
  }
  const withParquet = splitImport({ ...file, attachments: [parquet] })
  if (!withParquet.ok) throw new Error(JSON.stringify(withParquet.problems))
  const kept = await createBuild(withParquet.build, 'brought in', withParquet.files)
  expect((await exported(kept.id)).attachments).toEqual([parquet])
  expect(splitImport({ ...file, attachments: [{ ...picture, type }] }).ok).toBe(false)
  expect(splitImport({ ...file, attachments: [{ ...parquet, type: 'image/png' }] }).ok).toBe(false)
})

test('a build takes as many recordings and pictures as its exported file can carry, and says so at the next one', async () => {
  const made = await createBuild(build('Full'))
  const recording = storedRecording({
    name: 'Pull',
    startedAt: '2026-05-01T10:00:00Z',
    channels: [{ name: 'crankcase', unit: 'kPa' }],
    samples: [[0, -0.4]],
  })
  const add = (file: Parameters<typeof addFile>[2]) => transaction((q) => addFile(q, made.id, file))
  for (let n = 0; n < MAX_RECORDINGS; n++) expect(await add(recording)).toMatchObject({ ok: true })
  expect(await add(recording)).toEqual({
    ok: false,
    reason: expect.stringMatching(/holds 60 recordings already.*Nothing was changed/) as string,
  })
  // a picture of three pieces, not a round number of them
  const bytes = Buffer.alloc(1_400_001, 'pixel')
  const picture = { name: 'bay.png', type: 'image/png', about: '', base64: bytes.toString('base64') }
  expect(await add(picture)).toMatchObject({ ok: true })
  await query(
    "insert into attachment (build_id, name, type, bytes) select $1, 'large', 'image/png', decode(repeat('00', $2), 'hex')",
    [made.id, (MAX_CARRIED * 3) / 4 - 2_000_000],
  )
  expect(await add(picture)).toEqual({
    ok: false,
    reason: expect.stringMatching(/more than 48 MB.*Nothing was changed/) as string,
  })
  const file = await exported(made.id)
  expect([file.recordings?.length, file.attachments?.map((a) => a.data.length)]).toEqual([
    MAX_RECORDINGS,
    [1_866_668, 45_333_336],
  ])
  expect(Buffer.from(file.attachments![0]!.data, 'base64').equals(bytes)).toBe(true)
  const taken = splitImport({
    ...file,
    attachments: file.attachments!.slice(0, 1).map((a) => ({ ...a, type: 'image/png' })),
  })
  // (these bytes are no picture; what matters here is that nothing else is wrong)
  expect(taken).toMatchObject({ ok: false, problems: [{ message: 'is not of the kind that it says' }] })
})

test('a build that comes with files is there whole or not at all', async () => {
  const recording = storedRecording({
    name: 'Pull',
    startedAt: '2026-05-01T10:00:00Z',
    channels: [{ name: 'crankcase', unit: 'kPa' }],
    samples: [[0, -0.4]],
  })
  const before = await listBuilds()
  const files = { recordings: [recording, { ...recording, data: 'no JSON' }], attachments: [] }
  await expect(createBuild(build('Half'), 'brought in', files)).rejects.toThrow()
  expect(await listBuilds()).toEqual(before)
  expect(
    await query('select id from recording where name = $1 and build_id in (select id from build where arriving)', [
      'Pull',
    ]),
  ).toEqual([])
  // stopped in the middle: what was there by then goes at the next start
  await query("insert into build (name, head, arriving) values ('Left', 1, true)")
  expect((await listBuilds()).map((b) => b.document.name)).not.toContain('Left')
  await removeArriving()
  expect(await query("select id from build where name in ('Left', 'Half')")).toEqual([])
})

test('versions thin out with age; the head, the first and marked ones stay, and gaps are told', async () => {
  const made = await createBuild(build('Old'))
  for (let i = 2; i <= 12; i++) await saveChanges(made.id, i - 1, [change(`v${i}`)])
  await query(
    // at noon: thinning goes by the day, and a test run near midnight would lie on both sides of it
    "update revision set saved_at = date_trunc('day', now()) - interval '30 days' + interval '12 hours' + number * interval '1 minute' where build_id = $1",
    [made.id],
  )
  await markRevision(made.id, 5, true)
  await saveChanges(made.id, 12, [change('v13')])
  const kept = await listRevisions(made.id)
  expect(kept.map((r) => r.number)).toEqual([13, 12, 5, 1])
  expect(kept.map((r) => r.thinned)).toEqual([0, 6, 3, 0])
  expect(await readRevision(made.id, 7)).toBeUndefined()
  // changes are not thinned: who comes back late is still met change by change
  expect(await saveChanges(made.id, 3, [change('wider', [bore('suction', 12)])])).toMatchObject({
    status: 'saved',
    revision: 14,
  })
})

test('a removed build is gone from the garage and can be put back', async () => {
  const made = await createBuild(build('Gone'))
  expect(await removeBuild(made.id, true)).toBe(true)
  expect(await readBuild(made.id)).toBeUndefined()
  expect(await saveChanges(made.id, 1, [change('x')])).toEqual({ status: 'missing' })
  await removeBuild(made.id, false)
  expect((await readBuild(made.id))!.document).toEqual(made.document)
})

test('ids that are none are answered, not passed to the database', async () => {
  expect(await readBuild("'; drop table build; --")).toBeUndefined()
  expect(await saveChanges('nonsense', 1, [change('x')])).toEqual({ status: 'missing' })
  expect(await readRevision('nonsense', 1)).toBeUndefined()
})

test('the lock of a process that is gone, or of another that took its number, is recovered', () => {
  const other = mkdtempSync(join(tmpdir(), 'ivent-lock-'))
  const lock = join(other, 'ivent.lock')
  for (const holder of [
    { pid: 2 ** 22 + 1, born: '1', since: 'then' },
    { pid: process.pid, born: 'another time', since: 'then' },
    'not json',
  ]) {
    writeFileSync(lock, typeof holder === 'string' ? holder : JSON.stringify(holder))
    const { release } = takeLock(other)
    expect(existsSync(lock)).toBe(true)
    release()
    expect(existsSync(lock)).toBe(false)
  }
  rmSync(other, { recursive: true })
})

test('closed and opened again, everything is still there', async () => {
  const before = await listBuilds()
  await closeStore()
  expect(await listBuilds()).toEqual(before)
})
