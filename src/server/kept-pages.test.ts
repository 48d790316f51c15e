/** Pages kept between changes: the same words, a nonce of one's own, and nothing old after a change. */
import { createServer, get, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { answerKept, forgetPages, UNKEPT } from './kept-pages'

let server: Server
let url: string
/** What the server draws, how often it has, and until when it waits. */
const draw = { times: 0, words: 'one', status: 200, when: Promise.resolve() }

beforeAll(async () => {
  server = createServer((request, response) => {
    answerKept(request, response, () => {
      const { words, status } = draw
      void draw.when.then(() => {
        draw.times++
        const nonce = btoa(crypto.randomUUID())
        response.statusCode = status
        response.setHeader('content-type', 'text/html; charset=utf-8')
        response.setHeader('content-security-policy', `script-src 'nonce-${nonce}'`)
        response.write(`<p>${words} Öl</p><script nonce="${nonce}">`)
        response.end(`</script><script nonce="${nonce}"></script>`)
      })
    })
  })
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve)
  })
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(async () => {
  await new Promise((resolve) => server.close(resolve))
})
beforeEach(() => {
  forgetPages()
  Object.assign(draw, { times: 0, words: 'one', status: 200, when: Promise.resolve() })
})

async function ask(path: string, init?: RequestInit) {
  const answer = await fetch(url + path, init)
  const body = await answer.text()
  const allowed = /'nonce-([^']+)'/.exec(answer.headers.get('content-security-policy') ?? '')?.[1]
  const used = [...body.matchAll(/nonce="([^"]+)"/g)].map((m) => m[1])
  return { body, allowed, used, words: /<p>(.*)<\/p>/.exec(body)?.[1] }
}

test('a page is drawn once, and every visitor gets a nonce of his own that its scripts bear', async () => {
  const visits = [await ask('/builds/a'), await ask('/builds/a'), await ask('/builds/a')]
  expect(draw.times).toBe(1)
  expect(new Set(visits.map((v) => v.allowed)).size).toBe(3)
  for (const v of visits) {
    expect(v.words).toBe('one Öl')
    expect(v.used).toEqual([v.allowed, v.allowed])
  }
})

test('whatever asks for a change has pages drawn anew, also one that was begun before it', async () => {
  await ask('/')
  draw.words = 'two'
  await ask('/api/builds', { method: 'POST', body: '{}' })
  expect((await ask('/')).words).toBe('two Öl')

  let go = () => {}
  draw.when = new Promise((resolve) => {
    go = resolve
  })
  const slow = ask('/builds/slow')
  await new Promise((resolve) => {
    setTimeout(resolve, 30)
  })
  forgetPages()
  draw.words = 'three'
  go()
  expect((await slow).words).toBe('two Öl')
  draw.when = Promise.resolve()
  expect((await ask('/builds/slow')).words).toBe('three Öl')
})

test('a change to one build leaves the pages of the others', async () => {
  for (const path of ['/', '/builds/a/log', '/builds/b/log']) await ask(path)
  draw.words = 'two'
  await ask('/api/builds/a/changes', { method: 'POST', body: '{}' })
  expect((await ask('/builds/a/log')).words).toBe('two Öl')
  expect((await ask('/')).words).toBe('two Öl')
  expect((await ask('/builds/b/log')).words).toBe('one Öl')
})

test('a page asked for while its build is changed comes after the change, and shows it', async () => {
  await ask('/builds/a/log')
  let go = () => {}
  draw.when = new Promise((resolve) => {
    go = resolve
  })
  const saved = ask('/api/builds/a/changes', { method: 'POST', body: '{}' })
  await new Promise((resolve) => {
    setTimeout(resolve, 20)
  })
  const order: string[] = []
  const page = ask('/builds/a/log').then((v) => {
    order.push('page')
    return v
  })
  await new Promise((resolve) => {
    setTimeout(resolve, 20)
  })
  draw.words = 'two'
  order.push('change')
  go()
  await saved
  expect((await page).words).toBe('two Öl')
  expect(order).toEqual(['change', 'page'])
})

test('a crowd that asks while a page is drawn waits for it; if it comes to nothing, each asks for itself', async () => {
  const crowd = () => Promise.all(Array.from({ length: 8 }, () => ask('/builds/crowd')))
  expect((await crowd()).map((v) => v.words)).toEqual(Array.from({ length: 8 }, () => 'one Öl'))
  expect(draw.times).toBe(1)
  forgetPages()
  Object.assign(draw, { times: 0, status: 500 })
  await crowd()
  expect(draw.times).toBe(8)
})

test('what is no whole, sound page is not kept: an error, trouble, data, a part of a page', async () => {
  const times = async (path: string, init?: RequestInit) => {
    draw.times = 0
    await ask(path, init)
    await ask(path, init)
    return draw.times
  }
  draw.status = 404
  expect(await times('/nothing')).toBe(2)
  draw.status = 200
  draw.words = `<b ${UNKEPT}>`
  expect(await times('/trouble')).toBe(2)
  draw.words = 'one'
  expect(await times('/api/health')).toBe(2)
  expect(await times('/part', { headers: { rsc: '1' } })).toBe(2)
  // under another name of the host it is asked for anew: whether that name is answered is for others to say
  await ask('/host')
  draw.times = 0
  await new Promise((resolve) => {
    get(`${url}/host`, { headers: { host: 'elsewhere.example' } }, (answer) => answer.resume().on('end', resolve))
  })
  expect(draw.times).toBe(1)
  // the next one is, so that what is seen above is not just a keeper that keeps nothing
  expect(await times('/whole')).toBe(1)
})
