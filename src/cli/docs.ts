/** ./ivent docs: the JSON Schema of a build, generated from the Yup schema that checks it. */
import { writeFileSync } from 'node:fs'
import { convertSchema } from '@sodaru/yup-to-json-schema'
import type { Schema } from 'yup'
import { buildSchema, partSchemas, stageSchemas, variantSchema, FORMAT, FORMAT_VERSION } from '@/plan/document/schema'

type Json = Record<string, unknown>
const convert = (schema: unknown) => convertSchema(schema as Schema) as Json

/** Yup tells kinds apart by a function, which has no JSON Schema; each kind is generated and they are joined by anyOf. */
function kinds(schemas: Readonly<Record<string, unknown>>, field: string): Json {
  return { anyOf: Object.entries(schemas).map(([kind, schema]) => { const s = convert(schema); return { ...s, additionalProperties: false, properties: { ...(s.properties as Json), [field]: { const: kind } } } }) }
}

export function buildJsonSchema(): Json {
  const can = kinds(partSchemas, 'kind')
  for (const part of can.anyOf as { properties: Json }[]) if ((part.properties.kind as { const: string }).const === 'can') part.properties.stages = { type: 'array', maxItems: 6, items: kinds(stageSchemas, 'type') }
  const variant = convert(variantSchema)
  ;(variant.properties as Json).parts = { type: 'array', maxItems: 200, items: can }
  const build = convert(buildSchema)
  ;(build.properties as Json).variants = { type: 'array', minItems: 1, maxItems: 12, items: variant }
  return { $schema: 'http://json-schema.org/draft-07/schema#', $id: `${FORMAT}-${FORMAT_VERSION}`, title: 'An Ivent build', ...build }
}

if (process.argv[1]?.endsWith('docs.ts')) {
  writeFileSync('docs/build.schema.json', `${JSON.stringify(buildJsonSchema(), null, 1)}\n`)
  console.log('docs/build.schema.json')
}
