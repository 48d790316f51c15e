'use client'
/** A list of everything that can be done, by name; what would change the plan says so before it is done. */
import { Command } from 'cmdk'
import { useState } from 'react'
import { matchScore } from './match-words'

export type CommandAction = {
  readonly name: string
  readonly run: () => void
  /** words that mean the same */
  readonly other?: string
  /** it changes the plan: what it would do, told before Enter does it */
  readonly changes?: () => string
}
export type ActionGroup = { readonly heading: string; readonly actions: readonly CommandAction[] }

export function Commands({ groups, onClose }: { groups: readonly ActionGroup[]; onClose: () => void }) {
  const [chosen, setChosen] = useState('')
  const items = groups.flatMap((g) => g.actions.map((a, i) => ({ a, id: `${g.heading} ${i} ${a.name}`.toLowerCase() })))
  const told = items.find((x) => x.id === chosen)?.a.changes?.()
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => {
        if (!open) onClose()
      }}
      label="All commands"
      value={chosen}
      onValueChange={setChosen}
      filter={(_, typed, [name = '', other = '', edits] = []) =>
        matchScore(typed, { name, other, edits: edits === 'edits' })
      }
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="menu fixed left-1/2 top-[12vh] z-50 w-[92vw] max-w-lg -translate-x-1/2 p-2"
    >
      <Command.Input placeholder="What do you want to do?" className="field text-base" />
      <Command.List className="mt-2 max-h-[55vh] overflow-y-auto">
        <Command.Empty className="p-3 text-soft">Nothing here has that name.</Command.Empty>
        {groups
          .filter((g) => g.actions.length > 0)
          .map((g) => (
            <Command.Group
              key={g.heading}
              heading={g.heading}
              className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
            >
              {g.actions.map((a, i) => (
                <Command.Item
                  key={`${a.name} ${i}`}
                  value={`${g.heading} ${i} ${a.name}`.toLowerCase()}
                  keywords={[a.name, a.other ?? '', a.changes ? 'edits' : 'program']}
                  className="menu-item"
                  onSelect={() => {
                    onClose()
                    a.run()
                  }}
                >
                  {a.name}
                </Command.Item>
              ))}
            </Command.Group>
          ))}
      </Command.List>
      {told !== undefined && (
        <p role="status" className="border-t border-rule px-3 pt-2 text-xs text-soft">
          Enter changes the plan: {told} Undo takes it back.
        </p>
      )}
    </Command.Dialog>
  )
}
