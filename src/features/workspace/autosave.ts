'use client'
/** The single path by which a build is saved: a moment after the last change, one request at a time. */
import { useEffect } from 'react'
import { useWorkspaceStore, type Workspace } from './store'

const PAUSE_MS = 500
const RETRY_MS = 4000

type Reply = { status?: string; revision?: number; theirs?: number; setAside?: number; error?: string }

async function put(store: Workspace): Promise<'done' | 'again' | 'retry' | 'stop'> {
  const { id, build, revision, setSave } = store.getState()
  try {
    const response = await fetch(`/api/builds/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ base: revision, document: build }),
    })
    const reply = (await response.json()) as Reply
    if (response.status === 409) {
      setSave({ kind: 'stale', theirs: reply.theirs!, setAside: reply.setAside! })
      return 'stop'
    }
    if (!response.ok) {
      setSave({ kind: 'failed', message: reply.error ?? 'The save was refused.' })
      return response.status >= 500 ? 'retry' : 'stop'
    }
    const changedMeanwhile = store.getState().build !== build
    setSave(changedMeanwhile ? { kind: 'waiting' } : { kind: 'saved' }, reply.revision)
    return changedMeanwhile ? 'again' : 'done'
  } catch {
    setSave({
      kind: 'failed',
      message: 'Ivent does not answer. Your changes are kept in this page and saved when it does.',
    })
    return 'retry'
  }
}

export function useAutosave(): void {
  const store = useWorkspaceStore()
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined
    let busy = false
    const later = (ms: number) => {
      clearTimeout(timer)
      timer = setTimeout(() => {
        void save()
      }, ms)
    }
    async function save(): Promise<void> {
      if (busy) return later(PAUSE_MS)
      if (store.getState().save.kind === 'stale') return
      busy = true
      const next = await put(store)
      busy = false
      if (next === 'again') later(0)
      if (next === 'retry') later(RETRY_MS)
    }
    const unsubscribe = store.subscribe((now, before) => {
      if (now.build === before.build || now.save.kind === 'stale') return
      if (now.save.kind !== 'waiting') now.setSave({ kind: 'waiting' })
      later(PAUSE_MS)
    })
    // a page that is left goes with its last change saved; one that cannot be is held by the browser's question
    const leave = () => {
      if (store.getState().save.kind === 'waiting' && !busy) {
        clearTimeout(timer)
        void put(store)
      }
    }
    const ask = (event: BeforeUnloadEvent) => {
      if (store.getState().save.kind === 'failed') event.preventDefault()
    }
    const hide = () => {
      if (document.visibilityState === 'hidden') leave()
    }
    document.addEventListener('visibilitychange', hide)
    addEventListener('beforeunload', ask)
    return () => {
      unsubscribe()
      document.removeEventListener('visibilitychange', hide)
      removeEventListener('beforeunload', ask)
      leave()
      clearTimeout(timer)
    }
  }, [store])
}
