/** The limits that a field shows are those that the document's schema checks. */
import { partSchemas } from '@/plan/document/schema'
import { limitsOf } from './field'

test.each([
  ['engine.cylinders', { min: 1, max: 12, whole: true }],
  ['engine.compression', { min: 5, max: 25, whole: false }],
  ['site.pressureKpa', { min: 45, max: 110, whole: false }],
  ['duty.catchRuleMl', { min: 100, max: 20000, whole: false }],
  ['engine.overrides.idle.airGs', { min: 0.05, max: 5000, whole: false }],
  ['engine.blowBy.orificeMm', { min: 1, max: 60, whole: false }],
  ['variants[0].lines[0].boreMm', { min: 0, max: 100, whole: false }],
  ['variants[0].lines[0].bends[0].angleDeg', { min: 0, max: 180, whole: false }],
  ['can.bowlMl', { min: 5, max: 20000, whole: false }],
  ['regulator.setKpa', { min: -30, max: 5, whole: false }],
  ['relief.openKpa', { min: 0, max: 50, whole: false }],
  ['pump.ccPerTurn', { min: 0, max: 1000, whole: false }],
])('%s', (path, limits) => expect(limitsOf(path)).toEqual(limits))

test('every number of every part has limits', () => {
  for (const [kind, schema] of Object.entries(partSchemas)) {
    for (const [field, type] of Object.entries(schema.fields as Record<string, { type?: string }>)) {
      if (type.type !== 'number') continue
      const { min, max } = limitsOf(`${kind}.${field}`)
      expect([kind, field, min !== undefined, max !== undefined]).toEqual([kind, field, true, true])
    }
  }
})
