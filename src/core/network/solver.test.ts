/** A joint held for a while beside the same network with that joint held for good; networks taken over beside those made anew. */
import type { Element, Network } from './elements'
import { solveNetwork } from './solve'
import { makeSolver } from './solver'

const GAS = { R: 287.05, gamma: 1.4, T: 353.15 }
const P0 = 101_325
const orifice = (id: string, from: string, to: string, mm2: number): Element => ({
  kind: 'orifice',
  id,
  from,
  to,
  cd: 0.62,
  areaM2: mm2 * 1e-6,
})
/** Blow-by into the crankcase; out to the intake and to the manifold, by lines drawn either way. */
const network = (crankcase: Network['nodes'][string], blowBy = 1.5e-3): Network => ({
  gas: GAS,
  nodes: { cover: { source: blowBy }, intake: { p: P0 - 500 }, manifold: { p: P0 - 30_000 }, crankcase },
  elements: [
    orifice('drain', 'cover', 'crankcase', 300),
    orifice('breather', 'crankcase', 'intake', 80),
    orifice('valve', 'manifold', 'crankcase', 3),
  ],
})

test.each([P0 + 2000, P0 - 400, P0 - 8000])('held at %d Pa a joint is left by what its lines carry away', (pPa) => {
  const made = makeSolver(network({}), { pin: 'crankcase' })
  if (!made.ok) throw new Error(made.reason)
  const left = made.value.leavingAt(pPa)
  const held = solveNetwork(network({ p: pPa }))
  if (!left.ok || !held.ok) throw new Error('no answer')
  const { drain, breather, valve } = held.value.flow
  expect(left.value).toBeCloseTo(breather! - drain! - valve!, 8)
  // what comes by the drain is all that is made
  expect(left.value).toBeCloseTo(breather! - 1.5e-3 - valve!, 8)
})

test('at the pressure that it finds by itself nothing is left over; a joint that was not pinned, or a pressure that is none, is refused', () => {
  const free = solveNetwork(network({}))
  const made = makeSolver(network({}), { pin: 'crankcase' })
  if (!made.ok || !free.ok) throw new Error('no answer')
  const left = made.value.leavingAt(free.value.pressure.crankcase!)
  expect(left.ok ? left.value : left.reason).toBeCloseTo(0, 8)
  expect(made.value.leavingAt(Number.NaN).ok).toBe(false)
  expect(made.value.leavingAt(P0).ok).toBe(true)
  const unpinned = makeSolver(network({}))
  if (!unpinned.ok) throw new Error(unpinned.reason)
  expect(unpinned.value.leavingAt(P0).ok).toBe(false)
})

test('a network of the same shape is taken over, with its own gas entering, sizes and pressures', () => {
  const made = makeSolver(network({}))
  if (!made.ok) throw new Error(made.reason)
  made.value.solve()
  const next = network({}, 3e-3)
  const other: Network = {
    ...next,
    nodes: { ...next.nodes, intake: { p: P0 - 2000 } },
    elements: next.elements.map((e) => (e.id === 'breather' ? orifice('breather', 'crankcase', 'intake', 60) : e)),
  }
  expect(made.value.retune(other)).toBe(true)
  const [again, anew] = [made.value.solve(), solveNetwork(other)]
  if (!again.ok || !anew.ok) throw new Error('no answer')
  const at = Object.keys(other.nodes).indexOf('crankcase')
  const index = made.value.ids.indexOf('crankcase')
  expect(at).toBeGreaterThan(0)
  expect(made.value.pressures()[index]).toBeCloseTo(anew.value.pressure.crankcase!, 2)
  // another shape is not
  expect(made.value.retune({ ...other, elements: other.elements.slice(1) })).toBe(false)
})

test.each([500, 0, -2000])('with the intake %d Pa below the surroundings it takes a few steps of Newton', (below) => {
  const at = network({})
  const solved = solveNetwork({ ...at, nodes: { ...at.nodes, intake: { p: P0 - below } } })
  if (!solved.ok) throw new Error(solved.reason)
  // followed in time until it rests, the same takes more than fifty
  expect(solved.value.iterations).toBeLessThan(13)
  expect(solved.value.residual).toBeLessThan(1e-10)
})
