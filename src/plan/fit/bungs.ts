/** Bungs that a plan asks to be welded on: where a cover has no nipple that passes enough. */
import { formOf, type Form } from '../catalogue/forms'
import { fail, ok, type Result } from '@/core/result'
import type { Part } from '../document/schema'
import { madeOf, type Strip } from './strips'

export type Bung = {
  readonly part: Part
  readonly port: string
  /** as `part.port` */
  readonly at: string
  /** form that it offers: a flare, or a barb where no braided hose is wide enough */
  readonly form: Form
  /** hole that it is set into, m: its through-bore and room for the weld to sink in */
  readonly holeM: number
}

/** A bung is set into a hole this much wider than its bore, m (common practice, no source). */
const SET_IN = 0.003

/** Every outlet that the plan puts on a cover and nobody has said is there already. */
export const bungsOf = (strips: readonly Strip[]): readonly Bung[] =>
  madeOf(strips).flatMap((s) =>
    s.ends.flatMap((e): Bung[] => {
      const form = formOf(e.form)
      const welded = e.part.ports.find((p) => p.id === e.end.port)?.lossKpaAt100 !== undefined
      if (e.part.kind !== 'cover' || !welded || e.looked || (form?.kind !== 'flare' && form?.kind !== 'barb')) return []
      return [
        {
          part: e.part,
          port: e.port,
          at: `${e.end.part}.${e.end.port}`,
          form,
          holeM: form.mm / 1000 + SET_IN,
        },
      ]
    }),
  )

/** The baffle inside a cover as it was measured: from the cover's front end, and from its right edge, mm. */
export type BaffleExtent = {
  readonly fromFrontMm: number
  readonly toFrontMm: number
  readonly fromEdgeMm: number
  readonly toEdgeMm: number
}

/** Wall of a bung round its hole, and the bead of its weld round that, mm (estimates). */
const [WALL, BEAD] = [5, 6]

/**
 * Where a bung stands over a cover's baffle, so that nothing is thrown straight into it: the middle, if the baffle reaches past its weld on
 * every side.
 * @param holeMm hole that the bung is set into
 *
 * @example
 * import { bungSpot } from '@/plan/fit/bungs'
 *
 * console.log(bungSpot({ fromFrontMm: 80, toFrontMm: 160, fromEdgeMm: 30, toEdgeMm: 80 }, 18.5).value.frontMm) // 120
 */
export function bungSpot(
  { fromFrontMm, toFrontMm, fromEdgeMm, toEdgeMm }: BaffleExtent,
  holeMm: number,
): Result<{ readonly frontMm: number; readonly edgeMm: number; readonly spareMm: number }> {
  const [long, wide] = [toFrontMm - fromFrontMm, toEdgeMm - fromEdgeMm]
  if (!(long > 0 && wide > 0)) return fail('The baffle ends before it begins: look at its measures again.')
  const asked = holeMm + 2 * (WALL + BEAD)
  const least = Math.min(long, wide)
  if (least < asked)
    return fail(
      `The baffle is ${Math.round(least)} mm across and the bung with its weld ${Math.round(asked)} mm: a smaller bung, or a plate of your own under it.`,
    )
  return ok({
    frontMm: (fromFrontMm + toFrontMm) / 2,
    edgeMm: (fromEdgeMm + toEdgeMm) / 2,
    spareMm: (least - asked) / 2,
  })
}
