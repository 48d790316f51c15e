/** What the embedded store alone does: it holds its folder, and puts its backups back. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { keepBackup, restoreBackup } from './backups'
import { addDevice, deviceWith, removeDevices, type Device } from './devices'
import { FolderHeldError, takeLock } from './lock'
import { closeStore, dumpStore, query } from './store'

const folder = mkdtempSync(join(tmpdir(), 'ivent-embedded-'))
beforeAll(() => {
  process.env.IVENT_DATA = folder
})
afterAll(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

async function letIn(name: string, rights: Device['rights']) {
  const added = await addDevice(name, rights)
  if (!added) throw new Error('too many')
  return added
}

test('a second opener is told who holds the folder, and the data is untouched', async () => {
  await query('select 1')
  expect(() => takeLock(folder)).toThrow(FolderHeldError)
  expect(() => takeLock(folder)).toThrow(new RegExp(`in use by process ${process.pid}`))
})

test('a backup that is put back lets in nobody who was put out since, and puts out nobody', async () => {
  await removeDevices()
  const gone = await letIn('Lost phone', 'all')
  const backup = await keepBackup('daily', await dumpStore())
  await removeDevices(gone.device.id)
  const stays = await letIn('New phone', 'log')
  await restoreBackup(backup)
  expect(await deviceWith(gone.token)).toBeUndefined()
  expect(await deviceWith(stays.token)).toEqual(stays.device)
  expect(await removeDevices()).toBe(1)
  expect(await deviceWith(stays.token)).toBeUndefined()
})
