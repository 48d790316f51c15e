import type { CSSProperties } from 'react'
import type { Passage } from '@/plan/model/results'
import { pace } from './look'

/** Dashes that run along a way as fast as its gas, in its direction. */
export function RunningGas({ d, passage }: { d: string; passage: Passage }) {
  return (
    <path
      d={d}
      fill="none"
      stroke="var(--sheet)"
      strokeWidth="1.8"
      strokeDasharray="4 8"
      className="runs"
      style={{ '--pace': pace(passage), animationDirection: passage.flow > 0 ? 'normal' : 'reverse' } as CSSProperties}
    />
  )
}
