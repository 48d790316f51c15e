import { formatNumber, formatQuantity, quantityText } from './format'
import { parseQuantity } from './parse'
import { DIMENSIONS, fromSi, shownUnit, toSi, type Dimension } from './units'

const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
const imperial = { system: 'imperial', pressure: 'inHg', flow: 'cfm' } as const

test('conversions agree with NIST SP 811, appendix B (from memory)', () => {
  expect(toSi('pressure', 1, 'psi')).toBeCloseTo(6894.757, 3)
  expect(toSi('pressure', 1, 'inHg')).toBeCloseTo(3386.389, 2) // at 0 C
  expect(toSi('pressure', 1, 'inH2O')).toBeCloseTo(249.0889, 3) // conventional
  expect(toSi('length', 5 / 8, 'in')).toBeCloseTo(0.015875, 12)
  expect(toSi('temperature', 212, 'F')).toBeCloseTo(373.15, 9)
  expect(fromSi('gasFlow', toSi('gasFlow', 1, 'cfm'), 'l/min')).toBeCloseTo(28.316847, 5)
})

test('every unit goes to SI and back', () => {
  for (const d of Object.keys(DIMENSIONS) as Dimension[])
    for (const u of Object.keys(DIMENSIONS[d])) expect(fromSi(d, toSi(d, 12.5, u), u)).toBeCloseTo(12.5, 9)
})

test.each([
  ['5/8 in', 'length', 0.015875],
  ['1 1/2 in', 'length', 0.0381],
  ['15.9', 'length', 0.0159],
  ['15,9 mm', 'length', 0.0159],
  ['5/8"', 'length', 0.015875],
  ['12 inHg', 'pressure', 40636.668],
  ['-0.5', 'pressure', -500],
  ['−0.5 kPa', 'pressure', -500],
  ['12 psi', 'pressure', 82737.084],
  ['12 500 km', 'distance', 12.5e6],
  ['90 ml', 'volume', 90e-6],
  ['20 °C', 'temperature', 293.15],
  ['3e2 mm', 'length', 0.3],
  ['100 lpm', 'gasFlow', 2.006865e-3],
  ['3 inHg vacuum', 'pressure', -10159.167],
  ['0.5 kPa of vacuum', 'pressure', -500],
  ['-2 kPa vac.', 'pressure', -2000],
] as const)('reads %s', (text, dimension, si) => {
  const r = parseQuantity(text, dimension, metric)
  expect(r.ok && r.value).toBeCloseTo(si, 6)
})

test('a bare number is in the unit that is shown', () => {
  const r = parseQuantity('12', 'pressure', imperial)
  expect(r.ok && r.value).toBeCloseTo(40636.668, 2)
})

test.each([
  ['', /Type a number/],
  ['abc', /not a number/],
  ['12 furlongs', /not a unit here. Use/],
  ['1/0 in', /not a number/],
  ['12 kPa', /not a unit here/],
  ['NaN', /not a number/],
  ['1e999', /not a number/],
  ['--5', /not a number/],
])('refuses %p with a sentence', (text, reason) => {
  const r = parseQuantity(text, 'length', metric)
  expect(r.ok ? 'read' : r.reason).toMatch(reason)
})

test.each([
  [-0.8734, 2, '−0.87'],
  [0, 3, '0'],
  [-0.0001, 3, '0'],
  [123.456, 3, '123'],
  [15250, 3, '15 300'],
  [0.0049, 3, '0.005'],
  [Number.NaN, 3, '–'],
  [Infinity, 3, '–'],
  [5694, 2, '5700'],
  [99.97, 3, '100'],
  [9.996, 3, '10.0'],
  [99.94, 3, '99.9'],
  [0.9996, 3, '1.00'],
])('prints %p at %p digits as %s', (value, digits, text) => {
  expect(formatNumber(value, digits).replaceAll(' ', ' ')).toBe(text)
})

test('a pressure has no more decimals than a gauge', () => {
  expect(formatQuantity(-5.4, 'pressure', metric, 2)).toEqual({ text: '−0.01', unit: 'kPa' })
})

test('what rounds to nothing is "0", ones and below keep their digits, and a sign stands only where there is one', () => {
  expect(formatNumber(0)).toBe('0')
  expect(formatNumber(-1e-9)).toBe('0')
  expect(formatNumber(1)).toBe('1.00')
  expect(formatNumber(-1, 2)).toBe('−1.0')
  expect(formatNumber(0.999, 2)).toBe('1.0')
  expect(formatNumber(0.0004, 2)).toBe('0')
  expect(formatNumber(12_345.6)).toBe('12 300')
})

test('text of a quantity: the unit after a space, the degree sign without one, nothing where there is none', () => {
  expect(quantityText(1234, 'pressure', metric)).toBe('1.23 kPa')
  expect(quantityText(Math.PI / 2, 'angle', metric, 2)).toBe('90°')
  expect(quantityText(0.05, 'share', metric, 2)).toBe('5.0 %')
  expect(quantityText(293.15, 'temperature', imperial, 2)).toBe('68 °F')
})

test('the unit shown follows the choice: pressure and flow by their own, the rest by the system', () => {
  const mixed = { system: 'imperial', pressure: 'kPa', flow: 'l/min' } as const
  expect((['pressure', 'gasFlow', 'distance', 'temperature'] as const).map((d) => shownUnit(d, mixed))).toEqual([
    'kPa',
    'l/min',
    'mi',
    'F',
  ])
  expect(shownUnit('gasFlow', imperial)).toBe('cfm')
  expect(shownUnit('temperature', metric)).toBe('C')
})

test('only temperatures have a zero of their own, and an unknown unit is a programming error', () => {
  expect(toSi('temperature', 0, 'C')).toBe(273.15)
  expect(toSi('temperature', 10, 'K')).toBe(10)
  expect(fromSi('temperature', 255.372, 'F')).toBeCloseTo(0, 2)
  expect(toSi('area', 1, 'cm2')).toBe(1e-4)
  expect(() => toSi('length', 1, 'C')).toThrow(/no unit C of length/)
  expect(() => fromSi('length', 1, 'furlong')).toThrow(RangeError)
})
