import { analyse } from '@/plan/analyse'
import { validateBuild } from '@/plan/document/validate'
import type { Build } from '@/plan/document/schema'
import { newFromArguments } from './new'

const words = (line: string) => newFromArguments(line.split(' '))

test('what is printed is a build, and it is analysed', () => {
  const build = words('--engine i5-turbo --school two-outlets --use street-track --ambient 10') as Build
  expect(validateBuild(JSON.parse(JSON.stringify(build)))).toMatchObject({ ok: true })
  expect(build.variants[0]!.school).toBe('two-outlets')
  expect(analyse(build, '2026-11-24').states.every((s) => s.solved)).toBe(true)
})

test('--list says what there is, and all of it can be asked for', () => {
  const list = words('--list') as Record<'engines' | 'uses' | 'schools', Record<string, string>>
  for (const engine of Object.keys(list.engines)) expect(words(`--engine ${engine}`)).toMatchObject({ variants: [{}] })
  for (const school of Object.keys(list.schools))
    expect(words(`--engine v8-na --school ${school}`)).toMatchObject({ variants: [{ school }] })
  for (const use of Object.keys(list.uses)) expect(words(`--engine v8-na --use ${use}`)).toMatchObject({ duty: {} })
})

test.each([
  ['--engine rocket', /no engine rocket. There are: i4-turbo/],
  ['--school stock', /Say which engine/],
  ['--engine v8-na --ambient warm', /ambient must be a number/],
  ['--engine v8-na --ambient 400', /site › ambientC: must be at most 55/],
  ['--engine v8-na --units feet', /metric or imperial/],
  ['--engine v8-na --colour red', /Unknown option/],
])('%s is answered in words', (line, says) => expect(() => words(line)).toThrow(says))
