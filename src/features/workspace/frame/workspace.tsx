'use client'
/** The frame around every station of a build. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useRouter } from 'next/navigation'
import { useEffect, useState, type ReactNode } from 'react'
import type { Analysis } from '@/plan/analyse'
import type { Build } from '@/plan/document/schema'
import { useAutosave } from '../saving/autosave'
import { Title, useAddress } from './address'
import { Header, useHistory } from './header'
import { PaperHead } from './paper-head'
import { ownRights } from '@/ui/device'
import { isTypingIn } from '@/ui/typing'
import { StateSwitch } from './state-switch'
import { createWorkspace, useWorkspace, WorkspaceContext } from '../store'
import { VerdictRail, VerdictsLink } from './verdict-rail'

const LiveWorkspace = dynamic(
  () => importWithRetry(() => import('../live/live-workspace').then((m) => m.LiveWorkspace)),
  { ssr: false },
)
const WhatIfBanner = dynamic(() => importWithRetry(() => import('./what-if-banner').then((m) => m.WhatIfBanner)))
const UnsavedDialog = dynamic(() => importWithRetry(() => import('../saving/unsaved').then((m) => m.UnsavedDialog)))
const OvertakenDialog = dynamic(() => importWithRetry(() => import('../saving/unsaved').then((m) => m.OvertakenDialog)))
const Palette = dynamic(() => importWithRetry(() => import('./palette').then((m) => m.Palette)))
const PlanMenu = dynamic(() => importWithRetry(() => import('./plan-menu').then((m) => m.PlanMenu)))
const Revisions = dynamic(() => importWithRetry(() => import('./revisions').then((m) => m.Revisions)))

export function Workspace({
  id,
  build,
  analysis,
  revision,
  today,
  children,
}: {
  id: string
  build: Build
  analysis: Analysis
  revision: number
  today: string
  children: ReactNode
}) {
  const [store] = useState(() => createWorkspace({ id, build, revision, today, known: analysis, rights: ownRights }))
  return (
    <WorkspaceContext value={store}>
      <Frame>{children}</Frame>
    </WorkspaceContext>
  )
}

/** A page is drawn and at rest before it is tied to other devices. */
const REST_MS = 1200
function useRested(): boolean {
  const [rested, setRested] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => setRested(true), REST_MS)
    return () => clearTimeout(timer)
  }, [])
  return rested
}

function Frame({ children }: { children: ReactNode }) {
  const ready = useAutosave()
  const rested = useRested()
  useAddress(ready)
  const [open, setOpen] = useState<'palette' | 'revisions' | 'plans' | undefined>(undefined)
  const whatIf = useWorkspace((s) => s.whatIf !== undefined)
  const unsaved = useWorkspace((s) => s.save.kind === 'clash' || s.save.kind === 'refused')
  const overtaken = useWorkspace((s) => s.overtaken !== undefined)
  const history = useHistory()
  const router = useRouter()

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === '?' && !isTypingIn(event.target)) router.push('/help')
      if (!event.ctrlKey && !event.metaKey) return
      const key = event.key.toLowerCase()
      if (key === 'k') {
        event.preventDefault()
        setOpen((o) => (o === 'palette' ? undefined : 'palette'))
      }
      // inside a field the browser's own undo works on what is being typed
      if (isTypingIn(event.target)) return
      if (key === 'z') {
        event.preventDefault()
        if (event.shiftKey) history.redo()
        else history.undo()
      }
      if (key === 'y') {
        event.preventDefault()
        history.redo()
      }
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [history, router])

  return (
    <fieldset role="none" disabled={!ready} className="contents">
      <div className="print-flow flex min-h-dvh flex-col lg:h-[calc(100dvh-var(--noted))] lg:min-h-0">
        <Title />
        {rested && <LiveWorkspace />}
        <PaperHead />
        <Header
          onPalette={() => setOpen('palette')}
          onRevisions={() => setOpen('revisions')}
          onPlans={() => setOpen('plans')}
        />
        {/* on a phone the states stay in view, and the verdicts are a tap away */}
        <section aria-label="States" className="no-print sticky top-0 z-20 bg-paper lg:static">
          <StateSwitch />
          <VerdictsLink />
        </section>
        {whatIf && <WhatIfBanner />}
        <div className="print-flow grid min-h-0 flex-1 lg:grid-cols-[minmax(0,1fr)_18.5rem]">
          <main className="print-flow relative min-h-0 min-w-0 lg:overflow-y-auto">{children}</main>
          <VerdictRail />
        </div>
        {unsaved && <UnsavedDialog />}
        {overtaken && <OvertakenDialog />}
        {open === 'palette' && (
          <Palette
            onClose={() => setOpen(undefined)}
            onRevisions={() => setOpen('revisions')}
            onPlans={() => setOpen('plans')}
          />
        )}
        {open === 'plans' && <PlanMenu onClose={() => setOpen(undefined)} />}
        {open === 'revisions' && <Revisions onClose={() => setOpen(undefined)} />}
      </div>
    </fieldset>
  )
}
