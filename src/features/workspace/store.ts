'use client'
/** The one store of a build that is open: the document, the steps that lead back, what waits to be saved, what is looked at. */
import { createContext, useContext } from 'react'
import { createStore, useStore } from 'zustand'
import type { StateId } from '@/core/engine/states'
import { makeEvaluator, type Evaluator } from '@/plan/model/evaluator'
import type { StateResult } from '@/plan/model/results'
import { analyse, analyseWithoutFixes, withFixes, type Analysis } from '@/plan/analyse'
import type { Build } from '@/plan/document/schema'
import { editsOf, type EditBuilder } from '@/plan/edit/edit-builders'
import { describeEdits } from '@/plan/edit/describe'
import type { Problem } from '@/plan/document/validate'
import { applyEdits, invertEdits, type Change, type Edit, type Path } from '@/plan/edit/edit'
import { rebaseEdits, type Clash } from '@/plan/edit/merge'
import { NOT_PERMITTED, permits, type Rights } from '@/plan/edit/rights'
import { overtakenBy } from '@/plan/edit/undo'
import type { OtherPlace } from '../live/live'
import type { Fix, Verdict } from '@/plan/verdicts/verdict'

/** A step of undo: what was done and what takes it back, both edits. */
export type UndoStep = { readonly name: string; readonly edits: readonly Edit[]; readonly back: readonly Edit[] }

export type SaveState =
  | { readonly kind: 'saved' }
  | { readonly kind: 'waiting' }
  | { readonly kind: 'failed'; readonly message: string }
  /** the same thing was changed elsewhere: a person says which goes on */
  | {
      readonly kind: 'clash'
      readonly change: Change
      readonly clashes: readonly Clash[]
      readonly head: { readonly document: Build; readonly revision: number }
    }
  /** a change that leaves no whole build: a person puts it aside, or it waits */
  | {
      readonly kind: 'refused'
      readonly change: Change
      readonly reason: string
      readonly problems: readonly Problem[]
    }

/** An undo or redo that would take back what another device has done since: asked first. */
export type Overtaken = {
  readonly direction: 'undo' | 'redo'
  readonly name: string
  readonly paths: readonly Path[]
  /** the build as it would be then */
  readonly after: Build
}

/** A step of the job card, and which one of its card it is. */
export type StepAt = { readonly key: string; readonly number: number }

export type Selection = { readonly kind: 'line' | 'part'; readonly id: string }

type State = {
  readonly id: string
  readonly today: string
  /** what works out every build that this workspace shows */
  readonly evaluator: Evaluator
  readonly build: Build
  /** figures and verdicts of what is shown, at once; the fixes stand apart */
  readonly analysis: Analysis
  /** fixes that were tried out and help, and the build that they mend: while that is an earlier one they are being tried anew */
  readonly fixes: { readonly of: Build; readonly verdicts: readonly Verdict[] }
  /** the server's revision that `build` stands on, but for what is pending */
  readonly revision: number
  /** the build as of that revision, without what is pending */
  readonly head: Build
  /** made here and not yet acknowledged, oldest first */
  readonly pending: readonly Change[]
  readonly past: readonly UndoStep[]
  readonly future: readonly UndoStep[]
  readonly save: SaveState
  readonly state: StateId
  /** the state just pressed: its switch shows it at once, pictures and figures one frame later */
  readonly pressed: StateId
  readonly selected: Selection | undefined
  /** the step of the job card that is open */
  readonly step: StepAt | undefined
  /** where other devices are in this build */
  readonly others: readonly OtherPlace[]
  /** a failure that is tried: everything shown is that of the circuit with it, nothing of it is saved */
  readonly whatIf: { readonly id: string; readonly name: string; readonly broken: Build } | undefined
  /** what an edit that did not fit had to say */
  readonly refusal: string | undefined
  /** makes edits under a name in words; in one burst (typing on in a field) they are one step of undo */
  readonly edit: (edits: readonly Edit[], name?: string, burst?: string) => boolean
  /** makes the edits of edit builders, in the same way */
  readonly act: (builders: EditBuilder | readonly EditBuilder[], name?: string, burst?: string) => boolean
  /** says why something that was asked for was not done */
  readonly refuse: (reason: string) => void
  /** takes the last step back; where another device has changed the same since, only when `sure` */
  readonly undo: (sure?: boolean) => void
  readonly redo: (sure?: boolean) => void
  readonly overtaken: Overtaken | undefined
  /** what another device did stands: the step is not taken back any more */
  readonly leaveOvertaken: () => void
  readonly show: (state: StateId) => void
  readonly select: (selection: Selection | undefined) => void
  readonly tryFault: (fault: string | undefined) => void
  /** the whole analysis of a build, worked out elsewhere: over the turn of the crank; one of an earlier build is let go */
  readonly takeWhole: (of: Build, analysis: Analysis, fault: string | undefined) => void
  readonly setSave: (save: SaveState) => void
  /** the server has these changes, and what others did stands in the build now */
  readonly acknowledge: (ids: readonly string[], revision: number, others: readonly Change[]) => boolean
  /** goes on from the server's build, with what is pending made again on it; what does not fit any more waits all the same and is not shown */
  readonly rebase: (head: { document: Build; revision: number }, pending: readonly Change[]) => void
  /** steps and changes that were kept on the device */
  readonly restore: (kept: {
    pending: readonly Change[]
    past: readonly UndoStep[]
    future: readonly UndoStep[]
  }) => void
}

