/** Devices: let in by a token that is kept as its hash, held to their rights, put out at once, and not brought back by a backup. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Edit } from '@/plan/edit/edit'
import { newBuild } from '@/plan/schools/new-build'
import { askerHeader, ASKER, askerOf, isStillAllowed, refusalForDevice, SESSION } from './asker'
import { createBuild, readBuild } from './builds'
import { saveChanges, setAside } from './changes'
import { addDevice, changeDevice, deviceWith, listDevices, removeDevices, type Device } from './devices'
import { readBody } from './http'
import { listRevisions, listSetAside } from './revisions'
import { closeStore, query } from './store'

const folder = mkdtempSync(join(tmpdir(), 'ivent-devices-'))
beforeAll(() => {
  process.env.IVENT_DATA = folder
})
afterAll(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

const build = (name: string) =>
  newBuild({ name, engineClass: 'i4-turbo', use: 'street', ambientC: 20, units: 'metric' })
const entry = { id: 'e1', date: '2026-02-01', odometerKm: 1000, kind: 'oil-added', ml: 500 }
const log: Edit = { op: 'insert', path: ['log', 'e1'], value: entry as { id: string }, before: null }
const bore: Edit = { op: 'set', path: ['engine', 'boreMm'], value: 84 }
const change = (edits: readonly Edit[]) => [{ id: crypto.randomUUID(), name: 'by hand', edits }]
async function letIn(name: string, rights: Device['rights']) {
  const added = await addDevice(name, rights)
  if (!added) throw new Error('too many')
  return added
}

test('a token is known by its hash alone, and to nobody once its device is out', async () => {
  const { device, token } = await letIn('Phone', 'all')
  expect(Buffer.from(token, 'base64url').length * 8).toBe(256)
  expect(await deviceWith(token)).toEqual(device)
  const [row] = await query<{ all: string }>('select row_to_json(device)::text as all from device where id = $1', [
    device.id,
  ])
  expect(row!.all).not.toContain(token)
  for (const wrong of ['', token.slice(1), `${token}a`, 'null']) expect(await deviceWith(wrong)).toBeUndefined()
  expect(await removeDevices(device.id)).toBe(1)
  expect(await deviceWith(token)).toBeUndefined()
})

test('named anew and given other rights, it is known so at once', async () => {
  const { device, token } = await letIn('Tablet', 'look')
  expect(await changeDevice(device.id, { name: 'At the lift', rights: 'log' })).toBe(true)
  expect(await deviceWith(token)).toEqual({ ...device, name: 'At the lift', rights: 'log' })
  expect((await listDevices()).find((d) => d.id === device.id)).toMatchObject({ name: 'At the lift', rights: 'log' })
  expect(await changeDevice('nonsense', { rights: 'all' })).toBe(false)
})

test('who ticks and logs saves that and nothing else; who looks saves nothing; each is named in the versions', async () => {
  const made = await createBuild(build('Rights'))
  const [logs, looks, all] = [await letIn('Logger', 'log'), await letIn('Looker', 'look'), await letIn('Doer', 'all')]
  expect(await saveChanges(made.id, 1, change([log]), logs.device)).toMatchObject({ status: 'saved', revision: 2 })
  await expect(saveChanges(made.id, 2, change([bore]), logs.device)).rejects.toMatchObject({ status: 403 })
  await expect(saveChanges(made.id, 2, change([log, bore]), logs.device)).rejects.toMatchObject({ status: 403 })
  await expect(saveChanges(made.id, 2, change([log]), looks.device)).rejects.toMatchObject({ status: 403 })
  // what a device claims to be allowed counts for nothing
  await expect(saveChanges(made.id, 2, change([bore]), { ...looks.device, rights: 'all' })).rejects.toMatchObject({
    status: 403,
  })
  expect((await readBuild(made.id))!.revision).toBe(2)
  expect(await saveChanges(made.id, 2, change([bore]), all.device)).toMatchObject({ status: 'saved', revision: 3 })
  expect((await listRevisions(made.id)).map((r) => r.madeBy)).toEqual(['Doer', 'Logger', undefined])
  // a change that it may not make can be left beside the build for the bench; by who looks not even that
  expect(await setAside(made.id, 3, change([bore]), logs.device)).toBe(true)
  await expect(setAside(made.id, 3, change([bore]), looks.device)).rejects.toMatchObject({ status: 403 })
  expect((await listSetAside(made.id)).map((r) => r.madeBy)).toEqual(['Logger'])
})

test('put out while it sends: nothing of it is saved', async () => {
  const made = await createBuild(build('Out'))
  const { device, token } = await letIn('Sender', 'all')
  // its body comes in two pieces; between them it is put out
  let go = () => {}
  const later = new Promise<void>((resolve) => {
    go = resolve
  })
  const body = new ReadableStream({
    async start(stream) {
      stream.enqueue(new TextEncoder().encode('{"a":'))
      await later
      stream.enqueue(new TextEncoder().encode('1}'))
      stream.close()
    },
  })
  const headers = { 'content-type': 'application/json', [ASKER]: askerHeader(device), [SESSION]: token }
  const request = new Request('http://x/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit)
  expect(askerOf(request)).toEqual(device)
  expect(await isStillAllowed(request)).toBe(true)
  const reading = readBody(request, 1000)
  await removeDevices(device.id)
  go()
  expect(await reading).toMatchObject({ ok: false, response: { status: 401 } })
  await expect(saveChanges(made.id, 1, change([bore]), device)).rejects.toMatchObject({ status: 401 })
  expect((await readBuild(made.id))!.revision).toBe(1)
})

test.each<[Device['rights'], string, string, boolean]>([
  ['all', 'POST', '/api/builds', true],
  ['all', 'DELETE', '/api/builds/x', true],
  ['all', 'GET', '/api/backup', false],
  ['all', 'GET', '/api/backups', false],
  ['all', 'POST', '/api/backups/x', false],
  ['all', 'GET', '/api/devices', false],
  ['all', 'DELETE', '/api/devices/x', false],
  ['all', 'POST', '/api/pairing', false],
  ['log', 'GET', '/builds/x/circuit', true],
  ['log', 'POST', '/api/builds/x/changes', true],
  ['log', 'POST', '/api/builds/x/log', true],
  ['log', 'POST', '/api/builds/x/attachments', true],
  ['log', 'POST', '/api/builds/x/logger', true],
  ['look', 'POST', '/api/builds/x/logger', false],
  ['look', 'GET', '/api/builds/x/logger', true],
  ['log', 'DELETE', '/api/builds/x/attachments/y', false],
  ['log', 'PUT', '/api/builds/x', false],
  ['log', 'DELETE', '/api/builds/x', false],
  ['log', 'POST', '/api/import', false],
  ['look', 'GET', '/api/builds/x/export', true],
  ['look', 'POST', '/api/builds/x/changes', false],
  ['look', 'POST', '/api/analyse', false],
  ['look', 'POST', '/api/live', true],
])('who may %s: %s %s is let through: %s', (rights, method, path, may) => {
  expect(refusalForDevice(rights, method, path) === undefined).toBe(may)
})
