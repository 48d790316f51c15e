import { airFlow, operatingState } from '../../src/core/engine/states'
import type { EngineClass } from '../../src/plan/catalogue/engines'
import { cylinderVolume } from '../../src/core/engine/cylinder'
import { KG_PER_STANDARD_LITRE } from '../../src/core/gas/air'
import { blowByIn, engineModel } from '../../src/plan/model/engine'
import { newBuild } from '../../src/plan/schools/new-build'
import { analyse } from '../../src/plan/analyse'
import type { SolvedState } from '../../src/plan/model/results'
import { checks } from '../check'

const build = (engineClass: EngineClass, school?: string) =>
  newBuild({ name: 'Check', engineClass, school, use: 'street', ambientC: 20, altitudeM: 0, units: 'metric' })
function blowBy(engineClass: EngineClass, state: string): number {
  const m = engineModel(build(engineClass))
  return (
    (blowByIn(
      m,
      m.states.find((s) => s.id === state)!,
    ) /
      KG_PER_STANDARD_LITRE) *
    60
  )
}
/** kW at the rated point from air, a brake specific fuel consumption of 0.3 kg/kWh and an air-fuel ratio of 12.5 */
function kilowatts(engineClass: EngineClass): number {
  const m = engineModel(build(engineClass))
  const s = m.states.find((x) => x.id === (m.facts.induction === 'na' ? 'pull' : 'boost'))!
  return (s.airKgS * 3600) / 12.5 / 0.3
}
const cfm = (lpm: number) => lpm / 28.316847
const gauge = (engineClass: EngineClass, state: string, school?: string) =>
  (analyse(build(engineClass, school), '2026-01-01').states.find((s) => s.id === state) as SolvedState).crankcaseGauge /
  1000

export const engineChecks = () => {
  const cylinder = { boreM: 0.086, strokeM: 0.086, rodM: 0.143, compression: 10 }
  const facts = engineModel(build('i5-turbo')).facts
  const amb = { pressurePa: 101325, temperatureK: 293.15 }
  const [rated, half] = [
    operatingState('boost', facts, amb),
    operatingState('boost', facts, amb, { airKgS: operatingState('boost', facts, amb).airKgS / 2 }),
  ]
  return [
    ...checks(
      'Engine',
      'Heywood, Internal Combustion Engine Fundamentals, eq. 2.27 by hand: 0.9 x 1.184 kg/m³ x 2 l x 6000/120',
      0.002,
      [
        {
          what: 'air of a 2 l at 6000 rpm, 100 % density at 25 C, ve 0.9',
          unit: 'kg/s',
          expected: 0.9 * 1.184 * 2e-3 * 50,
          got: airFlow(2e-3, 6000, { manifoldPa: 101325, manifoldK: 298.15, ve: 0.9 }),
        },
      ],
    ),
    ...checks(
      'Engine',
      'Heywood, 2.2: slider-crank, volume at 90° with R = l/a 3.33: 1 + (r-1)/2 (R + 1 - sqrt(R² - 1))',
      1e-9,
      [
        {
          what: 'cylinder volume at 90°, over the clearance',
          expected: 1 + 4.5 * (0.143 / 0.043 + 1 - Math.sqrt((0.143 / 0.043) ** 2 - 1)),
          got: cylinderVolume(cylinder, Math.PI / 2) / cylinderVolume(cylinder, 0),
        },
      ],
    ),
    ...checks('Engine', 'turbulent loss grows with the square of flow', 1e-9, [
      {
        what: 'inlet depression at half the air',
        unit: 'Pa',
        expected: rated.inletDepressionPa / 4,
        got: half.inletDepressionPa,
      },
    ]),
    ...checks(
      'Engine',
      'common practice, no source: blow-by near 10 l/min at idle and 130-160 in full boost of a boosted 2.5 l five',
      0,
      [
        { what: 'five, idle', unit: 'l/min', expected: [7, 13], got: blowBy('i5-turbo', 'idle') },
        { what: 'five, boost', unit: 'l/min', expected: [130, 160], got: blowBy('i5-turbo', 'boost') },
      ],
    ),
    ...checks('Engine', 'common practice, no source: near 20 and 145 l/min of a 5.7 l V8', 0, [
      { what: 'eight, idle', unit: 'l/min', expected: [15, 28], got: blowBy('v8-na', 'idle') },
      { what: 'eight, full load', unit: 'l/min', expected: [130, 160], got: blowBy('v8-na', 'pull') },
    ]),
    ...checks(
      'Engine',
      'common practice, no source: 1 cfm of blow-by for 50 to 100 hp at full load',
      0,
      (['i4-turbo', 'i5-turbo', 'i6-turbo', 'v8-na', 'v6-na'] as const).map((k) => ({
        what: `hp a cfm, ${k}`,
        expected: [45, 105] as const,
        got: (kilowatts(k) * 1.341) / cfm(blowBy(k, k.endsWith('na') ? 'pull' : 'boost')),
      })),
    ),
    ...checks(
      'Engine',
      'methods 2: an open fresh-air hose leaves -0.01 to -0.06 kPa at idle (x/ 3 by size), the inlet tract takes it to -5 at full load',
      0,
      (['i4-turbo', 'i5-turbo', 'v8-na'] as const).flatMap((k) =>
        ['idle', 'cruise', k.endsWith('na') ? 'pull' : 'boost'].map((s) => ({
          what: `crankcase, ${k}, open hose, ${s}`,
          unit: 'kPa',
          expected: s === 'idle' || s === 'cruise' ? ([-0.25, -0.005] as const) : ([-5, -0.5] as const),
          got: gauge(k, s),
        })),
      ),
    ),
    ...checks(
      'Engine',
      'methods 2: a metered hole, or a small hole with a full-load check beside it, reads -0.2 to -1.6 kPa at idle',
      0,
      (['i4-na', 'v6-na', 'f6-mid', 'v8-mid', 'v8-direct', 'v6-turbo'] as const).map((k) => ({
        what: `crankcase, ${k}, metered, idle`,
        unit: 'kPa',
        expected: [-1.6, -0.19] as const,
        got: gauge(k, 'idle'),
      })),
    ),
    ...checks('Engine', 'methods 2: a diaphragm regulator holds -1 to -4 kPa at idle', 0, [
      {
        what: 'crankcase, i6-na, regulator, idle',
        unit: 'kPa',
        expected: [-4, -1] as const,
        got: gauge('i6-na', 'idle', 'stock-regulator'),
      },
    ]),
    ...checks('Engine', 'methods 2: the check beside a small hole lets full load out as an open hose does', 0, [
      {
        what: 'crankcase, v6-turbo, hole and check, boost',
        unit: 'kPa',
        expected: [-5, -0.5] as const,
        got: gauge('v6-turbo', 'boost'),
      },
    ]),
  ]
}
