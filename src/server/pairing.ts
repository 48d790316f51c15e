/**
 * Letting a device in: the bench opens an offer, shows its code as a picture and as words, and who brings one of them back within two minutes
 * is let in, once. An offer lives in memory alone; the server in front and the application behind it share it through `globalThis`.
 */
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import type { Rights } from '@/plan/edit/rights'

/** How long an offer stands. */
export const OFFER_MS = 120_000
/** Wrong codes that an offer outlives, less one. */
export const MOST_TRIES = 5
/** Bytes behind the picture: 128 bits. */
const SECRET_BYTES = 16
/** Who has brought a wrong code waits this long for the answer, and twice as long each time. */
const WAIT_MS = 1000
const LONGEST_WAIT_MS = 16_000
/** After this time without a wrong code an address starts anew. */
const FORGET_MS = 15 * 60_000
const MOST_ADDRESSES = 500

type Offer = {
  readonly secret: Buffer
  readonly words: Buffer
  readonly rights: Rights
  readonly until: number
  wrong: number
  /** the name of the device that it let in */
  usedBy: string | undefined
}
type Guesses = { readonly times: number; readonly at: number }
type Pairing = { offer: Offer | undefined; readonly guesses: Map<string, Guesses> }
const shared = globalThis as { iventPairing?: Pairing }
const pairing = (): Pairing => (shared.iventPairing ??= { offer: undefined, guesses: new Map() })

const hashOf = (text: string) => createHash('sha256').update(text).digest()
/** Words as they may be typed: in any case, with whatever stands between them. */
const plainWords = (text: string) =>
  text
    .toLowerCase()
    .match(/[a-z]+/g)
    ?.join(' ') ?? ''

/** Opens an offer in the place of the one before, by these words; its other code is told here and nowhere else. */
export function openOffer(
  rights: Rights,
  words: string,
  now = Date.now(),
): { readonly secret: string; readonly until: number } {
  const secret = randomBytes(SECRET_BYTES).toString('base64url')
  const until = now + OFFER_MS
  pairing().offer = { secret: hashOf(secret), words: hashOf(words), rights, until, wrong: 0, usedBy: undefined }
  return { secret, until }
}

export function closeOffer(): void {
  pairing().offer = undefined
}

/** The offer stands as before it was used: what it let in could not be kept. */
export function reopenOffer(): void {
  const { offer } = pairing()
  if (offer) offer.usedBy = undefined
}

/** How the offer stands, for the bench. */
export type OfferState = {
  readonly state: 'open' | 'used' | 'late' | 'too-many'
  readonly until: number
  readonly wrong: number
  readonly usedBy: string | undefined
}
export function offerState(now = Date.now()): OfferState | undefined {
  const { offer } = pairing()
  if (!offer) return undefined
  const { until, wrong, usedBy } = offer
  const state = usedBy !== undefined ? 'used' : wrong >= MOST_TRIES ? 'too-many' : now >= until ? 'late' : 'open'
  return { state, until, wrong, usedBy }
}

/** What became of a code: it lets in with these rights, or the reason, and how long the answer to a wrong one waits, ms. */
export type Tried =
  | { readonly ok: true; readonly rights: Rights }
  | { readonly ok: false; readonly reason: string; readonly waitMs: number; readonly triesLeft: number }

const AGAIN = 'Open a new code at the bench: Garage, Devices, Let a device in.'
const REASONS: Readonly<Record<OfferState['state'] | 'none', string>> = {
  open: 'This is not the code that the bench shows.',
  used: `This code was used. ${AGAIN}`,
  late: `This code is too old: it stands for two minutes. ${AGAIN}`,
  'too-many': `Too many wrong codes were tried, so this one no longer counts. ${AGAIN}`,
  none: `No code is open at the bench. ${AGAIN}`,
}

/** A wrong code from an address: it waits twice as long as for the one before. */
function noteGuess(from: string, now: number): number {
  const { guesses } = pairing()
  const known = guesses.get(from)
  const times = known && now - known.at < FORGET_MS ? known.times + 1 : 1
  guesses.delete(from)
  guesses.set(from, { times, at: now })
  if (guesses.size > MOST_ADDRESSES) guesses.delete(guesses.keys().next().value!)
  return Math.min(LONGEST_WAIT_MS, WAIT_MS * 2 ** (times - 1))
}

/**
 * Tries a code, as the picture or as words. A right one is used up by this; `name` is what the bench is told. Wrong ones are counted
 * against the offer, and slow down the address that they come from.
 */
export function tryCode(code: string, { name, from }: { name: string; from: string }, now = Date.now()): Tried {
  const { offer } = pairing()
  const state = offerState(now)?.state ?? 'none'
  const right =
    offer !== undefined &&
    (timingSafeEqual(hashOf(code.trim()), offer.secret) || timingSafeEqual(hashOf(plainWords(code)), offer.words))
  if (offer && right && state === 'open') {
    offer.usedBy = name
    pairing().guesses.delete(from)
    return { ok: true, rights: offer.rights }
  }
  if (offer && state === 'open') offer.wrong++
  // how an old code stands is told to who has it, and to nobody else
  const reason = right
    ? REASONS[state]
    : offer && offer.wrong >= MOST_TRIES
      ? REASONS['too-many']
      : REASONS[state === 'none' ? 'none' : 'open']
  return {
    ok: false,
    reason,
    waitMs: noteGuess(from, now),
    triesLeft: Math.max(0, MOST_TRIES - (offer?.wrong ?? MOST_TRIES)),
  }
}
