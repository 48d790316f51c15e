'use client'
/** What the row over a page says: no connection to the bench and how old the page is, a newer version, why nothing is kept on this device. */
import { useEffect, useState, type ReactNode } from 'react'
import type { Connection } from '@/ui/connection'
import type { OfflineNotes } from './notes'
import type { NotKept } from './register'

const MINUTE_MS = 60_000
const TIME = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

/** "14:32", with how long ago that is once it is more than a minute. */
function ageText(at: number, now: number): string {
  const minutes = Math.round((now - at) / MINUTE_MS)
  const clock = TIME.format(at)
  if (minutes < 1) return clock
  if (minutes < 60) return `${clock}, ${minutes} min ago`
  const hours = Math.round(minutes / 60)
  if (hours < 48) return `${clock}, ${hours} h ago`
  return `${new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}, ${Math.round(hours / 24)} days ago`
}

const NOT_KEPT: Readonly<Record<NotKept, string>> = {
  untrusted:
    'This device does not trust Ivent’s certificate yet: pages open only while the bench answers, and nothing is kept on it. How to trust it: the bench, under Devices.',
  full: 'This device’s store is full: pages are not kept for when there is no connection, and what you enter may not outlast a reload until it is sent. Make room on the device.',
  none: 'This browser keeps no pages: they open only while the bench answers.',
}

function Bar({ children, alert = false }: { children: ReactNode; alert?: boolean }) {
  return (
    <p
      role={alert ? 'alert' : 'status'}
      className={`no-print flex min-h-[var(--note-height)] flex-wrap items-center gap-x-3 border-b-[1.5px] px-4 py-1 text-sm ${alert ? 'border-stop text-stop' : 'border-watch'} bg-sheet`}
    >
      {children}
    </p>
  )
}

export function OfflineBar({
  connection,
  notes: { notKept, takeOver },
}: {
  connection: Connection
  notes: OfflineNotes
}) {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), MINUTE_MS / 2)
    return () => clearInterval(timer)
  }, [])
  const changeOver = takeOver && (
    <button
      type="button"
      className="link-button"
      onClick={() => {
        navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true })
        takeOver()
      }}
    >
      Change over
    </button>
  )
  if (!connection.up)
    return (
      <Bar>
        <strong>
          No connection to the bench
          {connection.keptAt !== undefined && `: this page is as of ${ageText(connection.keptAt, now)}`}.
        </strong>
        <span>What you enter waits on this device.</span>
        {changeOver && <span>A newer Ivent is here. {changeOver}</span>}
      </Bar>
    )
  if (changeOver)
    return (
      <Bar>
        <span>A newer Ivent is here. What waits on this device stays.</span>
        {changeOver}
      </Bar>
    )
  if (notKept) return <Bar alert={notKept === 'full'}>{NOT_KEPT[notKept]}</Bar>
  return null
}
