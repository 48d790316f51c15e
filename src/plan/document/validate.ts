/** Whether something is a build, and if not, what is wrong and where. */
import { ValidationError } from 'yup'
import { ACTIVITIES } from '@/core/service/rates'
import { migrate } from './migrate'
import { isRecord, tooMuch, type Doc, type Problem } from './count'
import { readingProblem } from './log-fields'
import { buildSchema, lineSchema, logEntrySchema, partSchema, type Build, type Part, type Variant } from './schema'
import { isSoundEntry } from './sound-entry'
import { isThrough } from './kinds'

export type { Problem } from './count'
export type Validated =
  { readonly ok: true; readonly build: Build } | { readonly ok: false; readonly problems: readonly Problem[] }

const OPTIONS = { strict: true, abortEarly: false, stripUnknown: false } as const
const MOST_PROBLEMS = 50
/** Letters of one message: of a thousand unknown names the first are listed. */
const MOST_WORDS = 200
const MOST_ENTRIES_NAMED = 5

/** Names and indexes as a person reads them: variants › 1 › lines › 3 › boreMm. */
const readable = (path: string) =>
  path.replaceAll(/\[(\d+)\]/g, (_, i: string) => `.${Number(i) + 1}`).replaceAll('.', ' › ') || 'the file'

/**
 * Checks anything that claims to be a build, older versions migrated first. Every problem is listed, at most 50, and of bad
 * log entries the first five; nothing is changed or
 * dropped silently.
 *
 * @example
 * import { validateBuild } from '@/plan/document/validate'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log([validateBuild(build).ok, validateBuild({ ...build, engine: undefined }).ok]) // [ true, false ]
 */
export function validateBuild(input: unknown): Validated {
  if (input === null || typeof input !== 'object' || Array.isArray(input))
    return { ok: false, problems: [{ path: 'the file', message: 'is not a build: a JSON object is expected' }] }
  const much = tooMuch(input as Record<string, unknown>)
  if (much) return { ok: false, problems: [much] }
  const migrated = migrate(input as Record<string, unknown>)
  if (!migrated.ok) return { ok: false, problems: [{ path: migrated.at ?? 'the file', message: migrated.reason }] }
  const shapes = shapeProblems(migrated.value)
  if (shapes.length > 0) return { ok: false, problems: shapes.slice(0, MOST_PROBLEMS) }
  const build = migrated.value as unknown as Build
  const problems = [
    ...buildProblems(build),
    ...build.variants.flatMap((v, i) => variantProblems(v, `variants › ${i + 1}`)),
  ]
  return problems.length > 0 ? { ok: false, problems: problems.slice(0, MOST_PROBLEMS) } : { ok: true, build }
}

/** All that is needed of a Yup schema, lazy ones too. */
type Checker = { readonly validateSync: (value: unknown, options: typeof OPTIONS) => unknown }

/** What a schema finds wrong, under the path where the value stands; none where it fits. */
function schemaProblems(schema: Checker, value: unknown, path: string): Problem[] {
  try {
    schema.validateSync(value, OPTIONS)
    return []
  } catch (error) {
    if (!(error instanceof ValidationError)) return [{ path, message: 'has a shape that cannot be read' }]
    const all = error.inner.length > 0 ? error.inner : [error]
    return all.slice(0, MOST_PROBLEMS).map((e) => {
      const own = e.path ?? ''
      const message = e.message.startsWith(own) ? e.message.slice(own.length).trim() : e.message
      return { path: readable([path, own].filter(Boolean).join('.')), message: message.slice(0, MOST_WORDS) }
    })
  }
}

/** The same with its lists emptied: what they hold is checked item by item, and only until enough is found. */
const emptied = (x: unknown, ...lists: readonly string[]): unknown =>
  isRecord(x)
    ? { ...x, ...Object.fromEntries(lists.filter((key) => Array.isArray(x[key])).map((key) => [key, []])) }
    : x

/** Whether everything has the shape that the schema says. Of a wrong shape a thousand times over the first few are listed. */
function shapeProblems(doc: Doc): Problem[] {
  const variants = Array.isArray(doc.variants) ? (doc.variants as unknown[]) : undefined
  const shell = emptied(
    { ...doc, ...(variants && { variants: variants.map((v) => emptied(v, 'parts', 'lines')) }) },
    'log',
  )
  const problems = schemaProblems(buildSchema, shell, '')
  const each = (list: unknown, schema: Checker, path: string) => {
    if (!Array.isArray(list)) return
    for (let i = 0; i < list.length && problems.length < MOST_PROBLEMS; i++)
      problems.push(...schemaProblems(schema, list[i], `${path}[${i}]`))
  }
  variants?.forEach((v, i) => {
    if (!isRecord(v)) return
    each(v.parts, partSchema as unknown as Checker, `variants[${i}].parts`)
    each(v.lines, lineSchema, `variants[${i}].lines`)
  })
  if (Array.isArray(doc.log)) problems.push(...logProblems(doc.log))
  return problems
}

