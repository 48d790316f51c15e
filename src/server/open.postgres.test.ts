/** A database server that comes up after Ivent does, that stays away, that does not have the database. */
import { openWhenReached } from './store'
import { TestPostgres } from './testing-postgres'
import { troubleOf } from './trouble'

const server = new TestPostgres()
let url = ''
beforeAll(async () => {
  await server.start()
  url = server.database('shop')
})
afterAll(() => server.end())

test('a server that is not up yet is waited for', async () => {
  server.down()
  const opening = openWhenReached(url)
  server.up()
  const db = await opening
  expect(await db.query('select 1 as one')).toEqual([{ one: 1 }])
  await db.close()
})

test('one that stays away is said not to answer', async () => {
  server.down()
  const error: unknown = await openWhenReached(url, 0).catch((e: unknown) => e)
  expect(troubleOf(error)).toMatchObject({ status: 503, words: expect.stringContaining('does not answer') as string })
  server.up()
})

test('a database that is not there is not waited for', async () => {
  const error: unknown = await openWhenReached(url.replace(/shop$/, 'none')).catch((e: unknown) => e)
  expect(error).toMatchObject({ code: '3D000' })
})

test('a connection that takes too long is one that does not answer', () => {
  // as the driver `pg` 8 words it
  for (const words of ['timeout expired', 'timeout exceeded when trying to connect'])
    expect(troubleOf(new Error(words)).words).toContain('does not answer')
})