const BURST_MS = 1200
/** Fixes are tried out when hands rest for this long: a fix is pressed by hand, a picture is dragged. */
const REST_MS = 60
const MOST_STEPS = 200

/** Once what has just changed is on the screen; at once where there is none. */
const afterNextFrame = (then: () => void) =>
  typeof requestAnimationFrame === 'function' ? requestAnimationFrame(() => requestAnimationFrame(then)) : then()

/** Edits of one burst as few as they can be: of the same field set again and again, the last. */
function squash(edits: readonly Edit[]): readonly Edit[] {
  const samePath = (a: Edit, b: Edit) => a.path.length === b.path.length && a.path.every((n, i) => n === b.path[i])
  return edits.filter((e, i) => {
    const next = edits[i + 1]
    return !(next && e.op === 'set' && next.op === 'set' && samePath(e, next))
  })
}

/**
 * Changes made on top of others of this window that have been saved meanwhile: they now stand on the revision which those made. One that
 * touches what others changed in between keeps its own base, so that the server shows both sides.
 */
export function rebaseOnSaved(
  pending: readonly Change[],
  others: readonly Change[],
  revision: number,
): readonly Change[] {
  const theirs = others.flatMap((c) => c.edits)
  return pending.map((c) => (rebaseEdits(c.edits, theirs).clashes.length === 0 ? { ...c, base: revision } : c))
}

/** Changes made again, in order, on a document: what comes of it, and which of them no longer fit. */
export function replay(
  document: Build,
  changes: readonly Change[],
): { readonly document: Build; readonly unfit: readonly Change[] } {
  let now = document
  const unfit: Change[] = []
  for (const change of changes) {
    const next = applyEdits(now, change.edits)
    if (next.ok) now = next.value
    else unfit.push(change)
  }
  return { document: now, unfit }
}

/** A build as it is opened. */
type Opened = {
  readonly id: string
  readonly build: Build
  readonly revision: number
  readonly today: string
  /** its analysis, where the server has made one */
  readonly known?: Analysis | undefined
  /** what this device may change; everything, where nothing else is said */
  readonly rights?: () => Rights
}

