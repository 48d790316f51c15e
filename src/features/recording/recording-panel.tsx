'use client'
/** A logger's file opened at the Log: what it holds, what was read on what is predicted, and what it says. */
import dynamic from 'next/dynamic'
import { useEffect, useRef, useState } from 'react'
import { recordingOfRun } from '@/plan/recordings/line-protocol'
import { download } from '@/ui/download'
import { FileButton } from '@/ui/file-button'
import { importWithRetry } from '@/ui/import-with-retry'
import { useJob } from '../workspace/jobs/jobs'
import { useWorkspace } from '../workspace/store'
import { FileColumns } from './file-columns'
import { KeepRecording, KeptRecordings } from './kept-recordings'
import { LiveLogger } from './live-logger'
import type { LoggerRun } from './logger-run'
import { RecordingCloud } from './recording-cloud'
import { RecordingCompare } from './recording-compare'
import type { BesideFacts, FileFacts, RecordingSource } from './recording-job'
import { RecordingPicture, timeText, type HandMoment } from './recording-picture'
import { rememberHead, rememberedHeads } from './remembered-heads'
import type { TimeWindow } from './view-of'
import { WhatItSays } from './what-it-says'

const MomentPicture = dynamic(() => importWithRetry(() => import('./moment-picture')), { ssr: false })

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

type OpenRecording = { readonly name: string; readonly source: RecordingSource }

const FILES = '.csv,.tsv,.txt,.log,text/csv,text/tab-separated-values,text/plain'

/** How a second logger's file was laid beside the first. */
function BesideNote({ beside: { shift, skew, match, by } }: { beside: BesideFacts }) {
  const later = `${Math.abs(shift).toFixed(1)} s ${shift >= 0 ? 'later' : 'earlier'}`
  const clocks =
    Math.abs(skew) > 5e-4
      ? `; its clock goes ${(100 * Math.abs(skew)).toFixed(2)} % ${skew > 0 ? 'slower' : 'faster'}`
      : ''
  return (
    <p className="text-soft">
      The second file lies {later} on the first{clocks}, told by {by} ({Math.round(100 * match)} % alike).
    </p>
  )
}

export function RecordingPanel() {
  const build = useWorkspace((s) => s.build)
  const id = useWorkspace((s) => s.id)
  /** a file of the device, one that was kept with the build, or a logger's run, by its name */
  const [file, setFile] = useState<OpenRecording | undefined>(undefined)
  /** how many were opened: each is shown whole at first */
  const [opened, setOpened] = useState(0)
  const [place, setPlace] = useState<TimeWindow | undefined>(undefined)
  const [moment, setMoment] = useState<HandMoment | undefined>(undefined)
  const { value, of, progress, failed, start, stop } = useJob('recording')
  const csv = useJob('csv')
  const study = (next: OpenRecording) => {
    setFile(next)
    setPlace(undefined)
    setMoment(undefined)
    setOpened((n) => n + 1)
    start(build, next.source)
  }
  const change = (name: string, more: Partial<RecordingSource>) => {
    if (file) study({ name, source: { ...file.source, ...more } })
  }
  const openRun = (run: LoggerRun) => {
    const recorded = recordingOfRun(run.head, run.lines, run)
    if (recorded.ok) study({ name: run.head.run, source: { of: recorded.value } })
  }
  const saved = useRef<unknown>(undefined)
  useEffect(() => {
    if (!csv.value?.ok || saved.current === csv.value) return
    saved.current = csv.value
    download(`${file?.name.replace(/\.(csv|tsv|txt|log)$/, '') ?? 'recording'}.csv`, csv.value.value, 'text/csv')
  }, [csv.value, file])
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
          {read && file && <KeepRecording name={file.name} source={file.source} />}
          {read && (
            <span className="text-soft">
              {count(read.file.rows, 'row')}, {timeText(read.file.lasts)}
            </span>
          )}
          {read && file && (
            <>
              <button type="button" className="link-button" onClick={() => csv.start(build, file.source)}>
                Save as CSV
              </button>
              {!file.source.beside && (
                <FileButton accept={FILES} onFile={(beside) => change(file.name, { beside })}>
                  Lay a second logger’s file beside it
                </FileButton>
              )}
            </>
          )}
          <FileButton
            accept={FILES}
            onFile={(of_) => study({ name: of_.name, source: { of: of_, remembered: rememberedHeads() } })}
          >
            {file ? 'Open another file' : 'Open a logger’s file'}
          </FileButton>
        </span>
      </div>
      {!file && (
        <p className="text-soft">
          CSV or TSV of any logger with the crankcase’s pressure, the manifold’s and the engine’s speed: it is laid over
          what this plan predicts, and says what it knows better. What you accept stands in the plan, and the file is
          kept with the build if you say so. A logger that is connected sends its lines to{' '}
          <strong className="break-all">
            {location.origin}/api/builds/{id}/logger
          </strong>
          : docs/logger.md says how, and ./ivent logger plays one.
        </p>
      )}
      <LiveLogger onOpen={openRun} />
      <KeptRecordings onOpen={(name, recorded) => study({ name, source: { of: recorded } })} />
      {progress !== undefined && (
        <p className="flex items-center gap-3">
          <progress value={progress} max={1} aria-label="Reading and fitting" />
          {progress < 0.35 ? 'Reading' : progress < 0.6 ? 'Predicting' : 'Fitting'}, {Math.round(100 * progress)} %
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
          {read.file.beside && <BesideNote beside={read.file.beside} />}
          {!read.found.ok && (
            <p role="alert" className="border-l-4 border-fix pl-2">
              {read.found.reason}
            </p>
          )}
          <details open={!read.found.ok}>
            <summary className="cursor-pointer">What its columns are</summary>
            <FileColumns
              file={read.file}
              onColumns={(columns) => {
                if (read.file.preview) rememberHead(columns)
                change(file.name, { columns })
              }}
            />
          </details>
          {stale && (
            <p>
              The plan has changed since.{' '}
              <button type="button" className="link-button" onClick={() => study(file)}>
                Lay it over the plan as it is now
              </button>
            </p>
          )}
          {read.found.ok && (
            <>
              <RecordingPicture
                key={opened}
                drawn={read.found.value.drawn}
                place={place}
                onHand={setMoment}
                onTrim={({ from, to }) => {
                  // of one that was cut before, from its own beginning
                  const begin = file.source.trim?.from ?? 0
                  change(
                    `${file.name.replace(/, \d+:\d\d to \d+:\d\d$/, '')}, ${timeText(begin + from)} to ${timeText(begin + to)}`,
                    {
                      trim: { from: begin + from, to: begin + to },
                    },
                  )
                }}
              />
              {moment && <MomentPicture moment={moment} time={moment.time} />}
              <WhatItSays report={read.found.value.report} onPlace={setPlace} />
              <RecordingCloud drawn={read.found.value.drawn} />
              <RecordingCompare name={file.name} states={read.found.value.report.states} />
            </>
          )}
        </>
      )}
    </section>
  )
}
