/** Every `@example` of a doc comment in core and plan is run as it would be pasted: what stands behind its `//` is what it prints. */
import { mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { basename, dirname, join, resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import { inspect } from 'node:util'

type Example = { readonly file: string; readonly of: string; readonly code: string }

const sources = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts'))
    .map((f) => join(folder, f))

/** Text of a doc comment without its stars. */
const plain = (comment: string) =>
  comment
    .replaceAll(/^\s*\/\*\*|\*\/$/g, '')
    .split('\n')
    .map((l) => l.replace(/^\s*\*\s?/, ''))
    .join('\n')

const documented = [...sources('src/core'), ...sources('src/plan')].flatMap((file) =>
  [
    ...readFileSync(file, 'utf8').matchAll(
      /(\/\*\*(?:(?!\*\/)[\s\S])*\*\/)\s*export (?:async )?(?:function\*?|const) (\w+)/g,
    ),
  ].map(([, comment, of]) => ({ file, of: of!, comment: plain(comment!) })),
)
const examples: readonly Example[] = documented.flatMap(({ file, of, comment }) =>
  [...comment.matchAll(/@example\n([\s\S]+?)(?=\n@|$)/g)].map(([, code]) => ({ file, of, code: code!.trim() })),
)

const FOLDER = join('.cache', 'examples')
beforeAll(() => {
  rmSync(FOLDER, { recursive: true, force: true })
  mkdirSync(FOLDER, { recursive: true })
})
afterAll(() => rmSync(FOLDER, { recursive: true, force: true }))

/** What a line prints, as Node would print it on one line. */
const printed = (value: unknown) => inspect(value, { breakLength: Infinity, depth: 9, maxArrayLength: 99 })
/** The same figures to a billionth: the last digit of a logarithm is the engine's own. */
function agrees(got: string, said: string): boolean {
  const words = (text: string) => text.split(/(?<![\w.])(-?\d[\d.]*(?:e[+-]?\d+)?)/)
  const [a, b] = [words(got), words(said)]
  return (
    a.length === b.length &&
    a.every((word, k) => word === b[k] || Math.abs(Number(word) - Number(b[k])) <= 1e-9 * Math.abs(Number(b[k])))
  )
}

test('there are examples to run', () => expect(examples.length).toBeGreaterThan(290))

test.each(examples.map((e, k) => [`${e.file} ${e.of}`, e, k] as const))('%s runs as pasted', async (_, e, k) => {
  // whole: it imports what it shows, and says what it prints
  expect(e.code).toMatch(new RegExp(`^import \\{[^}]*\\b${e.of}\\b[^}]*\\} from '@/`, 'm'))
  const said = [...e.code.matchAll(/\) \/\/ (.+)$/gm)].map(([, text]) => text!)
  expect(said.length).toBeGreaterThan(0)
  expect(said.some((text) => text.includes('=>'))).toBe(false)
  const file = join(FOLDER, `example-${k}.ts`)
  writeFileSync(file, e.code)
  const log = jest.spyOn(console, 'log').mockImplementation(() => undefined)
  try {
    await import(pathToFileURL(resolve(file)).href.replace('file://', ''))
    const got = log.mock.calls.map(([value]) => printed(value))
    if (!(got.length === said.length && got.every((text, n) => agrees(text, said[n]!)))) expect(got).toEqual(said)
  } finally {
    log.mockRestore()
  }
})

const everything = sources('src').concat(
  readdirSync('src', { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.tsx'))
    .map((f) => join('src', f)),
)
const imports = everything.map((file) => ({ file, text: readFileSync(file, 'utf8') }))
/** Files that import a name from a file. */
const callers = (file: string, of: string): readonly string[] => {
  const importing = new RegExp(`import [^'"]*\\b${of}\\b[^'"]*from '[^']*/${basename(file, '.ts')}'`)
  return imports.filter((i) => importing.test(i.text)).map((i) => i.file)
}

/** A law or solver of core that code outside its own folder calls; constants and the parts of one machine need none. */
test('laws and solvers that others call each have one', () => {
  const called = ({ file, of }: { file: string; of: string }) =>
    callers(file, of).some((caller) => dirname(caller) !== dirname(file))
  const without = documented
    .filter(({ file, of }) => file.includes('src/core/') && !/^[A-Z_0-9]+$/.test(of))
    .filter(({ comment }) => !comment.includes('@example'))
    .filter(called)
    .map(({ file, of }) => `${file} ${of}`)
  expect(without).toEqual([])
})

/** What pages, server and command line call again and again: it is read first by who builds on plan. */
const CALLED_BY = 4
test('functions of plan that many outside it call each have one', () => {
  const without = documented
    .filter(({ file, of }) => file.includes('src/plan/') && /^[a-z]/.test(of))
    .filter(({ comment }) => !comment.includes('@example'))
    .filter(({ file, of }) => callers(file, of).filter((c) => !/src.(plan|core)/.test(c)).length >= CALLED_BY)
    .map(({ file, of }) => `${file} ${of}`)
  expect(without).toEqual([])
})
