'use client'
/** The builds, most urgent first. */
import {
  Archive,
  BookOpen,
  CalendarDays,
  CircleHelp,
  Download,
  FolderInput,
  GraduationCap,
  Plus,
  Smartphone,
} from 'lucide-react'
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { useLive } from '../live/live'
import type { Waiting } from '../workspace/saving/device'
import { copyName } from '@/ui/copy-name'
import { useThisDevice } from '@/ui/device'
import { download } from '@/ui/download'
import { onConnectionBack, useConnection } from '@/ui/connection'
import { FileInput } from '@/ui/file-button'
import { Logo } from '@/ui/marks'
import { ThemeButton } from '@/ui/theme'
import { bringIn, broughtInText, type RefusedFile } from './bring-in'
import { duplicateBuild, setFacts, removeOrRestore } from './change-build'
import { FindBar, useGarageSearch } from './find-bar'
import { findBuilds, isAway, tagsOf } from './find-builds'
import { GaragePalette } from './garage-palette'
import type { BackupRow, RemovedRow } from './removed-and-backups'
import { changesWait, Ticket, type ListedBuild, type TicketAction } from './ticket'

// none of them is there before someone asks
const NameAndTags = dynamic(() => importWithRetry(() => import('./name-and-tags')), { ssr: false })
const RefusedFiles = dynamic(() => importWithRetry(() => import('./refused-files')), { ssr: false })
const RemovedAndBackups = dynamic(
  () => importWithRetry(() => import('./removed-and-backups').then((m) => m.RemovedAndBackups)),
  {
    ssr: false,
  },
)

/** Sends what was left unsaved on this device; what cannot be sent from here, by build. */
function useWaiting(): ReadonlyMap<string, Waiting> {
  const router = useRouter()
  const [waiting, setWaiting] = useState<ReadonlyMap<string, Waiting>>(new Map())
  useEffect(() => {
    const send = async () => {
      let sent = false
      const [{ sendWaiting }, { sendKept }] = await Promise.all([
        import('../workspace/saving/device'),
        import('../workspace/saving/send'),
      ])
      const left = await sendWaiting(async (kept) => {
        const done = await sendKept(kept)
        sent ||= done !== 'unanswered'
        return done
      })
      setWaiting(left)
      return sent
    }
    const refreshAfter = (all: boolean) =>
      void send().then(
        (sent) => {
          if (sent || all) router.refresh()
        },
        () => undefined,
      )
    refreshAfter(false)
    // a list that the device had kept gives way to the bench's
    return onConnectionBack(() => refreshAfter(true))
  }, [router])
  return waiting
}

const ASK_AGAIN_MS = 600
const GARAGE_REST_MS = 800
/** Builds that are being worked out are asked for again until they are there. */
function useAskingAgain(builds: readonly ListedBuild[]): void {
  const router = useRouter()
  const { up } = useConnection()
  useEffect(() => {
    // without a connection nothing comes of asking, and the page would be had anew
    if (!up || !builds.some((b) => 'pending' in b && b.pending)) return undefined
    const timer = setTimeout(() => router.refresh(), ASK_AGAIN_MS)
    return () => clearTimeout(timer)
  }, [builds, router, up])
}

/** What other devices have changed is drawn, at most once in a while: one may be typing. */
function useLiveGarage(): void {
  const router = useRouter()
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  useLive((message) => {
    // what the page shows is as of now; after a gap it may not be
    if (message.kind !== 'changed' && !(message.kind === 'hello' && message.again)) return
    timer.current ??= setTimeout(() => {
      timer.current = undefined
      router.refresh()
    }, GARAGE_REST_MS)
  })
  useEffect(() => () => clearTimeout(timer.current), [])
}

