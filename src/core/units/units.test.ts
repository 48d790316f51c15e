import { formatNumber, formatQuantity, quantityText } from './format'
import { uniforms } from '../random'
import { parseQuantity, quantityReadings } from './parse'
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
  ['4 hPa', 'pressure', 400],
  ['50 mmH2O', 'pressure', 490.3325],
  ['5 cmH2O', 'pressure', 490.3325],
  ['½ in', 'length', 0.0127],
  ['1½ in', 'length', 0.0381],
  ['1 ⅝"', 'length', 0.041275],
  ['25 Nm', 'torque', 25],
  ['18 lb-ft', 'torque', 24.404724],
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

test('a mark that can part thousands as well as decimals is asked about, all others mean one thing', () => {
  const means = (text: string) => {
    const r = quantityReadings(text, 'distance', metric)
    return r.ok ? r.value.map((v) => v / 1000) : r.reason
  }
  expect(means('12,500')).toEqual([12_500, 12.5])
  expect(means('12.500')).toEqual([12_500, 12.5])
  expect(means('1,234,567')).toEqual([1_234_567])
  expect(means('1.234,5')).toEqual([1234.5])
  expect(means('1,234.5')).toEqual([1234.5])
  expect(means("12'500")).toEqual([12_500])
  expect(means('12 500,5')).toEqual([12_500.5])
  expect(means('0,125')).toEqual([0.125])
  expect(means('12,5')).toEqual([12.5])
  expect(means('1234,567')).toEqual([1234.567])
  expect(means('1,23,456')).toMatch(/not a number/)
  const asked = parseQuantity('12,500', 'distance', metric)
  expect(asked.ok ? '' : asked.reason).toMatch(/12500 or 12.5/)
})

test('a number written in any of a dozen locales is read as it was meant, or asked about', () => {
  const draw = uniforms(3)
  for (const locale of [
    'en-GB',
    'en-US',
    'de-DE',
    'de-CH',
    'fr-FR',
    'sv-SE',
    'it-IT',
    'es-ES',
    'pl-PL',
    'nl-NL',
    'pt-BR',
    'en-IN',
  ])
    for (let k = 0; k < 200; k++) {
      const digits = Math.floor(4 * draw())
      const meant = Number((10 ** (7 * draw() - 1)).toFixed(digits))
      const text = new Intl.NumberFormat(locale, { maximumFractionDigits: digits }).format(meant)
      const r = quantityReadings(text, 'distance', metric)
      if (!r.ok) {
        // lakhs are grouped by twos: they are no number here, and it says so
        expect([locale, r.reason]).toEqual(['en-IN', expect.stringMatching(/not a number/)])
        continue
      }
      expect(r.value.some((v) => Math.abs(v / 1000 - meant) <= 1e-6 * meant)).toBe(true)
    }
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
