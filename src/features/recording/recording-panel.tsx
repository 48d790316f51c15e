'use client'
/** A logger's file opened at the Log: what it holds, what was read on what is foretold, and what it says. */
import { useState } from 'react'
import type { ColumnMeaning } from '@/plan/recordings/columns'
import type { LoggerRecording } from '@/plan/recordings/read-recording'
import { FileButton } from '@/ui/file-button'
import { useJob } from '../workspace/jobs/jobs'
import { useWorkspace } from '../workspace/store'
import { FileColumns } from './file-columns'
import { KeepFile, KeptRecordings } from './kept-recordings'
import type { FileFacts } from './recording-job'
import { RecordingPicture, timeText } from './recording-picture'
import type { TimeWindow } from './view-of'
import { WhatItSays } from './what-it-says'

const count = (n: number, one: string, many = `${one}s`) =>
  `${n.toLocaleString('en').replaceAll(',', ' ')} ${n === 1 ? one : many}`

/** Everything of a file that was not read as it stands. */
function Unread({ file }: { file: FileFacts }) {
  const { bad, empty, joined, cutOff, gaps } = file
  const lines = bad.first.map((b) => `line ${b.line} ${b.says}`).join('; ')
  const said = [
    ...(bad.count > 0
      ? [`${count(bad.count, 'row')} not read: ${lines}${bad.count > bad.first.length ? ' and more' : ''}`]
      : []),
    ...(empty > 0 ? [`${count(empty, 'cell')} without a figure`] : []),
    ...(joined > 0 ? [`${count(joined, 'row')} of one time joined`] : []),
    ...(gaps.length > 0 ? [`${count(gaps.length, 'gap')}, the first at ${timeText(gaps[0]!.from)}`] : []),
    ...(cutOff ? ['the last line is cut off'] : []),
  ]
  if (said.length === 0) return null
  return <p className="text-soft">{said.join('. ')}.</p>
}

type OpenRecording = { readonly name: string; readonly source: File | LoggerRecording }

export function RecordingPanel() {
  const build = useWorkspace((s) => s.build)
  /** a file of the device, or one that was kept with the build, by its name */
  const [file, setFile] = useState<OpenRecording | undefined>(undefined)
  /** how many were opened: each is shown whole at first */
  const [opened, setOpened] = useState(0)
  const [place, setPlace] = useState<TimeWindow | undefined>(undefined)
  const { value, of, progress, failed, start, stop } = useJob('recording')
  const study = (next: OpenRecording, columns?: readonly ColumnMeaning[]) => {
    setFile(next)
    setPlace(undefined)
    setOpened((n) => n + 1)
    const { source } = next
    // of one that was kept, what a column is is changed with it
    if (columns && !(source instanceof File)) {
      const meant = source.channels.map((c, k) => ({ ...c, ...columns[k] }))
      start(build, { ...source, channels: meant })
    } else start(build, source, columns)
  }
  const read = value?.ok ? value.value : undefined
  // of another plan by now: it is laid beside this one at a press
  const stale = read !== undefined && of !== undefined && of[0] !== build
  return (
    <section aria-labelledby="recording" className="min-h-[220px] space-y-3">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 id="recording" className="head">
          {file ? `Recording ${file.name}` : 'Recordings'}
        </h2>
        <span className="flex flex-wrap items-baseline gap-x-4">
          {read && file?.source instanceof File && <KeepFile file={file.source} columns={read.file.columns} />}
          {read && (
            <span className="text-soft">
              {count(read.file.rows, 'row')}, {timeText(read.file.lasts)}
            </span>
          )}
          <FileButton
            accept=".csv,.tsv,.txt,.log,text/csv,text/tab-separated-values,text/plain"
            onFile={(source) => study({ name: source.name, source })}
          >
            {file ? 'Open another file' : 'Open a logger’s file'}
          </FileButton>
        </span>
      </div>
      {!file && (
        <p className="text-soft">
          CSV or TSV of any logger with the crankcase’s pressure, the manifold’s and the engine’s speed: it is laid over
          what this plan foretells, and says what it knows better. What you accept stands in the plan, and the file is
          kept with the build if you say so.
        </p>
      )}
      <KeptRecordings onOpen={(name, source) => study({ name, source })} />
      {progress !== undefined && (
        <p className="flex items-center gap-3">
          <progress value={progress} max={1} aria-label="Reading and fitting" />
          {progress < 0.35 ? 'Reading' : progress < 0.6 ? 'Foretelling' : 'Fitting'}, {Math.round(100 * progress)} %
          <button type="button" className="link-button" onClick={stop}>
            Stop
          </button>
        </p>
      )}
      {failed !== undefined && (
        <p role="alert" className="font-bold text-stop">
          It could not be worked out: {failed}
        </p>
      )}
      {value && !value.ok && (
        <p role="alert" className="font-bold text-stop">
          {file?.name}: {value.reason} Nothing was changed.
        </p>
      )}
      {read && file && (
        <>
          <Unread file={read.file} />
          {!read.found.ok && (
            <p role="alert" className="border-l-4 border-fix pl-2">
              {read.found.reason}
            </p>
          )}
          <details open={!read.found.ok}>
            <summary className="cursor-pointer">What its columns are</summary>
            <FileColumns file={read.file} onColumns={(columns) => study(file, columns)} />
          </details>
          {stale && (
            <p>
              The plan has changed since.{' '}
              <button type="button" className="link-button" onClick={() => study(file, read.file.columns)}>
                Lay it over the plan as it is now
              </button>
            </p>
          )}
          {read.found.ok && (
            <>
              <RecordingPicture key={opened} drawn={read.found.value.drawn} place={place} />
              <WhatItSays report={read.found.value.report} onPlace={setPlace} />
            </>
          )}
        </>
      )}
    </section>
  )
}
