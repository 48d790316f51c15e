'use client'
import { useWorkspace } from '../workspace/store'
import { Inspector } from './inspector'
import { Ladder } from './ladder'
import { PlumbingTable } from './plumbing-table'
import { Schematic } from './schematic'

export function CircuitStation() {
  const open = useWorkspace((s) => s.selected !== undefined)
  return (
    <div className="print-flow flex h-full flex-col gap-2 px-4 py-2">
      <div className="grid min-h-0 gap-4 md:grid-cols-[minmax(0,9fr)_minmax(0,11fr)] lg:flex-[3]">
        <Schematic />
        <Ladder />
      </div>
      <div className={`print-flow grid min-h-0 gap-4 border-t-[1.5px] border-ink pt-1 lg:flex-[2] ${open ? 'md:grid-cols-[minmax(0,1fr)_16rem]' : ''}`}>
        <PlumbingTable />
        <Inspector />
      </div>
    </div>
  )
}
