/**
 * Figures that nobody entered: they stand in the document as a school, a class of engine or a use had them, and are estimates until
 * someone types another.
 */
import { ENGINE_CLASSES } from '../catalogue/engines'
import { USES } from '../catalogue/uses'
import type { Build, Engine, Variant } from '../document/schema'
import { sameJson } from '../edit/diff'
import { valueAt, type Path } from '../edit/edit'
import { hoursOf } from './new-build'
import { schoolOf, variantOf } from './schools'

/** A circuit is laid out for an engine as it was then; of classes alike it may have been any. */
const alike = (e: Engine) =>
  ENGINE_CLASSES.filter((c) => c.induction === e.induction && c.cylinders === e.cylinders).map((c): Engine => ({
    ...c,
    blowBy: undefined,
    overrides: {} as Engine['overrides'],
  }))

/** The value at a path within a plan of a school: its part or line by its id, which a school always gives alike. */
const inSchool = (variant: Variant, path: Path): unknown =>
  path.reduce<unknown>(
    (at, name) =>
      Array.isArray(at)
        ? (at as readonly { readonly id?: string }[]).find((x) => x.id === name)
        : (at as Readonly<Record<string, unknown>> | undefined)?.[name],
    variant,
  )

/**
 * Tells of figures of a build, by their paths, whether they are assumed. Plans of schools are laid out once, when the first is asked for.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { assumedIn } from '@/plan/schools/assumed'
 *
 * const build = newBuild({ name: 'Car', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const [line] = build.variants[0]!.lines.filter((l) => l.kind === 'hose')
 * console.log(assumedIn(build)(['variants', 'a', 'lines', line!.id, 'boreMm'])) // true
 */
export function assumedIn(build: Build): (path: Path) => boolean {
  const laidOut = new Map<string, readonly Variant[]>()
  /** Circuits that a plan's school gives for this engine, and for those that it may have been. */
  function circuitsOf({ school: key, id }: Variant): readonly Variant[] {
    const known = laidOut.get(id)
    if (known) return known
    const school = schoolOf(key)
    const circuits = school ? [build.engine, ...alike(build.engine)].map((e) => variantOf(school, e, id)) : []
    laidOut.set(id, circuits)
    return circuits
  }
  return (path) => {
    const value = valueAt(build, path)
    if (value === undefined) return true
    const [head, second, ...rest] = path
    if (head === 'variants') {
      const variant = build.variants.find((v) => v.id === second)
      return variant !== undefined && circuitsOf(variant).some((c) => sameJson(inSchool(c, rest), value))
    }
    if (head === 'engine' && second !== undefined && rest.length === 0)
      return alike(build.engine).some((c) => sameJson(c[second as keyof Engine], value))
    if (head === 'duty' && second === 'hours') return USES.some((u) => sameJson(hoursOf(u.key), build.duty.hours))
    return false
  }
}
