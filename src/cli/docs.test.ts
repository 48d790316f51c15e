import { readFileSync } from 'node:fs'
import Ajv from 'ajv'
import { demoBuilds } from '@/server/demo-builds'
import { buildJsonSchema } from './docs'

const schema = buildJsonSchema()
const validate = new Ajv({ strict: false, validateFormats: false }).compile(schema)

test('docs/build.schema.json is what the Yup schema says now', () => {
  expect(JSON.parse(readFileSync('docs/build.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(schema)))
})

test.each(demoBuilds('2026-11-25').map((b) => [b.name, b] as const))(
  '%s is a build to a general JSON Schema validator',
  (_, build) => {
    expect(validate(build) ? [] : validate.errors).toEqual([])
  },
)

test('and a build with a wrong part is not', () => {
  const build = JSON.parse(JSON.stringify(demoBuilds('2026-11-25')[0])) as { variants: { parts: { kind: string }[] }[] }
  build.variants[0]!.parts[0]!.kind = 'teapot'
  expect(validate(build)).toBe(false)
})
