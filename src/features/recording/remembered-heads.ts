/** What was put right of a file's columns is remembered on this device, for files of the same head. */
import { headKey, type ColumnMeaning } from '@/plan/recordings/columns'

const KEY = 'ivent-logger-heads'
const MOST = 40

type Remembered = Readonly<Record<string, readonly ColumnMeaning[]>>

export function rememberedHeads(): Remembered {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(KEY) ?? '{}')
    return read !== null && typeof read === 'object' ? (read as Remembered) : {}
  } catch {
    // nothing is remembered where the device keeps nothing, or it is spoilt
    return {}
  }
}

export function rememberHead(columns: readonly ColumnMeaning[]): void {
  const key = headKey(columns)
  const kept = columns.map((c) => (c.reason === SAID ? { ...c, reason: SAID_BEFORE } : c))
  const others = Object.entries(rememberedHeads()).filter(([k]) => k !== key)
  try {
    localStorage.setItem(KEY, JSON.stringify(Object.fromEntries([...others, [key, kept]].slice(-MOST))))
  } catch {
    // a full device forgets it: it is asked again
  }
}
/** Reasons of a column that was put right by hand, now and before. */
export const SAID = 'you said so'
const SAID_BEFORE = 'you said so of a file with the same heads'
