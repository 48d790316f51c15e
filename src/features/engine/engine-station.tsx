'use client'
import { useState } from 'react'
import { pulsates } from '@/plan/model/engine'
import { Tabs } from '@/ui/tabs'
import { useFollowingJob } from '../workspace/jobs/jobs'
import { shownBuild, useWorkspace } from '../workspace/store'
import { Breathing } from './breathing'
import { Facts } from './facts'
import { MapPicture } from './map-picture'
import { Narrow } from './narrow'
import { PulsePanel } from './pulse-panel'
import { StatesTable } from './states-table'

export function EngineStation() {
  const build = useWorkspace(shownBuild)
  const ranges = useFollowingJob('ranges', build)
  const map = useFollowingJob('map', build)
  const [tab, setTab] = useState<'map' | 'narrow' | 'states' | 'pulse'>('map')
  const single = pulsates(build.engine)
  return (
    <div className="print-flow grid grid-cols-[minmax(0,1fr)] gap-6 px-4 py-3 md:grid-cols-[minmax(0,4fr)_minmax(0,7fr)]">
      <Facts />
      <div className="space-y-2 md:sticky md:top-3 md:self-start">
        <Breathing ranges={ranges} />
        <Tabs
          label="More of the engine"
          value={tab === 'pulse' && !single ? 'map' : tab}
          onChange={setTab}
          tabs={[
            { key: 'map', name: 'Whole map', content: <MapPicture map={map} /> },
            { key: 'narrow', name: 'What to measure', content: <Narrow ranges={ranges} onStop={ranges.stop} /> },
            { key: 'states', name: 'What each state is', content: <StatesTable /> },
            ...(single ? [{ key: 'pulse', name: 'Pulsation', content: <PulsePanel /> } as const] : []),
          ]}
        />
      </div>
    </div>
  )
}
