/** Water in gas: tables of steam, and a wall worked out in ten thousand small steps. */
import { coolAndCondense, type MoistGas, type Wall } from './cooling'
import {
  condensedWater,
  dewPoint,
  DRY_GAS_KG_PER_MOL,
  saturatedSlope,
  saturationPressure,
  WATER_KG_PER_MOL,
} from './vapour'

const C = 273.15
const P = 101_325
/** Mol of water a mol of dry gas, saturated. */
const ratioAt = (tK: number, pPa: number) => saturationPressure(tK) / (pPa - saturationPressure(tK))

test('saturation agrees with steam tables (IAPWS, from memory)', () => {
  for (const [t, pa] of [
    [0.01, 611.66],
    [10, 1228.2],
    [20, 2339.3],
    [50, 12_352],
    [80, 47_414],
    [100, 101_420],
  ] as const)
    expect(saturationPressure(t + C) / pa).toBeCloseTo(1, 2)
})

test('the dew point is where it saturates, from frost to boiling; dry gas has none', () => {
  for (const t of [-20, 0, 12.3, 40, 75, 99]) expect(dewPoint(saturationPressure(t + C) / P, P)).toBeCloseTo(t + C, 6)
  expect(dewPoint(0, P)).toBe(0)
  expect(dewPoint(-0.1, P)).toBe(0)
})

test('the slope of the saturated ratio is its difference; where water boils it has none', () => {
  for (const t of [-10, 5, 25, 60, 90]) {
    const slope = (ratioAt(t + C + 1e-3, P) - ratioAt(t + C - 1e-3, P)) / 2e-3
    expect(saturatedSlope(t + C, P) / slope).toBeCloseTo(1, 6)
  }
  expect(saturatedSlope(105 + C, P)).toBe(Infinity)
})

test('water that comes in is condensed or goes on', () => {
  const dry = 0.02
  for (const [y, t] of [
    [0.035, 10],
    [0.12, 30],
    [0.12, 80],
    [0.005, 2],
  ] as const) {
    const { molPerS, yOut } = condensedWater(dry, y, t + C, P)
    expect(molPerS + (dry * yOut) / (1 - yOut)).toBeCloseTo((dry * y) / (1 - y), 12)
    if (molPerS > 0) expect(yOut).toBeCloseTo(saturationPressure(t + C) / P, 9)
    else expect(yOut).toBeCloseTo(y, 12)
  }
  // in boiling heat gas holds all there is
  expect(condensedWater(dry, 0.4, 110 + C, P).molPerS).toBe(0)
})

/** The same wall by Euler's rule: at each small step as much heat goes as gas and what condenses give. */
function slowly({ dryMolS, y, tK, pPa }: MoistGas, { ua, aroundK }: Wall): { outK: number; condensed: number } {
  const steps = 20_000
  const dryKg = dryMolS * DRY_GAS_KG_PER_MOL
  const ratio = y / (1 - y)
  let [t, condensed] = [tK, 0]
  for (let i = 0; i < steps; i++) {
    const wet = ratio > ratioAt(t, pPa)
    const latent = wet
      ? dryMolS * WATER_KG_PER_MOL * 2.44e6 * ((ratioAt(t + 0.01, pPa) - ratioAt(t - 0.01, pPa)) / 0.02)
      : 0
    t -= ((ua / steps) * (t - aroundK)) / (dryKg * 1006 + latent)
    condensed = Math.max(condensed, dryMolS * (ratio - Math.min(ratio, ratioAt(t, pPa))))
  }
  return { outK: t, condensed }
}

test.each([
  ['well above its dew point', { y: 0.01, gasC: 80, ua: 0.6, aroundC: 10 }],
  ['down through its dew point', { y: 0.06, gasC: 80, ua: 0.6, aroundC: 10 }],
  ['saturated as it comes', { y: 0.2, gasC: 60, ua: 0.8, aroundC: -5 }],
  ['hardly cooled', { y: 0.06, gasC: 80, ua: 0.02, aroundC: 20 }],
  ['all the way to the surroundings', { y: 0.06, gasC: 80, ua: 20, aroundC: 5 }],
  ['a wall as warm as the gas', { y: 0.01, gasC: 40, ua: 0.6, aroundC: 40 }],
] as const)('gas %s leaves as small steps along the wall have it', (_, { y, gasC, ua, aroundC }) => {
  const gas = { dryMolS: 0.02, y, tK: gasC + C, pPa: P }
  const wall = { ua, aroundK: aroundC + C }
  const [fast, slow] = [coolAndCondense(gas, wall), slowly(gas, wall)]
  expect(Math.abs(fast.outK - slow.outK)).toBeLessThan(0.1)
  expect(Math.abs(fast.condensed - slow.condensed)).toBeLessThan(0.01 * slow.condensed + 1e-9)
  expect(fast.yOut).toBeLessThanOrEqual(y)
})

test('no gas takes the warmth of its surroundings and leaves nothing', () => {
  expect(coolAndCondense({ dryMolS: 0, y: 0.1, tK: 350, pPa: P }, { ua: 1, aroundK: 280 })).toEqual({
    outK: 280,
    condensed: 0,
    yOut: 0.1,
  })
})
