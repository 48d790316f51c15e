/** Against handbook values; each names its source. "From memory" where the page was not at hand. */
import psychrolib from 'psychrolib'
import { airViscosity } from '../src/core/gas/air'
import { oilViscosity } from '../src/core/gas/oil'
import { colebrook, mitreLoss, bendLoss } from '../src/core/network/friction'
import { makeHose } from '../src/core/network/hose'
import { nozzle } from '../src/core/network/flow'
import { solveNetwork } from '../src/core/network/solve'
import { slip } from '../src/core/separation/droplets'
import { stageEfficiency } from '../src/core/separation/stages'
import { dewPoint, saturationPressure } from '../src/core/water/vapour'
import { runCases } from '../src/cli/cases'

const within = (got: number, expected: number, share: number) => expect(Math.abs(got / expected - 1)).toBeLessThan(share)

describe('worked cases from independent software', () => {
  const results = runCases('verification/cases')
  test.each(results.filter((r) => r.status !== 'skipped').map((r) => [r.file, r] as const))('%s', (_, r) => expect(r).toMatchObject({ status: 'pass' }))
  test('every network, separator and water case was run', () => expect(results.filter((r) => r.status === 'pass').length).toBeGreaterThanOrEqual(13))
})

describe('air', () => {
  // dynamic viscosity of air at 1 atm, Incropera, Fundamentals of Heat and Mass Transfer, table A.4 (from memory)
  test.each([[250, 159.6e-7], [300, 184.6e-7], [350, 208.2e-7], [400, 230.1e-7]])('viscosity at %p K', (t, mu) => within(airViscosity(t), mu, 0.01))
  // isentropic flow tables for gamma 1.4, p/p0 and A/A* at Mach 0.4, 0.6, 0.8, 1 (NACA Report 1135; from memory): psi = 0.6847 / (A/A*)
  test.each([[0.8956, 1.5901], [0.784, 1.1882], [0.656, 1.0382], [0.5283, 1]])('nozzle function at a pressure ratio of %p', (r, area) => within(nozzle(r, 1.4).psi, 0.6847 / area, 0.001))
})

describe('pipe friction', () => {
  // Moody chart as tabulated by Colebrook's formula (White, Fluid Mechanics, table 6.1 and fig. 6.13; from memory)
  test.each([[1e4, 0, 0.0309], [1e5, 0, 0.018], [1e6, 0, 0.0116], [1e5, 1e-3, 0.0222], [1e6, 1e-2, 0.0379]])('Re %p, roughness %p', (re, rel, f) => within(colebrook(re, rel), f, 0.01))
  // White, Fluid Mechanics, example 6.6: oil, 0.2 m pipe, 500 m, f 0.0227 at Re 128 000, e/d 0.0013
  test("White's example 6.6", () => within(colebrook(128000, 0.0013), 0.0227, 0.01))
  // 90 degree mitre: 1.1 to 1.3 in Crane TP-410 and Idelchik (from memory)
  test('a square elbow costs 1.1 to 1.3 velocity heads', () => { expect(mitreLoss(90)).toBeGreaterThan(1.1); expect(mitreLoss(90)).toBeLessThan(1.3) })
  // smooth 90 degree bend, r/D 4, f 0.02: K 0.2 to 0.35 with its own friction (Crane TP-410: 14 f_T of a long-radius bend; from memory)
  test('a long bend costs a quarter of that', () => { const k = bendLoss({ angleDeg: 90, radiusM: 0.4 }, 0.1); const total = k.fixed + 0.02 * k.perF; expect(total).toBeGreaterThan(0.2); expect(total).toBeLessThan(0.36) })
  // laminar pipe: Hagen-Poiseuille in compressible form, m = pi D^4 (p1^2 - p2^2) / (256 mu L R T)
  test('laminar flow is Hagen-Poiseuille', () => {
    const T = 300
    const s = solveNetwork({ gas: { R: 287.05, gamma: 1.4, T }, nodes: { a: { p: 101425 }, b: { p: 101325 } }, elements: [makeHose('h', 'a', 'b', { boreM: 0.004, lengthM: 3 })] })
    within(s.ok ? s.value.flow.h! : 0, Math.PI * 0.004 ** 4 * (101425 ** 2 - 101325 ** 2) / (256 * airViscosity(T) * 3 * 287.05 * T), 1e-6)
  })
})

describe('droplets', () => {
  // slip correction at 20 C, 101 kPa: Hinds, Aerosol Technology, table A11 (from memory): 0.1 um 2.88, 1 um 1.16, 10 um 1.02
  test.each([[0.1e-6, 2.88], [1e-6, 1.16], [10e-6, 1.02]])('slip at %p m', (d, cc) => within(slip(d, 101325, 293.15), cc, 0.015))
  // settling velocity of 10 um, 1000 kg/m3: 3.06 mm/s (Hinds, table A11): E = 1 - exp(-v A/Q) gives it back
  test('terminal velocity of a 10 um droplet', () => {
    const e = stageEfficiency({ type: 'settling', area: 1e-3 }, { flow: 1, pPa: 101325, tK: 293.15, oilDensity: 1000 })(10e-6)
    within(-Math.log(1 - e) / 1e-3, 3.06e-3, 0.02)
  })
  // Hinds, 5.5: a round-jet impactor cuts at sqrt(Stk50) 0.49
  test('a round jet cuts half at its Stokes number of 0.24', () => {
    const [w, u, d] = [1e-3, 10, 5e-6]
    const stk = 850 * d * d * u * slip(d, 101325, 293.15) / (9 * airViscosity(293.15) * w)
    const e = stageEfficiency({ type: 'impactor', jets: 1, jetDiameter: w }, { flow: u * Math.PI * w * w / 4, pPa: 101325, tK: 293.15, oilDensity: 850 })(d)
    expect(e).toBeCloseTo(1 / (1 + (0.24 / stk) ** 2), 9)
    expect(Math.sqrt(0.24)).toBeCloseTo(0.49, 2)
  })
})

describe('water, against psychrolib (ASHRAE Fundamentals 2017)', () => {
  psychrolib.SetUnitSystem(psychrolib.SI)
  test.each([5, 20, 35, 50, 70])('saturation pressure at %p C', (t) => within(saturationPressure(t + 273.15), psychrolib.GetSatVapPres(t), 0.003))
  test.each([[25, 0.6], [40, 0.3], [60, 0.15]])('dew point of air at %p C, humidity %p', (t, rh) => {
    const pw = psychrolib.GetVapPresFromRelHum(t, rh)
    expect(dewPoint(pw / 101325, 101325) - 273.15).toBeCloseTo(psychrolib.GetTDewPointFromRelHum(t, rh), 1)
  })
})

describe('oil', () => {
  // a common 5W-30: 63 mm2/s at 40 C, 10.8 at 100 C; ASTM D341 charts read about 14.3 at 88 C and 250 at 10 C (from memory, within 10 %)
  test('viscosity between and beyond its two points', () => { within(oilViscosity(361.15, 63, 10.8) * 1e6, 14.3, 0.1); within(oilViscosity(283.15, 63, 10.8) * 1e6, 260, 0.1) })
})
