'use client'
import { Breathing } from './breathing'
import { Facts } from './facts'
import { StatesTable } from './states-table'

export function EngineStation() {
  return (
    <div className="print-flow grid gap-6 px-4 py-3 md:grid-cols-[minmax(0,4fr)_minmax(0,6fr)]">
      <Facts />
      <div className="space-y-4 md:sticky md:top-3 md:self-start">
        <Breathing />
        <StatesTable />
      </div>
    </div>
  )
}
