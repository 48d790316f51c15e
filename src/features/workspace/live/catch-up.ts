'use client'
/** What other devices save comes into the build that is open, within a moment and without a reload. */
import type { Change } from '@/plan/edit/edit'
import { useLive } from '../../live/live'
import { inFlight, useWorkspaceStore, type WorkspaceStore } from '../store'
import { readHead } from '../saving/autosave'

async function catchUp(store: WorkspaceStore): Promise<void> {
  const { id, revision } = store.getState()
  // the answer to what is on its way brings what others did
  if (inFlight.size > 0) return
  const response = await fetch(`/api/builds/${id}/changes?since=${revision}`).catch(() => undefined)
  if (!response?.ok) return
  const reply = (await response.json()) as { revision: number; others: readonly Change[] }
  const now = store.getState()
  if (now.revision !== revision || inFlight.size > 0 || now.save.kind === 'clash' || now.save.kind === 'refused') return
  if (reply.revision === revision) return
  // after a restore the bench may stand before what this page knows
  if (reply.revision > revision && now.acknowledge([], reply.revision, reply.others)) return
  const head = await readHead(id)
  if (head && inFlight.size === 0) store.getState().rebase(head, store.getState().pending)
}

/** Keeps the build to what the bench has. */
export function useCatchUp(): void {
  const store = useWorkspaceStore()
  useLive((message) => {
    const concerns =
      message.kind === 'hello' ||
      (message.kind === 'changed' && (message.build ?? store.getState().id) === store.getState().id)
    if (concerns) void catchUp(store)
  })
}
