'use client'
/** The bay: what the tape tells, the can in its place, the lines led there, and whether its return drains. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useState } from 'react'
import { SIDE_NAMES } from '@/plan/bay/drawing'
import { sitsOnEngine } from '@/plan/bay/place'
import { spotIn, spotsAsked } from '@/plan/catalogue/bay-geometry'
import { activeVariant } from '@/plan/edit/edit'
import { Views } from '@/ui/views'
import { useWorkspace } from '../workspace/store'
import { BayPicture } from './bay-picture'
import { BestSpots } from './best-spots'
import { Mounts } from './mounts'
import { DrainPicture } from './drain-picture'
import { Layouts, MirrorBay } from './layouts'
import { Lengths } from './lengths'
import { Standing } from './standing'
import { TapeSheet } from './tape-sheet'

/** A quarter of a megabyte that most visits do not need. */
const SpaceView = dynamic(() => importWithRetry(() => import('./space-view')), {
  ssr: false,
  loading: () => <p className="text-soft">Fetching the view in space…</p>,
})
const VIEWS = { above: SIDE_NAMES.above, front: SIDE_NAMES.front, space: 'In space' } as const
type View = keyof typeof VIEWS

export function BayStation() {
  const build = useWorkspace((s) => s.build)
  const { bay } = build
  const [view, setView] = useState<View>('above')
  const variant = activeVariant(build)
  if (!bay) return <Layouts />
  const missing = spotsAsked(variant).some((a) => !spotIn(bay, a.id))
  const cans = variant.parts.flatMap((p) => (p.kind === 'can' && !sitsOnEngine(variant, p.id) ? [p] : []))
  const separators = variant.parts.flatMap((p) => (p.kind === 'can' && p.drain === 'own' ? [p] : []))
  return (
    <div className="print-flow grid gap-x-5 gap-y-4 px-4 py-2 lg:grid-cols-[minmax(0,21.5rem)_minmax(0,1fr)]">
      <div className="min-w-0 space-y-4">
        {missing && <Layouts again />}
        <TapeSheet bay={bay} />
        <MirrorBay />
      </div>
      <div className="min-w-0 space-y-3">
        <div className="grid gap-4 md:grid-cols-2">
          <BayPicture side="left" bay={bay} />
          <div className="min-w-0">
            {view === 'space' ? <SpaceView bay={bay} /> : <BayPicture side={view} bay={bay} />}
            <Views label="The second picture" value={view} options={VIEWS} onChange={setView} />
          </div>
        </div>
        {separators.map((can) => (
          <DrainPicture key={can.id} can={can} />
        ))}
        {cans.map((can) => (
          <BestSpots key={can.id} can={can} />
        ))}
        <Lengths bay={bay} />
        <Standing keepOuts={bay.keepOuts} bonnet={bay.bonnet} />
        <Mounts mounts={bay.mounts} />
      </div>
    </div>
  )
}
