'use client'
import { useState } from 'react'
import { isThrough } from '@/plan/document/kinds'
import { activeVariant } from '@/plan/edit/edit'
import { Tabs } from '@/ui/tabs'
import { useWorkspace } from '../workspace/store'
import { AllStates } from './all-states'
import { Inspector } from './inspector'
import { Ladder } from './ladder'
import { LinesTable } from './tables/lines'
import { PartsTable } from './tables/parts'
import { Schematic } from './schematic'
import { WhatIfPanel } from './what-if-panel'

type Key = 'line' | 'part' | 'states' | 'what-if'

export function CircuitStation() {
  const chosen = useWorkspace((s) => s.selected?.kind)
  const variant = useWorkspace((s) => activeVariant(s.build))
  const [tab, setTab] = useState<Key>('line')
  const [seen, setSeen] = useState(chosen)
  // a pick in a picture turns to its table; a press on a tab stays
  if (chosen !== seen) {
    setSeen(chosen)
    if (chosen && (tab === 'line' || tab === 'part')) setTab(chosen)
  }
  return (
    <div className="print-flow flex h-full flex-col gap-2 px-4 py-2">
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] gap-4 md:grid-cols-[minmax(0,9fr)_minmax(0,11fr)] lg:flex-[3]">
        <Schematic />
        <Ladder />
      </div>
      <div
        className={`print-flow grid min-h-0 grid-cols-[minmax(0,1fr)] gap-4 border-t-[1.5px] border-ink pt-1 lg:flex-[2] ${chosen ? 'md:grid-cols-[minmax(0,1fr)_20rem]' : ''}`}
      >
        <Tabs
          label="The circuit in tables"
          value={tab}
          onChange={setTab}
          tabs={[
            {
              key: 'line',
              name: `Lines, ${variant.lines.filter((l) => l.kind !== 'direct').length}`,
              content: <LinesTable />,
            },
            {
              key: 'part',
              name: `Parts, ${variant.parts.filter((p) => isThrough(p.kind)).length}`,
              content: <PartsTable />,
            },
            { key: 'states', name: 'All states', content: <AllStates /> },
            { key: 'what-if', name: 'What if', content: <WhatIfPanel /> },
          ]}
        />
        <Inspector />
      </div>
    </div>
  )
}
