'use client'
/** A list of everything that can be done, by name. */
import { Command } from 'cmdk'

export type CommandAction = { readonly name: string; readonly run: () => void }
export type ActionGroup = { readonly heading: string; readonly actions: readonly CommandAction[] }

export function Commands({ groups, onClose }: { groups: readonly ActionGroup[]; onClose: () => void }) {
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => {
        if (!open) onClose()
      }}
      label="All commands"
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
                  value={`${a.name} ${g.heading} ${i}`}
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
    </Command.Dialog>
  )
}
