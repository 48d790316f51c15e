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
  /** it changes the plan: what it would do, shown before Enter does it */
  readonly changes?: () => string
}
export type ActionGroup = { readonly heading: string; readonly actions: readonly CommandAction[] }

type Found = { readonly id: string; readonly action: CommandAction }

/** What was typed finds, best first; of equals in the order of the groups. */
const found = (all: readonly Found[], typed: string): readonly Found[] =>
  all
    .map((f) => ({ f, score: matchScore(typed, { ...f.action, edits: f.action.changes !== undefined }) }))
    .filter(({ score }) => score > 0)
    .toSorted((a, b) => b.score - a.score)
    .map(({ f }) => f)

export function Commands({ groups, onClose }: { groups: readonly ActionGroup[]; onClose: () => void }) {
  const [typed, setTyped] = useState('')
  const [chosen, setChosen] = useState('')
  const named = groups
    .filter((g) => g.actions.length > 0)
    .map(({ heading, actions }) => ({
      heading,
      items: actions.map((action, i): Found => ({ id: `${heading} ${i} ${action.name}`.toLowerCase(), action })),
    }))
  const all = named.flatMap((g) => g.items)
  const shown = typed.trim() === '' ? named : [{ heading: '', items: found(all, typed) }]
  const changes = all.find((x) => x.id === chosen)?.action.changes
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => {
        if (!open) onClose()
      }}
      label="All commands"
      shouldFilter={false}
      value={chosen}
      onValueChange={setChosen}
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="menu fixed left-1/2 top-[12vh] z-50 w-[92vw] max-w-lg -translate-x-1/2 p-2"
    >
      <Command.Input
        placeholder="What do you want to do?"
        className="field text-base"
        value={typed}
        onValueChange={(text) => {
          setTyped(text)
          setChosen((text.trim() === '' ? all : found(all, text))[0]?.id ?? '')
        }}
      />
      <Command.List className="mt-2 max-h-[55vh] overflow-y-auto">
        <Command.Empty className="p-3 text-soft">Nothing here has that name.</Command.Empty>
        {shown.map((g) => (
          <Command.Group
            key={g.heading}
            {...(g.heading === '' ? {} : { heading: g.heading })}
            className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
          >
            {g.items.map(({ id, action }) => (
              <Command.Item
                key={id}
                value={id}
                className="menu-item"
                onSelect={() => {
                  onClose()
                  action.run()
                }}
              >
                {action.name}
              </Command.Item>
            ))}
          </Command.Group>
        ))}
      </Command.List>
      {changes && (
        <p role="status" className="border-t border-rule px-3 pt-2 text-xs text-soft">
          Enter changes the plan: {changes()} Undo takes it back.
        </p>
      )}
    </Command.Dialog>
  )
}
