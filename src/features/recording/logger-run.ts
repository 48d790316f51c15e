'use client'
/** The run of a logger that sends its lines to this build: had as it comes in, and again what was missed while the connection was broken. */
import { useEffect, useMemo, useState } from 'react'
import {
  runColumns,
  parseLine,
  type LoggerHead,
  type LoggerLine,
  type LostLines,
} from '@/plan/recordings/line-protocol'
import type { ColumnMeaning } from '@/plan/recordings/columns'
import { useLive } from '../live/live'

export type LoggerRun = LostLines & {
  readonly head: LoggerHead
  readonly columns: readonly ColumnMeaning[]
  /** rising in number and time; the same array grows */
  readonly lines: readonly LoggerLine[]
  /** when the last line came, ms since 1970 */
  readonly cameAt: number
}
type HeldRun = LostLines & { readonly head: LoggerHead; readonly last: number; readonly lines: readonly string[] }

/** A run that says nothing for so long has stopped, ms. */
export const SILENT_MS = 5000

/** Asks for what came since, one question at a time. */
function follower(build: string, onRun: (run: LoggerRun) => void) {
  let head: LoggerHead | undefined
  let lines: LoggerLine[] = []
  let [last, asking, again] = [0, false, false]
  const take = (held: HeldRun) => {
    if (head?.run !== held.head.run) lines = []
    head = held.head
    last = held.last
    const before = lines.length
    for (const text of held.lines) {
      const line = parseLine(text, held.head.columns.length)
      const previous = lines.at(-1)
      if (line && (!previous || (line.number > previous.number && line.seconds > previous.seconds))) lines.push(line)
    }
    const { missing, unread } = held
    if (lines.length > before)
      onRun({ head, columns: runColumns(head, lines), lines, missing, unread, cameAt: Date.now() })
  }
  return async function ask(): Promise<void> {
    again = asking
    if (asking) return
    asking = true
    do {
      again = false
      const query = head ? `?run=${encodeURIComponent(head.run)}&after=${last}` : ''
      const held = await fetch(`/api/builds/${build}/logger${query}`)
        .then((answer) => (answer.ok ? (answer.json() as Promise<HeldRun | null>) : null))
        .catch(() => null)
      if (held) take(held)
      // what came meanwhile is asked for after it
    } while (again)
    asking = false
  }
}

/** The run of a build, undefined while none has come. */
export function useLoggerRun(build: string): LoggerRun | undefined {
  const [run, setRun] = useState<LoggerRun | undefined>(undefined)
  const ask = useMemo(() => follower(build, setRun), [build])
  useEffect(() => {
    // it must not hold up what the page is for
    const timer = setTimeout(() => void ask())
    return () => clearTimeout(timer)
  }, [ask])
  useLive((message) => {
    if ((message.kind === 'logger' && message.build === build) || (message.kind === 'hello' && message.again))
      void ask()
  })
  return run
}
