/** What is typed into a field of the document: read by its limits, asked about where two readings fit, and read back as it was shown. */
import { uniforms } from '@/core/random'
import { DUTY_FIELDS, ENGINE_FIELDS, SITE_FIELDS } from '../document/fields'
import { LOG_FIELDS } from '../document/log-fields'
import { fieldText, readField } from './typed'

const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
const imperial = { system: 'imperial', pressure: 'inHg', flow: 'cfm' } as const
const reads = (
  field: Parameters<typeof readField>[0],
  text: string,
  units: typeof metric | typeof imperial = metric,
) => {
  const r = readField(field, units, text)
  return r.ok ? r.value : r.reason
}

test('an odometer of "12,500" is asked about; where one reading is out of reach the other is taken', () => {
  expect(reads(LOG_FIELDS.odometerKm, '12,500')).toMatch(/12500 or 12.5/)
  expect(reads(LOG_FIELDS.odometerKm, '12.500')).toMatch(/12500 or 12.5/)
  expect(reads(LOG_FIELDS.odometerKm, '12 500')).toBe(12_500)
  // from 20 to 50 000 km: 12.5 is no interval
  expect(reads(DUTY_FIELDS.checkEveryKm, '12,500')).toBe(12_500)
  expect(reads(ENGINE_FIELDS.idleRpm, '1,000')).toBe(1000)
})

test('a manifold read on a vacuum gauge is asked for, and taken as it is said then', () => {
  const field = ENGINE_FIELDS.idleManifoldKpa
  expect(reads(field, '18 inHg')).toMatch(/vacuum gauge/)
  expect(reads(field, '18 inHg vacuum')).toBeCloseTo(101.325 - 60.955, 2)
  expect(reads(field, '18 inHg absolute')).toBeCloseTo(60.955, 2)
  expect(reads(field, '35')).toBe(35)
  // at 1 600 m there is less to be below
  const high = readField(field, metric, '15 inHg vacuum', 83_500)
  expect(high.ok && high.value).toBeCloseTo(83.5 - 50.796, 2)
})

test('what a field shows is read back as it is, in either system', () => {
  const draw = uniforms(9)
  for (const field of [
    LOG_FIELDS.odometerKm,
    DUTY_FIELDS.kmPerYear,
    ENGINE_FIELDS.displacementCc,
    SITE_FIELDS.altitudeM,
  ])
    for (const units of [metric, imperial])
      for (let k = 0; k < 200; k++) {
        const value = field.min + (field.max - field.min) * draw() ** 4
        const text = fieldText(field, units, value, 7)
        const r = readField(field, units, text)
        // a whole number told in another system may not be whole again
        if (!r.ok) expect(r.reason).toMatch(/whole number|At least|At most/)
        else expect(Math.abs(r.value - value)).toBeLessThan(1e-5 * Math.abs(value) + 1)
      }
})
