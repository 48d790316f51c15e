import { saturationPressure } from '@/core/water/vapour'
import { figuresOf } from '../analyse'
import { newBuild } from '../schools/new-build'
import { waterIntoOil } from './oil-water'

const at = (ambientC: number, use: 'street' | 'track' = 'street') => {
  const b = newBuild({ name: 'Hill', engineClass: 'i4-turbo', use, ambientC, units: 'metric' })
  return waterIntoOil(b, figuresOf(b))!
}

test('a cold crankcase keeps what its gas holds above saturation, and the colder it is the more', () => {
  // gas of 5.6 % water at most (40 % burnt of 13 %, and the air's own) is saturated at 35 C: walls of a 20 C day stay dry but for a trace
  expect(saturationPressure(308.15) / 101_325).toBeCloseTo(0.0556, 3)
  expect(at(25)).toBe(0)
  expect(at(10)).toBeGreaterThan(0)
  expect(at(-10)).toBeGreaterThan(1.5 * at(10))
  // a tenth of the water that a litre of petrol makes would be 100 ml a tank: a litre in 1 000 km is out of reach
  expect(at(-10) * 1e12).toBeLessThan(1000)
})

test('a car that is trailered to the track leaves less in its oil than one that is driven there', () => {
  expect(at(0, 'track')).toBeLessThan(at(0))
})
