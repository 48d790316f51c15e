'use client'
/**
 * Where one is, in the address and the window's title: station, plan, state and what is chosen. An address opens where it was taken, and the
 * browser's way back leads there.
 */
import { usePathname } from 'next/navigation'
import { useEffect, useRef } from 'react'
import { activeVariant } from '@/plan/edit/edit'
import { showPlan } from '@/plan/edit/edit-builders'
import { STATE_NAMES } from '@/plan/document/words'
import { planName } from '@/plan/schools/schools'
import { setQuery } from '@/ui/address-query'
import { ownRights } from '@/ui/device'
import { useShown, useWorkspace, useWorkspaceStore, type WorkspaceStore } from '../store'
import { STATIONS } from './stations'

/** The part of an address behind its question mark, for what is shown now. */
function queryOf(store: WorkspaceStore): string {
  const { build, state, selected } = store.getState()
  const query = new URLSearchParams()
  query.set('plan', build.active)
  query.set('state', state)
  if (selected) query.set(selected.kind, selected.id)
  return `?${query}`
}

/** Shows what an address says; a plan, state or part that the build does not have is left aside. */
function follow(store: WorkspaceStore, search: string) {
  const { build, analysis, show, select, act } = store.getState()
  const query = new URLSearchParams(search)
  const plan = build.variants.find((v) => v.id === query.get('plan'))
  const variant = (ownRights() === 'all' ? plan : undefined) ?? activeVariant(build)
  // which plan is shown is the build's: a device that may not change it stays with what is shown
  if (plan && plan.id !== build.active && ownRights() === 'all') act(showPlan(plan.id), `Plan ${plan.name} shown`)
  const state = analysis.states.find((s) => s.id === query.get('state'))
  if (state) show(state.id)
  const [line, part] = [query.get('line'), query.get('part')]
  if (variant.lines.some((l) => l.id === line)) select({ kind: 'line', id: line! })
  else if (variant.parts.some((p) => p.id === part)) select({ kind: 'part', id: part! })
  else select(undefined)
}

/** Keeps the address to what is shown, and what is shown to the address when one goes back. */
export function useAddress(ready: boolean) {
  const store = useWorkspaceStore()
  const here = usePathname()
  const plan = useRef<string | undefined>(undefined)
  useEffect(() => {
    if (!ready) return
    const onBack = () => follow(store, location.search)
    const onChange = () => {
      // on the way to another station
      if (location.pathname !== here) return
      const query = queryOf(store)
      const { active } = store.getState().build
      // another plan is another page to go back from; a state or a choice is not
      const hasChangedPlan = plan.current !== undefined && plan.current !== active
      plan.current = active
      if (location.search !== query) setQuery(here, query, hasChangedPlan ? 'pushState' : 'replaceState')
    }
    if (plan.current === undefined) follow(store, location.search)
    onChange()
    addEventListener('popstate', onBack)
    const unsubscribe = store.subscribe(onChange)
    return () => {
      removeEventListener('popstate', onBack)
      unsubscribe()
    }
    // a link to another station has no more than its path: what is shown is put behind it
  }, [store, ready, here])
}

/** The window's title: a tab and the browser's history say where they lead. */
export function Title() {
  const here = usePathname()
  const build = useWorkspace((s) => s.build)
  const selected = useWorkspace((s) => s.selected)
  const shown = useShown()
  const variant = activeVariant(build)
  const station =
    STATIONS.find((s) => here.endsWith(`/${s.key}`))?.name ??
    (here.endsWith('/faults') ? 'Faults' : here.endsWith('/proposals') ? 'Proposals' : 'Compare')
  const chosen = [...variant.lines, ...variant.parts].find((x) => x.id === selected?.id)
  const words = [station, planName(variant, build.engine), STATE_NAMES[shown.id].toLowerCase(), chosen?.name]
  return <title>{`${build.name}: ${words.filter(Boolean).join(', ')} · Ivent`}</title>
}
