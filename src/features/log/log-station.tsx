'use client'
import dynamic from 'next/dynamic'
import { useWorkspace } from '../workspace/store'
import { CanGauge } from './can-gauge'
import { Entries } from './entries'
import { EntryForm } from './entry-form'

// the chart comes after the figures that matter at the car
const Trend = dynamic(() => import('./trend').then((m) => m.Trend), {
  ssr: false,
  loading: () => <div className="h-52 text-soft">Drawing…</div>,
})

export function LogStation() {
  const cans = useWorkspace((s) => s.analysis.cans)
  const entries = useWorkspace((s) => s.build.log.length)
  return (
    <div className="print-flow grid gap-x-8 gap-y-5 px-4 py-3 md:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
      <div className="space-y-5">
        {cans.length === 0 && (
          <p className="text-soft">
            There is no can in this circuit, so nothing to empty. Put one in at the Circuit station.
          </p>
        )}
        {cans.map((c) => (
          <CanGauge key={c.part} can={c} />
        ))}
        <EntryForm />
      </div>
      <div className="space-y-5">
        {cans.map((c) => (c.history.length > 0 ? <Trend key={c.part} can={c} /> : null))}
        {entries === 0 ? (
          <p className="text-soft">
            Nothing is logged yet. Note the odometer when the can is fitted; look after the first 1 600 km; every
            emptying after that narrows the forecast.
          </p>
        ) : (
          <Entries />
        )}
      </div>
    </div>
  )
}
