'use client'
/** What could not simply go on: a change that clashed with another device's, one that was refused, an undo of what another device went on from. */
import { useState, type ReactNode } from 'react'
import { placeName, valueText } from '@/plan/edit/describe'
import { applyEdits, valueAt, type Change, type Edit } from '@/plan/edit/edit'
import type { Build } from '@/plan/document/schema'
import { Dialog } from '@/ui/dialog'
import { dependentOn, takeReply } from './autosave'
import { useWorkspace, useWorkspaceStore } from '../store'

const describedEdit = (build: Build, e: Edit): string =>
  e.op === 'remove'
    ? 'taken away'
    : e.op === 'unset'
      ? 'cleared'
      : e.op === 'insert'
        ? 'added'
        : valueText(build, e.path, e.value)

function Table({
  heads,
  rows,
}: {
  heads: readonly string[]
  rows: readonly { readonly key: string; readonly cells: readonly string[] }[]
}) {
  return (
    <table className="table w-full">
      <thead>
        <tr>
          {heads.map((h) => (
            <th key={h}>{h}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ key, cells: [head, ...cells] }) => (
          <tr key={key}>
            <th scope="row" className="!whitespace-normal !text-ink">
              {head}
            </th>
            {cells.map((c, i) => (
              <td key={heads[i + 1]}>{c}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What was made later to what the change brings, and goes with it. */
function Dependents({ changes }: { changes: readonly Change[] }) {
  if (changes.length === 0) return null
  return (
    <p className="mt-3">
      {changes.length === 1 ? 'One later change of yours builds on it' : `${changes.length} later changes build on it`}{' '}
      and {changes.length === 1 ? 'is' : 'are'} kept with it: {changes.map((c) => c.name).join('; ')}.
    </p>
  )
}

function Unsaved({
  title,
  about,
  children,
  buttons,
  onClose,
}: {
  title: string
  about: string
  children: ReactNode
  buttons: readonly { readonly text: string; readonly whose: 'theirs' | 'mine' }[]
  onClose?: () => void
}) {
  const store = useWorkspaceStore()
  const [problem, setProblem] = useState('')
  const decide = async (whose: 'theirs' | 'mine') => {
    if (!(await takeReply(store, whose)))
      setProblem('Ivent does not answer. Nothing is lost: your change waits on this device. Try again in a moment.')
  }
  return (
    <Dialog open onClose={onClose ?? (() => void decide('theirs'))} title={title} about={about} wide>
      {children}
      <div className="flex flex-wrap gap-3 pt-4">
        {buttons.map(({ text, whose }, i) => (
          <button
            key={whose}
            type="button"
            className={i === 0 ? 'button button-main' : 'button'}
            onClick={() => void decide(whose)}
          >
            {text}
          </button>
        ))}
        {onClose && (
          <button type="button" className="button" onClick={onClose}>
            Let it wait on this device
          </button>
        )}
      </div>
      {problem && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-2">
          {problem}
        </p>
      )}
    </Dialog>
  )
}

/** A change that the server could not put into the build: nothing is lost, a person says what goes on. */
export function UnsavedDialog() {
  const save = useWorkspace((s) => s.save)
  const build = useWorkspace((s) => s.build)
  const pending = useWorkspace((s) => s.pending)
  const setSave = useWorkspace((s) => s.setSave)
  if (save.kind === 'clash') {
    const fits = applyEdits(save.head.document, save.change.edits).ok
    return (
      <Unsaved
        title={
          fits
            ? 'The same thing was changed on another device'
            : 'What you changed was taken away or replaced on another device'
        }
        about={
          fits
            ? `Yours: ${save.change.name}. Both are kept, whichever goes on: yours under Earlier versions, theirs as a version of its own.`
            : `Yours: ${save.change.name}. What it was made to is there no more, so it cannot go into the build; it is kept under Earlier versions.`
        }
        buttons={[
          { text: fits ? 'Keep theirs' : 'Set mine aside', whose: 'theirs' },
          ...(fits ? [{ text: 'Put mine in its place', whose: 'mine' as const }] : []),
        ]}
      >
        {fits && (
          <Table
            heads={['What', 'Theirs', 'Yours']}
            rows={save.clashes.map((c) => ({
              key: c.path.join(' '),
              cells: [
                placeName(save.head.document, c.path, build),
                describedEdit(save.head.document, c.theirs),
                describedEdit(build, c.mine),
              ],
            }))}
          />
        )}
        <Dependents changes={dependentOn(save.head.document, pending, save.change)} />
      </Unsaved>
    )
  }
  if (save.kind !== 'refused') return null
  return (
    <Unsaved
      title="This change cannot be saved"
      about={`${save.change.name}. ${save.reason} What you did before it is saved; it and what came after it wait on this device.`}
      buttons={[{ text: 'Set it aside and go on', whose: 'theirs' }]}
      onClose={() => setSave({ kind: 'failed', message: save.reason })}
    >
      {save.problems.length > 0 && (
        <Table
          heads={['Where', 'What is wrong']}
          rows={save.problems.map((p) => ({ key: `${p.path} ${p.message}`, cells: [p.path, p.message] }))}
        />
      )}
    </Unsaved>
  )
}

/** Undo or redo of something that another device has changed since: never without being asked. */
export function OvertakenDialog() {
  const overtaken = useWorkspace((s) => s.overtaken)
  const build = useWorkspace((s) => s.build)
  const { undo, redo, leaveOvertaken } = useWorkspaceStore().getState()
  if (!overtaken) return null
  const { direction, name, paths, after } = overtaken
  return (
    <Dialog
      open
      onClose={leaveOvertaken}
      title={
        direction === 'undo'
          ? 'Undo would take back what another device did'
          : 'Redo would replace what another device did'
      }
      about={`${name}. The same has been changed elsewhere since.`}
      wide
    >
      <Table
        heads={['What', 'Now', direction === 'undo' ? 'After undo' : 'After redo']}
        rows={paths.map((path) => ({
          key: path.join(' '),
          cells: [
            placeName(build, path, after),
            valueText(build, path, valueAt(build, path)),
            valueText(after, path, valueAt(after, path)),
          ],
        }))}
      />
      <div className="flex flex-wrap gap-3 pt-4">
        <button type="button" className="button button-main" onClick={leaveOvertaken}>
          Leave it as it is
        </button>
        <button type="button" className="button" onClick={() => (direction === 'undo' ? undo(true) : redo(true))}>
          {direction === 'undo' ? 'Undo all the same' : 'Redo all the same'}
        </button>
      </div>
    </Dialog>
  )
}
