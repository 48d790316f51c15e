'use client'
/** Two windows saved the same build: nothing is lost, a person says which goes on. */
import type { Build } from '@/plan/document/schema'
import { Dialog } from '@/ui/dialog'
import { useWorkspace, useWorkspaceStore } from './store'

export function Conflict() {
  const save = useWorkspace((s) => s.save)
  const store = useWorkspaceStore()
  if (save.kind !== 'stale') return null
  const { id, replace, setSave, build } = store.getState()
  const takeTheirs = async () => {
    const response = await fetch(`/api/builds/${id}`).catch(() => undefined)
    if (!response?.ok) return
    const theirs = (await response.json()) as { document: Build; revision: number }
    replace(theirs.document)
    setSave({ kind: 'saved' }, theirs.revision)
  }
  const keepMine = () => {
    // based on theirs now, so the next save goes on top of it; theirs stays an earlier version
    setSave({ kind: 'waiting' }, save.theirs)
    replace({ ...build })
  }
  return (
    <Dialog
      open
      onClose={() => undefined}
      title="This build was changed in another window"
      about={`Both are kept: theirs is version ${save.theirs}, yours is set aside as version ${save.setAside}. Which one goes on?`}
    >
      <div className="flex flex-wrap gap-3 pt-2">
        <button
          type="button"
          className="button button-main"
          onClick={() => {
            void takeTheirs()
          }}
        >
          Go on with theirs
        </button>
        <button type="button" className="button" onClick={keepMine}>
          Go on with mine
        </button>
      </div>
    </Dialog>
  )
}
