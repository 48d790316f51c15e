/** Every `@example` of a doc comment in core and plan is run: what stands behind its `//` is what it gives. */
import { readFileSync, readdirSync } from 'node:fs'
import { basename, dirname, join, resolve } from 'node:path'
import { pathToFileURL } from 'node:url'

type Example = { readonly file: string; readonly of: string; readonly code: string; readonly says: string }

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
  [...comment.matchAll(/@example\s+([\s\S]+?)(?=\n\s*@|$)/g)].map(([, text]) => {
    const whole = text!.trim()
    const cut = whole.lastIndexOf('//')
    return {
      file,
      of,
      code: cut < 0 ? whole : whole.slice(0, cut).trim(),
      says: cut < 0 ? '' : whole.slice(cut + 2).trim(),
    }
  }),
)

/** As many digits as the comment gives. */
function agrees(got: unknown, said: unknown, text: string): boolean {
  if (typeof got === 'number' && typeof said === 'number') {
    const [mantissa] = text.toLowerCase().replace('-', '').split('e')
    const digits = mantissa!.replace('.', '').replace(/^0+/, '').length
    const unit = said === 0 ? 1e-9 : 10 ** (Math.floor(Math.log10(Math.abs(said))) + 1 - digits)
    return Math.abs(got - said) <= 0.51 * unit
  }
  if (typeof got === 'object' && got !== null && typeof said === 'object' && said !== null)
    return Object.entries(said).every(([k, v]) => agrees((got as Record<string, unknown>)[k], v, String(v)))
  return Object.is(got, said)
}

const run = (code: string, names: Record<string, unknown>): unknown =>
  // oxlint-disable-next-line typescript/no-implied-eval
  new Function(...Object.keys(names), `return (${code})`)(...Object.values(names))

/** Names that examples use as a matter of course. */
async function namesFor(file: string): Promise<Record<string, unknown>> {
  const own = (await import(pathToFileURL(resolve(file)).href.replace('file://', ''))) as Record<string, unknown>
  const { makeHose } = await import('@/core/network/hose')
  const { makeSolver } = await import('@/core/network/solver')
  const { finish } = await import('@/core/job')
  const { learn } = await import('@/core/service/learn')
  const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
  const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
  return {
    makeHose,
    makeSolver,
    finish,
    learn,
    gas,
    cylinder,
    metric: { system: 'metric', pressure: 'kPa', flow: 'l/min' },
    charge: { pPa: 2e5, tK: 330, heatJ: 2000 },
    surroundings: { pressurePa: 101325, temperatureK: 293.15 },
    engine: {
      cylinders: 5,
      displacementM3: 2.5e-3,
      cylinder,
      induction: 'turbo',
      idleRpm: 850,
      ratedRpm: 6500,
      boostPa: 120e3,
      idleManifoldPa: 35e3,
      overrunManifoldPa: 25e3,
      inletDepressionPa: 3000,
      inletFouling: 1,
      oilInUseK: 368.15,
    },
    orifice: {
      gas,
      nodes: { a: { source: 0.002 }, b: { p: 101325 } },
      elements: [{ id: 'o', kind: 'orifice', from: 'a', to: 'b', cd: 0.62, areaM2: 1e-4 }],
    },
    ...own,
  }
}

test('there are examples to run', () => expect(examples.length).toBeGreaterThan(50))

test.each(examples.map((e) => [`${e.file} ${e.of}: ${e.code.slice(0, 80)}`, e] as const))('%s', async (_, e) => {
  expect([e.of, e.says === '' ? 'says nothing of what it gives' : '']).toEqual([e.of, ''])
  const names = await namesFor(e.file)
  const got = run(e.code, names)
  const said = e.says.includes('=>') ? undefined : run(e.says, names)
  if (e.says.includes('=>')) expect(typeof got).toBe('function')
  else if (!agrees(got, said, e.says)) expect(got).toEqual(said)
})

const everything = sources('src').concat(
  readdirSync('src', { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.tsx'))
    .map((f) => join('src', f)),
)
const imports = everything.map((file) => ({ file, text: readFileSync(file, 'utf8') }))

/** A law or solver of core that code outside its own folder calls; constants and the parts of one machine need none. */
test('laws and solvers that others call each have one', () => {
  const called = ({ file, of }: { file: string; of: string }) =>
    imports.some(
      (i) =>
        dirname(i.file) !== dirname(file) &&
        new RegExp(`import [^'"]*\\b${of}\\b[^'"]*from '[^']*/${basename(file, '.ts')}'`).test(i.text),
    )
  const without = documented
    .filter(({ file, of }) => file.includes('src/core/') && !/^[A-Z_0-9]+$/.test(of))
    .filter(({ comment }) => !comment.includes('@example'))
    .filter(called)
    .map(({ file, of }) => `${file} ${of}`)
  expect(without).toEqual([])
})
