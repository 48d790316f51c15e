/** Pages kept between changes: the same words, a nonce of one's own, and nothing old after a change. */
import { createServer, request as ask1, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { changed, changing } from '../server/changed'
import { headers, NONCE } from './guard'
import { inOrder } from './in-order'
import { pageCache, renderedVersions, UNKEPT } from './page-cache'

const [A, B] = ['aaaaaaaa-0000-4000-8000-000000000000', 'bbbbbbbb-0000-4000-8000-000000000000']
const [A_LOG, B_LOG] = [`/builds/${A}/log`, `/builds/${B}/log`]

let server: Server
let url: string
/** What the application draws, how often it has, and until when it waits. */
const draw = { times: 0, words: 'one', status: 200, when: Promise.resolve() }

function application(request: IncomingMessage, response: ServerResponse): void {
  const { words, status, when } = draw
  draw.times++
  void when.then(() => {
    const nonce = String(request.headers[NONCE])
    response.statusCode = status
    response.setHeader('content-type', 'text/html; charset=utf-8')
    response.write(`<p>${words} Öl</p><script nonce="${nonce}">`)
    response.end(`</script><script nonce="${nonce}"></script>`)
  })
}

beforeAll(async () => {
  server = createServer(inOrder(headers(false), pageCache(application), application))
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve)
  })
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(async () => {
  await new Promise((resolve) => server.close(resolve))
})
beforeEach(() => {
  changed()
  Object.assign(draw, { times: 0, words: 'one', status: 200, when: Promise.resolve() })
})

async function ask(path: string, init?: RequestInit) {
  const answer = await fetch(url + path, init)
  const body = await answer.text()
  const allowed = /'nonce-([^']+)'/.exec(answer.headers.get('content-security-policy') ?? '')?.[1]
  const used = [...body.matchAll(/nonce="([^"]+)"/g)].map((m) => m[1])
  return { body, allowed, used, words: /<p>(.*)<\/p>/.exec(body)?.[1] }
}
/** A draw that waits until it is told to go on. */
function held(): () => void {
  let go = () => {}
  draw.when = new Promise((resolve) => {
    go = resolve
  })
  return go
}
/** Once the application has begun to draw `n` pages. */
async function begun(n: number): Promise<void> {
  while (draw.times < n) await new Promise((resolve) => setImmediate(resolve))
}

test('a page is drawn once, and every visitor gets a nonce of his own that its scripts bear', async () => {
  const visits = [await ask(A_LOG), await ask(A_LOG), await ask(A_LOG, { headers: { [NONCE]: 'mine' } })]
  expect(draw.times).toBe(1)
  expect(new Set(visits.map((v) => v.allowed)).size).toBe(3)
  for (const v of visits) {
    expect(v.words).toBe('one Öl')
    expect(v.used).toEqual([v.allowed, v.allowed])
    expect(v.allowed).not.toBe('mine')
  }
})

test('a change has its own pages and the garage drawn anew, and those of no other build', async () => {
  for (const path of ['/', A_LOG, B_LOG]) await ask(path)
  draw.words = 'two'
  changed(A)
  expect((await ask(A_LOG)).words).toBe('two Öl')
  expect((await ask('/')).words).toBe('two Öl')
  expect((await ask(B_LOG)).words).toBe('one Öl')
  changed()
  expect((await ask(B_LOG)).words).toBe('two Öl')
})

test('requests that change nothing, hang or are refused leave pages kept and hold none', async () => {
  await ask(A_LOG)
  await ask('/api/analyse', { method: 'POST', body: '{}' })
  expect(draw.times).toBe(2)
  const hanging = ask1(`${url}/api/builds/${A}/changes`, { method: 'POST', headers: { 'content-length': 1000 } })
  hanging.on('error', () => {})
  hanging.write('{')
  await begun(3)
  await ask(A_LOG)
  expect(draw.times).toBe(3)
  hanging.destroy()
})

