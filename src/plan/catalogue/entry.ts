/** An entry of the catalogue: a part by general class with typical figures (estimates), which a builder may measure and correct. */
import type { PartOf } from '../document/schema'

type Spec<K extends 'can' | 'pcv' | 'check'> = Omit<PartOf<K>, 'id' | 'name' | 'ports' | 'kind' | 'at' | 'stuck'>
export type Entry<K extends 'can' | 'pcv' | 'check'> = {
  readonly key: string
  readonly name: string
  readonly about: string
  readonly spec: Spec<K>
}

/** The entry of a catalogue by its key. Throws on a key that the catalogue does not hold: keys are written in code, not entered. */
export const catalogueEntry = <K extends 'can' | 'pcv' | 'check'>(list: readonly Entry<K>[], key: string): Entry<K> => {
  const found = list.find((e) => e.key === key)
  if (!found) throw new RangeError(`no ${key} in the catalogue`)
  return found
}
