/** The gas alone in one state, for trying out what a change would do: no oil, no water, a third of the time. */
import type { OperatingState } from '@/core/engine/states'
import { solveNetwork } from '@/core/network/solve'
import { isBoundary } from '../document/kinds'
import type { Variant } from '../document/schema'
import type { EngineModel } from './engine'
import type { Evaluator } from './evaluator'
import { LIMITS } from './limits'
import { netInflow } from './network'
import { crankcaseNode, nodeOfPart } from './resolve'
import type { GasResult } from './results'

/** @returns undefined where there is no crankcase, no answer, or seals would let go */
export function solveGas(
  variant: Variant,
  engine: EngineModel,
  operating: OperatingState,
  { resolve, networkOf, blowByIn, solverCache }: Evaluator,
): GasResult | undefined {
  const r = resolve(variant)
  const crankcase = crankcaseNode(r)
  if (crankcase === undefined) return undefined
  const network = networkOf(r, operating, engine.amb, blowByIn(engine, operating))
  const solved = solveNetwork(network, undefined, solverCache)
  if (!solved.ok) return undefined
  const { pressure, flow } = solved.value
  const crankcaseGauge = pressure[crankcase]! - engine.amb.pressurePa
  if (crankcaseGauge > LIMITS.sealsLetGo) return undefined
  const into: Record<string, { gas: number }> = {}
  for (const part of variant.parts) {
    const node = isBoundary(part.kind) ? nodeOfPart(r, part) : undefined
    if (node !== undefined) into[part.id] = { gas: netInflow(network, flow, new Set([node])) }
  }
  return { operating, crankcaseGauge, flow, into }
}
