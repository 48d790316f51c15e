'use client'
/** One line over every page, while there is something to say: no line to the bench, a newer version, nothing kept on this device. */
import { useEffect, useState, type ReactNode } from 'react'
import { useThisDevice } from '@/ui/device'
import { useLine, watchLine } from '@/ui/line'
import { noteOffline, useOfflineNotes } from './notes'
import { keepPages, registerWorker, type NotKept } from './register'

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
  full: 'This device’s store is full: pages are not kept for when there is no line, and what you enter may not outlast a reload until it is sent. Make room on the device.',
  none: 'This browser keeps no pages: they open only while the bench answers.',
}

/** Registers what keeps the program and its pages, once this page is drawn. */
function useWorker(): void {
  const device = useThisDevice()
  useEffect(() => {
    // a development server's files change under their names
    if (process.env.NODE_ENV !== 'production') return
    void registerWorker((takeOver) => noteOffline({ takeOver })).then(async (notKept) => {
      // at the bench itself there is always a line
      if (notKept !== undefined) return device && noteOffline({ notKept })
      const reply = await keepPages(undefined)
      if (reply?.kept === false && reply.full) noteOffline({ notKept: 'full' })
      return undefined
    })
  }, [device])
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

/** What is said now; undefined where nothing is. */
function useNote(): ReactNode {
  const line = useLine()
  const { notKept, takeOver } = useOfflineNotes()
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), MINUTE_MS / 2)
    return () => clearInterval(timer)
  }, [])
  if (!line.up)
    return (
      <Bar>
        <strong>
          No line to the bench{line.keptAt !== undefined && `: this page is as of ${ageText(line.keptAt, now)}`}.
        </strong>
        <span>What you enter waits on this device.</span>
      </Bar>
    )
  if (takeOver)
    return (
      <Bar>
        <span>A newer Ivent is here. What waits on this device stays.</span>
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
      </Bar>
    )
  if (notKept) return <Bar alert={notKept === 'full'}>{NOT_KEPT[notKept]}</Bar>
  return undefined
}

export function LineNotes() {
  useEffect(watchLine, [])
  useWorker()
  const note = useNote()
  const shown = note !== undefined
  useEffect(() => {
    document.documentElement.toggleAttribute('data-noted', shown)
  }, [shown])
  return note
}
