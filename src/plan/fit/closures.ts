/** What closes a port that the maker used and a plan does not, by the form of its end. */
import { barbName, formOf, type Form } from '../catalogue/forms'
import type { Build, Part, Variant } from '../document/schema'
import { lowered } from '../document/words'
import { compareWithStock, stockVariant } from './stock'
import { portForm } from './strips'

export type Closure = {
  readonly part: Part
  readonly port: string
  readonly name: string
  /** by which it is counted, and known in the drawer */
  readonly key: string
  /** what to buy */
  readonly what: string
  /** what to do with it, as a step */
  readonly says: string
}

/** What to buy for a form, and how it goes on: "with a cap and a clamp". */
function closing(form: Form, boreMm: number): { readonly what: string; readonly how: string } {
  // where nothing but the part itself stood on it, nobody has said its size
  const size = boreMm > 0 ? `of ${boreMm} mm` : 'of its own size: measure it first'
  switch (form.kind) {
    case 'seat':
      return {
        what: `expansion plug for a seat ${size}`,
        how: 'with an expansion plug, its nut turned until it cannot be pulled out',
      }
    case 'neck':
      return { what: 'filler cap with its seal', how: 'with the filler cap and a sound seal' }
    case 'boss':
      return { what: `-${form.size} O-ring boss plug`, how: 'with its plug, the O-ring oiled, snug' }
    case 'metric':
      return { what: `${form.size} plug with O-ring`, how: 'with a plug and its O-ring, snug' }
    case 'pipe':
      return { what: `${form.size} pipe plug`, how: 'with a plug, PTFE tape with the thread, in plastic hand tight' }
    case 'flare':
      return { what: `-${form.size} flare cap`, how: 'with a flare cap, nothing on the cone' }
    case 'quick':
      return { what: `cap for a ${form.size} mm quick connector tube`, how: 'with a cap that clicks, then tug it' }
    case 'hole':
      return { what: `blind grommet for a hole ${size}`, how: 'with a blind grommet' }
    case 'stub':
      return {
        what: `plug with clamp for ${barbName(form.mm)} hose`,
        how: 'with a plug and a clamp in the maker’s hose that stays on it',
      }
    case 'barb':
    case 'tube':
    case 'open':
      return { what: `cap with clamp for a nipple ${size}`, how: 'with a cap and a clamp' }
  }
}

/**
 * Every port that is to be closed, in the order of the maker's lines.
 *
 * @example
 * import { closuresOf } from '@/plan/fit/closures'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(closuresOf(build, build.variants[0]).length) // 0
 */
export function closuresOf(build: Build, variant: Variant): readonly Closure[] {
  const stock = stockVariant(build)
  return compareWithStock(build, variant).open.flatMap(({ part, port, name, line, boreMm }): Closure[] => {
    const form = formOf(portForm(build, { part, port, line }, stock).form)
    if (!form) return []
    const { what, how } = closing(form, boreMm)
    const capped = form.kind === 'barb' || form.kind === 'tube' || form.kind === 'open'
    const key = capped ? `cap-${boreMm}` : `close-${form.key}-${boreMm}`
    return [{ part, port, name, key, what, says: `Close the ${lowered(name)} ${how}: left open it leaks air or oil.` }]
  })
}
