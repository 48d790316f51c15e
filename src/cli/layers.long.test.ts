/** The guards of the layers guard: forbidden imports, written beside a copy of the code, are refused by the dependency checker. */
import { execFileSync } from 'node:child_process'
import { cpSync, mkdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

const COPY = join('.cache', 'layers')
beforeAll(() => {
  rmSync(COPY, { recursive: true, force: true })
  mkdirSync(COPY, { recursive: true })
  for (const copied of [
    'src',
    'e2e',
    'verification',
    'package.json',
    'playwright.config.ts',
    'tsconfig.json',
    '.dependency-cruiser.cjs',
  ])
    cpSync(copied, join(COPY, copied), { recursive: true })
  symlinkSync(resolve('node_modules'), join(COPY, 'node_modules'))
  symlinkSync(resolve('tools'), join(COPY, 'tools'))
})
afterAll(() => rmSync(COPY, { recursive: true, force: true }))

/** where, what it imports, the rule that must refuse it */
const PROBES: readonly (readonly [file: string, text: string, rule: string])[] = [
  [
    'core/gas/probe-a.ts',
    "import { MAX_PARTS } from '@/plan/document/schema'\nexport const x = MAX_PARTS",
    'core-knows-no-layer',
  ],
  ['core/gas/probe-b.ts', "export { MAX_PARTS } from '../../plan/document/schema'", 'core-knows-no-layer'],
  [
    'core/gas/probe-c.ts',
    "import type { Build } from '@/plan/document/schema'\nexport type X = Build",
    'core-knows-no-layer',
  ],
  ['core/gas/probe-d.ts', "export const late = () => import('@/server/store')", 'core-knows-no-layer'],
  ['core/gas/probe-e.ts', "export { readFileSync } from 'fs'", 'core-and-plan-without-node'],
  ['core/gas/probe-f.ts', "export { jsx } from 'react/jsx-runtime'", 'core-computes-alone'],
  ['core/gas/probe-g.ts', "export { number } from 'yup'", 'core-computes-alone'],
  ['plan/edit/probe-h.ts', "export { readFileSync } from 'node:fs'", 'core-and-plan-without-node'],
  ['plan/edit/probe-i.ts', "export { useState } from 'react'", 'core-and-plan-run-anywhere'],
  ['plan/edit/probe-j.ts', "export { query } from '../../server/store'", 'plan-knows-core-alone'],
  ['plan/edit/probe-k.ts', "import type { Theme } from '@/ui/theme'\nexport type X = Theme", 'plan-knows-core-alone'],
  [
    'features/log/probe-l.tsx',
    "import { query } from '@/server/store'\nexport const X = () => <p>{String(query)}</p>",
    'screens-reach-the-store-by-routes',
  ],
  ['ui/probe-m.tsx', "export { useUnits } from '@/features/workspace/store'", 'controls-know-no-station'],
  ['server/probe-n.ts', "export { Dialog } from '@/ui/dialog'", 'the-server-knows-no-screen'],
  ['plan/probe-o.ts', "export { after } from './testing'", 'test-helpers-are-for-tests'],
  ['plan/document/probe-s.ts', "export { hose } from '../catalogue/parts'", 'plan-floor-document'],
  ['plan/catalogue/probe-t.ts', "export { resolve } from '../model/resolve'", 'plan-floor-catalogue'],
  ['plan/edit/probe-u.ts', "export { SCHOOLS } from '../schools/schools'", 'plan-floor-edit'],
  ['plan/model/probe-v.ts', "export { judge } from '../verdicts/judge'", 'plan-floor-model'],
  [
    'plan/service/probe-w.ts',
    "import type { Analysis } from '@/plan/analyse'\nexport type X = Analysis",
    'plan-floor-service',
  ],
  ['plan/verdicts/probe-x.ts', "export const late = () => import('../explain/figures')", 'plan-floor-verdicts'],
  ['plan/faults/probe-y.ts', "export { rankSchools } from '../studies/rank'", 'plan-floor-faults'],
  ['plan/attic/probe-z.ts', "export { MAX_PARTS } from '../document/bounds'", 'plan-has-no-other-floor'],
  ['../verification/probe-1.ts', "export { runCases } from '../src/cli/verify'", 'checks-know-no-command'],
  ['offline/worker/probe-3.ts', "export { useState } from 'react'", 'what-runs-beside-the-pages-knows-none'],
  ['offline/probe-2.ts', "export { useUnits } from '@/features/workspace/store'", 'what-is-kept-knows-no-station'],
  ['core/gas/probe-p.ts', "export { nothing } from './no-such-file'", 'nothing-unresolved'],
]
// a circle of types alone
const CIRCLE = [
  ['core/gas/probe-q.ts', "import type { B } from './probe-r'\nexport type A = { b: B }"],
  ['core/gas/probe-r.ts', "import type { A } from './probe-q'\nexport type B = { a: A }"],
] as const

type Found = { readonly rule: { readonly name: string }; readonly from: string }

test('every probe is refused by the rule that is there for it, and nothing else is', () => {
  for (const [file, text] of [...PROBES, ...CIRCLE]) {
    mkdirSync(dirname(join(COPY, 'src', file)), { recursive: true })
    writeFileSync(join(COPY, 'src', file), `${text}\n`)
  }
  let report = ''
  try {
    report = execFileSync('npm', ['run', '--silent', 'layers', '--', '--output-type', 'json', 'src', 'verification'], {
      cwd: COPY,
      encoding: 'utf8',
      maxBuffer: 1 << 28,
    })
  } catch (error) {
    report = (error as { stdout: string }).stdout
  }
  const { violations } = (JSON.parse(report) as { summary: { violations: readonly Found[] } }).summary
  for (const [file, , rule] of PROBES) {
    const rules = violations.filter((v) => v.from === join('src', file)).map((v) => v.rule.name)
    expect([file, rules.includes(rule) ? rule : rules]).toEqual([file, rule])
  }
  expect(violations.some((v) => v.rule.name === 'no-circles' && /probe-[qr]/.test(v.from))).toBe(true)
  expect(violations.filter((v) => !v.from.includes('/probe-')).map((v) => `${v.from} ${v.rule.name}`)).toEqual([])
})
