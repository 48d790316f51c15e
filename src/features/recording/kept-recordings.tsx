'use client'
/** Recordings that are kept with the build: opened again, given out, taken away. */
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { RECORDING_TYPE } from '@/plan/document/bounds'
import { base64Of } from '@/ui/base64'
import { download } from '@/ui/download'
import type { ColumnMeaning } from '@/plan/recordings/columns'
import type { LoggerRecording } from '@/plan/recordings/read-recording'
import { unpackInWorker, useJob } from '../workspace/jobs/jobs'
import { usePhotos } from '../workspace/photos/photos'

/** Keeps a file that is open; what it says while it does, and when it did not work. */
export function KeepFile({ file, columns }: { file: File; columns: readonly ColumnMeaning[] }) {
  const { photos, add, trouble, busy } = usePhotos('recording', true)
  const { value, of, progress, start } = useJob('pack')
  const packed = value?.ok && of?.[0] === file ? value.value : undefined
  const send = useEffectEvent(async (bytes: ArrayBuffer) =>
    add(`${file.name}.parquet`, await base64Of(new Blob([bytes])), '', RECORDING_TYPE),
  )
  const sent = useRef<ArrayBuffer>(undefined)
  useEffect(() => {
    if (!packed || sent.current === packed) return
    sent.current = packed
    void send(packed)
  }, [packed])
  const isKept = photos.some((p) => p.name === `${file.name}.parquet`)
  return (
    <span>
      {isKept ? (
        <span className="text-soft">kept with the build</span>
      ) : progress !== undefined || busy ? (
        <span role="status">Keeping it…</span>
      ) : (
        <button type="button" className="link-button" onClick={() => start(file, columns)}>
          Keep it with the build
        </button>
      )}
      {value && !value.ok && <span role="alert"> {value.reason}</span>}
      {trouble && <span role="alert"> {trouble}</span>}
    </span>
  )
}

export function KeptRecordings({ onOpen }: { onOpen: (name: string, recorded: LoggerRecording) => void }) {
  const { photos, remove, urlOf, trouble } = usePhotos('recording', true)
  const [wrong, setWrong] = useState<string | undefined>(undefined)
  if (photos.length === 0) return null
  const bytesOf = async (url: string): Promise<ArrayBuffer | undefined> => {
    const answer = await fetch(url).catch(() => undefined)
    if (answer?.ok) return answer.arrayBuffer()
    setWrong('Ivent does not answer. Try again in a moment.')
    return undefined
  }
  const open = async (name: string, url: string) => {
    setWrong(undefined)
    const bytes = await bytesOf(url)
    if (!bytes) return
    const read = await unpackInWorker(bytes)
    if (read.ok) onOpen(name, read.value)
    else setWrong(read.reason)
  }
  const save = async (name: string, url: string) => {
    const bytes = await bytesOf(url)
    if (bytes) download(name, new Uint8Array(bytes), RECORDING_TYPE)
  }
  return (
    <div>
      <h3 className="head">Kept with the build</h3>
      <ul>
        {photos.map((p) => {
          const name = p.name.replace(/\.parquet$/, '')
          return (
            <li key={p.id} className="flex flex-wrap gap-x-4">
              <button type="button" className="link-button" onClick={() => void open(name, urlOf(p))}>
                {name}
              </button>
              <button
                type="button"
                className="link-button"
                aria-label={`Save ${name} as Parquet`}
                onClick={() => void save(p.name, urlOf(p))}
              >
                Save as Parquet
              </button>
              <button
                type="button"
                className="link-button"
                aria-label={`Take ${name} away`}
                onClick={() => void remove(p.id)}
              >
                Take away
              </button>
            </li>
          )
        })}
      </ul>
      {(wrong ?? trouble) && <p role="alert">{wrong ?? trouble}</p>}
    </div>
  )
}
