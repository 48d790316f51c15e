/** What the linter refuses in core and plan: state at the top of a module, and more than four positional arguments. */
import { spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

// outside the repository: what git ignores the linter does too
const COPY = mkdtempSync(join(tmpdir(), 'ivent-lint-'))
beforeAll(() => {
  mkdirSync(join(COPY, 'src/core/gas'), { recursive: true })
  mkdirSync(join(COPY, 'src/plan/model'), { recursive: true })
  cpSync('.oxlintrc.json', join(COPY, '.oxlintrc.json'))
  cpSync('tools/lint', join(COPY, 'tools/lint'), { recursive: true })
})
afterAll(() => rmSync(COPY, { recursive: true, force: true }))

const STATE = 'ivent(no-module-state)'
const PROBES: readonly (readonly [text: string, rule: string | undefined])[] = [
  ['let last = 0\nexport const next = () => ++last', STATE],
  ['const recent = []\nexport const add = (x) => recent.unshift(x)', STATE],
  ['const tables = new Map<string, number>()\nexport const at = (k: string) => tables.get(k)', STATE],
  [
    'const answers: ReadonlyMap<object, number> = new WeakMap()\nexport const known = (k: object) => answers.get(k)',
    STATE,
  ],
  ['export const perKg = new Float64Array(32)', STATE],
  ["import { weakMemo } from '@/core/weak-memo'\nexport const sizesOf = weakMemo((of: object) => ({ of }))", STATE],
  ['const at = { psi: 0 }\nexport function fill(x: number) {\n  at.psi = x\n  return at\n}', STATE],
  ['const rows = [[1], [2]]\nexport const grow = (x: number) => rows[0]!.push(x)', STATE],
  // data, and what a function keeps for whoever made it
  ["const NAMES: ReadonlySet<string> = new Set(['a'])\nexport const isName = (x: string) => NAMES.has(x)", undefined],
  [
    'export function makeCounter() {\n  let n = 0\n  const seen = new Map<string, number>()\n  return (x: string) => seen.set(x, ++n)\n}',
    undefined,
  ],
  ['export const five = (a: 1, b: 2, c: 3, d: 4, e: 5) => [a, b, c, d, e]', 'eslint(max-params)'],
  ['export const four = (a: 1, b: 2, c: 3, d: 4) => [a, b, c, d]', undefined],
]

test('every probe is refused by the rule that is there for it, or by none', () => {
  const at = (k: number) => `src/${k % 2 ? 'core/gas' : 'plan/model'}/probe-${k}.ts`
  PROBES.forEach(([text], k) => writeFileSync(join(COPY, at(k)), `${text}\n`))
  const { stdout } = spawnSync(resolve('node_modules/.bin/oxlint'), ['-f', 'unix', 'src'], {
    cwd: COPY,
    encoding: 'utf8',
  })
  const found = PROBES.map((_, k) => [
    ...new Set(stdout.split('\n').flatMap((l) => (l.startsWith(at(k)) ? (/(?<=\[\w+\/).*(?=\]$)/.exec(l) ?? []) : []))),
  ])
  expect(found).toEqual(PROBES.map(([, rule]) => (rule ? [rule] : [])))
})