export function createWorkspace({ id, build, revision, today, known, rights = () => 'all' }: Opened) {
  let burstNow = { key: '', at: 0 }
  const evaluator = makeEvaluator()
  const first = known ?? analyse(build, today, evaluator)
  let resting: ReturnType<typeof setTimeout> | undefined
  return createStore<State>()((set, get) => {
    /** What is shown of a build from now on; its fixes follow. */
    function analysed(b: Build) {
      clearTimeout(resting)
      const analysis = analyseWithoutFixes(b, today, evaluator)
      resting = setTimeout(
        () => set({ fixes: { of: b, verdicts: withFixes(b, today, analysis, evaluator).verdicts } }),
        REST_MS,
      )
      return { build: b, analysis, whatIf: undefined }
    }
    /** Makes edits, notes the change as pending and says how it is taken back. */
    function make(edits: readonly Edit[], name: string, goesOn: boolean): UndoStep | undefined {
      const { build: now, pending } = get()
      const may = rights()
      if (may !== 'all' && !permits(may, edits)) {
        set({ refusal: NOT_PERMITTED[may] })
        return undefined
      }
      const next = applyEdits(now, edits)
      const back = invertEdits(now, edits)
      if (!next.ok || !back.ok) {
        set({ refusal: next.ok ? 'This cannot be taken back, so it was not done.' : next.reason })
        return undefined
      }
      const last = pending.at(-1)
      const joined = goesOn && last && get().save.kind === 'waiting' && !inFlight.has(last.id)
      const change: Change = joined
        ? { ...last, name, edits: squash([...last.edits, ...edits]) }
        : { id: crypto.randomUUID(), name, edits, base: get().revision }
      set({
        ...analysed(next.value),
        pending: joined ? [...pending.slice(0, -1), change] : [...pending, change],
        refusal: undefined,
      })
      return { name, edits, back: back.value }
    }
    /** Asks before `next` is made where it would take back what another device has made of what `last` left. */
    function asks(
      direction: Overtaken['direction'],
      name: string,
      last: readonly Edit[],
      next: readonly Edit[],
    ): boolean {
      const { build: now } = get()
      const paths = overtakenBy(now, last, next)
      const after = applyEdits(now, next)
      if (paths.length === 0 || !after.ok) return false
      set({ overtaken: { direction, name, paths, after: after.value } })
      return true
    }
    return {
      id,
      today,
      evaluator,
      revision,
      build,
      head: build,
      analysis: first,
      fixes: { of: build, verdicts: first.verdicts },
      whatIf: undefined,
      pending: [],
      past: [],
      future: [],
      save: { kind: 'saved' },
      state: first.states[0]!.id,
      pressed: first.states[0]!.id,
      selected: undefined,
      step: undefined,
      others: [],
      refusal: undefined,
      edit: (edits, name, burst) => {
        if (edits.length === 0) return true
        // typing on in one field is one step of undo
        const now = Date.now()
        const goesOn = burst !== undefined && burst === burstNow.key && now - burstNow.at < BURST_MS
        burstNow = { key: burst ?? '', at: now }
        const step = make(edits, name ?? describeEdits(get().build, edits), goesOn)
        if (!step) return false
        const { past } = get()
        const before = goesOn ? past.at(-1) : undefined
        const whole: UndoStep = before
          ? { name: step.name, edits: squash([...before.edits, ...step.edits]), back: [...step.back, ...before.back] }
          : step
        set({ past: [...(before ? past.slice(0, -1) : past), whole].slice(-MOST_STEPS), future: [] })
        return true
      },
      act: (builders, name, burst) => {
        const edits = editsOf(get().build, ...(typeof builders === 'function' ? [builders] : builders))
        if (edits.ok) return get().edit(edits.value, name, burst)
        set({ refusal: edits.reason })
        return false
      },
      refuse: (reason) => set({ refusal: reason }),
      overtaken: undefined,
      leaveOvertaken: () =>
        set((s) => ({
          overtaken: undefined,
          past: s.overtaken?.direction === 'undo' ? s.past.slice(0, -1) : s.past,
          future: s.overtaken?.direction === 'redo' ? s.future.slice(0, -1) : s.future,
        })),
      undo: (sure = false) => {
        const step = get().past.at(-1)
        if (!step || (!sure && asks('undo', step.name, step.edits, step.back))) return
        set({ overtaken: undefined })
        burstNow = { key: '', at: 0 }
        const done = make(step.back, `Undo: ${step.name}`, false)
        set((s) => ({ past: s.past.slice(0, -1), future: done ? [...s.future, step] : s.future }))
      },
      redo: (sure = false) => {
        const step = get().future.at(-1)
        if (!step || (!sure && asks('redo', step.name, step.back, step.edits))) return
        set({ overtaken: undefined })
        const done = make(step.edits, step.name, false)
        set((s) => ({ future: s.future.slice(0, -1), past: done ? [...s.past, { ...step, back: done.back }] : s.past }))
      },
      show: (s) => {
        set({ pressed: s })
        afterNextFrame(() => {
          if (get().pressed === s) set({ state: s })
        })
      },
      select: (selected) => set({ selected }),
      tryFault: (fault) => {
        const b = get().build
        if (fault === undefined) {
          set({ analysis: analyseWithoutFixes(b, today, evaluator), whatIf: undefined })
          return
        }
        // failures are loaded when one is first tried; an edit made meanwhile is to the plan, and ends it
        void Promise.all([import('@/plan/faults/what-if'), import('@/plan/faults/graded-faults')]).then(
          ([{ analyseFault }, { gradedFaults, withFault }]) => {
            const name = gradedFaults(b).find((f) => f.id === fault)?.name
            const broken = withFault(b, fault)
            const analysis = get().build === b ? analyseFault(b, fault, today, evaluator) : undefined
            if (broken && analysis && name !== undefined) set({ analysis, whatIf: { id: fault, name, broken } })
          },
        )
      },
      takeWhole: (of, analysis, fault) => {
        if (get().build !== of || get().whatIf?.id !== fault) return
        clearTimeout(resting)
        set(fault === undefined ? { analysis, fixes: { of, verdicts: analysis.verdicts } } : { analysis })
      },
      setSave: (save) => set({ save }),
      acknowledge: (ids, rev, others) => {
        const left = get().pending.filter((c) => !ids.includes(c.id))
        const pending = rebaseOnSaved(left, others, rev)
        const theirs = others.flatMap((c) => c.edits)
        const saved = get().pending.filter((c) => ids.includes(c.id))
        const head = applyEdits(get().head, [...saved.flatMap((c) => c.edits), ...theirs])
        if (!head.ok) return false
        if (theirs.length === 0) {
          set({ pending, revision: rev, head: head.value })
          return true
        }
        const next = applyEdits(get().build, theirs)
        if (!next.ok) return false
        set({ ...analysed(next.value), pending, revision: rev, head: head.value })
        return true
      },
      rebase: (head, pending) => {
        const { document } = replay(head.document, pending)
        set({
          ...analysed(document),
          head: head.document,
          revision: head.revision,
          pending,
          save: { kind: pending.length > 0 ? 'waiting' : 'saved' },
        })
      },
      restore: ({ pending, past, future }) => {
        const { head, revision: rev } = get()
        set({ past, future })
        if (pending.length > 0) get().rebase({ document: head, revision: rev }, pending)
      },
    }
  })
}
/** Changes that are on their way to the server: an edit that goes on must not be put into one of them. */
export const inFlight = new Set<string>()

