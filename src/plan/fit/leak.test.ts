/** The leak test: its law against small steps, and what is noted of it. */
import { newBuild } from '../schools/new-build'
import { lastLeakTest, leakArea, leakNote, leakTest } from './leak'

test('a leak test is the hole that empties the crankcase as fast, against small steps of the same law', () => {
  const t = { volumeM3: 7e-3, fromPa: 2000, toPa: 900, seconds: 60, ambientPa: 101_325, temperatureK: 293.15 }
  const area = leakArea(t)
  // marched: air leaves by Cd A sqrt(2 dp rho), isothermal (ideal gas, by hand)
  const rho = t.ambientPa / (287.05 * t.temperatureK)
  let p = t.fromPa
  const dt = 0.01
  for (let s = 0; s < t.seconds; s += dt)
    p -= (((0.62 * area * Math.sqrt(2 * p * rho)) / rho) * t.ambientPa * dt) / t.volumeM3
  expect(p).toBeCloseTo(t.toPa, -1)
  const b = newBuild({ name: 'x', engineClass: 'i4-na', use: 'street', ambientC: 20, units: 'metric' })
  expect(leakTest(b, 2000, 1990, 60).good).toBe(true)
  // what is noted of it is found again among other notes
  const entry = { date: '2026-05-01', kind: 'checked', odometerKm: 10, plan: b.active } as const
  const log = ['It is tight.', leakNote('It leaks.'), 'Looked at.'].map((note, k) => ({ ...entry, id: `${k}`, note }))
  expect(lastLeakTest({ ...b, log }, b.active)).toEqual({ says: 'It leaks.', date: '2026-05-01' })
  expect(lastLeakTest({ ...b, log }, 'another')).toBeUndefined()
  expect(leakTest(b, 2000, 0, 60).areaM2).toBeGreaterThan(leakTest(b, 2000, 500, 60).areaM2)
})
