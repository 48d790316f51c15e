/** ./ivent new: a build as JSON for an engine class, use and school, so that builds can be scripted and checked from outside. */
import { parseArgs } from 'node:util'
import { ENGINE_CLASSES } from '@/plan/catalogue/engines'
import { USES } from '@/plan/catalogue/uses'
import { validateBuild } from '@/plan/document/validate'
import { newBuild } from '@/plan/schools/new-build'
import { SCHOOLS } from '@/plan/schools/schools'

const HELP = `./ivent new --engine CLASS [--school KEY] [--use KEY] [--name NAME] [--ambient C] [--altitude M] [--km PER_YEAR] [--units metric|imperial]
./ivent new --list    what there is to choose from, as JSON`

class Usage extends Error {}

const pick = <T extends { readonly key: string }>(
  list: readonly T[],
  key: string | undefined,
  what: string,
): T['key'] => {
  if (key === undefined) throw new Usage(`Say which ${what}.\n${HELP}`)
  if (list.some((x) => x.key === key)) return key
  throw new Usage(`There is no ${what} ${key}. There are: ${list.map((x) => x.key).join(', ')}.`)
}
function figure(text: string | undefined, what: string): number | undefined {
  if (text === undefined) return undefined
  const value = Number(text)
  if (text.trim() === '' || !Number.isFinite(value)) throw new Usage(`${what} must be a number, not ${text}.`)
  return value
}

const OPTIONS = {
  engine: { type: 'string' },
  school: { type: 'string', default: 'vacuum-side-can' },
  use: { type: 'string', default: 'street' },
  name: { type: 'string' },
  ambient: { type: 'string', default: '10' },
  altitude: { type: 'string' },
  km: { type: 'string' },
  units: { type: 'string', default: 'metric' },
  list: { type: 'boolean', default: false },
} as const

const keysAndNames = (list: readonly { readonly key: string; readonly name: string }[]) =>
  Object.fromEntries(list.map(({ key, name }) => [key, name]))

/** The JSON that the command prints. Throws a Usage with a sentence for whoever typed it. */
export function newFromArguments(args: readonly string[]): object {
  const { values } = parseArgs({ args: [...args], options: OPTIONS, strict: true, allowPositionals: false })
  if (values.list)
    return { engines: keysAndNames(ENGINE_CLASSES), uses: keysAndNames(USES), schools: keysAndNames(SCHOOLS) }
  const engineClass = pick(ENGINE_CLASSES, values.engine, 'engine')
  if (values.units !== 'metric' && values.units !== 'imperial') throw new Usage('units are metric or imperial.')
  const build = newBuild({
    name: values.name ?? engineClass,
    engineClass,
    use: pick(USES, values.use, 'use'),
    school: pick(SCHOOLS, values.school, 'school'),
    ambientC: figure(values.ambient, 'ambient') ?? 10,
    altitudeM: figure(values.altitude, 'altitude'),
    kmPerYear: figure(values.km, 'km'),
    units: values.units,
  })
  const valid = validateBuild(build)
  if (!valid.ok) throw new Usage(valid.problems.map((p) => `${p.path}: ${p.message}`).join('\n'))
  return build
}

if (process.argv[1]?.endsWith('new.ts')) {
  try {
    console.log(JSON.stringify(newFromArguments(process.argv.slice(2)), null, 1))
  } catch (error) {
    console.error(error instanceof Error ? error.message : String(error))
    process.exit(2)
  }
}
