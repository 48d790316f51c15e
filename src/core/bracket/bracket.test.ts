/** A bent strip that carries a can, against closed forms and handbook geometry. */
import { flatLength } from './bending'
import { firstFrequency } from './vibration'

const strip = { thicknessM: 0.003, insideRadiusM: 0.004, angleDeg: 90, kFactor: 0.4 }

test('flat length by geometry: straight parts between tangents, and the neutral line of each bend', () => {
  // outside legs less radius and thickness each, and a quarter circle at r + k t
  const straight = 0.06 - 0.007 + (0.09 - 0.007)
  expect(flatLength({ ...strip, legsM: [0.06, 0.09] })).toBeCloseTo(straight + (Math.PI / 2) * (0.004 + 0.4 * 0.003), 9)
  // 60 degrees: the tangent is tan 30 of the outside radius
  const at60 = 0.15 - 2 * Math.tan(Math.PI / 6) * 0.007 + (Math.PI / 3) * 0.0052
  expect(flatLength({ ...strip, legsM: [0.06, 0.09], angleDeg: 60 })).toBeCloseTo(at60, 9)
  expect(flatLength({ ...strip, legsM: [0.06, 0.05, 0.04] })).toBeCloseTo(
    0.15 - 2 * (0.014 - (Math.PI / 2) * 0.0052),
    9,
  )
  expect(flatLength({ ...strip, legsM: [0.08] })).toBe(0.08)
  expect(flatLength({ ...strip, legsM: [] })).toBe(0)
})

test('first frequency: a cantilever by its end’s deflection, and a strip held at both ends sixty-four times as stiff', () => {
  const b = { youngs: 69e9, density: 2700, thicknessM: 0.003, widthM: 0.04, freeLengthM: 0.09, endMassKg: 0.55 }
  // without weight of its own, w^2 = g / deflection; deflection = m g L^3 / 3 E I
  const inertia = (0.04 * 0.003 ** 3) / 12
  const deflection = (0.55 * 9.81 * 0.09 ** 3) / (3 * 69e9 * inertia)
  const light = { ...b, density: 0 }
  expect(firstFrequency({ ...light, supports: 1 })).toBeCloseTo(Math.sqrt(9.81 / deflection) / (2 * Math.PI), 6)
  expect(firstFrequency({ ...light, supports: 2 }) / firstFrequency({ ...light, supports: 1 })).toBeCloseTo(8, 9)
  // its own weight, of nothing else: the rings of a bare cantilever, 0.5596 sqrt(E I / m L^4) (Blevins), within 2 %
  const bare = { ...b, endMassKg: 0 }
  const mass = 2700 * 0.04 * 0.003
  const exact = 0.5596 * Math.sqrt((69e9 * inertia) / (mass * 0.09 ** 4))
  expect(firstFrequency({ ...bare, supports: 1 }) / exact).toBeCloseTo(1, 1)
  expect(firstFrequency({ ...bare, supports: 2 }) / firstFrequency({ ...bare, supports: 1 })).toBeCloseTo(
    Math.sqrt(192 / (13 / 35) / (3 / (33 / 140))),
    6,
  )
})
