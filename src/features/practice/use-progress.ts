'use client'
/** What was practised, as the store has it; kept and taken away. */
import { useCallback, useEffect, useState } from 'react'
import type { KeptProgress, Progress } from '@/plan/practice/progress'

export type ProgressState = {
  /** undefined until it is read */
  readonly kept: readonly KeptProgress[] | undefined
  /** why it could not be read or kept */
  readonly trouble: string | undefined
  readonly keep: (key: string, progress: Progress) => void
  readonly forget: (key?: string) => void
}

const NO_ANSWER = 'Ivent does not answer: what you practise now is not kept.'

async function asked<T>(init?: RequestInit, query = ''): Promise<T> {
  const response = await fetch(`/api/practice${query}`, init).catch(() => undefined)
  const body = (await response?.json().catch(() => undefined)) as { error?: string } | undefined
  if (!response?.ok) throw new Error(body?.error ?? NO_ANSWER)
  return body as T
}

export function useProgress(): ProgressState {
  const [kept, setKept] = useState<readonly KeptProgress[] | undefined>(undefined)
  const [trouble, setTrouble] = useState<string | undefined>(undefined)
  const read = useCallback(async () => {
    try {
      setKept(await asked<readonly KeptProgress[]>())
      setTrouble(undefined)
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : NO_ANSWER)
    }
  }, [])
  const act = useCallback(
    async (init: RequestInit, query = '') => {
      try {
        await asked(init, query)
        await read()
      } catch (error) {
        setTrouble(error instanceof Error ? error.message : NO_ANSWER)
      }
    },
    [read],
  )
  useEffect(() => {
    asked<readonly KeptProgress[]>().then(setKept, (error: unknown) => setTrouble(String((error as Error).message)))
  }, [])
  const keep = useCallback(
    (key: string, progress: Progress) =>
      void act({
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ key, progress }),
      }),
    [act],
  )
  const forget = useCallback(
    (key?: string) => void act({ method: 'DELETE' }, key === undefined ? '' : `?key=${encodeURIComponent(key)}`),
    [act],
  )
  return { kept, trouble, keep, forget }
}