test('a page drawn across a change is answered to those who asked before it, and to nobody after', async () => {
  const go = held()
  const before = ask(A_LOG)
  await begun(1)
  changed(A)
  draw.words = 'two'
  draw.when = Promise.resolve()
  // those after it wait for one new page, not one after another
  const after = await Promise.all(Array.from({ length: 5 }, () => ask(A_LOG)))
  expect(after.map((v) => v.words)).toEqual(Array.from({ length: 5 }, () => 'two Öl'))
  go()
  expect((await before).words).toBe('one Öl')
  expect(draw.times).toBe(2)
  expect((await ask(A_LOG)).words).toBe('two Öl')
})

test('a page drawn while another build is changed is kept', async () => {
  const go = held()
  const page = ask(A_LOG)
  await begun(1)
  changed(B)
  go()
  await page
  await ask(A_LOG)
  expect(draw.times).toBe(1)
})

test('a page asked for while its build is changed comes after the change, and shows it', async () => {
  await ask(A_LOG)
  const order: string[] = []
  let end = () => {}
  const change = changing(
    A,
    () =>
      new Promise<void>((resolve) => {
        end = resolve
      }),
    () => true,
  )
  const page = ask(A_LOG).then((v) => {
    order.push('page')
    return v
  })
  // a page of another build waits for nothing
  await ask(B_LOG)
  draw.words = 'two'
  order.push('change')
  end()
  await change
  expect((await page).words).toBe('two Öl')
  expect(order).toEqual(['change', 'page'])
})

test('a crowd that asks while a page is drawn waits for it, also for one that comes to nothing', async () => {
  const crowd = () => Promise.all(Array.from({ length: 8 }, () => ask(A_LOG)))
  expect((await crowd()).map((v) => v.words)).toEqual(Array.from({ length: 8 }, () => 'one Öl'))
  expect(draw.times).toBe(1)
  changed()
  Object.assign(draw, { times: 0, status: 500 })
  await crowd()
  draw.status = 200
  expect((await ask(A_LOG)).words).toBe('one Öl')
})

test('what is no whole, sound page is not kept: an error, trouble, data, a part of a page, another spelling', async () => {
  const times = async (path: string, init?: RequestInit) => {
    draw.times = 0
    await ask(path, init)
    await ask(path, init)
    return draw.times
  }
  draw.status = 404
  expect(await times(A_LOG)).toBe(2)
  draw.status = 200
  draw.words = `<b ${UNKEPT}>`
  expect(await times(A_LOG)).toBe(2)
  draw.words = 'one'
  expect(await times('/api/health')).toBe(2)
  expect(await times(A_LOG, { headers: { rsc: '1' } })).toBe(2)
  expect(await times(`/builds/%61${A.slice(1)}/log`)).toBe(2)
  // under another name of the host it is drawn anew: whether that name is answered is for others to say
  await ask(A_LOG)
  draw.times = 0
  await new Promise((resolve) => {
    ask1(url + A_LOG, { headers: { host: 'elsewhere.example' } }, (answer) => answer.resume().on('end', resolve)).end()
  })
  expect(draw.times).toBe(1)
  // the next one is, so that what is seen above is not just a keeper that keeps nothing
  expect(await times(B_LOG)).toBe(1)
})

test('neither a query nor an encoded address is answered with an old page', async () => {
  const spellings = ['?x=1', '?', '?%00', '#a'].map((tail) => A_LOG + tail)
  const encoded = `/builds/%61${A.slice(1)}/log`
  for (const path of [...spellings, encoded]) await ask(path)
  draw.words = 'two'
  changed(A)
  for (const path of [...spellings, encoded]) expect([path, (await ask(path)).words]).toEqual([path, 'two Öl'])
  expect(renderedVersions(`${A_LOG}?x=1`)).toEqual({ build: A, url: A_LOG })
  expect([
    renderedVersions(encoded),
    renderedVersions(`/builds/${A}/log/`),
    renderedVersions(`/builds/${A.toUpperCase()}/log`),
  ]).toEqual([undefined, undefined, undefined])
})
