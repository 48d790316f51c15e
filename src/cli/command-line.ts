/** What commands are given on the command line, and how they end when it is not what they take. */
import { parseArgs, type ParseArgsConfig } from 'node:util'

/** Says why a command ends, and ends it. */
export function endWith(words: string, code: 1 | 2): never {
  console.error(words)
  process.exit(code)
}

/**
 * The options and files that a command was given; ends with what it takes where one is not known.
 * @param use how the command is used, in a sentence
 */
export function readArguments<T extends NonNullable<ParseArgsConfig['options']>>(options: T, use: string) {
  try {
    return parseArgs({ args: process.argv.slice(2), allowPositionals: true, options })
  } catch (error) {
    const [words] = error instanceof Error ? error.message.split(/\. To specify|\n/) : []
    return endWith(`${words ?? String(error)}. ${use}`, 2)
  }
}
