/** Commands that are given what they do not take say so in a sentence, and end. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { readArguments } from './command-line'
import { buildFromFile, readJsonFile } from './read-build-file'

const folder = mkdtempSync(join(tmpdir(), 'ivent-command-'))
const given = process.argv
let said = ''
beforeEach(() => {
  said = ''
  jest.spyOn(console, 'error').mockImplementation((words: string) => (said += words))
  jest.spyOn(process, 'exit').mockImplementation((code) => {
    throw new Error(`ended with ${code}`)
  })
})
afterEach(() => {
  jest.restoreAllMocks()
  process.argv = given
})
afterAll(() => rmSync(folder, { recursive: true }))

const OPTIONS = { plans: { type: 'string', default: '20' }, list: { type: 'boolean', default: false } } as const
const read = (...args: readonly string[]) => {
  process.argv = ['node', 'command', ...args]
  return readArguments(OPTIONS, 'Use ./ivent command FILE')
}

test('options and files are told apart', () => {
  const { values, positionals } = read('a.json', '--plans', '7', '--list')
  expect({ ...values, positionals }).toEqual({ plans: '7', list: true, positionals: ['a.json'] })
  expect(read('a.json').values.plans).toBe('20')
})

test.each([
  [['--plan', '7'], /--plan/],
  [['--plans'], /--plans/],
  [['--list=yes'], /--list/],
])('%j is refused with its name and what the command takes', (args, named) => {
  expect(() => read(...args)).toThrow('ended with 2')
  expect(said).toMatch(named)
  expect(said).toMatch(/Use \.\/ivent command FILE$/)
  expect(said).not.toMatch(/\n\s+at /)
})

test('a file that is not there, is cut off or holds no build is told from the others', () => {
  const file = (name: string, text: string) => {
    writeFileSync(join(folder, name), text)
    return join(folder, name)
  }
  expect(() => readJsonFile(join(folder, 'none.json'))).toThrow('ended with 1')
  expect(said).toBe(`There is no file ${join(folder, 'none.json')}.`)
  expect(() => readJsonFile(file('cut.json', '{"a": 1,\n"b"'))).toThrow('ended with 1')
  expect(said).toContain('is not whole JSON')
  expect(() => readJsonFile(folder)).toThrow('ended with 1')
  expect(said).toContain('cannot be read')
  said = ''
  expect(() => buildFromFile(file('other.json', '{"format": "recipe"}'))).toThrow('ended with 1')
  expect(said).toContain('format')
})
