/** What is told as it happens: changes, where everybody is, who has gone; and nothing to a device that has been put out. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newBuild } from '@/plan/schools/new-build'
import { ASKER, askerHeader, SESSION, type Asker } from './asker'
import { createBuild } from './builds'
import { changesSince, saveChanges } from './changes'
import { addDevice, removeDevices } from './devices'
import { openLive, reportPlace, type WindowPlace } from './live'
import { closeStore } from './store'

const folder = mkdtempSync(join(tmpdir(), 'ivent-live-'))
beforeAll(() => {
  process.env.IVENT_DATA = folder
})
afterAll(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

type Message = {
  readonly kind: string
  readonly connection?: string
  readonly build?: string
  readonly places?: readonly WindowPlace[]
}
/** A connection, and what it is told one after another; undefined once it has ended. */
function connect(asker: Asker, headers = new Headers()) {
  const reader = openLive(asker, headers)!.getReader()
  const waiting: Message[] = []
  const next = async (): Promise<Message | undefined> => {
    while (waiting.length === 0) {
      const { value, done } = await reader.read()
      if (done) return undefined
      for (const line of new TextDecoder().decode(value).split('\n'))
        if (line.startsWith('data: ')) waiting.push(JSON.parse(line.slice(6)) as Message)
    }
    return waiting.shift()
  }
  /** The next of a kind. */
  const until = async (kind: string): Promise<Message | undefined> => {
    for (;;) {
      const message = await next()
      if (!message || message.kind === kind) return message
    }
  }
  return { until, close: () => reader.cancel() }
}
const place = (build: string, says: string) => ({ build, station: 'fit', at: undefined, says })
const build = (name: string) =>
  newBuild({ name, engineClass: 'i4-turbo', use: 'street', ambientC: 20, units: 'metric' })
const rename = (name: string) => [
  { id: crypto.randomUUID(), name: `named ${name}`, edits: [{ op: 'set' as const, path: ['name'], value: name }] },
]

test('what one saves the other is told, and had by the revision that it knows', async () => {
  const made = await createBuild(build('One'))
  const other = connect(undefined)
  expect(await other.until('hello')).toBeDefined()
  await saveChanges(made.id, 1, rename('Two'))
  expect((await other.until('changed'))?.build).toBe(made.id)
  await saveChanges(made.id, 2, rename('Three'))
  // after a gap: all of it, in order
  expect((await changesSince(made.id, 1))?.others.map((c) => [c.number, c.name])).toEqual([
    [2, 'named Two'],
    [3, 'named Three'],
  ])
  expect(await changesSince(made.id, 3)).toEqual({ revision: 3, others: [] })
  expect(await changesSince('none', 3)).toBeUndefined()
  await other.close()
})

test('where a window is, told to all, and gone with its connection', async () => {
  const made = await createBuild(build('Where'))
  const { device } = (await addDevice('Phone', 'look'))!
  const [phone, bench] = [connect(device, new Headers()), connect(undefined)]
  const { connection } = (await phone.until('hello'))!
  await bench.until('here')
  const window = crypto.randomUUID()
  expect(reportPlace(device, connection!, window, place(made.id, 'Fit, step 14'))).toBe(true)
  expect((await bench.until('here'))?.places).toEqual([
    { ...place(made.id, 'Fit, step 14'), window, connection, name: 'Phone' },
  ])
  // nobody speaks for another's connection
  expect(reportPlace(undefined, connection!, window, place(made.id, 'elsewhere'))).toBe(false)
  expect(reportPlace(device, crypto.randomUUID(), window, place(made.id, 'elsewhere'))).toBe(false)
  await phone.close()
  expect((await bench.until('here'))?.places).toEqual([])
  await bench.close()
})

test('a device that is put out is told no more; others are', async () => {
  const { device, token } = (await addDevice('Lost', 'all'))!
  const lost = connect(device, new Headers({ [ASKER]: askerHeader(device), [SESSION]: token }))
  const bench = connect(undefined)
  await lost.until('hello')
  await bench.until('hello')
  await removeDevices(device.id)
  expect(await lost.until('changed')).toBeUndefined()
  const made = await createBuild(build('After'))
  expect((await bench.until('changed'))?.build).toBe(made.id)
  await bench.close()
})
