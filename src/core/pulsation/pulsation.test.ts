import type { Element } from '../network/elements'
import { makeHose } from '../network/hose'
import { crankcaseVolume, volumeRange, type Space } from './crankcase'
import { stepper } from './integrate'
import { solveNetwork } from '../network/solve'
import { pulsate } from './pulsation'
import { pulseSystem, type PulseNetwork } from './system'

const gas = { R: 287.05, gamma: 1.4, T: 350 }
const P0 = 101325
const cylinder = { boreM: 0.096, strokeM: 0.062, rodM: 0.1, compression: 12 }
const rpm = 6000
const omega = (rpm * Math.PI) / 30

function run(
  nodes: PulseNetwork['network']['nodes'],
  elements: Element[],
  pumped: PulseNetwork['pumped'],
  volumes: Record<string, number> = {},
) {
  const job = pulsate({ network: { gas, nodes, elements }, volumes, pumped, index: 1.4 }, rpm)
  for (;;) {
    const s = job.next()
    if (s.done) {
      if (!s.value.ok) throw new Error(s.value.reason)
      return s.value.value
    }
  }
}
const single = (meanM3: number) => {
  const at = crankcaseVolume({ cylinder, phases: [0], meanM3 })
  return (t: number, out: Space) => {
    at(omega * t, out)
    out.slope *= omega
  }
}

test('under the piston the crankcase loses what the cylinder gains', () => {
  const range = volumeRange({ cylinder, phases: [0], meanM3: 2e-3 })
  expect(range.most - range.least).toBeCloseTo(((Math.PI * 0.096 ** 2) / 4) * 0.062, 9)
  // two pistons that rise together swing twice as much; opposed by half a turn only the rods' tilt is left
  const swing = (phases: number[]) => {
    const r = volumeRange({ cylinder, phases, meanM3: 2e-3 })
    return r.most - r.least
  }
  expect(swing([0, 0]) / swing([0])).toBeCloseTo(2, 6)
  expect(swing([0, Math.PI]) / swing([0])).toBeLessThan(0.2)
  expect(swing([0, Math.PI / 2]) / swing([0])).toBeCloseTo(Math.SQRT2, 1)
})

test('closed form: sealed, p V^n stays what it was', () => {
  const range = volumeRange({ cylinder, phases: [0], meanM3: 2e-3 })
  const got = run({ c: {} }, [], { node: 'c', at: single(2e-3) })
  expect(got.peak / got.least).toBeCloseTo((range.most / range.least) ** 1.4, 3)
  expect(got.pressure[0]).toBeCloseTo(P0, 0)
})

test('closed form: open pipe, a resonator driven by a small volume swing', () => {
  // amplitude g p0 (dV/V) / |1 - (w0/w)^2|, w0^2 = g R T A / (V L): Kinsler et al., Fundamentals of Acoustics, Helmholtz resonator
  const V = 4e-4
  const swing = 4e-7
  for (const lengthM of [0.04, 1.2]) {
    const bore = 0.012
    const effective = lengthM + 0.8 * bore
    const w0 = Math.sqrt((1.4 * 287.05 * 350 * Math.PI * bore * bore) / 4 / (V * effective))
    const pipe = makeHose('pipe', 'c', 'out', { boreM: bore, lengthM, k: 0 })
    const got = run({ c: {}, out: { p: P0 } }, [pipe], {
      node: 'c',
      at: (t, out) => {
        out.volume = V + swing * Math.sin(omega * t)
        out.slope = swing * omega * Math.cos(omega * t)
      },
    })
    expect((got.peak - got.least) / 2 / ((1.4 * P0 * swing) / V / Math.abs(1 - (w0 / omega) ** 2))).toBeCloseTo(1, 1)
  }
})

test('closed form: a fixed orifice takes a steady source at the pressure of the nozzle law, swing or none', () => {
  const hole: Element = { kind: 'orifice', id: 'hole', from: 'c', to: 'out', cd: 0.6, areaM2: 5e-6 }
  const still = run({ c: { source: 2e-4 }, out: { p: P0 } }, [hole], {
    node: 'c',
    at: (_, out) => {
      out.volume = 2e-3
      out.slope = 0
    },
  })
  const dp = still.mean - P0
  // incompressible to 1 %: m = cd A sqrt(2 rho dp)
  expect((0.6 * 5e-6 * Math.sqrt(((2 * P0) / (287.05 * 350)) * dp)) / 2e-4).toBeCloseTo(1, 1)
  expect(still.peak - still.least).toBeLessThan(1)
  const pumped = run({ c: { source: 2e-4 }, out: { p: P0 } }, [hole], { node: 'c', at: single(2e-3) })
  const through = pumped.flows.hole!
  expect(through.onwards - through.backwards).toBeCloseTo(2e-4, 6)
})

