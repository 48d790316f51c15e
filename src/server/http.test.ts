import { newBuild } from '@/plan/schools/new-build'
import { answering, MAX_BODY, readBuildFrom, readJson } from './http'

const post = (body: string | Uint8Array<ArrayBuffer>, headers: Record<string, string> = {}) =>
  new Request('http://127.0.0.1/api', {
    method: 'POST',
    body,
    headers: { 'content-type': 'application/json', ...headers },
  })
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

test('what is no JSON by its name, no UTF-8, or holds a NUL is refused at the door', async () => {
  const answer = async (body: string | Uint8Array<ArrayBuffer>, headers = {}) =>
    said((await readJson(post(body, headers))) as never)
  expect((await answer('{}', { 'content-type': 'text/plain' })).status).toBe(415)
  expect(await answer(new Uint8Array([0x22, 0xff, 0x22]))).toMatchObject({
    status: 400,
    error: expect.stringMatching(/UTF-8/) as string,
  })
  expect(await answer('{"name":"a\\u0000b"}')).toMatchObject({
    status: 400,
    error: expect.stringMatching(/NUL/) as string,
  })
  // an escaped backslash before it: six plain characters
  expect((await readJson(post('{"name":"a\\\\u0000b"}'))).ok).toBe(true)
})

test('a handler that fails answers in words, and nothing of what failed is logged', async () => {
  const log = jest.spyOn(console, 'error').mockImplementation(() => undefined)
  const response = await answering(() => Promise.reject(new Error('secret document')))()
  expect([response.status, ((await response.json()) as { error: string }).error]).toEqual([
    500,
    expect.stringMatching(/^Something went wrong in Ivent. Nothing was changed/),
  ])
  expect(log.mock.calls.flat().join(' ')).not.toMatch(/secret/)
  log.mockRestore()
})
