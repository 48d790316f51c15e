/** Who may ask: this machine, by its own names, and what a workshop's proxy vouches for. */
import { allowedBy, refusalOf, type Asking } from './guard'

const asking = (over: Partial<Asking['headers']>, method = 'POST', url = '/', remoteAddress = '127.0.0.1'): Asking => ({
  method,
  url,
  headers: { host: '127.0.0.1:4310', ...over },
  socket: { remoteAddress },
})
const status = (a: Asking, env: Record<string, string> = {}) => refusalOf(a, allowedBy(env))?.status

test.each<[string, Asking, number | undefined]>([
  ['a page of its own', asking({ origin: 'http://127.0.0.1:4310', 'sec-fetch-site': 'same-origin' }), undefined],
  ['a program with no origin', asking({}), undefined],
  ['another host (DNS rebinding)', asking({ host: 'rebound.example' }, 'GET'), 421],
  ['another origin', asking({ origin: 'http://elsewhere.example' }), 403],
  ['another port of this machine', asking({ origin: 'http://127.0.0.1:8080' }), 403],
  ['no origin, and from another site', asking({ 'sec-fetch-site': 'cross-site' }), 403],
  ['a page without origin (null)', asking({ origin: 'null' }), 403],
  ['reading, whatever the origin', asking({ origin: 'http://elsewhere.example' }, 'GET'), undefined],
  ['an odd method', asking({}, 'TRACE'), 405],
  ['a % that stands for no character', asking({}, 'GET', '/builds/%'), 400],
  ['a % in the query is the page’s own matter', asking({}, 'GET', '/builds?x=%'), undefined],
])('%s', (_, a, expected) => {
  expect(status(a)).toBe(expected)
})

describe('behind a proxy that speaks TLS', () => {
  const env = { IVENT_HOSTS: 'bench.workshop.example', IVENT_PROXIES: '10.0.0.2, 127.0.0.1' }
  const through = (over: Partial<Asking['headers']>, from = '127.0.0.1') =>
    asking({ host: 'bench.workshop.example', ...over }, 'POST', '/', from)
  const secure = { origin: 'https://bench.workshop.example', 'x-forwarded-proto': 'https' }

  test('saves work', () => {
    expect(status(through(secure), env)).toBeUndefined()
    expect(status(through(secure, '::ffff:10.0.0.2'), env)).toBeUndefined()
    expect(status(through({ ...secure, 'x-forwarded-proto': 'https, http' }), env)).toBeUndefined()
  })
  test('nobody else says with which protocol Ivent was asked', () => {
    expect(status(through(secure, '10.0.0.9'), env)).toBe(403)
    expect(status(through(secure), { IVENT_HOSTS: env.IVENT_HOSTS })).toBe(403)
    expect(status(through({ ...secure, origin: 'http://bench.workshop.example' }), env)).toBe(403)
    expect(status(through({ ...secure, origin: 'https://elsewhere.example' }), env)).toBe(403)
  })
})
