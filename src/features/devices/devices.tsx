'use client'
/** Phones and tablets at the car: how they come to trust this Ivent, how one is let in, who is in. The bench's own page. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import Link from 'next/link'
import { useCallback, useEffect, useState } from 'react'
import { Brand } from '@/ui/brand'
import { ThemeButton } from '@/ui/theme'
import { addressUrl, ask, type DeviceList, type DeviceRow, type LanInfo } from './api'
import { DeviceTable } from './device-table'
import { LetIn } from './let-in'

const QrPicture = dynamic(() => importWithRetry(() => import('./qr-picture').then((m) => m.QrPicture)), { ssr: false })
const LOOK_MS = 5000

function Trust({ lan }: { lan: LanInfo }) {
  const [address] = lan.addresses
  if (address === undefined) return null
  const url = addressUrl(address, lan.trustPort, 'http')
  return (
    <section aria-labelledby="trust">
      <h2 id="trust" className="head border-b-[1.5px] border-ink pb-1">
        First, once a device: trust this workshop’s certificate
      </h2>
      <div className="mt-3 flex gap-4">
        <span className="w-28 shrink-0">
          <QrPicture text={url} name="Address of the trust page, for the device’s camera" />
        </span>
        <p>
          Open <strong>{url}</strong> on the device: it says how, for each kind. Pages then open at the car without a
          connection too. Without it the browser warns, Ivent works while its page is open, and nothing is kept for when
          there is no connection.
        </p>
      </div>
      <p className="mt-2">
        Its SHA-256 fingerprint, to compare:{' '}
        <span className="block leading-relaxed font-bold" aria-label="Fingerprint">
          {lan.fingerprint}
        </span>
      </p>
    </section>
  )
}

export function Devices() {
  const [list, setList] = useState<DeviceList | undefined>(undefined)
  const [note, setNote] = useState('')
  const read = useCallback(() => {
    void ask<DeviceList>('/api/devices').then((answer) => {
      if (answer.ok) setList(answer.value)
      else setNote(answer.reason)
    })
  }, [])
  useEffect(() => {
    const first = setTimeout(read)
    const timer = setInterval(() => {
      if (document.visibilityState === 'visible') read()
    }, LOOK_MS)
    return () => {
      clearTimeout(first)
      clearInterval(timer)
    }
  }, [read])
  const doing = async (path: string, method: string, done: string, body?: object) => {
    const answer = await ask(path, method, body)
    setNote(answer.ok ? done : answer.reason)
    read()
  }
  const putOut = (d: DeviceRow | undefined) =>
    void doing(
      d ? `/api/devices/${d.id}` : '/api/devices',
      'DELETE',
      d ? `${d.name} is out. What it had sent is saved; it can be let in again.` : 'All devices are out.',
    )
  return (
    <div className="mx-auto max-w-[76rem] px-4 pb-16">
      <header className="flex items-center gap-3 border-b-[1.5px] border-ink py-3">
        <Brand />
        <h1 className="flex-1 text-base">Devices at the car</h1>
        <Link href="/help" prefetch={false} className="link-button inline-flex items-center">
          Help
        </Link>
        <ThemeButton />
      </header>
      <main>
        <p role="status" className="min-h-8 pt-2 font-bold">
          {note}
        </p>
        {!list && !note && <p className="text-soft">Reading…</p>}
        {list?.lan === null && (
          <div className="max-w-2xl py-4 text-base">
            <p>
              Ivent answers this machine alone. For phones and tablets in the workshop’s network stop it (Ctrl+C) and
              start it with
            </p>
            <p className="my-3 border-l-4 border-blue py-1 pl-3 font-bold">./ivent start --lan</p>
            <p className="text-soft">
              Everything goes encrypted, and only to devices that you let in here. Nothing of your builds is shown to
              any other.
            </p>
          </div>
        )}
        {list?.lan && (
          <div className="grid gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_25rem]">
            <section aria-labelledby="let-in">
              <h2 id="let-in" className="head border-b-[1.5px] border-ink pb-1">
                Let a device in
              </h2>
              <LetIn lan={list.lan} onLetIn={read} />
            </section>
            <Trust lan={list.lan} />
          </div>
        )}
        {list && (list.lan !== null || list.devices.length > 0) && (
          <section aria-labelledby="in" className="mt-8">
            <h2 id="in" className="head border-b-[1.5px] border-ink pb-1">
              Devices that are in
            </h2>
            <DeviceTable
              devices={list.devices}
              onChange={(d, change) => void doing(`/api/devices/${d.id}`, 'PATCH', '', change)}
              onPutOut={putOut}
            />
          </section>
        )}
      </main>
    </div>
  )
}
