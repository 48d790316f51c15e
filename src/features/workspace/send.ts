/** How changes go to the server. Without the store of a build, so that the garage can send what was left behind. */
import type { Change } from '@/plan/edit/edit'
import type { Kept } from './device'

export const posted = (id: string, base: number, changes: readonly Change[], keepalive: boolean): Promise<Response> =>
  fetch(`/api/builds/${id}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ base, changes }),
    keepalive,
  })

/** Changes that a window left behind, sent without opening their build; false where they must wait for that. */
export const sendKept = ({ build, base, pending }: Kept): Promise<boolean> =>
  posted(build, base, pending, false).then(
    (response) => response.ok,
    () => false,
  )
