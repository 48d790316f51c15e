import { copyName } from './copy-name'

test('a copy takes the next number that is free', () => {
  expect(copyName('Teal 9', ['Teal 9', 'Teal 2'])).toBe('Teal 3')
  expect(copyName('Ruff', ['Ruff'])).toBe('Ruff 2')
})
