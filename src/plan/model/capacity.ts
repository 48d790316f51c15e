/** What a circuit could carry away before the crankcase rises too high for its seals. */
import { solveNetwork } from '@/core/network/solve'
import type { Network } from '@/core/network/elements'
import { netInflow } from './network'

/**
 * Flow in kg/s that leaves the crankcase when it stands at `absolutePa`: blow-by up to this keeps it there or below. Zero when the circuit
 * would rather push gas in; undefined when it does not solve.
 * @param crankcase its node in `network`
 */
export function capacityAt(network: Network, crankcase: string, absolutePa: number): number | undefined {
  const held: Network = { ...network, nodes: { ...network.nodes, [crankcase]: { p: absolutePa } } }
  const solved = solveNetwork(held)
  if (!solved.ok) return undefined
  return Math.max(0, -netInflow(network, solved.value.flow, new Set([crankcase])))
}
