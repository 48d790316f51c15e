'use client'
/** Ready bays to start from, each as a small picture from above; and the bay the other way round. */
import { useEffect, useRef, useState } from 'react'
import { replaceBuild } from '@/plan/bay/bay-builders'
import { mirroredBay, otherDrive, type TurnedBay } from '@/plan/bay/mirror'
import { BAY_LAYOUTS } from '@/plan/catalogue/bay-layouts'
import { bayFor, readyBay } from '@/plan/catalogue/bays'
import { pointOf } from '@/plan/catalogue/bay-geometry'
import { lowered } from '@/plan/document/words'
import type { Bay } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import type { Result } from '@/core/result'
import { useJob } from '../workspace/jobs/jobs'
import { useWorkspace } from '../workspace/store'
import { frameFor, isMarked, keepOutBox, place, byDepth } from './view'

/** A bay to start from, by layout: the plan is placed and led in it. */
export function Layouts({ again }: { again?: boolean }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const job = useJob('open')
  const asked = useRef<{ readonly build: unknown; readonly name: string } | undefined>(undefined)
  const { value, progress } = job
  useEffect(() => {
    // each answer is taken once, and only for the build that it was searched for
    if (!value || progress !== undefined || asked.current?.build !== build) return
    const { name } = asked.current
    asked.current = undefined
    act(() => value.edits, `Bay: ${lowered(name)}`)
  }, [value, progress, act, build])
  const suggested = bayFor(build.engine)
  return (
    <div className={again ? 'border-l-4 border-watch pl-2' : 'px-4 py-4'}>
      <h2 className={again ? 'text-sm' : 'text-lg'}>
        {again ? 'This plan has ends that the bay does not know yet' : 'The bay has not been measured yet'}
      </h2>
      <p className="mt-1 max-w-2xl text-soft">
        {again
          ? 'Fill them in from a ready bay; what you have measured stays.'
          : 'Start from the layout that is nearest: it holds an engine like yours and what stands round it, with this plan placed and its hoses led. Then every figure that you take with a tape replaces one of it.'}
      </p>
      {progress !== undefined && (
        <p role="status" className="mt-2">
          Placing the parts and leading the hoses, {Math.round(progress * 100)} %{' '}
          <button type="button" className="link-button" onClick={job.stop}>
            Stop
          </button>
        </p>
      )}
      {job.failed && <p className="text-fix">{job.failed}</p>}
      <div className={again ? 'mt-2 flex flex-wrap gap-x-4' : 'mt-4 flex flex-wrap gap-4'}>
        {BAY_LAYOUTS.map((r) => (
          <button
            key={r.key}
            type="button"
            disabled={progress !== undefined}
            className={
              again
                ? `link-button ${r.key === suggested ? 'font-bold' : ''}`
                : `w-[220px] border-[1.5px] p-2 text-left hover:border-blue ${r.key === suggested ? 'border-blue' : 'border-rule-strong'}`
            }
            onClick={() => {
              asked.current = { build, name: r.name }
              job.start(build, r.key)
            }}
          >
            {!again && <LayoutPicture bay={readyBay(build, activeVariant(build), r.key)} />}
            <span className={again ? '' : 'mt-1 block'}>{r.name}</span>
            {!again && r.key === suggested && <span className="block text-xs text-soft">suits this engine</span>}
          </button>
        ))}
      </div>
    </div>
  )
}

const [W, H] = [200, 150]

/** A bay from above, without names: the engine dark, heat hatched in rust, ports as dots. */
function LayoutPicture({ bay }: { bay: Bay }) {
  const corners = bay.keepOuts.flatMap((k) =>
    [-1, 1].map((s) => {
      const [x, y] = pointOf(k)
      return [x + (s * k.longMm) / 2000, y + (s * k.wideMm) / 2000] as const
    }),
  )
  const frame = frameFor(corners, W, H, 6)
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="w-full" aria-hidden>
      {bay.keepOuts.toSorted(byDepth('above')).map((k) => {
        const [x, y, w, h] = keepOutBox(frame, 'above', k)
        return (
          <rect
            key={k.id}
            x={x}
            y={y}
            width={w}
            height={h}
            rx={k.round && !k.lies ? w / 2 : 1.5}
            fill={k.kind === 'engine' ? 'var(--rule-strong)' : 'var(--well)'}
            fillOpacity={k.kind === 'engine' ? 0.6 : k.kind === 'panel' ? 0 : 1}
            stroke={k.kind === 'hot' ? 'var(--pressure)' : isMarked(k) ? 'var(--ink)' : 'var(--rule-strong)'}
            strokeDasharray={isMarked(k) ? '3 2' : undefined}
          />
        )
      })}
      {bay.spots.map((s) => {
        const [x, y] = place(frame, 'above', pointOf(s))
        return <circle key={s.id} cx={x} cy={y} r="2.2" fill="var(--sheet)" stroke="var(--ink)" />
      })}
    </svg>
  )
}

/** The same bay for the car with the other drive, or the mirrored body; what turns with it is listed. */
export function MirrorBay() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const refuse = useWorkspace((s) => s.refuse)
  const [says, setSays] = useState('')
  const turn = (turned: Result<TurnedBay>, name: string) => {
    if (!turned.ok) return refuse(turned.reason)
    if (act(replaceBuild(turned.value.build), name)) setSays(turned.value.says)
  }
  return (
    <p className="no-print flex flex-wrap items-baseline gap-x-4 text-soft">
      <button type="button" className="link-button" onClick={() => turn(mirroredBay(build), 'The bay mirrored')}>
        Mirror the whole bay
      </button>
      <button type="button" className="link-button" onClick={() => turn(otherDrive(build), 'Drive on the other side')}>
        Drive on the other side
      </button>
      <span role="status" className="min-w-0 basis-full text-xs">
        {says}
      </span>
    </p>
  )
}
