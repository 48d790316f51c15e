/** Against epanet-js (the EPANET 2.2 engine, US EPA), a general-purpose pipe-network solver, where gas is as good as incompressible. */
import { solveNetwork } from '../src/core/network/solve'
import { openEpanet, sixUnknowns } from './epanet'

test('pressures and flows of a six-unknown circuit agree with epanet-js within 1 %', async () => {
  const p = sixUnknowns()
  const ours = solveNetwork(p.network)
  if (!ours.ok) throw new Error(ours.reason)
  const theirs = await openEpanet(p)
  theirs.solve()
  // EPANET takes Swamee-Jain's friction for Colebrook's: up to 1 % in drop, and we let density follow pressure
  for (const id of Object.keys(p.network.nodes)) expect(Math.abs(ours.value.pressure[id]! - theirs.pressure(id))).toBeLessThan(0.01 * 800)
  for (const e of p.network.elements) expect(Math.abs(ours.value.flow[e.id]! - theirs.flow(e.id))).toBeLessThan(0.01 * 5e-3)
  theirs.close()
})
