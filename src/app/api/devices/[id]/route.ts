import { isRights } from '@/plan/edit/rights'
import { changeDevice, MOST_NAME, removeDevices } from '@/server/devices'
import { answering, json, readJson, refuse } from '@/server/http'

type Context = { params: Promise<{ id: string }> }
const none = () => refuse(404, 'There is no such device. It may have been put out.')

/** PATCH `{ name, rights }`, or one of them. */
export const PATCH = answering(async (request: Request, { params }: Context) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const { name, rights } = (body.value ?? {}) as { name?: unknown; rights?: unknown }
  const plain = typeof name === 'string' ? name.trim() : undefined
  if ((name !== undefined && !plain) || (plain?.length ?? 0) > MOST_NAME)
    return refuse(400, `A device has a name of at most ${MOST_NAME} letters.`)
  if (rights !== undefined && !isRights(rights)) return refuse(400, 'Rights are "all", "log" or "look".')
  const change = { ...(plain === undefined ? {} : { name: plain }), ...(rights === undefined ? {} : { rights }) }
  return (await changeDevice((await params).id, change)) ? json(change) : none()
})

/** Puts a device out. */
export const DELETE = answering(async (_: Request, { params }: Context) =>
  (await removeDevices((await params).id)) > 0 ? json({ out: 1 }) : none(),
)
