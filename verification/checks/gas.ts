import { airViscosity, atmosphericPressure } from '../../src/core/gas/air'
import { oilViscosity } from '../../src/core/gas/oil'
import { nozzle, orificeFlow } from '../../src/core/network/nozzle'
import { toSi } from '../../src/core/units/units'
import { checks } from '../check'

export const gasChecks = () => [
  ...checks(
    'Gas',
    'Incropera, Fundamentals of Heat and Mass Transfer, table A.4 (from memory)',
    0.01,
    (
      [
        [250, 159.6e-7],
        [300, 184.6e-7],
        [350, 208.2e-7],
        [400, 230.1e-7],
      ] as const
    ).map(([t, mu]) => ({ what: `viscosity of air at ${t} K`, unit: 'Pa s', expected: mu, got: airViscosity(t) })),
  ),
  ...checks(
    'Gas',
    'NACA Report 1135, isentropic flow tables, psi = 0.6847/(A/A*) (from memory)',
    0.001,
    (
      [
        [0.8956, 1.5901],
        [0.784, 1.1882],
        [0.656, 1.0382],
        [0.5283, 1],
      ] as const
    ).map(([r, area]) => ({ what: `nozzle function at p2/p1 ${r}`, expected: 0.6847 / area, got: nozzle(r, 1.4).psi })),
  ),
  // choked: m = 0.0404 p0 A / sqrt(T0) for air in SI, White, Fluid Mechanics, eq. 9.46 (0.6847/sqrt(287) = 0.04042)
  ...checks('Gas', 'White, Fluid Mechanics, choked flow of air, m = 0.0404 A p0/sqrt(T0)', 0.001, [
    {
      what: 'choked hole of 10 mm² from 300 kPa, 350 K',
      unit: 'kg/s',
      expected: (0.0404 * 1e-5 * 3e5) / Math.sqrt(350),
      got: orificeFlow({ cd: 1, areaM2: 1e-5 }, 3e5, 1e5, { R: 287.05, gamma: 1.4, T: 350 }),
    },
  ]),
  ...checks(
    'Gas',
    'US Standard Atmosphere 1976 (from memory)',
    0.001,
    (
      [
        [0, 101325],
        [1000, 89875],
        [2000, 79495],
        [4000, 61640],
      ] as const
    ).map(([h, p]) => ({ what: `pressure at ${h} m`, unit: 'Pa', expected: p, got: atmosphericPressure(h) })),
  ),
  ...checks(
    'Gas',
    'ASTM D341 by hand: log log(nu + 0.7) straight in log T through 65 mm²/s at 40 C and 11 at 100 C',
    0.001,
    [
      { what: 'oil viscosity at 40 C', unit: 'mm²/s', expected: 65, got: oilViscosity(313.15, 65, 11) * 1e6 },
      { what: 'oil viscosity at 100 C', unit: 'mm²/s', expected: 11, got: oilViscosity(373.15, 65, 11) * 1e6 },
    ],
  ),
  ...checks('Gas', 'NIST SP 811, appendix B.8 (from memory)', 1e-5, [
    { what: '1 inHg (0 C)', unit: 'Pa', expected: 3386.389, got: toSi('pressure', 1, 'inHg') },
    { what: '1 inH2O (conventional)', unit: 'Pa', expected: 249.0889, got: toSi('pressure', 1, 'inH2O') },
    { what: '1 psi', unit: 'Pa', expected: 6894.757, got: toSi('pressure', 1, 'psi') },
    { what: '1 cu ft', unit: 'l', expected: 28.31685, got: toSi('gasFlow', 1, 'cfm') / toSi('gasFlow', 1, 'l/min') },
  ]),
]
