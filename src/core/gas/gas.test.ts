import { airDensity, airViscosity, atmosphericPressure, KG_PER_STANDARD_LITRE, meanFreePath } from './air'
import { oilDensity, oilViscosity } from './oil'

test('air is as heavy and as viscous as the docs say', () => {
  expect(airViscosity(353.15)).toBeCloseTo(2.0873e-5, 8)
  expect(airDensity(101325, 293.15)).toBeCloseTo(1.2041, 4)
  expect(KG_PER_STANDARD_LITRE).toBeCloseTo(1.204119e-3, 8)
  expect(meanFreePath(101325, 293.15)).toBeCloseTo(66.4e-9, 12)
  expect(atmosphericPressure(1500)).toBeCloseTo(84556, -1)
})

test('oil thins with heat and loses 0.65 kg/m3 a kelvin', () => {
  expect(oilDensity(343.15)).toBe(850)
  expect(oilDensity(353.15)).toBeCloseTo(843.5, 6)
  expect(oilViscosity(363.15, 65, 11)).toBeCloseTo(1.3751e-5, 9)
  expect(oilViscosity(313.15, 65, 11) * 1e6).toBeCloseTo(65, 6)
})
