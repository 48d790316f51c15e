/** Frost in a can or a restrictor, month by month, and what helps against it. */
import { CLIMATE_FACTS } from '../catalogue/climates'
import { CLIMATES } from '../document/bounds'
import { setField } from '../edit/edit-builders'
import { newBuild } from '../schools/new-build'
import { after } from '../testing'
import { frost } from './frost'

test('a hot climate freezes nothing, a cold one does, sooner the more water; ice shuts the crankcase in', () => {
  for (const c of CLIMATES) {
    expect(CLIMATE_FACTS[c].nights.length).toBe(12)
    // the coldest night is colder than the mean
    CLIMATE_FACTS[c].nights.forEach((night, i) => expect(night).toBeLessThan(CLIMATE_FACTS[c].means[i]!))
  }
  const plan = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 5,
    units: 'metric',
    school: 'vacuum-side-can',
  })
  const driven = (climate: (typeof CLIMATES)[number]) => after(plan, setField(['site', 'climate'], climate))
  expect(frost(plan, 10)).toBeUndefined()
  expect(frost(driven('hot'), 10)!.first).toBeUndefined()
  const cold = frost(driven('inland'), 10)!
  expect(cold.first).toBeDefined()
  expect(cold.first!.kmToPlug).toBeGreaterThan(0)
  // from December on it is December; from May on it is the next winter
  expect(frost(driven('inland'), 4)!.first!.month).toBeGreaterThanOrEqual(8)
  expect(cold.frozenPa!).toBeGreaterThan(cold.openPa!)
  // what is offered against it does what it says: later, or less pressure
  const help = (what: string) => cold.helps.find((h) => h.what === what)!
  expect(help('insulated').kmToPlug).toBeGreaterThan(cold.first!.kmToPlug)
  expect(help('relief').kmToPlug).toBe(cold.first!.kmToPlug)
  expect(help('relief').frozenPa!).toBeLessThanOrEqual(cold.frozenPa!)
})
