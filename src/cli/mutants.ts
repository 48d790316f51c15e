/**
 * ./ivent mutants [FOLDER] [--count N]: how many of N seeded faults in the code the unit tests catch, outside the suite: the everyday tests,
 * then the long ones those that lived. Lines are drawn with a seed, so that a run can be compared with the one before; what nothing has
 * changed is kept (`.cache/mutants-*.json`).
 */
import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join, relative } from 'node:path'
import { uniforms } from '@/core/random'

const JEST = createRequire(join(process.cwd(), 'package.json'))('./jest.config.js') as object
const COUNT = 300
const SEED = 25
/** Mutants on an ordinary line of code, about. */
const A_LINE = 1.5

const sources = (folder: string): readonly string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !/\.test\.ts$|testing\.ts$/.test(file))
    .map((file) => join(folder, file))
    .toSorted()

/** Lines that hold code: no comment, import, type or lone bracket. */
const linesOf = (file: string): readonly string[] =>
  readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((line, k) =>
      /^\s*(\*|\/\*|\/\/|import |export type |type |readonly )|^[\s)\]}({[,;]*$/.test(line)
        ? []
        : [`${file}:${k + 1}-${k + 1}`],
    )

/** So many of the lines, drawn without putting back. */
function drawn(lines: readonly string[], count: number): readonly string[] {
  const next = uniforms(SEED)
  const left = [...lines]
  return Array.from(
    { length: Math.min(count, left.length) },
    () => left.splice(Math.floor(next() * left.length), 1)[0]!,
  )
}

/** Tests that are left out: these lay every school on every class, or hundreds of random circuits, minutes for each fault. */
const LEFT_OUT = {
  everyday: ['\\.long\\.test\\.ts$', 'properties.test.ts'],
  long: ['judgement.long.test.ts', 'checks.long.test.ts', 'measure.long.test.ts'],
} as const
const isLong = (file: string) => file.endsWith('.long.test.ts')
const testsOf = (folder: string) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.test.ts'))

/** One fault, and whether some tests caught it. */
type Mutant = { readonly line: string; readonly key: string; readonly isCaught: boolean }

/** Tries the faults of some lines with the everyday tests of a folder, or with the long ones. */
async function tryMutants(folder: string, lines: readonly string[], tests: keyof typeof LEFT_OUT): Promise<Mutant[]> {
  const name = `${folder.replaceAll(/[^\w]+/g, '-')}-${tests}`
  const { Stryker } = await import('@stryker-mutator/core')
  const results = await new Stryker({
    mutate: [...lines],
    // words on a screen are the builder's matter: tests hold what they claim, not their wording
    mutator: { excludedMutations: ['StringLiteral'] },
    testRunner: 'jest',
    testRunnerNodeArgs: ['--experimental-vm-modules', '--no-warnings'],
    jest: {
      // what reads the sources, builds or serves has nothing to say of a fault in core or plan
      config: {
        ...JEST,
        testSequencer: '<rootDir>/src/cli/quick-tests-first.cjs',
        // the tests beside the code, the figures of every plan, and for core the checks against the world outside
        testMatch:
          tests === 'long'
            ? [`<rootDir>/${folder}/**/*.long.test.ts`, '<rootDir>/src/cli/regression.long.test.ts']
            : [
                `<rootDir>/${folder}/**/*.test.ts`,
                '<rootDir>/src/cli/regression.test.ts',
                ...(folder.startsWith('src/core') ? ['<rootDir>/verification/*.test.ts'] : []),
              ],
        testPathIgnorePatterns: LEFT_OUT[tests],
      },
    },
    coverageAnalysis: 'perTest',
    // a table that is read when its file is loaded would ask for every test of all for each of its figures
    ignoreStatic: true,
    incremental: true,
    incrementalFile: `.cache/mutants-${name}.json`,
    tempDirName: '.cache/mutants',
    ignorePatterns: ['.next', 'data', '.cache', 'docs/screenshots', 'e2e'],
    disableTypeChecks: true,
    // it would read the configuration through an interface that this TypeScript has not
    tsconfigFile: 'none',
    allowConsoleColors: false,
    reporters: ['clear-text', 'progress'],
    clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportScoreTable: false },
    // all of plan's tests once, counting what each runs through, take more than the five minutes that it would be given
    dryRunTimeoutMinutes: 60,
    // a fault that runs on without an end counts as caught; one that only a slow machine delays must not
    timeoutMS: 15_000,
    timeoutFactor: 3,
    concurrency: 2,
  }).runMutationTest()
  const counted = ['Killed', 'Timeout', 'Survived', 'NoCoverage']
  return results
    .filter((m) => counted.includes(m.status))
    .map(({ fileName, location: { start, end }, replacement, mutatorName, status }) => {
      const file = relative(process.cwd(), fileName)
      return {
        line: `${file}:${start.line}-${start.line}`,
        key: [file, start.line, start.column, end.line, end.column, mutatorName, replacement].join(' '),
        isCaught: status === 'Killed' || status === 'Timeout',
      }
    })
}

async function mutants(folder: string, count: number): Promise<string> {
  const lines = drawn(sources(folder).flatMap(linesOf), Math.round(count / A_LINE))
  const tests = testsOf(folder)
  const everyday = tests.some((t) => !isLong(t)) ? await tryMutants(folder, lines, 'everyday') : undefined
  const caught = new Set(everyday?.filter((m) => m.isCaught).map((m) => m.key))
  const lived = everyday ? [...new Set(everyday.filter((m) => !m.isCaught).map((m) => m.line))] : lines
  const long = tests.some(isLong) && lived.length > 0 ? await tryMutants(folder, lived, 'long') : []
  for (const m of long) if (m.isCaught) caught.add(m.key)
  const all = new Set([...(everyday ?? []), ...long].map((m) => m.key)).size
  return `${folder}: ${caught.size} of ${all} seeded faults caught, ${Math.round((100 * caught.size) / Math.max(1, all))} %`
}

async function main(): Promise<void> {
  const args = process.argv.slice(2)
  const at = args.indexOf('--count')
  const count = at < 0 ? COUNT : Number(args[at + 1])
  const folders = args.filter((arg, k) => !arg.startsWith('-') && (at < 0 || k !== at + 1))
  const scores: string[] = []
  for (const folder of folders.length > 0 ? folders : ['src/core', 'src/plan'])
    scores.push(await mutants(folder, count))
  console.log(scores.join('\n'))
}
void main()
