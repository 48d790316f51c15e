import { labelIn, lowered, unitFormatter } from './words'

const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
const imperial = { system: 'imperial', pressure: 'inHg', flow: 'cfm' } as const

test('a name inside a sentence keeps what is an abbreviation', () => {
  expect(['Cam cover', 'PCV valve', 'Check A', 'T'].map(lowered)).toEqual(['cam cover', 'PCV valve', 'check A', 'T'])
})

test('labels and sizes follow the units, and a size is not padded', () => {
  expect(labelIn('Drop at 100 l/min', metric)).toBe('Drop at 100 l/min')
  expect(labelIn('Drop at 100 l/min', imperial)).toBe('Drop at 3.53 cfm')
  expect(unitFormatter(metric).mm(9)).toBe('9 mm')
  expect(unitFormatter(metric).mm(6.5)).toBe('6.5 mm')
  expect(unitFormatter(metric).mm(100)).toBe('100 mm')
  expect(unitFormatter(imperial).mm(25.4)).toBe('1 in')
})
