'use client'
/** The single path by which a build is saved: changes wait on the device, are sent in order, once, and go when the server has them. */
import { useEffect, useState } from 'react'
import type { Build } from '@/plan/document/schema'
import type { Problem } from '@/plan/document/validate'
import type { Change } from '@/plan/edit/edit'
import type { Clash } from '@/plan/edit/merge'
import { permits } from '@/plan/edit/rights'
import { isFull, noteOffline } from '@/offline/notes'
import { ownRights } from '@/ui/device'
import { connectionBack, connectionLost, onConnectionBack } from '@/ui/connection'
import { holdWindow, readKeptChanges, remember } from './device'
import { storeHead, storedHead } from './heads'
import { posted, postSetAside } from './send'
import { rebaseOnSaved, replay, inFlight, useWorkspaceStore, type WorkspaceStore } from '../store'

const PAUSE_MS = 400
const RETRY_MS = 3000

type Reply = {
  readonly status?: 'saved' | 'clash' | 'refused'
  readonly revision: number
  readonly others: readonly Change[]
  readonly change: string
  readonly clashes: readonly Clash[]
  readonly reason?: string
  readonly problems?: readonly Problem[]
  readonly error?: string
}

/** Longest that a page waits for the bench to tell its head, ms: then what the device kept of it will do. */
const HEAD_PATIENCE_MS = 4000

export async function readHead(id: string): Promise<{ document: Build; revision: number } | undefined> {
  const response = await fetch(`/api/builds/${id}`, { signal: AbortSignal.timeout(HEAD_PATIENCE_MS) }).catch(
    () => undefined,
  )
  return response?.ok ? ((await response.json()) as { document: Build; revision: number }) : undefined
}

/** Sends what is pending. Says whether there is more to send, or whether to try again later. */
async function send(store: WorkspaceStore): Promise<'done' | 'again' | 'retry' | 'stop'> {
  const { id, revision, pending, setSave, acknowledge, rebase } = store.getState()
  if (pending.length === 0) {
    setSave({ kind: 'saved' })
    return 'done'
  }
  const failed = (message: string, then: 'retry' | 'stop') => {
    setSave({ kind: 'failed', message })
    return then
  }
  let response: Response
  let reply: Reply
  try {
    // a page that is being left may still send it
    response = await posted(id, revision, pending, JSON.stringify(pending).length < 60_000)
    reply = (await response.json()) as Reply
  } catch {
    connectionLost()
    return failed('Ivent does not answer. Your changes wait on this device and are saved when it does.', 'retry')
  }
  connectionBack()
  const sentIds = pending.map((c) => c.id)
  /** what was made while these were on their way */
  const unsent = () => store.getState().pending.filter((c) => !sentIds.includes(c.id))
  if (reply.status === 'saved') {
    if (!acknowledge(sentIds, reply.revision, reply.others)) {
      const head = await readHead(id)
      if (!head) return failed('Ivent does not answer. Your changes wait on this device.', 'retry')
      rebase(head, rebaseOnSaved(unsent(), reply.others, reply.revision))
    }
    const more = store.getState().pending.length > 0
    setSave({ kind: more ? 'waiting' : 'saved' })
    return more ? 'again' : 'done'
  }
  const change = pending.find((c) => c.id === reply.change)
  if (change && (reply.status === 'clash' || reply.status === 'refused')) {
    // what was sent before it is saved; it and what comes after it stay here
    const after = pending.slice(pending.indexOf(change) + 1)
    const head = reply.status === 'clash' ? await readHead(id) : undefined
    if (reply.status === 'clash' && !head)
      return failed('Ivent does not answer. Your changes wait on this device.', 'retry')
    store.setState({ pending: [change, ...rebaseOnSaved([...after, ...unsent()], reply.others, reply.revision)] })
    setSave(
      head
        ? { kind: 'clash', change, clashes: reply.clashes, head }
        : { kind: 'refused', change, reason: reply.reason ?? '', problems: reply.problems ?? [] },
    )
    return 'stop'
  }
  // this device may not make it, now that its rights are others: it is left beside the build for the bench
  const mayNot =
    response.status === 403 ? (pending.find((c) => !permits(ownRights(), c.edits)) ?? pending[0]) : undefined
  if (mayNot) {
    setSave({ kind: 'refused', change: mayNot, reason: reply.error ?? '', problems: [] })
    return 'stop'
  }
  if (response.status >= 500)
    return failed(`${reply.error ?? 'Ivent had trouble saving.'} Your changes wait on this device.`, 'retry')
  return failed(reply.reason ?? reply.error ?? 'The save was refused. Your changes wait on this device.', 'stop')
}

/** Changes that wait and would not fit without `change`: they were made to what it brings. */
export function dependentOn(document: Build, pending: readonly Change[], change: Change): readonly Change[] {
  return replay(
    document,
    pending.filter((c) => c.id !== change.id),
  ).unfit
}

/**
 * A change that could not be saved: it is put aside with what builds on it, and what stands in the build goes on; or, where it clashed, mine
 * goes on top of the theirs that was shown, and is sent as any change is, at once or when Ivent answers again. False where it has to answer
 * first and does not: everything stays as it is.
 */
