/** Fixes that several rules offer. */
import { loweredName } from '../document/words'
import type { StateId } from '@/core/engine/states'
import { CHECKS, checkFor } from '../catalogue/valves'
import { catalogueEntry } from '../catalogue/entry'
import { sizesOf } from '../catalogue/engine-side'
import type { PartOf } from '../document/schema'
import { join, setPart, splice, reverseValve, type EditBuilder } from '../edit/edit-builders'
import { freePort } from '../edit/ports'
import { reach, TAKE_OFFS } from '../edit/take-offs'
import type { GasResult } from '../model/results'
import { check, hose, restrictor } from '../catalogue/parts'
import { maxBy, pathBetween } from './plan-queries'
import type { Case, Fix } from './verdict'

/**
 * A hose more between the inlet tract and the cover that fewest lines use, as wide as the engine's breather; undefined where there is no cover.
 * @param leaves whether it is to lead gas out of the cover
 */
export function joinCoverToInlet(
  { variant, build }: Case,
  {
    id,
    name,
    lengthMm,
    leaves,
  }: { readonly id: string; readonly name: string; readonly lengthMm: number; readonly leaves: boolean },
): { readonly cover: PartOf<'cover'>; readonly builders: readonly EditBuilder[] } | undefined {
  const cover = maxBy(
    variant.parts.filter((p): p is PartOf<'cover'> => p.kind === 'cover'),
    (p) => -variant.lines.filter((l) => l.from.part === p.id || l.to.part === p.id).length,
  )
  const tract = TAKE_OFFS.find((t) => t.kind === 'inlet')
  if (!cover || !tract) return undefined
  const inlet = reach(variant, tract)
  const atCover = { part: cover.id, port: freePort(variant, cover) }
  const line = {
    ...hose(id, name, { from: 'x.y', to: 'x.y', boreMm: sizesOf(build.engine).breatherMm, lengthMm }),
    from: leaves ? atCover : inlet.end,
    to: leaves ? inlet.end : atCover,
  }
  return { cover, builders: [...inlet.builders, join(line)] }
}

/**
 * Keeps gas of a place out of what hangs on it: the first hose on the way from there to `towards` gets a check that lets gas run only to
 * the place. Undefined where there is no hose, or a check stands there already.
 */
export function fitCheck(c: Case, placeId: string, towards: string): Fix | undefined {
  if (!c.offers) return undefined
  const way = pathBetween(c, placeId, towards) ?? []
  let part = placeId
  for (const step of way) {
    if (step.line.kind === 'hose') {
      const size = checkFor(step.line.boreMm)
      const atEnd = step.line.to.part === part
      return c.fix(
        `Fit a check valve, ${c.say.mm(catalogueEntry(CHECKS, size).spec.seatMm)} seat, at the ${loweredName(c.part(placeId))}`,
        splice(step.line.id, check('check', 'Check valve', size), atEnd ? 'to' : 'from', !atEnd),
      )
    }
    part = step.part
    if (c.part(part)?.kind === 'check') return undefined
  }
  return undefined
}

/** Turns round the first one-way valve whose turning brings `good`. */
export function reverseFix(c: Case, state: StateId, good: (s: GasResult) => boolean): Fix | undefined {
  if (!c.offers) return undefined
  for (const p of c.variant.parts) {
    if ((p.kind !== 'check' && p.kind !== 'pcv' && p.kind !== 'relief') || p.stuck) continue
    const then = c.tryOut(reverseValve(p.id), state)
    if (then && good(then)) return c.fix(`Turn the ${loweredName(p)} round`, reverseValve(p.id))
  }
  return undefined
}

/** Restrictors are drilled in fifths of a millimetre, from 1 to 8 mm. */
const [LEAST_FIFTHS, MOST_FIFTHS] = [5, 40]

/**
 * What narrows the way to the manifold brings `good` at the least cost: a restrictor that is there made smaller, else
 * one fitted, from 8 mm down.
 */
export function restrict(c: Case, state: StateId, good: (s: GasResult) => boolean): Fix | undefined {
  const manifold = c.variant.parts.find((p) => p.kind === 'manifold')
  if (!manifold || !c.offers) return undefined
  const there = c.variant.parts.find(
    (p) => p.kind === 'restrictor' && pathBetween(c, p.id, manifold.id)?.every((s) => c.part(s.part)?.kind !== 'cover'),
  )
  const line = c.variant.lines.find((l) => l.kind === 'hose' && [l.from, l.to].some((e) => e.part === manifold.id))
  const fitted = (mm: number) =>
    there
      ? setPart(there.id, { boreMm: mm })
      : line &&
        splice(
          line.id,
          restrictor('restrictor', 'Restrictor', mm),
          line.to.part === manifold.id ? 'to' : 'from',
          line.to.part !== manifold.id,
        )
  const does = (mm: number): boolean => {
    const builder = fitted(mm)
    const then = builder && c.tryOut(builder, state)
    return then !== undefined && good(then)
  }
  // the narrower the better for what is asked, so halving finds the widest that does
  const widest = Math.min(MOST_FIFTHS, Math.floor((there?.kind === 'restrictor' ? there.boreMm : 8) * 5))
  if (widest < LEAST_FIFTHS || !does(LEAST_FIFTHS / 5)) return undefined
  let [low, high] = [LEAST_FIFTHS, widest + 1]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (does(middle / 5)) low = middle
    else high = middle
  }
  const mm = low / 5
  const builder = fitted(mm)
  return (
    builder &&
    c.fix(
      there ? `Take a ${c.say.mm(mm)} bore for the ${loweredName(there)}` : `Fit a ${c.say.mm(mm)} restrictor`,
      builder,
    )
  )
}
