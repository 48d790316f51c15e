'use client'
/** Tools of a hunt, with what each takes; one that asks for care asks how it is done. */
import { useState } from 'react'
import { minutesOf, TOOL_GROUPS, type HuntStep, type HuntTool, type ToolGroup } from '@/plan/practice/hunt-tools'
import type { HuntView } from '@/plan/practice/hunt-view'

type Care = Pick<HuntStep, 'cooled' | 'helped'>
const CAREFUL: Care = { cooled: true, helped: true }
const GROUP_NAMES: Readonly<Record<ToolGroup, string>> = {
  gauge: 'Read',
  can: 'Empty',
  drive: 'Drive',
  look: 'Look, blow, soap',
}
const ORDER: readonly ToolGroup[] = [...TOOL_GROUPS].toSorted(
  (a, b) => Object.keys(GROUP_NAMES).indexOf(a) - Object.keys(GROUP_NAMES).indexOf(b),
)

/** Ways to take a tool: with care, and as people do who are in a hurry. */
function waysOf(tool: HuntTool, isHot: boolean): readonly { readonly says: string; readonly care: Care }[] {
  const minutes = (care: Care) => `${minutesOf(tool, isHot, care)} min`
  if (tool.people === 2)
    return [
      { says: `Fetch somebody to drive, ${minutes(CAREFUL)}`, care: CAREFUL },
      {
        says: `Drive and read alone, ${minutes({ cooled: true, helped: false })}`,
        care: { cooled: true, helped: false },
      },
    ]
  if (tool.engine === 'cold' && isHot)
    return [
      { says: `Let it cool first, ${minutes(CAREFUL)}`, care: CAREFUL },
      { says: `Now, hot as it is, ${minutes({ cooled: false, helped: true })}`, care: { cooled: false, helped: true } },
    ]
  return [{ says: `Do it, ${minutes(CAREFUL)}`, care: CAREFUL }]
}

export function ToolList({ view, onTake }: { view: HuntView; onTake: (tool: HuntTool, care: Care) => void }) {
  const [open, setOpen] = useState<string | undefined>(undefined)
  const left = view.minutes - view.spent
  return (
    <div className="pt-2">
      {left <= 0 && (
        <p role="status" className="border-l-4 border-watch pl-2 font-bold">
          Time is up: name it.
        </p>
      )}
      {ORDER.map((group) => {
        const tools = view.tools.filter((t) => t.group === group)
        if (tools.length === 0) return null
        return (
          <section key={group} aria-label={GROUP_NAMES[group]} className="pt-3">
            <h2 className="head border-b-[1.5px] border-ink pb-1">{GROUP_NAMES[group]}</h2>
            <ul className="grid grid-cols-[minmax(0,1fr)] sm:grid-cols-2 sm:gap-x-6">
              {tools.map((tool) => (
                <li key={tool.id} className="border-b border-rule">
                  <button
                    type="button"
                    className={`flex min-h-12 w-full items-center justify-between gap-3 text-left hover:bg-blue-wash ${open === tool.id ? 'bg-blue-wash' : ''}`}
                    aria-expanded={open === tool.id}
                    disabled={left < tool.minutes}
                    onClick={() => setOpen(open === tool.id ? undefined : tool.id)}
                  >
                    <span className={left < tool.minutes ? 'text-faint' : ''}>{tool.name}</span>
                    <span className="fig shrink-0 text-soft">{tool.minutes} min</span>
                  </button>
                  {open === tool.id && (
                    <div className="pb-2">
                      <p className="text-soft">
                        Needs {tool.needs}. {tool.caution}
                      </p>
                      <div className="flex flex-wrap gap-2 pt-1">
                        {waysOf(tool, view.isHot).map((way) => (
                          <button
                            key={way.says}
                            type="button"
                            className="button"
                            onClick={() => {
                              setOpen(undefined)
                              onTake(tool, way.care)
                            }}
                          >
                            {way.says}
                          </button>
                        ))}
                      </div>
                    </div>
                  )}
                </li>
              ))}
            </ul>
          </section>
        )
      })}
    </div>
  )
}
