import { isRights } from '@/plan/edit/rights'
import { answering, json, readJson, refuse } from '@/server/http'
import { lan } from '@/server/lan'
import { closeOffer, offerState, openOffer } from '@/server/pairing'
import { pairingWords } from '@/server/pairing-words'

export const dynamic = 'force-dynamic'

/** Opens an offer with `{ rights }`: its code for a picture, its words, and until when it stands. From the bench alone. */
export const POST = answering(async (request: Request) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const rights = (body.value as { rights?: unknown } | null)?.rights
  if (!isRights(rights)) return refuse(400, 'Say { "rights": "all" }, "log" or "look".')
  if (!lan()) return refuse(409, 'Ivent answers this machine alone. Start it with  ./ivent start --lan')
  const words = pairingWords()
  return json({ words, ...openOffer(rights, words) }, 201)
})

/** How the offer stands, without its code; null where there is none. */
export const GET = answering(() => Promise.resolve(json(offerState() ?? null)))

export const DELETE = answering(() => {
  closeOffer()
  return Promise.resolve(json({ closed: true }))
})