/** The first entries that are not sound, each with its reasons, and how many more there are. */
function logProblems(log: readonly unknown[]): Problem[] {
  const bad = log.flatMap((e, i) => (isSoundEntry(e) ? [] : [i]))
  const problems = bad.slice(0, MOST_ENTRIES_NAMED).flatMap((i) => schemaProblems(logEntrySchema, log[i], `log[${i}]`))
  const more = bad.length - MOST_ENTRIES_NAMED
  return more > 0 ? [...problems, { path: 'log', message: `has ${more} more entries that are not sound` }] : problems
}

function buildProblems(build: Build): Problem[] {
  const problems: Problem[] = []
  const ids = build.variants.map((v) => v.id)
  if (!ids.includes(build.active))
    problems.push({ path: 'active', message: `names the variant ${build.active}, which does not exist` })
  problems.push(
    ...repeated(ids, 'variants'),
    ...repeated(
      build.log.map((e) => e.id),
      'log',
    ),
  )
  if (build.engine.ratedRpm <= build.engine.idleRpm)
    problems.push({ path: 'engine › ratedRpm', message: 'must be above the idle speed' })
  if (build.engine.induction !== 'na' && build.engine.boostKpa <= 0)
    problems.push({ path: 'engine › boostKpa', message: 'must be above 0 for a charged engine' })
  const measured = build.engine.blowBy
  if (measured && measured.lpm === undefined && (measured.orificeMm === undefined || measured.kpa === undefined))
    problems.push({ path: 'engine › blowBy', message: 'needs a flow, or an orifice and the pressure across it' })
  if (ACTIVITIES.every((a) => build.duty.hours[a] === 0))
    problems.push({ path: 'duty › hours', message: 'are all zero: say how the car is used' })
  build.log.forEach((e, i) => {
    if (e.kind === 'emptied' && e.ml === undefined && e.seen === undefined)
      problems.push({ path: `log › ${i + 1} › ml`, message: 'is missing: how much came out' })
    if ((e.waterMl ?? 0) > (e.ml ?? Infinity))
      problems.push({ path: `log › ${i + 1} › waterMl`, message: 'is more than all that came out' })
    if (e.kind === 'level' && e.level === undefined)
      problems.push({ path: `log › ${i + 1} › level`, message: 'is missing: where the oil stood' })
    const wrong = e.kind === 'reading' ? readingProblem(e.reading) : undefined
    if (wrong) problems.push({ path: `log › ${i + 1} › reading`, message: wrong })
  })
  return problems
}

function repeated(ids: readonly string[], path: string): Problem[] {
  const seen = new Set<string>()
  return ids.flatMap((id, i) =>
    seen.has(id) ? [{ path: `${path} › ${i + 1} › id`, message: `repeats ${id}` }] : (seen.add(id), []),
  )
}

/** Ports exist, carry one line each, and lines run between two of them. */
export function variantProblems(variant: Variant, path = 'variant'): Problem[] {
  // a line and a part may not share an id either: flows are told apart by it
  const problems: Problem[] = [
    ...repeated([...variant.parts.map((p) => p.id), ...variant.lines.map((l) => l.id)], `${path} › parts and lines`),
  ]
  const parts = new Map<string, Part>(variant.parts.map((p) => [p.id, p]))
  const crankcases = variant.parts.filter((p) => p.kind === 'crankcase').length
  if (crankcases !== 1)
    problems.push({
      path: `${path} › parts`,
      message: crankcases === 0 ? 'has no crankcase' : `has ${crankcases} crankcases; a build is one engine`,
    })
  const taken = new Map<string, string>()
  variant.lines.forEach((line, i) => {
    for (const side of ['from', 'to'] as const) {
      const end = line[side]
      const at = `${path} › lines › ${i + 1} › ${side}`
      const target = parts.get(end.part)
      if (!target) problems.push({ path: at, message: `goes to the part ${end.part}, which does not exist` })
      else if (!target.ports.some((p) => p.id === end.port))
        problems.push({ path: at, message: `goes to the port ${end.port}, which ${target.name} does not have` })
      else {
        const key = `${end.part} ${end.port}`
        const other = taken.get(key)
        if (other) problems.push({ path: at, message: `takes the port that ${other} already takes` })
        taken.set(key, line.name)
      }
    }
    if (line.from.part === line.to.part)
      problems.push({ path: `${path} › lines › ${i + 1}`, message: 'joins a part to itself' })
  })
  variant.parts.forEach((p, i) => {
    problems.push(
      ...repeated(
        p.ports.map((port) => port.id),
        `${path} › parts › ${i + 1} › ports`,
      ),
    )
    if (isThrough(p.kind) && !(['in', 'out'] as const).every((need) => p.ports.some((port) => port.id === need)))
      problems.push({ path: `${path} › parts › ${i + 1} › ports`, message: 'needs the ports in and out' })
    if (p.kind === 'pcv' && p.areaMm2ByKpa.some((point, k) => k > 0 && point[0] <= p.areaMm2ByKpa[k - 1]![0]))
      problems.push({
        path: `${path} › parts › ${i + 1} › areaMm2ByKpa`,
        message: 'must go up in pressure from point to point',
      })
  })
  return problems
}
