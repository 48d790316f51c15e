/** Small helpers that tests share; nothing else imports them. */
import { setBay } from './bay/bay-builders'
import { bayFor, readyBay } from './catalogue/bays'
import type { Build } from './document/schema'
import { perform, type EditBuilder } from './edit/edit-builders'
import { activeVariant, type Edit } from './edit/edit'
import { newBuild, type Answers } from './schools/new-build'

/** An edit builder for edits that are at hand. */
export const byEdits =
  (edits: readonly Edit[]): EditBuilder =>
  () =>
    edits

/** The build with edit builders applied that must fit. */
export function after(build: Build, ...builders: readonly EditBuilder[]): Build {
  const done = perform(build, ...builders)
  if (!done.ok) throw new Error(done.reason)
  return done.value
}

/** Paths of numbers in a value that are none: JSON would write them as null and say nothing. `forever` may be infinite. */
export function badNumbers(value: unknown, forever: RegExp = /$^/, path = ''): string[] {
  if (typeof value === 'number') {
    const fine = Number.isFinite(value) || (value === Infinity && forever.test(path))
    return fine ? [] : [`${path}: ${value}`]
  }
  if (value === null || typeof value !== 'object') return []
  const entries: Iterable<[unknown, unknown]> = value instanceof Map ? value : Object.entries(value)
  return [...entries].flatMap(([key, x]) =>
    badNumbers(x, forever, path === '' ? String(key) : `${path}.${String(key)}`),
  )
}
/** Figures of a can that never fills. */
export const NEVER = /(distance|sessions)\.(low|mid|high)$|\.checkBy$/

/** A new build in the bay that suits its engine, as far as bodies and ports go. */
export function inReadyBay(answers: Pick<Answers, 'engineClass' | 'use' | 'school'>): Build {
  const b = newBuild({ name: 'Fit', ambientC: 10, units: 'metric', ...answers })
  return after(b, setBay(readyBay(b, activeVariant(b), bayFor(b.engine))))
}

/** An engine whose diaphragm regulator is taken off. */
export const withoutRegulator = (): Build =>
  newBuild({
    name: 'Gone',
    engineClass: 'i6-turbo',
    engine: { freshAir: 'regulator' },
    use: 'street',
    ambientC: 10,
    units: 'metric',
    school: 'regulator-delete',
  })
