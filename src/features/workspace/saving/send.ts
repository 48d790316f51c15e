/** How changes go to the server. Without the store of a build, so that the garage can send what was left behind. */
import type { Change } from '@/plan/edit/edit'
import type { KeptOnDevice, SentChange } from './device'

/** A connection that was cut may keep what was sent for minutes: it is sent anew, under the same id, so that it is saved once, ms. */
const PATIENCE_MS = 20_000

const post = (id: string, body: string, keepalive = false): Promise<Response> =>
  fetch(`/api/builds/${id}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body,
    keepalive,
    signal: AbortSignal.timeout(PATIENCE_MS),
  })

export const posted = (id: string, base: number, changes: readonly Change[], keepalive: boolean): Promise<Response> =>
  post(id, JSON.stringify({ base, changes }), keepalive)

/** Changes that cannot be saved are kept with the build, apart from it; false where Ivent does not answer. */
export const postSetAside = (id: string, base: number, changes: readonly Change[]): Promise<boolean> =>
  post(id, JSON.stringify({ base, changes, aside: true })).then(
    (response) => response.ok,
    () => false,
  )

/** Changes that a window left behind, sent without opening their build. */
export const sendKept = ({ build, base, pending }: KeptOnDevice): Promise<SentChange> =>
  posted(build, base, pending, false).then(
    ({ ok, status }) => (ok ? 'saved' : status === 409 || status === 422 ? 'look' : 'unanswered'),
    () => 'unanswered',
  )
