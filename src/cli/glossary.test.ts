/** One word for one thing: no name is exported by two files, every word of code in the glossary is there, and public functions say what they do. */
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

/** Functions that a file exports without a doc comment right above. */
const undocumented = ({ file, text }: { readonly file: string; readonly text: string }): readonly string[] =>
  [
    ...text.matchAll(
      /(?<=^(.*)\n)export (?:function\*? (\w+)|const (\w+)(?:: \w+Of<[^>]*>)? =\s*(?:<[^(]*>)?\([^=]*\)(?:: [^=]+)? =>)/gm,
    ),
  ].flatMap(([, above, declared, assigned]) =>
    above!.trimEnd().endsWith('*/') ? [] : [`${file}: ${declared ?? assigned}`],
  )

test('every public function of core and plan says what it does', () => {
  const pure = sources.filter((s) => /^src.(core|plan).*\.ts$/.test(s.file) && !s.file.endsWith('testing.ts'))
  expect(pure.length).toBeGreaterThan(150)
  expect(pure.flatMap(undocumented)).toEqual([])
})

test('a public function without a word is found', () => {
  const said = '/** Twice x. */\nexport function twice(x: number): number {'
  const silent = '\nexport const half = (x: number): number => x / 2\n\nexport function* third(): Job<void> {'
  expect(undocumented({ file: 'probe.ts', text: said + silent })).toEqual(['probe.ts: half', 'probe.ts: third'])
})
