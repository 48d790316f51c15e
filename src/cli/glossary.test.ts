/** One word for one thing: no name is exported by two files, and every word of code in the glossary is there. */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

const files = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.(tsx?|css)$/.test(f) && !/\.test\.tsx?$/.test(f))
    .map((f) => join(folder, f))
const sources = ['src', 'verification'].flatMap(files).map((file) => ({ file, text: readFileSync(file, 'utf8') }))

/** Names that a file declares and exports, types and values; what Next asks for by name in routes and pages is not its own. */
const exportsOf = ({ file, text }: { readonly file: string; readonly text: string }): readonly string[] =>
  file.startsWith(join('src', 'app'))
    ? []
    : [...text.matchAll(/^export (?:default )?(?:async )?(?:type|interface|class|function\*?|const|let) (\w+)/gm)].map(
        ([, name]) => name!,
      )

/** Names with the files that export them, where there are two and more. */
function namedTwice(of: readonly { readonly file: string; readonly text: string }[]): readonly string[] {
  const byName = new Map<string, Set<string>>()
  for (const source of of)
    for (const name of exportsOf(source)) byName.set(name, (byName.get(name) ?? new Set()).add(source.file))
  return [...byName].flatMap(([name, where]) => (where.size > 1 ? [`${name}: ${[...where].join(', ')}`] : []))
}

test('no type or function has a name that means another thing in another file', () => {
  expect(namedTwice(sources)).toEqual([])
})

test('a name given twice is found, a type beside a function too', () => {
  const twice = {
    file: 'src/plan/probe.ts',
    text: 'export type Evaluator = { readonly other: true }',
  }
  expect(namedTwice([...sources, twice])).toEqual([
    expect.stringMatching(/^Evaluator: .*evaluator\.ts, src\/plan\/probe\.ts$/),
  ])
})

test('every word of code in the glossary stands in the source', () => {
  const words = [...readFileSync(join('docs', 'glossary.md'), 'utf8').matchAll(/`([\w-]+)`/g)].map(([, word]) => word!)
  const all = sources.map((s) => s.text).join('\n')
  expect(words.length).toBeGreaterThan(50)
  expect([...new Set(words)].filter((word) => word !== 'code' && !new RegExp(`\\b${word}\\b`).test(all))).toEqual([])
})