export function Garage({
  builds,
  removed: away,
  backups,
}: {
  builds: readonly ListedBuild[]
  removed: readonly RemovedRow[]
  backups: readonly BackupRow[]
}) {
  const waiting = useWaiting()
  useAskingAgain(builds)
  useLiveGarage()
  const [kept, setKept] = useState(false)
  const router = useRouter()
  const input = useRef<HTMLInputElement>(null)
  const [refused, setRefused] = useState<readonly RefusedFile[]>([])
  const [removed, setRemoved] = useState<ListedBuild | undefined>(undefined)
  const [named, setNamed] = useState<ListedBuild | undefined>(undefined)
  const [note, setNote] = useState('')
  const device = useThisDevice()
  const { search, find } = useGarageSearch()
  const shown = findBuilds(builds, search)
  const awayCount = builds.filter(isAway).length

  const load = async (files: readonly File[]) => {
    const came = await bringIn(files, setNote)
    setNote(broughtInText(came))
    setRefused(came.refused)
    if (came.names.length > 0) router.refresh()
  }
  /** Says how it went; what has changed is drawn. */
  const after = async (doing: Promise<string | undefined>, done: string): Promise<boolean> => {
    const wrong = await doing
    setNote(wrong ?? done)
    if (wrong === undefined) router.refresh()
    return wrong === undefined
  }
  const remove = async (b: ListedBuild, out: boolean) => {
    if (await after(removeOrRestore(b.id, out), '')) setRemoved(out ? b : undefined)
  }
  const copy = (b: ListedBuild) => {
    const name = copyName(
      b.name,
      builds.map((x) => x.name),
    )
    return after(duplicateBuild(b, name), `${name} is in the garage, with an empty log.`)
  }
  const act = (b: ListedBuild, action: TicketAction) => {
    if (action === 'name') setNamed(b)
    else if (action === 'duplicate') void copy(b)
    else if (action === 'out') void remove(b, true)
    else
      void after(
        setFacts(b, { away: !isAway(b) }, isAway(b) ? 'Back into the list' : 'Put away'),
        isAway(b) ? `${b.name} is back in the list.` : `${b.name} is put away: see Put away, beside the search.`,
      )
  }

  async function calendar(): Promise<void> {
    const response = await fetch('/api/calendar').catch(() => undefined)
    if (response?.ok) return download('ivent.ics', await response.text(), 'text/calendar')
    const reply = (await response?.json().catch(() => undefined)) as { error?: string } | undefined
    setNote(reply?.error ?? 'Ivent does not answer. There is no calendar file.')
  }

  return (
    <div className="mx-auto flex min-h-dvh max-w-[76rem] flex-col px-4">
      <header className="flex flex-wrap items-center gap-3 border-b-[1.5px] border-ink py-3">
        <h1 className="flex items-center gap-2 text-xl text-blue">
          <Logo /> Ivent
        </h1>
        <p className="hidden text-soft sm:block">
          {builds.length === 0 ? '' : `${builds.length} ${builds.length === 1 ? 'build' : 'builds'}`}
        </p>
        <div className="no-print ml-auto flex flex-wrap items-center justify-end gap-x-2 gap-y-1 max-sm:w-full max-sm:justify-between">
          <FileInput
            field={input}
            multiple
            accept=".json,.zip,application/json,application/zip"
            label="Build files to bring in"
            onFiles={(files) => void load(files)}
          />
          <button type="button" className="button" onClick={() => input.current?.click()}>
            <FolderInput size={18} aria-hidden />
            <span className="hidden sm:inline">Bring in files</span>
            <span className="sm:hidden">Import</span>
          </button>
          <Link href="/new" prefetch={false} className="button button-main whitespace-nowrap">
            <Plus size={18} aria-hidden /> New build
          </Link>
          <button
            type="button"
            className="button-quiet"
            aria-label="What is due, as a calendar file"
            title="What is due, as a calendar file"
            onClick={() => void calendar()}
          >
            <CalendarDays size={18} aria-hidden />
          </button>
          <a
            className="button-quiet"
            href="/api/export"
            download
            aria-label="Export all builds as one archive"
            title="Export all builds as one archive"
          >
            <Download size={18} aria-hidden />
          </a>
          {/* who is let in is the bench's matter */}
          {!device && (
            <Link
              href="/devices"
              prefetch={false}
              className="button-quiet"
              aria-label="Devices"
              title="Devices: phones and tablets at the car"
            >
              <Smartphone size={18} aria-hidden />
            </Link>
          )}
          <Link
            href="/practice"
            prefetch={false}
            className="button-quiet"
            aria-label="Practice"
            title="Practice: lessons, and cars with a fault to find"
          >
            <GraduationCap size={18} aria-hidden />
          </Link>
          <Link
            href="/reference"
            prefetch={false}
            className="button-quiet"
            aria-label="Reference"
            title="Reference: rules, schools, cautions"
          >
            <BookOpen size={18} aria-hidden />
          </Link>
          <Link href="/help" prefetch={false} className="button-quiet" aria-label="Help" title="Help (?)">
            <CircleHelp size={18} aria-hidden />
          </Link>
          <button
            type="button"
            className="button-quiet"
            aria-label="Kept: removed builds and backups"
            title="Kept: removed builds and backups"
            onClick={() => setKept(true)}
          >
            <Archive size={18} aria-hidden />
          </button>
          <ThemeButton />
        </div>
      </header>
      <p role="status" className="pt-2 text-soft">
        {note}
        {removed && (
          <>
            {removed.name} is out of the garage.{' '}
            <button
              type="button"
              className="link-button"
              onClick={() => {
                void remove(removed, false)
              }}
            >
              Put it back
            </button>
          </>
        )}
      </p>
      {away
        .filter((b) => waiting.has(b.id))
        .map((b) => (
          <p key={b.id} role="alert" className="py-1 font-bold text-stop">
            {changesWait(waiting.get(b.id)!.changes)}: {b.name} was taken out of the garage. Put it back (Kept, above)
            to save them.
          </p>
        ))}
      {builds.length === 0 ? (
        <main className="py-14">
          <h2 className="text-2xl">No builds yet</h2>
          <p className="mt-3 max-w-xl text-base text-soft">
            Answer eight questions about the engine and its use, and Ivent lays out a whole circuit: where the gas goes
            in every driving state, what a can would catch, and what is wrong with the plan, before a hose is cut.
          </p>
          <Link href="/new" prefetch={false} className="button button-main mt-6">
            <Plus size={18} aria-hidden /> Start the first one
          </Link>
        </main>
      ) : (
        <main>
          <FindBar
            search={search}
            onChange={find}
            awayCount={awayCount}
            found={shown.length}
            of={search.away ? awayCount : builds.length - awayCount}
          />
          <ul className="divide-y-[1.5px] divide-rule">
            {shown.map((b) => (
              <Ticket
                key={b.id}
                b={b}
                waiting={waiting.get(b.id)}
                onAction={(action) => act(b, action)}
                onTag={(tag) => find({ find: `#${tag}` })}
              />
            ))}
          </ul>
        </main>
      )}
      <GaragePalette
        builds={builds}
        actions={[
          { name: 'Bring in files', other: 'import', run: () => input.current?.click() },
          { name: 'What is due, as a calendar file', run: () => void calendar() },
          {
            name: 'Export all builds',
            other: 'zip archive',
            run: () => {
              location.href = '/api/export'
            },
          },
          { name: 'Removed builds and backups', run: () => setKept(true) },
        ]}
      />
      {kept && <RemovedAndBackups removed={away} backups={backups} onClose={() => setKept(false)} />}
      {refused.length > 0 && <RefusedFiles refused={refused} onClose={() => setRefused([])} />}
      {named && (
        <NameAndTags
          b={named}
          known={tagsOf(builds)}
          onClose={() => setNamed(undefined)}
          onDone={() => {
            setNamed(undefined)
            setNote('')
            router.refresh()
          }}
        />
      )}
    </div>
  )
}
