/** The check that a hand can make of what only a solver gives: what flows in at a joint flows out. */
import { activeVariant } from '../../edit/edit'
import type { SolvedState } from '../../model/results'
import { crankcaseNode } from '../../model/resolve'
import { sub, type Draft } from '../draft'
import type { WorkingContext } from '../figure'

/** "m₁ + m₂", or 0 for none. */
export const joinSum = (symbols: readonly string[]): string => (symbols.length > 0 ? symbols.join(' + ') : '0')

/** Names of what passes at a joint: a line, a part, the baffle of a cover's port. */
function nameOf({ build }: WorkingContext, id: string): string {
  const { lines, parts } = activeVariant(build)
  const line = lines.find((l) => l.id === id)
  const part = parts.find((p) => p.id === id)
  const cover = parts.find((p) => p.id === id.split('.')[0])
  return (line ?? part)?.name ?? `${cover?.name ?? id}, baffle and nipple`
}

/** A joint of a solved state; a flow whose line stands in the draft already, by id and symbol. */
export type SolvedJoint = {
  readonly s: SolvedState
  readonly node: string
  readonly but?: { readonly id: string; readonly symbol: string }
}

/**
 * Writes every flow at a joint of a solved state, in the direction in which it runs, and the check that they balance, blow-by included.
 */
export function balanceAt(at: WorkingContext, { s, node, but }: SolvedJoint, draft: Draft): void {
  const r = at.evaluator.resolve(activeVariant(at.build))
  const [into, out]: [string[], string[]] = [[], []]
  if (crankcaseNode(r) === node)
    into.push(draft.given('m_b', 'Blow-by', s.blowBy, { dimension: 'gasFlow', origin: 'computed' }))
  let n = 0
  for (const [id, [from, to]] of r.topology.ends) {
    const passage = s.passages[id]
    if (!passage || (from !== node && to !== node) || from === to) continue
    const inwards = (to === node ? 1 : -1) * passage.flow
    const symbol =
      but?.id === id
        ? but.symbol
        : draft.given(`m${sub(++n)}`, `${inwards >= 0 ? 'In' : 'Out'} by ${nameOf(at, id)}`, Math.abs(inwards), {
            dimension: 'gasFlow',
            origin: 'solved',
          })
    ;(inwards >= 0 ? into : out).push(symbol)
  }
  if (into.length + out.length > 0) draft.check('what flows in at this joint flows out', joinSum(into), joinSum(out))
}
