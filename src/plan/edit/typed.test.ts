/** What is typed in a field: any unit, the field's own limits, told in the units in use. */
import { DUTY_FIELDS, ENGINE_FIELDS, LINE_FIELDS, PART_FIELDS } from '../document/fields'
import { fieldText, readField } from './typed'

const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
const imperial = { system: 'imperial', pressure: 'inHg', flow: 'cfm' } as const

test('a figure is kept in the document’s unit, whatever it is typed in', () => {
  expect(readField(LINE_FIELDS.boreMm, metric, '5/8 in')).toEqual({ ok: true, value: 15.875 })
  expect(readField(LINE_FIELDS.boreMm, imperial, '0.5')).toEqual({ ok: true, value: 12.7 })
  expect(readField(ENGINE_FIELDS.boostKpa, imperial, '10 psi')).toMatchObject({ ok: true })
  expect(readField(ENGINE_FIELDS.idleRpm, metric, '850 rpm')).toEqual({ ok: true, value: 850 })
})

test('limits are the field’s, said in the unit in use', () => {
  expect(readField(PART_FIELDS.can.bowlMl, metric, '2')).toEqual({ ok: false, reason: 'At least 5 ml.', at: undefined })
  expect(readField(LINE_FIELDS.boreMm, imperial, '7')).toMatchObject({ ok: false, reason: 'At most 3.94 in.' })
  expect(readField(DUTY_FIELDS.kmPerYear, imperial, '1')).toMatchObject({ ok: false, reason: 'At least 6.214 mi.' })
  expect(readField(ENGINE_FIELDS.cylinders, metric, '4.5')).toMatchObject({
    ok: false,
    reason: 'Must be a whole number.',
  })
})

test('what is shown reads back as what is kept', () => {
  for (const field of [
    LINE_FIELDS.boreMm,
    PART_FIELDS.can.dropKpaAt100,
    PART_FIELDS.pump.ccPerTurn,
    ENGINE_FIELDS.compression,
  ])
    for (const units of [metric, imperial]) {
      const value = (field.min + field.max) / 2.1
      const back = readField(field, units, fieldText(field, units, value, 10))
      expect(back.ok && back.value / value).toBeCloseTo(1, 8)
    }
})