test('closed form: a choked leak empties a vessel as an exponential', () => {
  // V dp/dt = -n R T K p with the far side far below: p = p0 exp(-n R T K t/V)
  const K = 1e-9
  const y = Float64Array.of(5e5)
  const rate = (1.4 * 287.05 * 350 * K) / 2e-3
  const step = stepper(
    (_, s, f, J) => {
      f[0] = -rate * s[0]!
      J[0] = -rate
    },
    1,
    Float64Array.of(1e-9),
  )
  for (let i = 0; i < 100; i++) expect(step(i * 0.1, 0.1, y)).toBe(true)
  expect(y[0]! / (5e5 * Math.exp(-rate * 10))).toBeCloseTo(1, 5)
})

test('a check valve at the breather holds the crankcase below the surroundings; stuck open it does not', () => {
  const valve = (kind: 'check' | 'orifice'): Element =>
    kind === 'check'
      ? { kind, id: 'v', from: 'c', to: 'out', cd: 0.6, areaM2: 1.5e-4, crackPa: 100 }
      : { kind, id: 'v', from: 'c', to: 'out', cd: 0.6, areaM2: 1.5e-4 }
  const checked = run({ c: { source: 3e-4 }, out: { p: P0 } }, [valve('check')], { node: 'c', at: single(2e-3) })
  const open = run({ c: { source: 3e-4 }, out: { p: P0 } }, [valve('orifice')], { node: 'c', at: single(2e-3) })
  expect(checked.mean).toBeLessThan(P0 - 3000)
  expect(checked.flows.v!.backwards).toBeLessThan(1e-9)
  expect(checked.flows.v!.onwards).toBeCloseTo(3e-4, 6)
  expect(open.mean).toBeGreaterThan(checked.mean + 3000)
  expect(open.flows.v!.backwards).toBeGreaterThan(1e-3)
})

test('a phase later the same volume, and two joints of one space have the mean that a hand would take', () => {
  const early = { volume: 0, slope: 0 }
  const late = { volume: 0, slope: 0 }
  const phase = Math.PI / 3
  const [at, shifted] = [[0], [phase]].map((phases) => crankcaseVolume({ cylinder, phases, meanM3: 2e-3 }))
  for (const theta of [0, 0.4, 1.7, 3, 5]) {
    at!(theta, early)
    shifted!(theta + phase, late)
    expect(late.volume).toBeCloseTo(early.volume, 12)
    expect(late.slope).toBeCloseTo(early.slope, 12)
  }
  const sealed = run({ c: {} }, [], { node: 'c', at: single(2e-3) })
  const mean = sealed.pressure.reduce((sum, p) => sum + p, 0) / sealed.pressure.length
  expect(sealed.mean / mean).toBeCloseTo(1, 9)
  expect(sealed.means.c! / mean).toBeCloseTo(1, 9)
})

test('gas in a hose is slowed by what it loses, whichever way it goes, and at rest where the drop is that of its flow', () => {
  const hose = makeHose('h', 'c', 'out', { boreM: 0.02, lengthM: 1, k: 1.5 })
  const system = pulseSystem({
    network: { gas, nodes: { c: {}, out: { p: P0 } }, elements: [hose] },
    volumes: { c: 5e-3 },
    index: 1.4,
  })
  const [node, row] = [system.nodeRow.get('c')!, system.hoseRow.get('h')!]
  const slopeAt = (pPa: number, m: number) => {
    const y = new Float64Array(system.size)
    y[node] = pPa
    y[row] = m
    const f = new Float64Array(system.size)
    system.slope(0, y, f, new Float64Array(system.size * system.size))
    return f[row]!
  }
  expect(slopeAt(P0, 5e-3)).toBeLessThan(0)
  expect(slopeAt(P0, -5e-3)).toBeGreaterThan(0)
  for (const dp of [2000, -2000]) {
    const s = solveNetwork({ gas, nodes: { c: { p: P0 + dp }, out: { p: P0 } }, elements: [hose] })
    if (!s.ok) throw new Error(s.reason)
    // beside what the drop alone would make of it
    expect(Math.abs(slopeAt(P0 + dp, s.value.flow.h!) / slopeAt(P0 + dp, 0))).toBeLessThan(0.02)
  }
})

test('progress begins low and comes near the end before the answer does', () => {
  const pipe = makeHose('pipe', 'c', 'out', { boreM: 0.012, lengthM: 0.8, k: 1.5 })
  const job = pulsate(
    {
      network: { gas, nodes: { c: { source: 1e-3 }, out: { p: P0 } }, elements: [pipe] },
      volumes: {},
      pumped: { node: 'c', at: single(2e-3) },
      index: 1.4,
    },
    rpm,
  )
  const shares: number[] = []
  for (let s = job.next(); !s.done; s = job.next()) shares.push(s.value)
  expect(shares.length).toBeGreaterThan(3)
  expect(shares[0]).toBeLessThan(0.2)
  expect(shares.at(-1)).toBeGreaterThan(0.5)
  for (const share of shares) expect(share > 0 && share <= 0.95).toBe(true)
})