export async function takeReply(store: WorkspaceStore, whose: 'theirs' | 'mine'): Promise<boolean> {
  const { id, save, pending, rebase } = store.getState()
  if (save.kind !== 'clash' && save.kind !== 'refused') return true
  const { change } = save
  const rest = pending.filter((c) => c.id !== change.id)
  if (save.kind === 'clash' && whose === 'mine') {
    // under another id and on top of theirs it clashes with nothing but what is newer than what was shown
    rebase(save.head, [{ ...change, id: crypto.randomUUID(), base: save.head.revision }, ...rest])
    return true
  }
  const head = await readHead(id)
  if (!head) return false
  const aside = [change, ...dependentOn(head.document, pending, change)]
  if (!(await postSetAside(id, head.revision, aside))) return false
  rebase(
    head,
    rest.filter((c) => !aside.includes(c)),
  )
  return true
}

/** A page is drawn and at rest before others are kept for when there is no connection. */
const REST_MS = 2000
/** Longest that fields wait for the device to say what it kept. */
const PATIENCE_MS = 2000

/** Keeps and saves what is changed. True once the device has said what it kept: from then on nothing that is typed can be lost. */
export function useAutosave(): boolean {
  const store = useWorkspaceStore()
  const [ready, setReady] = useState(false)
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined
    let resting: ReturnType<typeof setTimeout> | undefined
    let busy = false
    let over = false
    const later = (ms: number) => {
      clearTimeout(timer)
      if (!over)
        timer = setTimeout(() => {
          void save()
        }, ms)
    }
    async function save(): Promise<void> {
      const state = store.getState()
      if (state.save.kind === 'clash' || state.save.kind === 'refused' || state.pending.length === 0) return
      // an edit that comes while one is on its way is sent after it
      if (busy) return
      busy = true
      for (const c of state.pending) inFlight.add(c.id)
      const next = await send(store)
      inFlight.clear()
      busy = false
      if (next === 'again') later(0)
      if (next === 'retry') later(RETRY_MS)
    }
    const keep = () => {
      const { id, revision, pending, past, future } = store.getState()
      return remember({ build: id, base: revision, pending, past, future })
    }
    const full = (error: unknown) => {
      if (isFull(error)) noteOffline({ notKept: 'full' })
    }
    const keepLastHead = () => {
      const { id, revision, head } = store.getState()
      storeHead(id, revision, head).catch(full)
    }
    const unsubscribe = store.subscribe((now, before) => {
      if (now.pending !== before.pending || now.past !== before.past) keep().catch(full)
      if (now.revision !== before.revision) keepLastHead()
      if (now.pending === before.pending || now.pending.length === 0) return
      if (now.save.kind === 'clash' || now.save.kind === 'refused') return
      if (now.save.kind === 'saved') now.setSave({ kind: 'waiting' })
      later(PAUSE_MS)
    })
    holdWindow()
    const begin = () => {
      if (!over) setReady(true)
    }
    const begun = setTimeout(begin, PATIENCE_MS)
    const recalled = readKeptChanges(store.getState().id).then(
      async ({ own, left, takenOver }) => {
        // the page was read before this window's last change was saved: it is older than what the window knows
        const { id, revision } = store.getState()
        const known = await storedHead(id).catch(() => undefined)
        if (Math.max(own?.base ?? 0, known?.revision ?? 0) > revision) {
          const head = (await readHead(id)) ?? (known && known.revision > revision ? known : undefined)
          if (head && !over) store.getState().rebase(head, store.getState().pending)
        }
        const pending = [...left.flatMap((k) => k.pending), ...(own?.pending ?? [])]
        if (over || (pending.length === 0 && !own)) return
        // what was typed since the page opened stays on top
        const fresh = store.getState().pending
        store.getState().restore({
          pending: [...pending, ...fresh],
          past: [...(own?.past ?? []), ...store.getState().past],
          future: store.getState().past.length === 0 ? (own?.future ?? []) : [],
        })
        // kept under this window's name before the others' are let go
        await keep()
        await takenOver()
      },
      () => undefined,
    )
    void recalled.then(() => {
      begin()
      if (over) return
      keepLastHead()
      resting = setTimeout(() => {
        void import('@/offline/register')
          .then(({ keepPages }) => keepPages(store.getState().id))
          .then(
            (reply) => {
              if (reply?.kept === false && reply.full) noteOffline({ notKept: 'full' })
            },
            () => undefined,
          )
      }, REST_MS)
    })
    // a page that the device had kept may be older than the bench's: what others did meanwhile is in it now
    const back = onConnectionBack(() => {
      if (store.getState().pending.length > 0) return later(0)
      void readHead(store.getState().id).then((head) => {
        const { revision, pending, rebase } = store.getState()
        if (head && !over && head.revision > revision && pending.length === 0) rebase(head, [])
      })
    })
    // a page that is hidden or left goes with its last change on its way
    const leave = () => {
      clearTimeout(timer)
      void save()
    }
    const ask = (event: BeforeUnloadEvent) => {
      // on its way before the next page is asked for
      leave()
      if (store.getState().save.kind === 'failed') event.preventDefault()
    }
    const hide = () => {
      if (document.visibilityState === 'hidden') leave()
      else if (store.getState().pending.length > 0) later(0)
    }
    const online = () => later(0)
    document.addEventListener('visibilitychange', hide)
    addEventListener('beforeunload', ask)
    addEventListener('online', online)
    return () => {
      clearTimeout(begun)
      clearTimeout(resting)
      back()
      unsubscribe()
      document.removeEventListener('visibilitychange', hide)
      removeEventListener('beforeunload', ask)
      removeEventListener('online', online)
      leave()
      over = true
    }
  }, [store])
  return ready
}
