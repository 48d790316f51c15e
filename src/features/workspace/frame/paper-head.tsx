'use client'
/** The head of a printed sheet, in place of the frame: whose build, which plan, the day, and the pressure in each state. */
import { usePathname } from 'next/navigation'
import { quantityText } from '@/core/units/format'
import { atState, dayText, STATE_NAMES } from '@/plan/document/words'
import { activeVariant } from '@/plan/edit/edit'
import { planName } from '@/plan/schools/schools'
import { useUnits, useWorkspace } from '../store'
import { STATIONS } from './stations'

export function PaperHead() {
  const here = usePathname()
  const station =
    STATIONS.find((s) => here.endsWith(`/${s.key}`))?.name ??
    (here.endsWith('/faults') ? 'Faults' : here.endsWith('/proposals') ? 'Proposals' : '')
  const build = useWorkspace((s) => s.build)
  const states = useWorkspace((s) => s.analysis.states)
  const shown = useWorkspace((s) => s.state)
  const today = useWorkspace((s) => s.today)
  const units = useUnits()
  const pressure = (s: (typeof states)[number]) =>
    s.solved ? quantityText(s.crankcaseGauge, 'pressure', units, 2) : 'no answer'
  return (
    <div className="hidden border-b-[1.5px] border-ink pb-2 print:block">
      <p className="flex justify-between gap-4">
        <span className="text-lg font-bold">
          {build.name}: {station.toLowerCase()}
        </span>
        <span>{dayText(today)}</span>
      </p>
      <p>
        {build.about}
        {build.about && '; '}plan: {planName(activeVariant(build), build.engine)}
      </p>
      <p className="text-sm">
        Crankcase: {states.map((s) => `${STATE_NAMES[s.id].toLowerCase()} ${pressure(s)}`).join(', ')}. Drawn{' '}
        {atState(shown)}.
      </p>
    </div>
  )
}
