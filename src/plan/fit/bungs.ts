/** Bungs that a plan asks to be welded on: where a cover has no nipple that passes enough. */
import { formOf, type Form } from '../catalogue/forms'
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
