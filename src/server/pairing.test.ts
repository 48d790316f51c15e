/** A code lets one device in, once, within two minutes; guessing is counted, slowed and ended. */
import { wordlist } from '@scure/bip39/wordlists/english.js'
import type { Rights } from '@/plan/edit/rights'
import { closeOffer, MOST_TRIES, OFFER_MS, offerState, openOffer, tryCode } from './pairing'
import { pairingWords } from './pairing-words'

const who = { name: 'Phone', from: '192.168.1.9' }
const T = 1_000_000
let address = 0
/** a fresh address: guesses before are not held against it */
const someone = () => ({ name: 'Phone', from: `10.0.0.${++address}` })
function open(rights: Rights, now: number) {
  const words = pairingWords()
  return { words, ...openOffer(rights, words, now) }
}
beforeEach(closeOffer)

test('the code of the picture has 128 bits, the words at least 60, and no two are the same', () => {
  const offers = Array.from({ length: 50 }, () => open('all', T))
  for (const { secret, words } of offers) {
    expect(Buffer.from(secret, 'base64url').length * 8).toBe(128)
    expect(words.split(' ').length * Math.log2(new Set(wordlist).size)).toBeGreaterThanOrEqual(60)
  }
  expect(new Set(offers.map((o) => o.secret)).size).toBe(50)
  expect(new Set(offers.map((o) => o.words)).size).toBe(50)
})

test.each(['picture', 'words', 'words typed by hand'])(
  '%s: lets in once, with the rights that the bench gave',
  (how) => {
    const { secret, words } = open('log', T)
    const code =
      how === 'picture' ? secret : how === 'words' ? words : ` ${words.toUpperCase().replaceAll(' ', ' - ')}. `
    expect(tryCode(code, who, T + 1000)).toEqual({ ok: true, rights: 'log' })
    expect(offerState(T + 1000)).toMatchObject({ state: 'used', usedBy: 'Phone' })
    expect(tryCode(code, someone(), T + 2000)).toMatchObject({ ok: false, reason: expect.stringMatching(/was used/) })
  },
)

test('two minutes, and not a moment longer', () => {
  const first = open('all', T)
  expect(tryCode(first.secret, someone(), T + OFFER_MS - 1).ok).toBe(true)
  const second = open('all', T)
  expect(tryCode(second.secret, someone(), T + OFFER_MS)).toMatchObject({
    ok: false,
    reason: expect.stringMatching(/too old/),
  })
})

test('a new offer ends the one before, and none is open before the first', () => {
  expect(tryCode('anything', someone(), T)).toMatchObject({
    ok: false,
    reason: expect.stringMatching(/No code is open/),
  })
  const before = open('all', T)
  const now = open('look', T)
  expect(tryCode(before.secret, someone(), T).ok).toBe(false)
  expect(tryCode(now.secret, someone(), T)).toEqual({ ok: true, rights: 'look' })
})

test('five wrong codes end an offer, from wherever they come; then the right one does not count either', () => {
  const { secret } = open('all', T)
  for (let k = 1; k <= MOST_TRIES; k++)
    expect(tryCode(`wrong ${k}`, someone(), T + k)).toMatchObject({ ok: false, triesLeft: MOST_TRIES - k })
  expect(offerState(T + 10)?.state).toBe('too-many')
  expect(tryCode(secret, someone(), T + 10)).toMatchObject({ ok: false, reason: expect.stringMatching(/Too many/) })
})

test('who guesses waits, twice as long each time, over many offers; another address does not', () => {
  const from = '192.168.1.66'
  const waits = Array.from({ length: 7 }, (_, k) => {
    open('all', T)
    const tried = tryCode('no', { name: 'x', from }, T + k)
    return tried.ok ? 0 : tried.waitMs
  })
  expect(waits).toEqual([1000, 2000, 4000, 8000, 16_000, 16_000, 16_000])
  const other = tryCode('no', someone(), T)
  expect(other.ok ? 0 : other.waitMs).toBe(1000)
  // a quarter of an hour later it is an address like any other
  const later = tryCode('no', { name: 'x', from }, T + 16 * 60_000)
  expect(later.ok ? 0 : later.waitMs).toBe(1000)
})

test('an empty code is a wrong one', () => {
  open('all', T)
  for (const code of ['', ' ', '---']) expect(tryCode(code, someone(), T).ok).toBe(false)
})
