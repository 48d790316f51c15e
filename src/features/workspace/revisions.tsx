'use client'
/** Every save of a build, and bringing one back. */
import { moment } from '@/ui/dates'
import { useEffect, useState } from 'react'
import type { Build } from '@/plan/document/schema'
import { Dialog } from '@/ui/dialog'
import { useWorkspace } from './store'

type Row = { number: number; savedAt: string; state: 'saved' | 'set-aside'; note: string }

export function Revisions({ onClose }: { onClose: () => void }) {
  const id = useWorkspace((s) => s.id)
  const revision = useWorkspace((s) => s.revision)
  const replace = useWorkspace((s) => s.replace)
  const [rows, setRows] = useState<readonly Row[] | undefined>(undefined)
  const [problem, setProblem] = useState<string | undefined>(undefined)

  useEffect(() => {
    let live = true
    fetch(`/api/builds/${id}/revisions`)
      .then((r) => r.json())
      .then(
        (r: Row[]) => {
          if (live) setRows(r)
        },
        () => {
          if (live) setProblem('The versions could not be read. Is Ivent still running?')
        },
      )
    return () => {
      live = false
    }
  }, [id])

  const bring = async (number: number) => {
    const response = await fetch(`/api/builds/${id}/revisions/${number}`).catch(() => undefined)
    if (!response?.ok) return setProblem('That version could not be read. Nothing was changed.')
    replace((await response.json()) as Build)
    onClose()
  }

  return (
    <Dialog
      open
      onClose={onClose}
      title="Earlier versions"
      about="Bringing one back is a change like any other: undo takes it away again."
    >
      {problem && (
        <p role="alert" className="text-stop">
          {problem}
        </p>
      )}
      {!rows && !problem && <p className="text-soft">Reading…</p>}
      {rows && (
        <ul>
          {rows.map((r) => (
            <li key={r.number} className="flex min-h-11 items-center justify-between gap-3 border-b border-rule">
              <span>
                {r.number} · {moment(r.savedAt)}
                {r.state === 'set-aside' && <strong className="text-fix"> · set aside, another save came first</strong>}
                {r.note && <span className="text-soft"> · {r.note}</span>}
              </span>
              {r.number === revision ? (
                <span className="text-soft">this one</span>
              ) : (
                <button
                  type="button"
                  className="deed"
                  onClick={() => {
                    void bring(r.number)
                  }}
                >
                  Bring back
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  )
}
