'use client'
/** The builds, most urgent first. */
import { Archive, BookOpen, CalendarDays, FolderInput, Plus } from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import type { Problem } from '@/plan/document/validate'
import type { Waiting } from '../workspace/saving/device'
import { Dialog } from '@/ui/dialog'
import { download } from '@/ui/download'
import { Logo } from '@/ui/marks'
import { ThemeButton } from '@/ui/theme'
import { GaragePalette } from './garage-palette'
import { RemovedAndBackups, type BackupRow, type RemovedRow } from './removed-and-backups'
import { changesWait, Ticket, type ListedBuild } from './ticket'

type Refused = { file: string; error: string; problems: readonly Problem[] }

/** Sends what was left unsaved on this device; what cannot be sent from here, by build. */
function useWaiting(): ReadonlyMap<string, Waiting> {
  const router = useRouter()
  const [waiting, setWaiting] = useState<ReadonlyMap<string, Waiting>>(new Map())
  useEffect(() => {
    let sent = false
    const send = async () => {
      const [{ sendWaiting }, { sendKept }] = await Promise.all([
        import('../workspace/saving/device'),
        import('../workspace/saving/send'),
      ])
      return sendWaiting(async (kept) => {
        const done = await sendKept(kept)
        sent ||= done !== 'unanswered'
        return done
      })
    }
    void send().then(
      (left) => {
        setWaiting(left)
        if (sent) router.refresh()
      },
      () => undefined,
    )
  }, [router])
  return waiting
}

const ASK_AGAIN_MS = 600
/** Builds that are being worked out are asked for again until they are there. */
function useAskingAgain(builds: readonly ListedBuild[]): void {
  const router = useRouter()
  useEffect(() => {
    if (!builds.some((b) => 'pending' in b && b.pending)) return undefined
    const timer = setTimeout(() => router.refresh(), ASK_AGAIN_MS)
    return () => clearTimeout(timer)
  }, [builds, router])
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
  const [kept, setKept] = useState(false)
  const router = useRouter()
  const input = useRef<HTMLInputElement>(null)
  const [refused, setRefused] = useState<Refused | undefined>(undefined)
  const [removed, setRemoved] = useState<ListedBuild | undefined>(undefined)
  const [note, setNote] = useState('')

  const load = async (file: File) => {
    setNote(`Reading ${file.name}…`)
    const response = await fetch('/api/import', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: file,
    }).catch(() => undefined)
    const reply = (await response?.json().catch(() => ({}))) as
      { id?: string; name?: string; error?: string; problems?: readonly Problem[] } | undefined
    if (response?.ok) {
      setNote(`${reply?.name} is in the garage.`)
      router.refresh()
    } else {
      setNote('')
      setRefused({
        file: file.name,
        error: reply?.error ?? 'Ivent does not answer. Nothing was changed.',
        problems: reply?.problems ?? [],
      })
    }
  }
  const remove = async (b: ListedBuild, out: boolean) => {
    const response = await fetch(
      `/api/builds/${b.id}`,
      out
        ? { method: 'DELETE' }
        : { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: '{"removed":false}' },
    ).catch(() => undefined)
    if (!response?.ok) return setNote('Ivent does not answer. Nothing was changed.')
    setRemoved(out ? b : undefined)
    setNote('')
    router.refresh()
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
          {builds.length === 0 ? '' : `${builds.length} ${builds.length === 1 ? 'build' : 'builds'}, most urgent first`}
        </p>
        <div className="no-print ml-auto flex items-center gap-2">
          <input
            ref={input}
            type="file"
            accept=".json,application/json"
            className="sr-only"
            tabIndex={-1}
            aria-label="Build file to bring in"
            onChange={(e) => {
              const file = e.target.files?.[0]
              e.target.value = ''
              if (file) void load(file)
            }}
          />
          <button type="button" className="button" onClick={() => input.current?.click()}>
            <FolderInput size={18} aria-hidden />
            <span className="hidden sm:inline">Bring in a file</span>
            <span className="sm:hidden">Import</span>
          </button>
          <Link href="/new" prefetch={false} className="button button-main">
            <Plus size={18} aria-hidden /> New build
          </Link>
          {/* a phone has its own way to a calendar, and no room here */}
          <span className="hidden sm:block">
            <button
              type="button"
              className="button-quiet"
              aria-label="What is due, as a calendar file"
              title="What is due, as a calendar file"
              onClick={() => void calendar()}
            >
              <CalendarDays size={18} aria-hidden />
            </button>
          </span>
          <Link
            href="/reference"
            prefetch={false}
            className="button-quiet"
            aria-label="Reference"
            title="Reference: rules, schools, cautions"
          >
            <BookOpen size={18} aria-hidden />
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
      <p role="status" className="min-h-6 py-1 text-soft">
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
          <ul className="divide-y-[1.5px] divide-rule">
            {builds.map((b) => (
              <Ticket
                key={b.id}
                b={b}
                waiting={waiting.get(b.id)}
                onRemove={() => {
                  void remove(b, true)
                }}
              />
            ))}
          </ul>
        </main>
      )}
      <GaragePalette builds={builds} />
      {kept && <RemovedAndBackups removed={away} backups={backups} onClose={() => setKept(false)} />}
      {refused && (
        <Dialog
          open
          onClose={() => setRefused(undefined)}
          title={`${refused.file} was not brought in`}
          about={refused.error}
          wide
        >
          {refused.problems.length > 0 && (
            <table className="table w-full">
              <thead>
                <tr>
                  <th>Where</th>
                  <th>What is wrong</th>
                </tr>
              </thead>
              <tbody>
                {refused.problems.map((p, i) => (
                  <tr key={`${p.path} ${p.message} ${String(i)}`}>
                    <th scope="row" className="!whitespace-normal !text-ink">
                      {p.path}
                    </th>
                    <td>{p.message}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </Dialog>
      )}
    </div>
  )
}
