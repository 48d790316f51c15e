'use client'
/** The one store of a build that is open: the document with undo, what is looked at, and how its saving stands. */
import { createContext, useContext } from 'react'
import { temporal } from 'zundo'
import { createStore, useStore } from 'zustand'
import type { StateId } from '@/core/engine/states'
import { analyse, type Analysis } from '@/plan/analyse'
import type { Build } from '@/plan/document/schema'
import { applyEdits, type Edit } from '@/plan/edit/edit'

export type SaveState =
  | { readonly kind: 'saved' }
  | { readonly kind: 'waiting' }
  | { readonly kind: 'failed'; readonly message: string }
  | { readonly kind: 'stale'; readonly theirs: number; readonly setAside: number }

export type Selection = { readonly kind: 'line' | 'part'; readonly id: string }

type State = {
  readonly id: string
  readonly today: string
  readonly build: Build
  readonly analysis: Analysis
  readonly revision: number
  readonly save: SaveState
  readonly state: StateId
  readonly selected: Selection | undefined
  /** a failure that is tried: everything shown is that of the circuit with it, nothing of it is saved */
  readonly whatIf: string | undefined
  /** what an edit that did not fit had to say */
  readonly refusal: string | undefined
  readonly edit: (edits: readonly Edit[], burst?: string) => boolean
  readonly replace: (build: Build) => void
  readonly show: (state: StateId) => void
  readonly select: (selection: Selection | undefined) => void
  readonly tryFault: (fault: string | undefined) => void
  readonly setSave: (save: SaveState, revision?: number) => void
}

const BURST_MS = 1200

export function createWorkspace(id: string, build: Build, revision: number, today: string, state: StateId | undefined) {
  let lastBurst = { key: '', at: 0 }
  const analysed = (b: Build) => ({ build: b, analysis: analyse(b, today), whatIf: undefined })
  const first = analysed(build)
  const store = createStore<State>()(
    temporal(
      (set, get) => ({
        id,
        today,
        revision,
        ...first,
        save: { kind: 'saved' } as SaveState,
        state: state ?? first.analysis.states[0]!.id,
        selected: undefined,
        refusal: undefined,
        edit: (edits, burst) => {
          const next = applyEdits(get().build, edits)
          if (!next.ok) {
            set({ refusal: next.reason })
            return false
          }
          // an edit is to the plan: a fault that was being tried is over, and undo must not come back to its figures
          if (get().whatIf !== undefined) set(analysed(get().build))
          // typing on in one field is one step of undo
          const now = Date.now()
          const goesOn = burst !== undefined && burst === lastBurst.key && now - lastBurst.at < BURST_MS
          lastBurst = { key: burst ?? '', at: now }
          const history = store.temporal.getState()
          if (goesOn) history.pause()
          set({ ...analysed(next.value), refusal: undefined })
          if (goesOn) history.resume()
          return true
        },
        replace: (b) => set({ ...analysed(b), refusal: undefined }),
        show: (s) => set({ state: s }),
        select: (selected) => set({ selected }),
        tryFault: (fault) => {
          const b = get().build
          if (fault === undefined) {
            set({ analysis: analyse(b, today), whatIf: undefined })
            return
          }
          // failures are loaded when one is first tried; an edit made meanwhile is to the plan, and ends it
          void import('@/plan/faults/what-if').then(({ analyseFault }) => {
            const broken = get().build === b ? analyseFault(b, fault, today) : undefined
            if (broken) set({ analysis: broken, whatIf: fault })
          })
        },
        setSave: (save, rev) => set(rev === undefined ? { save } : { save, revision: rev }),
      }),
      {
        // undo lands on a plan, never on a fault that was being tried
        partialize: (s) => ({ build: s.build, analysis: s.analysis, whatIf: undefined }),
        equality: (a, b) => a.build === b.build,
        limit: 200,
      },
    ),
  )
  return store
}

export type Workspace = ReturnType<typeof createWorkspace>
export const WorkspaceContext = createContext<Workspace | undefined>(undefined)

export function useWorkspaceStore(): Workspace {
  const store = useContext(WorkspaceContext)
  if (!store) throw new Error('no build is open here')
  return store
}
export const useWorkspace = <T>(pick: (s: State) => T): T => useStore(useWorkspaceStore(), pick)

/** The state looked at, when the circuit solves in it. */
export const useShown = () =>
  useWorkspace((s) => s.analysis.states.find((x) => x.id === s.state) ?? s.analysis.states[0]!)
export const useUnits = () => useWorkspace((s) => s.build.units)
