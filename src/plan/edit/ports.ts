/** Ports that no line takes. */
import type { Part, Port, Variant } from '../document/schema'

/** Ports of a part that no line of the plan joins. */
export const cappedPorts = (variant: Variant, part: Part): readonly Port[] =>
  part.ports.filter(
    (p) => !variant.lines.some((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === p.id)),
  )

/** A port of a space for one more line: one that is capped, else a new one. */
export const freePort = (variant: Variant, part: Part): string =>
  cappedPorts(variant, part)[0]?.id ?? `port${part.ports.length + 1}`

/** Port of a block at which the turbo's oil comes home. */
export const TURBO_DRAIN = 'turbo-drain'
