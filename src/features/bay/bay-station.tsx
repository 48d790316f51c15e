'use client'
/** The bay: what the tape tells, the can in its place, the lines led there, and whether its return drains. */
import dynamic from 'next/dynamic'
import { useState } from 'react'
import { SIDE_NAMES } from '@/plan/bay/drawing'
import { lowered } from '@/plan/document/words'
import { setBay } from '@/plan/bay/bay-builders'
import { spotIn, spotsAsked } from '@/plan/catalogue/bay-geometry'
import { bayFor, READY_BAYS, readyBay } from '@/plan/catalogue/bays'
import { activeVariant } from '@/plan/edit/edit'
import { Views } from '@/ui/views'
import { useWorkspace } from '../workspace/store'
import { BayPicture } from './bay-picture'
import { BestSpots } from './best-spots'
import { Mounts } from './mounts'
import { DrainPicture } from './drain-picture'
import { Lengths } from './lengths'
import { Standing } from './standing'
import { TapeSheet } from './tape-sheet'

/** A quarter of a megabyte that most visits do not need. */
const SpaceView = dynamic(() => import('./space-view'), {
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
  if (!bay) return <Start />
  const missing = spotsAsked(variant).some((a) => !spotIn(bay, a.id))
  const cans = variant.parts.flatMap((p) => (p.kind === 'can' && spotIn(bay, p.id) ? [p] : []))
  const separators = variant.parts.flatMap((p) => (p.kind === 'can' && p.drain === 'own' ? [p] : []))
  return (
    <div className="print-flow grid gap-x-5 gap-y-4 px-4 py-2 lg:grid-cols-[minmax(0,23rem)_minmax(0,1fr)]">
      <div className="min-w-0 space-y-4">
        {missing && <Start again />}
        <TapeSheet bay={bay} />
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

/** A bay to start from, by layout. */
function Start({ again }: { again?: boolean }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const suggested = bayFor(build.engine)
  return (
    <div className={again ? 'border-l-4 border-watch pl-2' : 'max-w-xl px-4 py-10'}>
      <h2 className={again ? 'text-sm' : 'text-lg'}>
        {again ? 'This plan has ends that the bay does not know yet' : 'The bay has not been measured yet'}
      </h2>
      <p className="mt-1 text-soft">
        {again
          ? 'Fill them in from a ready bay; what you have measured stays.'
          : 'Start from a ready bay of your layout; then every figure that you take with a tape replaces one of it. Lengths of hoses, clearances and how a return drains follow from it.'}
      </p>
      <div className="mt-2 flex flex-wrap gap-x-4">
        {READY_BAYS.map((r) => (
          <button
            key={r.key}
            type="button"
            className={`link-button ${r.key === suggested ? 'font-bold' : ''}`}
            onClick={() => act(setBay(readyBay(build, activeVariant(build), r.key)), `Bay: ${lowered(r.name)}`)}
          >
            {r.name}
          </button>
        ))}
      </div>
    </div>
  )
}
