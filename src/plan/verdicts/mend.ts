/** Fixes that several rules offer. */
import type { StateId } from '@/core/engine/states'
import { CHECKS, checkFor } from '../catalogue/valves'
import { entryOf } from '../catalogue/entry'
import { splice } from '../edit/deeds'
import type { GasResult } from '../model/results'
import { check, restrictor } from '../schools/parts'
import { lineAt } from './look'
import type { Case, Fix } from './verdict'

/** The line at a part, spliced with a check valve that lets gas run only towards it. */
export function fitCheck(c: Case, partId: string): Fix | undefined {
  const at = lineAt(c, partId)
  if (!at || at.line.kind !== 'hose') return undefined
  const size = checkFor(at.line.boreMm)
  const part = check('check', 'Check valve', size)
  return c.fix(
    `Fit a check valve, ${entryOf(CHECKS, size).name}, at the ${c.part(partId)?.name.toLowerCase()}`,
    splice(at.line.id, part, at.towards ? 'to' : 'from', !at.towards),
  )
}

/** A restrictor ahead of the manifold that brings `good` at the least cost: bores from 8 mm down. */
export function restrict(c: Case, state: StateId, good: (s: GasResult) => boolean): Fix | undefined {
  const manifold = c.variant.parts.find((p) => p.kind === 'manifold')
  const line =
    manifold && c.variant.lines.find((l) => l.kind === 'hose' && [l.from, l.to].some((e) => e.part === manifold.id))
  if (!manifold || !line) return undefined
  const towards = line.to.part === manifold.id
  for (let mm = 8; mm >= 1; mm = Math.round((mm - 0.2) * 10) / 10) {
    const deed = splice(line.id, restrictor('restrictor', 'Restrictor', mm), towards ? 'to' : 'from', !towards)
    const then = c.tryOut(deed, state)
    if (then && good(then)) return c.fix(`Fit a ${c.say.mm(mm)} restrictor`, deed)
  }
  return undefined
}
