import { newBuild } from '../schools/new-build'
import { validateBuild } from './validate'

const good = newBuild({ name: 'Old', engineClass: 'i5-turbo', use: 'street', ambientC: 10, units: 'metric' })

test('version 2, with an oil temperature in every state, comes to have one', () => {
  const old = structuredClone(good) as unknown as { version: number; engine: Record<string, unknown> }
  old.version = 2
  old.engine.overrides = { idle: { oilC: 80 }, cruise: { oilC: 77, rpm: 2500 }, boost: { oilC: 110 } }
  const v = validateBuild(old)
  expect(v.ok && v.build.engine.oilC).toBe(77)
  expect(v.ok && v.build.engine.overrides).toEqual({ cruise: { rpm: 2500 } })
})

test('version 0 is migrated', () => {
  const old = { ...structuredClone(good), version: 0, units: 'imperial' }
  const v = validateBuild(old)
  expect(v.ok && v.build.units).toEqual({ system: 'imperial', pressure: 'inHg', flow: 'cfm' })
})
