/** Where a figure of the document comes from: a person, readings, the bay, or nobody yet. */
import { layOf } from '../bay/lay'
import type { Build } from '../document/schema'
import { activeVariant, type Path } from '../edit/edit'
import { isLearned } from '../model/learned'
import { assumedIn } from '../schools/assumed'
import type { Origin } from './draft'

/** Where a fact comes from: its builder, what readings made of it; or nobody: its class or school. */
export function originAt(build: Build, path: Path): Origin {
  if (isLearned(build, path)) return 'learned'
  return assumedIn(build)(path) ? 'estimated' : 'entered'
}

/** Where a figure of a line of the plan shown comes from; its length by the bay's points where it is laid there. */
export function lineOrigin(build: Build, line: string, ...key: Path): Origin {
  const variant = activeVariant(build)
  const drawn = variant.lines.find((l) => l.id === line)
  if (drawn && (key[0] === 'lengthMm' || key[0] === 'bends') && layOf(build.bay, variant, drawn).ok) return 'computed'
  return originAt(build, ['variants', variant.id, 'lines', line, ...key])
}