export type WorkspaceStore = ReturnType<typeof createWorkspace>
export const WorkspaceContext = createContext<WorkspaceStore | undefined>(undefined)

export function useWorkspaceStore(): WorkspaceStore {
  const store = useContext(WorkspaceContext)
  if (!store) throw new Error('no build is open here')
  return store
}
export const useWorkspace = <T>(pick: (s: State) => T): T => useStore(useWorkspaceStore(), pick)

/** The fix of a verdict; not `ready` while it is of the build before the last change, and none while a failure is tried. */
export function fixIn(
  s: Pick<State, 'build' | 'fixes' | 'whatIf'>,
  v: Verdict,
): { fix: Fix; ready: boolean } | undefined {
  if (s.whatIf) return undefined
  const fix = s.fixes.verdicts.find((x) => x.rule === v.rule && x.subject === v.subject)?.fix
  return fix && { fix, ready: s.fixes.of === s.build }
}

/** The build that is shown: with the failure that is tried. */
export const shownBuild = (s: Pick<State, 'build' | 'whatIf'>): Build => s.whatIf?.broken ?? s.build

/** A moment that is looked at in place of a state: of it there are no workings. */
export const ShownMoment = createContext<StateResult | undefined>(undefined)
/** The state or moment looked at, when the circuit solves in it. */
export function useShown(): StateResult {
  const moment = useContext(ShownMoment)
  const state = useWorkspace((s) => s.analysis.states.find((x) => x.id === s.state) ?? s.analysis.states[0]!)
  return moment ?? state
}
export const useUnits = () => useWorkspace((s) => s.build.units)
