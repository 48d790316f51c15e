'use client'
/** One row over every page, while there is something to say; and what keeps the program and its pages on the device. */
import { useEffect, useState, type ComponentType } from 'react'
import { useThisDevice } from '@/ui/device'
import { useConnection, watchConnection } from '@/ui/connection'
import type { OfflineBar } from './offline-bar'
import { noteOffline, useOfflineNotes } from './notes'

/** A page is drawn and at rest before the program is kept. */
const REST_MS = 1500

/** Registers what keeps the program and its pages, once this page is drawn. */
function useWorker(): void {
  const device = useThisDevice()
  useEffect(() => {
    // a development server's files change under their names
    if (process.env.NODE_ENV !== 'production') return undefined
    const register = async () => {
      const { keepPages, registerWorker } = await import('./register')
      const notKept = await registerWorker((takeOver) => noteOffline({ takeOver }))
      if (notKept === undefined) {
        const reply = await keepPages(undefined)
        if (reply?.kept === false && reply.full) noteOffline({ notKept: 'full' })
      } else if (device) noteOffline({ notKept }) // at the bench itself there is always a connection
    }
    // it reads every file of the program: the page that was asked for comes first
    const timer = setTimeout(() => void register(), REST_MS)
    return () => clearTimeout(timer)
  }, [device])
}

type BarProps = Parameters<typeof OfflineBar>[0]

export function OfflineKeeper() {
  const connection = useConnection()
  const notes = useOfflineNotes()
  const [Bar, setBar] = useState<ComponentType<BarProps> | undefined>(undefined)
  const shown = !connection.up || notes.takeOver !== undefined || notes.notKept !== undefined
  useEffect(watchConnection, [])
  useWorker()
  useEffect(() => {
    // what draws the row is had while there still is a connection
    const load = () =>
      void import('./offline-bar').then(
        (m) => setBar(() => m.OfflineBar),
        () => undefined,
      )
    const timer = setTimeout(load, shown ? 0 : REST_MS)
    return () => clearTimeout(timer)
  }, [shown])
  useEffect(() => {
    document.documentElement.toggleAttribute('data-noted', shown)
  }, [shown])
  return shown && Bar ? <Bar connection={connection} notes={notes} /> : null
}
