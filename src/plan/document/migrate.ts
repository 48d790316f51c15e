/** Brings older documents up to this version, one step a version. */
import { fail, ok, type Result } from '@/core/result'
import { isRecord, type Doc } from './count'
import { FORMAT, FORMAT_VERSION } from './bounds'

/** step n turns version n into n + 1 */
const STEPS: Readonly<Record<number, (doc: Doc) => Doc>> = {
  // version 0, before the first release, had its units as one word
  0: (doc) => ({
    ...doc,
    version: 1,
    units:
      doc.units === 'imperial'
        ? { system: 'imperial', pressure: 'inHg', flow: 'cfm' }
        : { system: 'metric', pressure: 'kPa', flow: 'l/min' },
  }),
  // version 1 knew wet sumps alone
  1: (doc) => ({ ...doc, version: 2, engine: { sump: 'wet', ...(doc.engine as Doc | undefined) } }),
  // version 2 had an oil temperature in every state
  2: (doc) => ({ ...doc, version: 3, engine: withOneOil(doc.engine) }),
}

/** An engine whose oil temperature in use is one fact: that of cruise where it was entered, else the last one. */
function withOneOil(engine: unknown): unknown {
  if (!isRecord(engine) || !isRecord(engine.overrides)) return engine
  const entered: [state: string, oilC: unknown][] = []
  const overrides = Object.entries(engine.overrides).flatMap(([state, o]) => {
    if (!isRecord(o)) return [[state, o]]
    const { oilC, ...rest } = o
    if (oilC !== undefined) entered.push([state, oilC])
    return Object.keys(rest).length > 0 ? [[state, rest]] : []
  })
  const oil = (entered.find(([state]) => state === 'cruise') ?? entered.at(-1))?.[1]
  return { ...engine, overrides: Object.fromEntries(overrides), ...(oil === undefined ? {} : { oilC: oil }) }
}

/** A document of any earlier version as one of today; fails on a version that is unknown or newer. */
export function migrate(doc: Doc): Result<Doc> {
  if (doc.format !== FORMAT) return fail(`is not ${FORMAT}: this is not a file of a build`, 'format')
  let now = doc
  const version = () => (typeof now.version === 'number' && Number.isInteger(now.version) ? now.version : -1)
  if (version() > FORMAT_VERSION)
    return fail(`is ${version()}; this Ivent reads up to ${FORMAT_VERSION}. Use a newer Ivent`, 'version')
  while (version() < FORMAT_VERSION) {
    const step = STEPS[version()]
    if (!step) return fail('is missing or not a version that was ever written', 'version')
    now = step(now)
  }
  return ok(now)
}
