/** How the engine takes fresh air, as an edit builder: the fact and every plan that is laid on it. */
import type { Engine } from '../document/schema'
import { withFreshAir } from '../catalogue/fresh-air'
import type { EditBuilder } from './edit-builders'
import { difference } from './diff'

/** Sets how fresh air comes in, or the bore of its hole; the plans' stock breather ports follow. */
export const setFreshAir =
  (change: Pick<Engine, 'freshAir' | 'freshHoleMm'>): EditBuilder =>
  (build) => {
    const engine: Engine = { ...build.engine, ...change }
    return difference(build, { ...build, engine, variants: build.variants.map((v) => withFreshAir(v, engine)) })
  }
