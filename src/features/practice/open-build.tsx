'use client'
/** Takes a build of practice into the garage, and opens it in the real stations. */
import type { Route } from 'next'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { Build } from '@/plan/document/schema'

export function OpenBuild({ build, station, label }: { build: Build; station: string; label: string }) {
  const router = useRouter()
  const [trouble, setTrouble] = useState<string | undefined>(undefined)
  const [isBusy, setBusy] = useState(false)
  const open = async () => {
    setBusy(true)
    const response = await fetch('/api/builds', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(build),
    }).catch(() => undefined)
    const reply = (await response?.json().catch(() => ({}))) as { id?: string; error?: string } | undefined
    if (!response?.ok || !reply?.id) {
      setBusy(false)
      return setTrouble(reply?.error ?? 'Ivent does not answer.')
    }
    router.push(`/builds/${reply.id}/${station}` as Route)
  }
  return (
    <span className="no-print">
      <button type="button" className="button" disabled={isBusy} onClick={() => void open()}>
        {label}
      </button>
      {trouble && (
        <span role="alert" className="ml-3 font-bold text-stop">
          {trouble}
        </span>
      )}
    </span>
  )
}
