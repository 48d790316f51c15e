/** A build file as commands are given it: read and checked, or an end with what is wrong with it. */
import { readFileSync } from 'node:fs'
import type { Build } from '@/plan/document/schema'
import { validateBuild } from '@/plan/document/validate'
import { jsonErrorPosition } from '@/server/json-text'
import { endWith } from './command-line'

/** JSON of a file; ends with its place where it is none. */
export function readJsonFile(file: string): unknown {
  let text = ''
  try {
    text = readFileSync(file, 'utf8')
    return JSON.parse(text)
  } catch (error) {
    const missing = (error as { code?: unknown }).code === 'ENOENT'
    return endWith(
      error instanceof SyntaxError
        ? `${file} is not whole JSON. ${jsonErrorPosition(text, error)}`
        : missing
          ? `There is no file ${file}.`
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
