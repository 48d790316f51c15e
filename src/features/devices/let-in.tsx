'use client'
/** Letting a device in: what it may do, then its code as a picture and as words, for two minutes. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useEffect, useState } from 'react'
import { RIGHTS, type Rights } from '@/plan/edit/rights'
import { addressUrl, ask, type LanInfo, type PairingCode, type PairingState } from './api'

const QrPicture = dynamic(() => importWithRetry(() => import('./qr-picture').then((m) => m.QrPicture)), { ssr: false })

export const RIGHTS_NAMES: Readonly<Record<Rights, string>> = { all: 'Do all', log: 'Tick and log', look: 'Look' }
const RIGHTS_SAY: Readonly<Record<Rights, string>> = {
  all: 'everything that the bench does, but letting devices in, backups and putting them back',
  log: 'tick the job card, note readings, looks and emptyings, take photographs; the plan stays as it is',
  look: 'see every build and change nothing',
}
const ASK_MS = 1000

function ClosedOffer({ state, onAgain }: { state: PairingState; onAgain: () => void }) {
  const says = {
    used: `${state?.usedBy ?? 'The device'} is let in.`,
    late: 'The two minutes are over, and nobody came in.',
    'too-many': 'Five wrong codes were tried, so this one no longer counts. Was it somebody in your shop?',
    open: '',
  }[state?.state ?? 'late']
  return (
    <p role="status" className="mt-4 flex flex-wrap items-center gap-4 text-base font-bold">
      {says}
      <button type="button" className="button" onClick={onAgain}>
        Let another in
      </button>
    </p>
  )
}

/** Seconds until a moment, counted down in view. */
function useSecondsTo(until: number | undefined): number {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500)
    return () => clearInterval(timer)
  }, [])
  return until === undefined ? 0 : Math.max(0, Math.ceil((until - now) / 1000))
}

function OpenOffer({
  code,
  wrong,
  url,
  onStop,
}: {
  code: PairingCode
  wrong: number
  url: string
  onStop: () => void
}) {
  const left = useSecondsTo(code.until)
  return (
    <div className="mt-4 grid gap-x-8 gap-y-4 sm:grid-cols-[17rem_minmax(0,1fr)]">
      <QrPicture text={`${url}/pair#${code.secret}`} name="Code for the device’s camera" />
      <div>
        <p>
          Point the device’s camera at the picture. Or open <strong>{url}</strong> on it and type these words:
        </p>
        <p className="my-4 text-xl leading-snug font-bold" aria-label="Words to type">
          {code.words}
        </p>
        <p className="text-soft">
          Good for one device, for {Math.floor(left / 60)}:{String(left % 60).padStart(2, '0')} more.
        </p>
        {wrong > 0 && (
          <p role="alert" className="mt-1 font-bold text-fix">
            {wrong === 1 ? 'One wrong code was tried' : `${wrong} wrong codes were tried`}; after five this one ends.
          </p>
        )}
        <button type="button" className="button mt-4" onClick={onStop}>
          Stop
        </button>
      </div>
    </div>
  )
}

export function LetIn({ lan, onLetIn }: { lan: LanInfo; onLetIn: () => void }) {
  const [rights, setRights] = useState<Rights>('all')
  const [address, setAddress] = useState(lan.addresses[0] ?? '')
  const [code, setCode] = useState<PairingCode | undefined>(undefined)
  const [state, setState] = useState<PairingState>(null)
  const [problem, setProblem] = useState('')
  const ways = [...lan.addresses, ...(lan.name === undefined ? [] : [lan.name])]
  const at = ways.includes(address) ? address : (ways[0] ?? '')
  const open = async () => {
    const answer = await ask<PairingCode>('/api/pairing', 'POST', { rights })
    setProblem(answer.ok ? '' : answer.reason)
    setState(null)
    setCode(answer.ok ? answer.value : undefined)
  }
  const waits = code !== undefined && (state === null || state.state === 'open')
  useEffect(() => {
    if (!waits) return undefined
    const timer = setInterval(() => {
      void ask<PairingState>('/api/pairing').then((answer) => {
        if (!answer.ok) return
        setState(answer.value)
        if (answer.value?.state === 'used') onLetIn()
      })
    }, ASK_MS)
    return () => clearInterval(timer)
  }, [waits, onLetIn])
  if (lan.addresses.length === 0)
    return (
      <p className="mt-3">
        This machine is in no network now. Join the one that the device is in; its address shows here as soon as there
        is one.
      </p>
    )
  return (
    <>
      {!code && (
        <>
          <fieldset className="mt-3">
            <legend className="text-soft">What it may do</legend>
            {RIGHTS.map((r) => (
              <label key={r} className="flex min-h-11 items-center gap-3 py-1">
                <input
                  type="radio"
                  name="rights"
                  className="size-4 shrink-0"
                  checked={rights === r}
                  onChange={() => setRights(r)}
                />
                <span className="w-28 shrink-0 font-bold">{RIGHTS_NAMES[r]}</span>
                <span>{RIGHTS_SAY[r]}</span>
              </label>
            ))}
          </fieldset>
          {ways.length > 1 && (
            <fieldset className="mt-2">
              <legend className="text-soft">
                Where the device finds this machine. It has to be let in anew when that changes: have the router keep
                the address{lan.name !== undefined && ', or take the name, where the network knows it'}.
              </legend>
              <div className="flex flex-wrap gap-x-6">
                {ways.map((a) => (
                  <label key={a} className="flex min-h-11 items-center gap-2">
                    <input
                      type="radio"
                      name="address"
                      className="size-4"
                      checked={at === a}
                      onChange={() => setAddress(a)}
                    />
                    {a}
                  </label>
                ))}
              </div>
            </fieldset>
          )}
          <button type="button" className="button button-main mt-3" onClick={() => void open()}>
            Let a device in
          </button>
        </>
      )}
      {code && waits && (
        <OpenOffer
          code={code}
          wrong={state?.wrong ?? 0}
          url={addressUrl(at, lan.port, 'https')}
          onStop={() => {
            void ask('/api/pairing', 'DELETE')
            setCode(undefined)
          }}
        />
      )}
      {code && !waits && <ClosedOffer state={state} onAgain={() => setCode(undefined)} />}
      {problem && (
        <p role="alert" className="mt-3 font-bold text-stop">
          {problem}
        </p>
      )}
    </>
  )
}
