/** What goes between a port and a hose: the chain with the fewest joints, or why there is none. */
import { fail, ok, type Result } from '@/core/result'
import { BARBS, DASHES, dashOf, formOf, type Form } from '../catalogue/forms'
import { HOSE_BORES } from '../catalogue/hoses'
import { PIECES, type Piece } from '../catalogue/pieces'

/** A hose as it is bought: rubber is pushed on a barb and clamped, braided gets screwed ends. */
export type HoseKind = 'rubber' | 'braided'
export type HoseSold = {
  readonly kind: HoseKind
  readonly mm: number
  readonly name: string
  readonly dash: number | undefined
}

/** A rubber hose of this bore. */
export const rubberHose = (mm: number): HoseSold => ({ kind: 'rubber', mm, name: `${mm} mm`, dash: undefined })

/** Bores that differ by less are the same hose, mm. */
const SAME = 0.65
/**
 * A hose may stretch on its barb by this share: reinforced rubber, silicone (estimates); looser than the barb it is a
 * fault even with a clamp.
 */
export const STRETCH = { rubber: 0.05, silicone: 0.1 } as const
const LOOSE = 0.02

/** The hose that is sold for a bore; fails with the nearest. */
export function hoseSold(boreMm: number): Result<HoseSold> {
  const near = HOSE_BORES.toSorted((a, b) => Math.abs(a.mm - boreMm) - Math.abs(b.mm - boreMm))
  const found = near[0]!
  // between sizes the nearest is taken; far from any, nothing is sold
  if (Math.abs(found.mm - boreMm) > Math.max(SAME, 0.13 * boreMm))
    return fail(
      `No hose of ${boreMm} mm is sold; the nearest are ${near
        .slice(0, 2)
        .map((b) => `${b.mm} mm`)
        .join(' and ')}.`,
    )
  const dash = DASHES.find((d) => `-${d.dash}` === found.name)?.dash
  return ok({ kind: dash === undefined ? 'rubber' : 'braided', mm: found.mm, name: found.name, dash })
}

/** A hose on a barb: fits, stretched at most, or why not. */
export function onBarb(
  hoseMm: number,
  barbMm: number,
  kind: keyof typeof STRETCH = 'rubber',
): Result<{ readonly stretch: number }> {
  const stretch = barbMm / hoseMm - 1
  if (stretch < -LOOSE)
    return fail(`A ${hoseMm} mm hose is loose on a barb for ${barbMm} mm: it leaks even with a clamp.`)
  if (stretch > STRETCH[kind])
    return fail(
      `A ${hoseMm} mm hose would have to stretch ${Math.round(stretch * 100)} % over a barb for ${barbMm} mm.`,
    )
  return ok({ stretch })
}

export type EndOfHose =
  | { readonly kind: 'clamp'; readonly barbMm: number }
  | { readonly kind: 'hose end'; readonly dash: number }
  | { readonly kind: 'as it is' }

/** Pieces from a port to a hose, in order, and how the hose ends on the last. */
export type EndChain = {
  readonly pieces: readonly Piece[]
  readonly hoseEnd: EndOfHose
  /** places that can leak, hose on its end among them */
  readonly joints: number
  /** least bore from port to hose, mm */
  readonly boreMm: number
}

/** Pieces of the tables by the form that they screw or push onto. */
const PIECES_FROM: ReadonlyMap<string, readonly Piece[]> = new Map(
  PIECES.map(({ from }) => [from, PIECES.filter((p) => p.from === from)]),
)
/** Longest chain that anyone should bolt together. */
const MOST_PIECES = 3

function endsOn(form: Form, hose: HoseSold): EndOfHose | undefined {
  if (form.kind === 'open') return { kind: 'as it is' }
  if (hose.kind === 'braided')
    return form.kind === 'flare' && form.size === String(hose.dash) ? { kind: 'hose end', dash: hose.dash! } : undefined
  return form.kind === 'barb' && onBarb(hose.mm, form.mm).ok ? { kind: 'clamp', barbMm: form.mm } : undefined
}
/** Least bore of the end of a hose, mm; one that ends in the open air leaves all of it. */
const boreThrough = (end: EndOfHose): number => {
  if (end.kind === 'clamp') return Math.max(end.barbMm - 3.2, 0.5 * end.barbMm)
  if (end.kind === 'hose end') return dashOf(end.dash)!.boreMm
  return Infinity
}

/** Chains by joints, then by bore; the same hose pushed on needs none. */
const better = (a: EndChain, b: EndChain) =>
  a.joints - b.joints || b.boreMm - a.boreMm || a.pieces.length - b.pieces.length

/**
 * Ways to bring a hose to a port of some form, the fewest joints first, at most three; fails with what is missing when no piece fits.
 * @param own pieces of the builder's own, beside the tables
 *
 * @example
 * import { chainsTo } from '@/plan/fit/ends'
 *
 * console.log(chainsTo('pipe-3/8', { kind: 'braided', mm: 14.3, name: '-10', dash: 10 }).value[0].pieces[0].name) // '3/8 pipe thread to -10 flare'
 */
export function chainsTo(portForm: string, hose: HoseSold, own: readonly Piece[] = []): Result<readonly EndChain[]> {
  const start = formOf(portForm)
  if (!start) return fail(`There is no form ${portForm} in the tables.`)
  const found: EndChain[] = []
  const walk = (form: Form, pieces: readonly Piece[], bore: number, joints: number): void => {
    const end = endsOn(form, hose)
    if (end) {
      found.push({
        pieces,
        hoseEnd: end,
        joints: joints + (end.kind === 'as it is' ? 0 : 1),
        boreMm: Math.min(bore, boreThrough(end)),
      })
      return
    }
    if (pieces.length === MOST_PIECES) return
    for (const p of [...own.filter((o) => o.from === form.key), ...(PIECES_FROM.get(form.key) ?? [])]) {
      if (pieces.some((q) => q.from === p.to)) continue
      walk(formOf(p.to)!, [...pieces, p], Math.min(bore, p.boreMm), joints + p.joints)
    }
  }
  walk(start, [], Infinity, 0)
  if (found.length === 0) {
    const what = hose.kind === 'braided' ? `a -${hose.dash} hose end` : `a ${hose.mm} mm hose`
    return fail(
      `Nothing in the tables leads from this port to ${what} in ${MOST_PIECES} pieces or fewer. Another size of hose, or another port.`,
    )
  }
  return ok(found.toSorted(better).slice(0, 3))
}

/** The barb that takes a hose of this bore, or the next larger that is made: what is smaller would narrow the way. */
export const barbFor = (mm: number): number => BARBS.find((b) => b >= mm - SAME) ?? BARBS.at(-1)!
