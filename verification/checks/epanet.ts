import { solveNetwork } from '../../src/core/network/solve'
import { checks, type Check } from '../check'
import { openEpanet, sixUnknowns } from '../epanet'

/** A six-unknown circuit against epanet-js, a general-purpose pipe-network engine, where gas is as good as incompressible. */
export async function epanetChecks(): Promise<Check[]> {
  const p = sixUnknowns()
  const ours = solveNetwork(p.network)
  if (!ours.ok) throw new Error(ours.reason)
  const theirs = await openEpanet(p)
  theirs.solve()
  const source = 'epanet-js (EPANET 2.2, US EPA), held incompressible; it takes Swamee-Jain for Colebrook'
  const free = Object.keys(p.network.nodes).filter((id) => p.network.nodes[id]!.p === undefined)
  const all = [
    ...checks(
      'Network',
      source,
      0.005,
      free.map((id) => ({
        what: `pressure above the sink at ${id}`,
        unit: 'Pa',
        expected: theirs.pressure(id) - p.network.nodes.sink!.p!,
        got: ours.value.pressure[id]! - p.network.nodes.sink!.p!,
      })),
    ),
    // the small flow that is left over between two large ones is told to a hundredth of those
    ...checks(
      'Network',
      source,
      0.005,
      p.network.elements.map((e) => {
        const m = theirs.flow(e.id)
        return {
          what: `flow ${e.id}`,
          unit: 'kg/s',
          expected: Math.abs(m) > 5e-4 ? m : ([m - 5e-5, m + 5e-5] as const),
          got: ours.value.flow[e.id]!,
        }
      }),
    ),
  ]
  theirs.close()
  return all
}
