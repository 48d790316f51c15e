/** What a plan has lost of its school's circuit, put back: a line that is off, a valve that is missing. */
import { isThrough } from '../document/kinds'
import type { LineEnd, Variant } from '../document/schema'
import { join, splice, type EditBuilder } from '../edit/edit-builders'
import { loweredName } from '../document/words'
import { schoolOf, variantOf } from '../schools/schools'
import type { Case, Fix } from './verdict'

type PutBack = { readonly label: string; readonly builder: EditBuilder }

/** Every line and every part in a line that its school has and the plan has not, where its place is still free. */
export function putBacks(c: Case): readonly PutBack[] {
  const school = schoolOf(c.variant.school)
  const meant = school ? variantOf(school, c.build.engine, 'meant') : c.makers()
  return [...missingLines(c.variant, meant), ...missingValves(c.variant, meant)]
}

function missingLines(plan: Variant, meant: Variant): PutBack[] {
  const has = ({ part, port }: LineEnd) => plan.parts.some((p) => p.id === part && p.ports.some((q) => q.id === port))
  const taken = ({ part, port }: LineEnd) =>
    plan.lines.some((l) => [l.from, l.to].some((e) => e.part === part && e.port === port))
  return meant.lines.flatMap((line) => {
    if (plan.lines.some((l) => l.id === line.id)) return []
    if (![line.from, line.to].every((e) => has(e) && !taken(e))) return []
    return [{ label: `Put the ${loweredName(line)} back`, builder: join(line) }]
  })
}

/** A part that stood between two lines, of which one now runs on through its place. */
function missingValves(plan: Variant, meant: Variant): PutBack[] {
  return meant.parts.flatMap((part) => {
    if (!isThrough(part.kind) || plan.parts.some((p) => p.id === part.id)) return []
    const into = meant.lines.find((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === 'in'))
    const line = into && plan.lines.find((l) => l.id === into.id && l.kind === 'hose')
    if (!line || !into) return []
    const onward = into.to.part === part.id
    return [{ label: `Put the ${loweredName(part)} back`, builder: splice(line.id, part, 'middle', !onward) }]
  })
}

/** The fixes that they are, to be tried one by one. */
export const putBackFixes = (c: Case): readonly Fix[] =>
  c.offers ? putBacks(c).flatMap(({ label, builder }) => c.fix(label, builder) ?? []) : []
