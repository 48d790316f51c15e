/** Backup and restore as a person runs them, on data folders of their own. */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createBuild, listBuilds } from '@/server/builds'
import { closeStore } from '@/server/store'
import { newBuild } from '@/plan/schools/new-build'

const folder = mkdtempSync(join(tmpdir(), 'ivent-archive-'))
const [here, there, file] = [join(folder, 'here'), join(folder, 'there'), join(folder, 'all.tgz')]
const ivent = (data: string, ...args: string[]) =>
  spawnSync(process.execPath, ['ivent', ...args], {
    encoding: 'utf8',
    env: { ...process.env, IVENT_DATA: data },
    timeout: 60_000,
  })
afterAll(() => rmSync(folder, { recursive: true, force: true }))

test('what was backed up stands again elsewhere, what stood there is kept, and an archive that is none changes nothing', async () => {
  process.env.IVENT_DATA = here
  const made = await createBuild(
    newBuild({ name: 'Kept', engineClass: 'i4-na', use: 'street', ambientC: 10, units: 'metric' }),
  )
  // while it runs the folder is held
  const held = ivent(here, 'backup', file)
  expect([held.status, held.stderr]).toEqual([1, expect.stringMatching(/is in use by process/)])
  await closeStore()
  expect(ivent(here, 'backup', file).stdout).toMatch(/^Saved .* to /m)
  expect(existsSync(file)).toBe(true)

  process.env.IVENT_DATA = there
  await createBuild(newBuild({ name: 'Before', engineClass: 'i4-na', use: 'street', ambientC: 10, units: 'metric' }))
  await closeStore()
  writeFileSync(join(folder, 'no.tgz'), 'not an archive')
  expect(ivent(there, 'restore', join(folder, 'no.tgz')).status).toBe(1)
  expect((await listBuilds()).map((b) => b.document.name)).toEqual(['Before'])
  await closeStore()
  const restored = ivent(there, 'restore', file)
  expect(restored.stdout).toMatch(/Restored 1 build from/)
  expect(readdirSync(there).some((f) => f.startsWith('pg.before-'))).toBe(true)
  expect((await listBuilds()).map((b) => [b.id, b.document.name])).toEqual([[made.id, 'Kept']])
  await closeStore()
})
