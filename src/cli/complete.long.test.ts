/** What depends on a kind of part, a rule or a school is a complete table by type: one added to a copy is led to each place. */
import { spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const COPY = join('.cache', 'complete')
beforeAll(() => {
  rmSync(COPY, { recursive: true, force: true })
  for (const layer of ['core', 'plan'])
    cpSync(join('src', layer), join(COPY, 'src', layer), {
      recursive: true,
      filter: (file) => !file.endsWith('.test.ts'),
    })
  const config = JSON.parse(readFileSync('tsconfig.pure.json', 'utf8')) as { extends: string }
  writeFileSync(
    join(COPY, 'tsconfig.json'),
    JSON.stringify({
      ...config,
      extends: join('..', '..', config.extends),
      compilerOptions: { ...(config as { compilerOptions?: object }).compilerOptions, paths: { '@/*': ['./src/*'] } },
      include: ['src/**/*.ts'],
      exclude: [],
    }),
  )
  mkdirSync('.cache', { recursive: true })
})
afterAll(() => rmSync(COPY, { recursive: true, force: true }))

type Patch = { readonly file: string; readonly text: string; readonly instead: string }
/** Files in which the compiler finds something wrong once each `text` stands as `instead`, and what it says there. */
function ledTo(...patches: readonly Patch[]): ReadonlyMap<string, readonly string[]> {
  const at = (file: string) => join(COPY, 'src', file)
  const before = new Map(patches.map(({ file }) => [file, readFileSync(at(file), 'utf8')]))
  for (const { file, text, instead } of patches) {
    const now = readFileSync(at(file), 'utf8')
    if (!now.includes(text)) throw new Error(`${file} does not hold ${text}`)
    writeFileSync(at(file), now.replace(text, instead))
  }
  try {
    const { stdout } = spawnSync(
      process.execPath,
      ['node_modules/typescript/bin/tsc', '--noEmit', '-p', COPY, '--pretty', 'false'],
      {
        encoding: 'utf8',
      },
    )
    const found = new Map<string, string[]>()
    for (const [, path, words] of stdout.matchAll(/([\w./-]+\.ts)\(\d+,\d+\): (error .*)/g)) {
      const file = path!.replace(/^.*src\//, '')
      found.set(file, [...(found.get(file) ?? []), words!])
    }
    return found
  } finally {
    for (const [file, was] of before) writeFileSync(at(file), was)
  }
}

test('a new kind of part, a rule without a page, a page and a school that leave something out: each is named', () => {
  const led = ledTo(
    {
      file: 'plan/document/schema.ts',
      text: "  cover: shape({ ...partBase, kind: choice('cover') }),",
      instead:
        "  cover: shape({ ...partBase, kind: choice('cover') }),\n  muffler: shape({ ...partBase, kind: choice('muffler') }),",
    },
    { file: 'plan/verdicts/rules/law.ts', text: "id: 'vented-street'", instead: "id: 'unheard-of'" },
    { file: 'plan/verdicts/pages.ts', text: '    mendsSchool: false,\n', instead: '' },
    { file: 'plan/schools/schools.ts', text: '    fits: anyEngine,\n', instead: '' },
  )
  expect([...led.keys()].toSorted()).toEqual([
    // hours and means to fit it, what the kind is to the gas, its figures, and how it fails
    'plan/catalogue/effort.ts',
    'plan/document/kinds.ts',
    'plan/document/schema.ts',
    'plan/faults/faults.ts',
    'plan/schools/schools.ts',
    'plan/verdicts/pages.ts',
    'plan/verdicts/rules/law.ts',
  ])
})

test('a new kind of log entry, thing to read and way of reading it are asked for their words and figures', () => {
  const led = ledTo(
    {
      file: 'plan/document/bounds.ts',
      text: "'level', 'reading', 'session'] as const",
      instead: "'level', 'reading', 'session', 'filter'] as const",
    },
    {
      file: 'plan/document/log-fields.ts',
      text: "  velocity: { sayAs: 'speed', at: 'hose' },",
      instead: "  velocity: { sayAs: 'speed', at: 'hose' },\n  opacity: { sayAs: 'shade', at: 'hose' },",
    },
    {
      file: 'plan/document/log-fields.ts',
      text: "flow: { name: 'Flow in a hose', of: 'flow', figures: { lpm: READING_FIELDS.lpm } },",
      instead:
        "flow: { name: 'Flow in a hose', of: 'flow', figures: { lpm: READING_FIELDS.lpm } },\n  sight: { name: 'By eye', of: 'flow' },",
    },
  )
  expect([...led.keys()].toSorted()).toEqual([
    // facts of the entry, words of the quantity, figures of the way
    'plan/document/log-fields.ts',
    // what follows from them: how it is typed, taken in from a table, compared with a plan
    'plan/service/entry-draft.ts',
    'plan/service/log-csv.ts',
    'plan/service/readings.ts',
  ])
})

test('a kind that lets gas through or holds a pressure is asked what it does to the gas, and in which words', () => {
  const led = ledTo(
    { file: 'plan/document/kinds.ts', text: "tee: { role: 'space'", instead: "tee: { role: 'through'" },
    { file: 'plan/document/kinds.ts', text: "tank: { role: 'space'", instead: "tank: { role: 'boundary'" },
  )
  // what passes it, and what it holds
  expect(led.get('plan/model/network.ts')).toHaveLength(2)
  expect([...led.keys()]).toContain('plan/explain/figures/passage.ts')
})
