/** ./ivent analyse FILE: the analysis of a build file as JSON, the same as POST /api/analyse. */
import { readFileSync } from 'node:fs'
import { finish } from '@/core/job'
import { reportOn } from '@/plan/analyse-over-cycle'
import { validateBuild } from '@/plan/document/validate'
import { whereItBreaks } from '@/server/json-text'
import { today } from '@/server/today'

const file = process.argv[2]
if (!file) {
  console.error('Say which build file: ./ivent analyse FILE')
  process.exit(2)
}
let text = ''
let input: unknown
try {
  text = readFileSync(file, 'utf8')
  input = JSON.parse(text)
} catch (error) {
  const why =
    error instanceof SyntaxError
      ? `is not whole JSON. ${whereItBreaks(text, error)}`
      : `cannot be read: ${String(error)}`
  console.error(`${file} ${why}`)
  process.exit(1)
}
const valid = validateBuild(input)
if (!valid.ok) {
  for (const p of valid.problems) console.error(`${p.path}: ${p.message}`)
  process.exit(1)
}
console.log(JSON.stringify(finish(reportOn(valid.build, today()))))
