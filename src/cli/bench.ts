/** ./ivent bench: speed as ratios in one run, since machines are noisy. */
import { sixUnknowns, openEpanet } from '../../verification/epanet'
import { solveNetwork } from '@/core/network/solve'
import { analyse, figuresOf } from '@/plan/analyse'
import { engineMap, finish } from '@/plan/map'
import { newBuild } from '@/plan/new-build'
import { pulse } from '@/plan/pulsation'
import { ranges } from '@/plan/ranges'
import { validateBuild } from '@/plan/document/validate'

/** Median milliseconds of one call, over rounds that interleave the contestants. */
function contest(calls: Readonly<Record<string, () => unknown>>, rounds = 40, each = 10): Record<string, number> {
  const times: Record<string, number[]> = Object.fromEntries(Object.keys(calls).map((k) => [k, []]))
  for (let r = 0; r < rounds; r++) {
    for (const [name, call] of Object.entries(calls)) {
      const start = performance.now()
      for (let i = 0; i < each; i++) call()
      times[name]!.push((performance.now() - start) / each)
    }
  }
  return Object.fromEntries(Object.entries(times).map(([k, v]) => [k, v.toSorted((a, b) => a - b)[v.length >> 1]!]))
}

async function bench(): Promise<void> {
  const circuit = sixUnknowns()
  const epanet = await openEpanet(circuit)
  const single = newBuild({ name: 'Bench', engineClass: 'single', use: 'street', ambientC: 10, units: 'metric' })
  const build = newBuild({ name: 'Bench', engineClass: 'i5-turbo', use: 'street-track', ambientC: 10, units: 'metric' })
  const rounds = { 'engine map, 32 x 32': () => finish(engineMap(build)), 'ranges, 1 000 draws': () => finish(ranges(build)), 'pulsation, one state of a single': () => finish(pulse(single, 'pull')) }
  const t = contest({
    'epanet-js, six unknowns': () => epanet.solve(),
    'one solve, six unknowns, cold': () => solveNetwork(circuit.network),
    'figures of six states': () => figuresOf(build, '2026-01-01'),
    'analysis of six states with verdicts': () => analyse(build, '2026-01-01'),
    'validating a build': () => validateBuild(build),
  })
  // long jobs: cold as a page first asks for them, and the median of some more
  const long = Object.entries(rounds).map(([name, job]) => {
    const times = Array.from({ length: 5 }, () => { const start = performance.now(); job(); return performance.now() - start })
    return { name, first: times[0]!, ms: times.toSorted((a, b) => a - b)[2]! }
  })
  epanet.close()
  const base = t['epanet-js, six unknowns']!
  console.log(`${'what'.padEnd(40)} ${'ms'.padStart(9)} ${'x epanet-js'.padStart(12)}`)
  for (const [name, ms] of Object.entries(t)) console.log(`${name.padEnd(40)} ${ms.toFixed(3).padStart(9)} ${(ms / base).toFixed(2).padStart(12)}`)
  for (const l of long) console.log(`${l.name.padEnd(40)} ${l.ms.toFixed(0).padStart(9)} ${(l.ms / base).toFixed(0).padStart(12)}   first ${l.first.toFixed(0)} ms`)
  const checks: [string, boolean][] = [
    ['the map under 300 ms', long[0]!.ms < 300],
    ['ranges of 1 000 draws under 1 500 ms', long[1]!.ms < 1500],
    ['one solve no slower than epanet-js', t['one solve, six unknowns, cold']! <= base],
    ['a full analysis of six states under 5 ms', t['analysis of six states with verdicts']! < 5],
  ]
  for (const [what, met] of checks) console.log(`${met ? 'met    ' : 'NOT MET'} ${what}`)
}

void bench()
