'use client'
/** The same thing was changed on two devices: both sides are shown, neither is lost, a person says which goes on. */
import { useState } from 'react'
import { placeName, valueText } from '@/plan/edit/describe'
import type { Edit } from '@/plan/edit/edit'
import type { Build } from '@/plan/document/schema'
import { Dialog } from '@/ui/dialog'
import { settleClash } from './autosave'
import { useWorkspace, useWorkspaceStore } from './store'

const told = (build: Build, e: Edit): string =>
  e.op === 'remove'
    ? 'taken away'
    : e.op === 'unset'
      ? 'cleared'
      : e.op === 'insert'
        ? 'added'
        : valueText(build, e.path, e.value)

export function ClashDialog() {
  const save = useWorkspace((s) => s.save)
  const build = useWorkspace((s) => s.build)
  const store = useWorkspaceStore()
  const [problem, setProblem] = useState('')
  if (save.kind !== 'clash') return null
  const settle = async (whose: 'theirs' | 'mine') => {
    if (!(await settleClash(store, whose)))
      setProblem('Ivent does not answer. Nothing is lost: your change waits on this device. Try again in a moment.')
  }
  return (
    <Dialog
      open
      onClose={() => void settle('theirs')}
      title="The same thing was changed on another device"
      about={`Yours: ${save.change.name}. Both are kept, whichever goes on: yours under Earlier versions, theirs as a version of its own.`}
      wide
    >
      <table className="table w-full">
        <thead>
          <tr>
            <th>What</th>
            <th>Theirs</th>
            <th>Yours</th>
          </tr>
        </thead>
        <tbody>
          {save.clashes.map((c) => (
            <tr key={c.path.join(' ')}>
              <th scope="row" className="!whitespace-normal !text-ink">
                {placeName(save.head.document, c.path, build)}
              </th>
              <td>{told(save.head.document, c.theirs)}</td>
              <td>{told(build, c.mine)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex flex-wrap gap-3 pt-4">
        <button type="button" className="button button-main" onClick={() => void settle('theirs')}>
          Keep theirs
        </button>
        <button type="button" className="button" onClick={() => void settle('mine')}>
          Put mine in its place
        </button>
      </div>
      {problem && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-2">
          {problem}
        </p>
      )}
    </Dialog>
  )
}
