import psychrolib from 'psychrolib'
import { airViscosity } from '../../src/core/gas/air'
import { slip } from '../../src/core/separation/droplets'
import { stageEfficiency } from '../../src/core/separation/stages'
import { dewPoint, saturationPressure } from '../../src/core/water/vapour'
import { checks } from '../check'

function settling() {
  const e = stageEfficiency({ type: 'settling', area: 1e-3 }, { flow: 1, pPa: 101325, tK: 293.15, oilDensity: 1000 })
  const velocity = (d: number) => -Math.log(1 - e(d)) / 1e-3
  return checks('Droplets', 'Hinds, Aerosol Technology, table A11, settling at 20 C, 1000 kg/m³ (from memory)', 0.02, [
    { what: 'settling of 10 µm', unit: 'm/s', expected: 3.06e-3, got: velocity(10e-6) },
    { what: 'settling of 5 µm', unit: 'm/s', expected: 7.8e-4, got: velocity(5e-6) },
  ])
}

function jet() {
  const [w, u] = [1e-3, 10]
  const carrier = { flow: (u * Math.PI * w * w) / 4, pPa: 101325, tK: 293.15, oilDensity: 850 }
  const e = stageEfficiency({ type: 'impactor', jets: 1, jetDiameter: w }, carrier)
  let [low, high] = [1e-7, 1e-5]
  for (let i = 0; i < 60; i++) {
    const mid = Math.sqrt(low * high)
    if (e(mid) < 0.5) low = mid
    else high = mid
  }
  const stk = (850 * low * low * u * slip(low, 101325, 293.15)) / (9 * airViscosity(293.15) * w)
  return checks('Droplets', 'Hinds, Aerosol Technology, 5.5: a round jet cuts at sqrt(Stk) 0.49', 0.01, [
    { what: 'root of the Stokes number at half efficiency', expected: 0.49, got: Math.sqrt(stk) },
  ])
}

export function aerosolChecks() {
  psychrolib.SetUnitSystem(psychrolib.SI)
  return [
    ...checks(
      'Droplets',
      'Hinds, Aerosol Technology, table A11, slip at 20 C (from memory)',
      0.015,
      (
        [
          [0.1e-6, 2.88],
          [1e-6, 1.16],
          [10e-6, 1.02],
        ] as const
      ).map(([d, cc]) => ({ what: `slip of ${d * 1e6} µm`, expected: cc, got: slip(d, 101325, 293.15) })),
    ),
    ...settling(),
    ...jet(),
    ...checks(
      'Water',
      'psychrolib (ASHRAE Fundamentals 2017)',
      0.003,
      [5, 20, 35, 50, 70].map((t) => ({
        what: `saturation pressure at ${t} C`,
        unit: 'Pa',
        expected: psychrolib.GetSatVapPres(t),
        got: saturationPressure(t + 273.15),
      })),
    ),
    ...checks(
      'Water',
      'psychrolib (ASHRAE Fundamentals 2017)',
      0.0005,
      (
        [
          [25, 0.6],
          [40, 0.3],
          [60, 0.15],
        ] as const
      ).map(([t, rh]) => {
        const pw = psychrolib.GetVapPresFromRelHum(t, rh)
        return {
          what: `dew point at ${t} C, ${rh * 100} %`,
          unit: 'K',
          expected: psychrolib.GetTDewPointFromRelHum(t, rh) + 273.15,
          got: dewPoint(pw / 101325, 101325),
        }
      }),
    ),
  ]
}
