'use client'
/** Recordings that are kept with the build: opened again, named, given out, taken away. */
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { RECORDING_TYPE } from '@/plan/document/bounds'
import { base64Of } from '@/ui/base64'
import { download } from '@/ui/download'
import type { LoggerRecording } from '@/plan/recordings/read-recording'
import { unpackInWorker, useJob } from '../workspace/jobs/jobs'
import { usePhotos, type Photo } from '../workspace/photos/photos'
import { useWorkspace } from '../workspace/store'
import type { RecordingSource } from './recording-job'

const ENDING = '.parquet'
export const plainName = (name: string) => name.replace(/\.parquet$/, '')
export const useKept = () => usePhotos('recording', true)

/** Keeps a recording that is open; what it says while it does, and when it did not work. */
export function KeepRecording({ name, source }: { name: string; source: RecordingSource }) {
  const { photos, add, trouble, busy } = useKept()
  const build = useWorkspace((s) => s.build)
  const { value, of, progress, start } = useJob('pack')
  const packed = value?.ok && of?.[1] === source ? value.value : undefined
  const send = useEffectEvent(async (bytes: ArrayBuffer) =>
    add(`${name}${ENDING}`, await base64Of(new Blob([bytes])), '', RECORDING_TYPE),
  )
  const sent = useRef<ArrayBuffer>(undefined)
  useEffect(() => {
    if (!packed || sent.current === packed) return
    sent.current = packed
    void send(packed)
  }, [packed])
  const isKept = photos.some((p) => p.name === `${name}${ENDING}`)
  return (
    <span>
      {isKept ? (
        <span className="text-soft">kept with the build</span>
      ) : progress !== undefined || busy ? (
        <span role="status">Keeping it…</span>
      ) : (
        <button type="button" className="link-button" onClick={() => start(build, source)}>
          Keep it with the build
        </button>
      )}
      {value && !value.ok && <span role="alert"> {value.reason}</span>}
      {trouble && <span role="alert"> {trouble}</span>}
    </span>
  )
}

/** A kept recording read from the bench; fails with words. */
export async function readKept(url: string): Promise<LoggerRecording | string> {
  const answer = await fetch(url).catch(() => undefined)
  if (!answer?.ok) return 'Ivent does not answer. Try again in a moment.'
  const read = await unpackInWorker(await answer.arrayBuffer())
  return read.ok ? read.value : read.reason
}

function KeptRow({ photo, onOpen }: { photo: Photo; onOpen: (name: string, recorded: LoggerRecording) => void }) {
  const { remove, rename, urlOf } = useKept()
  const [wrong, setWrong] = useState<string | undefined>(undefined)
  const [typed, setTyped] = useState<string | undefined>(undefined)
  const name = plainName(photo.name)
  const open = async () => {
    const read = await readKept(urlOf(photo))
    if (typeof read === 'string') setWrong(read)
    else {
      setWrong(undefined)
      onOpen(name, read)
    }
  }
  const save = async () => {
    const answer = await fetch(urlOf(photo)).catch(() => undefined)
    if (answer?.ok) download(photo.name, new Uint8Array(await answer.arrayBuffer()), RECORDING_TYPE)
    else setWrong('Ivent does not answer. Try again in a moment.')
  }
  if (typed !== undefined)
    return (
      <li>
        <form
          className="flex flex-wrap items-center gap-x-4"
          onSubmit={(e) => {
            e.preventDefault()
            if (typed.trim() !== '' && typed.trim() !== name) void rename(photo.id, `${typed.trim()}${ENDING}`)
            setTyped(undefined)
          }}
        >
          <input
            className="field !w-64"
            aria-label={`Name of ${name}`}
            maxLength={100}
            // the press that opened it asked for it
            // oxlint-disable-next-line jsx-a11y/no-autofocus
            autoFocus
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape') setTyped(undefined)
            }}
          />
          <button type="submit" className="link-button">
            Name it so
          </button>
        </form>
      </li>
    )
  return (
    <li className="flex flex-wrap gap-x-4">
      <button type="button" className="link-button" onClick={() => void open()}>
        {name}
      </button>
      <button type="button" className="link-button" aria-label={`Rename ${name}`} onClick={() => setTyped(name)}>
        Rename
      </button>
      <button type="button" className="link-button" aria-label={`Save ${name} as Parquet`} onClick={() => void save()}>
        Save as Parquet
      </button>
      <button
        type="button"
        className="link-button"
        aria-label={`Take ${name} away`}
        onClick={() => void remove(photo.id)}
      >
        Take away
      </button>
      {wrong && <span role="alert">{wrong}</span>}
    </li>
  )
}

export function KeptRecordings({ onOpen }: { onOpen: (name: string, recorded: LoggerRecording) => void }) {
  const { photos, trouble } = useKept()
  if (photos.length === 0) return null
  return (
    <div>
      <h3 className="head">Kept with the build</h3>
      <ul>
        {photos.map((p) => (
          <KeptRow key={p.id} photo={p} onOpen={onOpen} />
        ))}
      </ul>
      {trouble && <p role="alert">{trouble}</p>}
    </div>
  )
}
