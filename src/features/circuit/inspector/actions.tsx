'use client'
/** What can be done here, by the job: only joins that make sense. */
import { actionsFor, type EditAction } from '@/plan/edit/actions'
import type { OfferGroup } from '@/plan/edit/offers'
import { activeVariant } from '@/plan/edit/edit'
import { PopoverButton } from '@/ui/popover'
import { useWorkspace } from '../../workspace/store'

const GROUPS: Readonly<Record<OfferGroup, string>> = {
  'in the line': 'Into the hose',
  'its ends': 'Where it goes',
  'from here': 'From here',
  'this part': 'This part',
}
/** What was chosen is gone after these. */
const ENDS_CHOICE = new Set(['cut', 'remove', 'unsplice'])

export function Actions() {
  const build = useWorkspace((s) => s.build)
  const selected = useWorkspace((s) => s.selected)
  const edit = useWorkspace((s) => s.edit)
  const select = useWorkspace((s) => s.select)
  const actions = selected ? actionsFor(build, activeVariant(build), selected) : []
  if (actions.length === 0) return null
  const run = (a: EditAction) => {
    if (edit(a.edits, a.label) && ENDS_CHOICE.has(a.key)) select(undefined)
  }
  return (
    <PopoverButton
      label="What can be done here"
      button="Change it…"
      buttonClass="button no-print mt-1 w-full !min-h-10"
      panelClass="max-h-[70vh] w-80 overflow-y-auto p-2"
      side="left"
    >
      {(close) =>
        [...new Set(actions.map((a) => a.group))].map((g) => (
          <section key={g} aria-label={g}>
            <h4 className="px-2 pt-2 text-xs text-soft">{GROUPS[g]}</h4>
            <ul>
              {actions
                .filter((a) => a.group === g)
                .map((a) => (
                  <li key={a.key}>
                    <button
                      type="button"
                      className="menu-item w-full !min-h-9 text-left hover:bg-blue-wash"
                      onClick={() => {
                        close()
                        run(a)
                      }}
                    >
                      {a.label}
                    </button>
                  </li>
                ))}
            </ul>
          </section>
        ))
      }
    </PopoverButton>
  )
}
