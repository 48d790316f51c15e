/** What a can catches by droplet size, stage by stage, in one state: the grade-efficiency curve, and what passes. */
import { NO_FLOW } from '../model/results'
import { airDensity, meanFreePath } from '@/core/gas/air'
import { oilDensity } from '@/core/gas/oil'
import { slipOn } from '@/core/separation/droplets'
import { SOUDERS_BROWN_OPEN, SOUDERS_BROWN_PAD, stageEfficiency } from '@/core/separation/stages'
import type { StateId } from '@/core/engine/states'
import type { PartOf } from '../document/schema'
import { isSolved, type SolvedState, type StateResult } from '../model/results'
import { stagesOf } from '../catalogue/stages'
import type { EngineModel } from '../model/engine'

export type Grade = {
  /** droplet diameter, m; share caught by each stage of what comes to it, and by all together */
  readonly points: readonly { readonly d: number; readonly stages: readonly number[]; readonly all: number }[]
  /** diameter of which half is caught by all together, m; undefined when more, or less, is caught of every size */
  readonly d50: number | undefined
}

const [FINEST, COARSEST, POINTS] = [0.1e-6, 40e-6, 48]

/**
 * Undefined where no gas passes the can in this state.
 *
 * @example
 * import { figuresOf } from '@/plan/model/figures'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { gradeOf } from '@/plan/studies/grade'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const worked = figuresOf(build)
 * const can = build.variants[0].parts.find((p) => p.kind === 'can')
 * console.log(gradeOf(can, worked.states.find((s) => s.id === 'idle'), worked.engine).d50) // 0.000003549469094481725
 */
export function gradeOf(can: PartOf<'can'>, s: SolvedState, { amb }: EngineModel): Grade | undefined {
  const flow = Math.abs(s.passages[can.id]?.flow ?? 0)
  if (flow < NO_FLOW || can.stages.length === 0) return undefined
  const pPa = amb.pressurePa + (s.gauge[`${can.id}.in`] ?? 0)
  // the gas as the state itself carries its oil by
  const tK = Math.max(s.operating.bonnetK, s.operating.gasK)
  const carrier = { flow: flow / airDensity(pPa, tK), pPa, tK, oilDensity: oilDensity(s.operating.oilK) }
  const efficiencies = stagesOf(can).map((stage) => stageEfficiency(stage, carrier))
  const points = Array.from({ length: POINTS }, (_, i) => {
    const d = FINEST * (COARSEST / FINEST) ** (i / (POINTS - 1))
    const cc = slipOn(meanFreePath(pPa, tK), d)
    const stages = efficiencies.map((e) => Math.min(1, Math.max(0, e(d, cc))))
    return { d, stages, all: 1 - stages.reduce((pass, e) => pass * (1 - e), 1) }
  })
  const half = points.findIndex((p) => p.all >= 0.5)
  return { points, d50: half > 0 ? points[half]!.d : undefined }
}

export type Lift = {
  /** gas up the can's section, m/s, and the velocity above which it tears caught oil off again */
  readonly states: readonly { readonly id: StateId; readonly velocity: number; readonly limit: number }[]
  /** inside diameter at which the worst state just tears nothing off, m */
  readonly leastDiameterM: number
  readonly diameterM: number
}

/** Whether gas carries caught oil on: Souders & Brown (1934), as the separation itself has it. Undefined where no gas passes. */
export function liftOf(can: PartOf<'can'>, states: readonly StateResult[], { amb }: EngineModel): Lift | undefined {
  const k = can.packed ? SOUDERS_BROWN_PAD : SOUDERS_BROWN_OPEN
  const rows = states.filter(isSolved).flatMap((s) => {
    const c = s.cans[can.id]
    if (!c || !(c.faceVelocity > 0)) return []
    const gas = airDensity(
      amb.pressurePa + (s.gauge[`${can.id}.in`] ?? 0),
      Math.max(s.operating.bonnetK, s.operating.gasK),
    )
    return [{ id: s.id, velocity: c.faceVelocity, limit: k * Math.sqrt((oilDensity(s.operating.oilK) - gas) / gas) }]
  })
  if (rows.length === 0) return undefined
  const worst = rows.reduce((most, s) => Math.max(most, s.velocity / s.limit), 0)
  const diameterM = 2 * Math.sqrt((can.faceCm2 * 1e-4) / Math.PI)
  return { states: rows, leastDiameterM: diameterM * Math.sqrt(worst), diameterM }
}
