import { newBuild } from '@/plan/schools/new-build'
import { MAX_BODY, readBuildFrom, readJson } from './http'

const post = (body: string, headers: Record<string, string> = {}) =>
  new Request('http://127.0.0.1/api', { method: 'POST', body, headers })
const said = async (r: { ok: boolean; response?: Response }) => ({
  status: r.response?.status,
  ...((await r.response?.json()) as { error: string; problems: { path: string }[] }),
})

test('whole JSON is read, cut off JSON is answered with where it breaks', async () => {
  expect(await readJson(post('{"a":[1,2]}'))).toEqual({ ok: true, value: { a: [1, 2] } })
  const cut = await said((await readJson(post('{"a":[1,'))) as never)
  expect(cut.status).toBe(400)
  expect(cut.error).toMatch(/may be cut off. Nothing was changed/)
})

test('a file over the limit is refused, whether it says its length or not', async () => {
  expect((await said((await readJson(post('{}', { 'content-length': String(MAX_BODY + 1) }))) as never)).status).toBe(
    413,
  )
  expect((await said((await readJson(post(' '.repeat(MAX_BODY + 1)))) as never)).status).toBe(413)
})

test('a build is taken, and one with faults comes back with all of them', async () => {
  const build = newBuild({ name: 'Sent', engineClass: 'i4-na', use: 'street', ambientC: 10, units: 'metric' })
  expect(readBuildFrom(build)).toMatchObject({ ok: true })
  const bad = await said(readBuildFrom({ ...build, name: '', engine: { ...build.engine, cylinders: 13 } }) as never)
  expect(bad.status).toBe(422)
  expect(bad.problems.map((p) => p.path)).toEqual(expect.arrayContaining(['name', 'engine › cylinders']))
})
