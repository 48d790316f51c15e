'use client'
/** What is kept behind the garage: builds taken out of it, and backups that Ivent made by itself. */
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { moment } from '@/ui/dates'
import { Dialog } from '@/ui/dialog'

export type RemovedRow = { readonly id: string; readonly name: string; readonly removedAt: string }
export type BackupRow = { readonly name: string; readonly kind: string; readonly at: string; readonly bytes: number }

const KINDS: Readonly<Record<string, string>> = {
  daily: 'of the day',
  'before-migration': 'before Ivent was renewed',
  'before-restore': 'before a backup was put back',
}

export function RemovedAndBackups({
  removed,
  backups,
  onClose,
}: {
  removed: readonly RemovedRow[]
  backups: readonly BackupRow[]
  onClose: () => void
}) {
  const router = useRouter()
  const [note, setNote] = useState('')
  const [asked, setAsked] = useState<string | undefined>(undefined)
  const [busy, setBusy] = useState(false)

  const send = async (url: string, method: string, body: object, done: (reply: { builds?: number }) => string) => {
    setBusy(true)
    const response = await fetch(url, {
      method,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    }).catch(() => undefined)
    const reply = (await response?.json().catch(() => ({}))) as { error?: string; builds?: number } | undefined
    setBusy(false)
    setNote(response?.ok ? done(reply ?? {}) : (reply?.error ?? 'Ivent does not answer. Nothing was changed.'))
    if (response?.ok) router.refresh()
  }

  return (
    <Dialog
      open
      onClose={onClose}
      title="Removed builds and backups"
      about="Nothing that was saved is thrown away at once. Builds taken out stay here; a backup of everything is made each day."
      wide
    >
      <p role="status" className="min-h-6">
        {note}
      </p>
      <h3 className="mt-2 font-bold">Taken out of the garage</h3>
      {removed.length === 0 ? (
        <p className="text-soft">No build has been taken out.</p>
      ) : (
        <ul className="divide-y divide-rule">
          {removed.map((b) => (
            <li key={b.id} className="flex flex-wrap items-center gap-x-4 py-1">
              <span className="min-w-0 flex-1">{b.name}</span>
              <span className="text-soft">{moment(b.removedAt)}</span>
              <button
                type="button"
                className="button"
                disabled={busy}
                onClick={() =>
                  void send(
                    `/api/builds/${b.id}`,
                    'PATCH',
                    { removed: false },
                    () => `${b.name} is back in the garage.`,
                  )
                }
              >
                Put back
                <span className="sr-only"> {b.name}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <h3 className="mt-5 font-bold">Backups of everything</h3>
      <p className="text-soft">
        They lie in the data folder: copy one to another disk now and then, or take one with you.{' '}
        <a className="link-button whitespace-nowrap" href="/api/backup" download>
          Save a backup of now
        </a>
      </p>
      {backups.length === 0 ? (
        <p className="mt-1 text-soft">The first one is made a minute after Ivent has started with a build in it.</p>
      ) : (
        <ul className="mt-1 divide-y divide-rule">
          {backups.map((b) => (
            <li key={b.name} className="flex flex-wrap items-center gap-x-4 py-1">
              <span className="min-w-0 flex-1">
                {moment(b.at)} <span className="text-soft">{KINDS[b.kind] ?? b.kind}</span>
              </span>
              <span className="text-soft">{(b.bytes / 1e6).toFixed(1)} MB</span>
              {asked === b.name ? (
                <button
                  type="button"
                  className="button button-main"
                  disabled={busy}
                  onClick={() => {
                    setAsked(undefined)
                    void send(
                      `/api/backups/${b.name}`,
                      'POST',
                      { restore: true },
                      ({ builds = 0 }) =>
                        `${builds} ${builds === 1 ? 'build is' : 'builds are'} back as of ${moment(b.at)}. What stood here became a backup first.`,
                    )
                  }}
                >
                  Yes, all builds as of then
                </button>
              ) : (
                <button type="button" className="button" disabled={busy} onClick={() => setAsked(b.name)}>
                  Put back<span className="sr-only"> the backup of {moment(b.at)}</span>
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  )
}
