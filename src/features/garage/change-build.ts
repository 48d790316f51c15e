/** What is done to a build from the garage, without opening it. Each says what went wrong in a sentence, or nothing. */
import type { Change } from '@/plan/edit/edit'
import type { Build } from '@/plan/document/schema'
import { posted } from '../workspace/saving/send'
import { NO_ANSWER, sendBuild } from './bring-in'
import type { ListedBuild } from './ticket'

type Facts = {
  readonly name?: string
  readonly about?: string
  readonly tags?: readonly string[]
  readonly away?: boolean
}

/** Sets what a build is found by. */
export async function setFacts(b: ListedBuild, facts: Facts, name: string): Promise<string | undefined> {
  const change: Change = {
    id: crypto.randomUUID(),
    name,
    edits: Object.entries(facts).map(([key, value]) => ({ op: 'set', path: [key], value })),
  }
  const response = await posted(b.id, b.revision, [change], false).catch(() => undefined)
  if (response?.ok) return undefined
  const reply = (await response?.json().catch(() => undefined)) as { error?: string; reason?: string } | undefined
  if (response?.status === 409) return `${b.name} has just been changed elsewhere. Nothing was changed here: try again.`
  return reply?.reason ?? reply?.error ?? NO_ANSWER
}

/** Makes another build like it: engine, plans and bay. Log, ticks and photos are those of the first car, and stay with it. */
export async function duplicateBuild(b: ListedBuild, name: string): Promise<string | undefined> {
  const found = await fetch(`/api/builds/${b.id}`).catch(() => undefined)
  if (!found?.ok) return NO_ANSWER
  const { document } = (await found.json()) as { document: Build }
  const { log: _, fitted: __, away: ___, fit, ...rest } = document
  const copy = { ...rest, name, log: [], ...(fit ? { fit: { ...fit, ticks: undefined } } : {}) }
  const sent = await sendBuild(JSON.stringify(copy))
  return sent.ok ? undefined : sent.error
}

/** Takes a build out of the garage, or puts it back. */
export async function removeOrRestore(id: string, out: boolean): Promise<string | undefined> {
  const response = await fetch(
    `/api/builds/${id}`,
    out
      ? { method: 'DELETE' }
      : { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: '{"removed":false}' },
  ).catch(() => undefined)
  return response?.ok ? undefined : NO_ANSWER
}
