'use client'
/** Every save of a build, and bringing one back. */
import { Bookmark } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { Build } from '@/plan/document/schema'
import type { Edit } from '@/plan/edit/edit'
import { difference } from '@/plan/edit/diff'
import { moment } from '@/ui/dates'
import { Dialog } from '@/ui/dialog'
import { useWorkspace } from '../store'

type Row = { number: number; savedAt: string; note: string; marked: boolean; madeBy?: string; thinned: number }
type Aside = { id: string; name: string; savedAt: string; madeBy?: string; edits: readonly Edit[] }
type List = { revisions: readonly Row[]; setAside: readonly Aside[] }

export function Revisions({ onClose }: { onClose: () => void }) {
  const id = useWorkspace((s) => s.id)
  const revision = useWorkspace((s) => s.revision)
  const build = useWorkspace((s) => s.build)
  const edit = useWorkspace((s) => s.edit)
  const [list, setList] = useState<List | undefined>(undefined)
  const [problem, setProblem] = useState<string | undefined>(undefined)

  useEffect(() => {
    let live = true
    fetch(`/api/builds/${id}/revisions`)
      .then((r) => r.json())
      .then(
        (r: List) => {
          if (live) setList(r)
        },
        () => {
          if (live) setProblem('The versions could not be read. Is Ivent still running?')
        },
      )
    return () => {
      live = false
    }
  }, [id])

  const bring = async (row: Row) => {
    const response = await fetch(`/api/builds/${id}/revisions/${row.number}`).catch(() => undefined)
    if (!response?.ok) return setProblem('That version could not be read. Nothing was changed.')
    // what was logged is what happened: it does not go back
    const then = { ...((await response.json()) as Build), log: build.log }
    if (edit(difference(build, then), `Version ${row.number} brought back`)) onClose()
  }
  const mark = async (row: Row) => {
    const response = await fetch(`/api/builds/${id}/revisions/${row.number}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ marked: !row.marked }),
    }).catch(() => undefined)
    if (!response?.ok) return setProblem('The mark could not be set. Nothing was changed.')
    setList((l) => l && { ...l, revisions: l.revisions.map((r) => (r === row ? { ...r, marked: !r.marked } : r)) })
  }

  return (
    <Dialog
      open
      onClose={onClose}
      title="Earlier versions"
      about="Bringing one back is a change like any other: undo takes it away again. All of the last day is kept, then one an hour, a day, a month; marked ones for ever. The log stays as it is."
      wide
    >
      {problem && (
        <p role="alert" className="text-stop">
          {problem}
        </p>
      )}
      {!list && !problem && <p className="text-soft">Reading…</p>}
      {list && (
        <ul>
          {list.revisions.map((r) => (
            <li key={r.number} className="flex min-h-11 items-center justify-between gap-3 border-b border-rule">
              <span className="min-w-0">
                {r.number} · {moment(r.savedAt)}
                {r.madeBy && <span> · {r.madeBy}</span>}
                {r.note && <span className="text-soft"> · {r.note}</span>}
                {r.thinned > 0 && <span className="text-soft"> · {r.thinned} before it thinned out</span>}
              </span>
              <span className="flex items-center gap-2">
                <button
                  type="button"
                  className="button-quiet"
                  aria-pressed={r.marked}
                  aria-label={`Keep version ${r.number} for ever`}
                  title="Keep for ever"
                  onClick={() => void mark(r)}
                >
                  <Bookmark size={16} aria-hidden fill={r.marked ? 'currentColor' : 'none'} />
                </button>
                {r.number === revision ? (
                  <span className="text-soft">this one</span>
                ) : (
                  <button type="button" className="link-button whitespace-nowrap" onClick={() => void bring(r)}>
                    Bring back
                  </button>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      {list && list.setAside.length > 0 && (
        <>
          <h3 className="head mt-4">Set aside, since another device had changed the same thing</h3>
          <ul>
            {list.setAside.map((a) => (
              <li key={a.id} className="flex items-center justify-between gap-4 border-b border-rule py-2">
                <span>
                  {moment(a.savedAt)} · {a.madeBy && `${a.madeBy} · `}
                  {a.name}
                </span>
                <button
                  type="button"
                  className="button"
                  onClick={() =>
                    edit(a.edits, a.name)
                      ? onClose()
                      : setProblem('That change no longer fits: what it was made to has gone. It stays in this list.')
                  }
                >
                  Put it in now
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Dialog>
  )
}
