/** What a can catches by droplet size, stage by stage, in one state: the grade-efficiency curve, and what passes. */
import { meanFreePath } from '@/core/gas/air'
import { oilDensity } from '@/core/gas/oil'
import { slipOn } from '@/core/separation/droplets'
import { stageEfficiency } from '@/core/separation/stages'
import type { PartOf } from '../document/schema'
import type { SolvedState } from '../model/results'
import { stageOf } from '../model/stages'
import type { EngineModel } from '../model/engine'

export type Grade = {
  /** droplet diameter, m; share caught by each stage of what comes to it, and by all together */
  readonly points: readonly { readonly d: number; readonly stages: readonly number[]; readonly all: number }[]
  /** diameter of which half is caught by all together, m; undefined when more, or less, is caught of every size */
  readonly d50: number | undefined
}

const [FINEST, COARSEST, POINTS] = [0.1e-6, 40e-6, 48]

/** Undefined where no gas passes the can in this state. */
export function gradeOf(can: PartOf<'can'>, s: SolvedState, { amb }: EngineModel): Grade | undefined {
  const flow = Math.abs(s.passages[can.id]?.flow ?? 0)
  if (flow < 1e-7 || can.stages.length === 0) return undefined
  const pPa = amb.pressurePa + (s.gauge[`${can.id}.in`] ?? 0)
  const tK = s.cans[can.id]?.outK ?? s.operating.gasK
  const carrier = { flow, pPa, tK, oilDensity: oilDensity(tK) }
  const efficiencies = can.stages.map((spec) => stageEfficiency(stageOf(spec), carrier))
  const points = Array.from({ length: POINTS }, (_, i) => {
    const d = FINEST * (COARSEST / FINEST) ** (i / (POINTS - 1))
    const cc = slipOn(meanFreePath(pPa, tK), d)
    const stages = efficiencies.map((e) => Math.min(1, Math.max(0, e(d, cc))))
    return { d, stages, all: 1 - stages.reduce((pass, e) => pass * (1 - e), 1) }
  })
  const half = points.findIndex((p) => p.all >= 0.5)
  return { points, d50: half > 0 ? points[half]!.d : undefined }
}
