/** What of a plan is as the maker laid it: he has accepted what his own circuit does. */
import type { Line } from '../document/schema'
import { sameJson } from '../edit/diff'
import type { Case } from './verdict'

/** A hose between the parts that the maker joined by it, no narrower than his. */
export function asTheMakerLaid(c: Case, line: Line): boolean {
  const his = c.makers().lines.find((l) => l.id === line.id)
  return (
    his !== undefined && his.from.part === line.from.part && his.to.part === line.to.part && line.boreMm >= his.boreMm
  )
}

/** Whether all that the manifold takes comes through valves as the maker set them: his idle allows for it. */
export function metersAsTheMaker(c: Case): boolean {
  const his = c.makers().parts.filter((p) => p.kind === 'pcv')
  const own = c.variant.parts.filter((p) => p.kind === 'pcv')
  return (
    his.length > 0 &&
    own.length <= his.length &&
    own.every((p) => !p.stuck && his.some((h) => sameJson(h.areaMm2ByKpa, p.areaMm2ByKpa)))
  )
}
