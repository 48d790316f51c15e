'use client'
/** A plan's schematic, small and without labels: enough to see where its cans stand and which way its hoses go. */
import { memo, useMemo } from 'react'
import type { Build } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { EnginePicture } from '../circuit/engine-picture'
import { roundedPath, schematicLayout, VIEW } from '../circuit/layout'
import { PartMark } from '../circuit/part-mark'

/** Drawn anew for another plan alone: progress is reported twenty times a second beside it. */
export const PlanThumbnail = memo(function PlanThumbnail({ build, label }: { build: Build; label: string }) {
  const plan = activeVariant(build)
  const layout = useMemo(() => schematicLayout(plan, build.engine), [plan, build.engine])
  return (
    <svg
      viewBox={`0 ${layout.top} ${VIEW.width} ${VIEW.height - layout.top}`}
      role="img"
      aria-label={label}
      className="h-full w-full"
    >
      <EnginePicture engine={build.engine} />
      {layout.joins.map((j) => (
        <path key={j.id} d={roundedPath(j.points)} fill="none" stroke="var(--ink)" strokeWidth="6" />
      ))}
      {layout.runs.map(({ line, points }) => (
        <path
          key={line.id}
          d={roundedPath(points)}
          fill="none"
          stroke={line.kind === 'drain' ? 'var(--oil-laden)' : 'var(--ink)'}
          strokeWidth={line.kind === 'drain' ? 4 : 6}
          strokeDasharray={line.kind === 'drain' ? '2 6' : undefined}
          strokeLinecap="round"
        />
      ))}
      {layout.parts.map((p) => (
        <PartMark key={p.part.id} placed={p} />
      ))}
    </svg>
  )
})
