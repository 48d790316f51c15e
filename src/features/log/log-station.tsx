'use client'
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { activeVariant } from '@/plan/edit/edit'
import { Later } from '@/ui/later'
import { LastMended } from '../faults/past-cases'
import { OfTheCar } from '../workspace/on-car'
import { useWorkspace } from '../workspace/store'
import { CanGauge } from './can-gauge'
import { Entries } from './entries'
import { Fan } from './fan'
import { LogFiles } from './log-files'
import { EntryForm } from './entry-form'

// the chart weighs as much as the rest of the station: it comes when the reader does
const Trend = dynamic(() => importWithRetry(() => import('./trend').then((m) => m.Trend)), {
  ssr: false,
  loading: () => <div className="h-52 text-soft">Drawing…</div>,
})

const KindPriorNote = dynamic(() => importWithRetry(() => import('./kind-prior-note').then((m) => m.KindPriorNote)), {
  ssr: false,
})
const RecordingPanel = dynamic(
  () => importWithRetry(() => import('../recording/recording-panel').then((m) => m.RecordingPanel)),
  {
    ssr: false,
  },
)
const CanInside = dynamic(() => importWithRetry(() => import('./can-inside')), { ssr: false })
const Season = dynamic(() => importWithRetry(() => import('./season')), { ssr: false })
const TrackDay = dynamic(() => importWithRetry(() => import('./track-day').then((m) => m.TrackDayPanel)), {
  ssr: false,
})

export function LogStation() {
  return (
    <OfTheCar about="The log, the forecast and the reminder are of the plan on the car.">
      <OfCans />
      <div className="px-4 pb-4">
        <Later height={220}>
          <RecordingPanel />
        </Later>
      </div>
    </OfTheCar>
  )
}

function OfCans() {
  const parts = useWorkspace((s) => activeVariant(s.build).parts)
  const boxes = parts.flatMap((p) => (p.kind === 'can' ? [p] : []))
  const track = useWorkspace((s) => s.build.duty.hours.track > 0)
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
        {/* at the car the form comes first, and what each can holds after it */}
        <div className="flex flex-col gap-5 md:flex-col-reverse">
          <div className="space-y-3">
            <LastMended />
            <EntryForm />
          </div>
          <div className="space-y-5">
            {cans.map((c) => (
              <CanGauge key={c.part} can={c} />
            ))}
          </div>
        </div>
        {/* comes a moment later: below the form, which must not move under the hand */}
        {cans.length > 0 && <KindPriorNote />}
        {track && <TrackDay />}
        <LogFiles />
      </div>
      <div className="space-y-5">
        {cans.map((c) => (c.known ? <Fan key={c.part} can={c} /> : null))}
        {entries === 0 ? (
          <p className="text-soft">
            Nothing is logged yet. Note the odometer when the can is fitted and take the first look when it is asked
            for; every emptying after that narrows the forecast.
          </p>
        ) : (
          <Entries />
        )}
        {cans.map((c) =>
          c.history.length > 0 ? (
            <Later key={c.part} height={250}>
              <Trend can={c} />
            </Later>
          ) : null,
        )}
        <Later>
          <Season />
        </Later>
        {boxes.map((c) => (
          <Later key={c.id} height={260}>
            <CanInside can={c} />
          </Later>
        ))}
      </div>
    </div>
  )
}
