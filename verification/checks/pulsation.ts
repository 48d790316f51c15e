import { crankcaseVolume, volumeRange } from '../../src/core/pulsation/crankcase'
import { pulsate } from '../../src/core/pulsation/pulsation'
import type { PulseNetwork } from '../../src/core/pulsation/system'
import { makeHose } from '../../src/core/network/hose'
import { finish } from '../../src/core/job'
import { checks } from '../check'

const [P0, rpm] = [101325, 6000]
const omega = (rpm * Math.PI) / 30
const gas = { R: 287.05, gamma: 1.4, T: 350 }
function run(network: Omit<PulseNetwork['network'], 'gas'>, pumped: PulseNetwork['pumped']) {
  const got = finish(pulsate({ network: { gas, ...network }, volumes: {}, pumped, index: 1.4 }, rpm))
  if (!got.ok) throw new Error(got.reason)
  return got.value
}

export function pulsationChecks() {
  const pumping = { cylinder: { boreM: 0.096, strokeM: 0.062, rodM: 0.1, compression: 12 }, phases: [0], meanM3: 2e-3 }
  const range = volumeRange(pumping)
  const turned = crankcaseVolume(pumping)
  const sealed = run(
    { nodes: { c: {} }, elements: [] },
    {
      node: 'c',
      at: (t, out) => {
        turned(omega * t, out)
        out.slope *= omega
      },
    },
  )
  const [V, swing, bore] = [4e-4, 4e-7, 0.012]
  const pipe = (lengthM: number) => {
    const w0 = Math.sqrt((1.4 * gas.R * gas.T * Math.PI * bore * bore) / 4 / (V * (lengthM + 0.8 * bore)))
    const got = run(
      { nodes: { c: {}, out: { p: P0 } }, elements: [makeHose('pipe', 'c', 'out', { boreM: bore, lengthM })] },
      {
        node: 'c',
        at: (t, out) => {
          out.volume = V + swing * Math.sin(omega * t)
          out.slope = swing * omega * Math.cos(omega * t)
        },
      },
    )
    return { expected: (1.4 * P0 * swing) / V / Math.abs(1 - (w0 / omega) ** 2), got: (got.peak - got.least) / 2 }
  }
  const hole = run(
    {
      nodes: { c: { source: 2e-4 }, out: { p: P0 } },
      elements: [{ kind: 'orifice', id: 'h', from: 'c', to: 'out', cd: 0.6, areaM2: 5e-6 }],
    },
    {
      node: 'c',
      at: (_, out) => {
        out.volume = 2e-3
        out.slope = 0
      },
    },
  )
  const rho = P0 / (gas.R * gas.T)
  return [
    ...checks('Pulsation', 'closed form: sealed gas keeps p V^n', 0.001, [
      {
        what: 'highest over lowest pressure of a sealed single',
        expected: (range.most / range.least) ** 1.4,
        got: sealed.peak / sealed.least,
      },
    ]),
    ...checks(
      'Pulsation',
      'Kinsler et al., Fundamentals of Acoustics: Helmholtz resonator driven off resonance, g p0 (dV/V)/|1 - (w0/w)²|',
      0.02,
      [
        { what: 'open pipe of 1.2 m, swing', unit: 'Pa', ...pipe(1.2) },
        { what: 'open pipe of 40 mm, swing', unit: 'Pa', ...pipe(0.04) },
      ],
    ),
    ...checks('Pulsation', 'Bernoulli: a steady source through a hole, dp = (m/(Cd A))²/(2 rho)', 0.03, [
      {
        what: 'mean pressure behind a 5 mm² hole',
        unit: 'Pa',
        expected: (2e-4 / (0.6 * 5e-6)) ** 2 / (2 * rho),
        got: hole.mean - P0,
      },
    ]),
  ]
}
