'use client'
import { useEffect } from 'react'
import { isMissingPart } from '@/ui/import-with-retry'

const RELOADED = 'ivent-reloaded'
/** A page that breaks again so soon after it was loaded anew is not loaded once more by itself, ms. */
const AGAIN_MS = 10_000
const ASK_MS = 2000

/** Whether a page can be had: from the bench, or from what the device keeps. */
const isThere = async (): Promise<boolean> =>
  'serviceWorker' in navigator && navigator.serviceWorker.controller !== null
    ? true
    : fetch('/api/health', { cache: 'no-store' }).then(
        () => true,
        () => false,
      )

/** Loads the page anew as soon as it can be had; what was changed waits on the device. */
function useReload(missing: boolean): void {
  useEffect(() => {
    if (!missing || Date.now() - Number(sessionStorage.getItem(RELOADED) ?? 0) < AGAIN_MS) return
    let timer: ReturnType<typeof setTimeout> | undefined
    const reload = async () => {
      if (!(await isThere())) {
        timer = setTimeout(() => void reload(), ASK_MS)
        return
      }
      sessionStorage.setItem(RELOADED, String(Date.now()))
      location.reload()
    }
    void reload()
    return () => clearTimeout(timer)
  }, [missing])
}

export default function ErrorPage({ error, reset }: { error: Error; reset: () => void }) {
  const missing = isMissingPart(error)
  useReload(missing)
  return (
    <main className="mx-auto max-w-xl px-6 py-20">
      <title>This page broke · Ivent</title>
      <h1 className="text-2xl">{missing ? 'A part of this page did not come over' : 'This page broke'}</h1>
      <p className="mt-3 text-soft">
        {missing
          ? 'The connection broke for a moment. The page is loaded again as soon as Ivent answers; what you changed is safe.'
          : 'What was saved is safe in the data folder. Try again; if it breaks again, export the build from the garage and tell us what you did.'}
      </p>
      <button type="button" className="button button-main mt-6" onClick={missing ? () => location.reload() : reset}>
        Try again
      </button>
    </main>
  )
}
