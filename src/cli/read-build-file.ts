/** A build file as commands are given it: read and checked, or told what is wrong with it, and an end. */
import { readFileSync } from 'node:fs'
import type { Build } from '@/plan/document/schema'
import { validateBuild } from '@/plan/document/validate'
import { jsonErrorPosition } from '@/server/json-text'

/** Says why a command ends, and ends it. */
export function endWith(words: string, code: 1 | 2): never {
  console.error(words)
  process.exit(code)
}

/** JSON of a file; ends with its place where it is none. */
export function readJsonFile(file: string): unknown {
  let text = ''
  try {
    text = readFileSync(file, 'utf8')
    return JSON.parse(text)
  } catch (error) {
    return endWith(
      error instanceof SyntaxError
        ? `${file} is not whole JSON. ${jsonErrorPosition(text, error)}`
        : `${file} cannot be read: ${String(error)}`,
      1,
    )
  }
}

/** The build that a file holds; ends with all that is wrong with it where it holds none. */
export function buildFromFile(file: string): Build {
  const valid = validateBuild(readJsonFile(file))
  return valid.ok ? valid.build : endWith(valid.problems.map((p) => `${p.path}: ${p.message}`).join('\n'), 1)
}
