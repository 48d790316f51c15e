/**
 * Things that are fitted as a whole: a return, a separator in place of a cap, an oil tank with its scavenge stage, a
 * vacuum line to tee into.
 */
import { loweredName } from '../document/words'
import type { Line, Part, Variant } from '../document/schema'
import { can, direct, drain, hose, passage, port, pump, space, tee, type HoseRun } from '../catalogue/parts'
import { addPart, cut, freshId, join, joinDrain, setPart } from './edit-builders'
import { fresh, lead, opening, type OfferContext, type Offer } from './offers'
import { TURBO_DRAIN, cappedPorts, freePort } from './ports'

/** Bore of a return, mm. */
const RETURN_MM = 9.5

const used = (variant: Variant, part: string, port: string): boolean =>
  variant.lines.some((l) => [l.from, l.to].some((e) => e.part === part && e.port === port))

/** Where oil can run back to: block or pan, the turbo's drain, a filler neck. */
function returns(variant: Variant, turbo: boolean): { key: string; name: string; to: Part; port: string }[] {
  const crankcase = variant.parts.find((p) => p.kind === 'crankcase')
  const capped = crankcase && cappedPorts(variant, crankcase)
  const block = capped?.find((p) => p.id === 'return')?.id
  return [
    ...(crankcase
      ? [{ key: 'block', name: 'block or pan', to: crankcase, port: block ?? freePort(variant, crankcase) }]
      : []),
    ...(crankcase && turbo && !used(variant, crankcase.id, TURBO_DRAIN)
      ? [{ key: 'turbo', name: 'turbo drain', to: crankcase, port: TURBO_DRAIN }]
      : []),
    ...variant.parts.flatMap((p) =>
      p.kind === 'cover' && cappedPorts(variant, p).some((x) => x.id === 'filler')
        ? [{ key: `filler-${p.id}`, name: `filler neck of the ${loweredName(p)}`, to: p, port: 'filler' }]
        : [],
    ),
  ]
}

/** A return from a can: it is a separator then. */
function returnOffers({ build, variant }: OfferContext, from: Part): Offer[] {
  if (from.kind !== 'can' || from.drain) return []
  const own = cappedPorts(variant, from).find((p) => p.id !== 'in' && p.id !== 'out')?.id ?? 'drain'
  return returns(variant, build.engine.induction === 'turbo').map((r): Offer => {
    const line: Line = {
      ...drain('x', `Return, to the ${r.name}`, { from: 'x.y', to: 'x.y', boreMm: RETURN_MM, lengthMm: 450 }),
      id: freshId(variant, `return-${from.id}`),
      from: { part: from.id, port: own },
      to: { part: r.to.id, port: r.port },
    }
    return {
      key: `return-${r.key}`,
      label: `Lead a return from the ${loweredName(from)} to the ${r.name}`,
      group: 'from here',
      builders: [joinDrain(line)],
    }
  })
}

/** Gas up and oil down by the one port that it stands on. */
const sharedDrain = ({ variant }: OfferContext, part: Part): Offer[] => {
  if (part.kind !== 'can' || part.drain) return []
  const inlet = variant.lines.some((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === 'in'))
  return inlet
    ? [
        {
          key: 'drain-shared',
          label: `Let the ${loweredName(part)} drain down the line it breathes through`,
          group: 'this part',
          builders: [setPart(part.id, { drain: 'shared' })],
        },
      ]
    : []
}

/** A separator in place of the filler cap, its outlet still to be led somewhere. */
function fillerSeparator({ variant }: OfferContext, cover: Part): Offer[] {
  if (cover.kind !== 'cover' || !cappedPorts(variant, cover).some((p) => p.id === 'filler')) return []
  const separator = fresh(
    variant,
    { ...can('cap', 'Filler-cap separator', 'baffled'), bowlMl: 20, drain: 'shared' } as Part,
    cover.id,
  )
  return [
    {
      key: 'filler-separator',
      label: `Fit a separator in place of the filler cap of the ${loweredName(cover)}`,
      group: 'from here',
      builders: [
        addPart(separator),
        join(
          opening(
            variant,
            { id: `neck-${cover.id}`, name: 'Filler neck' },
            { from: { part: cover.id, port: 'filler' }, to: { part: separator.id, port: 'in' } },
          ),
        ),
      ],
    },
  ]
}

/** A hose of the cover led through the separator on its filler instead. */
function throughSeparator({ variant }: OfferContext, part: Part): Offer[] {
  const out = cappedPorts(variant, part).find((p) => p.id === 'out')
  if (part.kind !== 'can' || part.drain !== 'shared' || !out) return []
  const covers = new Set(variant.parts.filter((p) => p.kind === 'cover').map((p) => p.id))
  return variant.lines.flatMap((line): Offer[] => {
    const side = covers.has(line.from.part) ? 'from' : covers.has(line.to.part) ? 'to' : undefined
    if (line.kind !== 'hose' || !side) return []
    return [
      {
        key: `take-over-${line.id}`,
        label: `Lead the ${loweredName(line)} from its outlet instead of the cover`,
        group: 'from here',
        builders: [cut(line.id), join({ ...line, [side]: { ...line[side], part: part.id, port: 'out' } })],
      },
    ]
  })
}

/** A hose led to a can that stands in a line already: a tee ahead of its inlet. */
function intoCan({ variant }: OfferContext, part: Part, boreMm: number): Offer[] {
  const free = part.kind === 'cover' || part.kind === 'tank' || part.kind === 'tee'
  if (!free) return []
  return variant.parts.flatMap((p): Offer[] => {
    if (p.kind !== 'can') return []
    const line = variant.lines.find(
      (l) => l.kind === 'hose' && [l.from, l.to].some((e) => e.part === p.id && e.port === 'in'),
    )
    if (!line || line.from.part === part.id || line.to.part === part.id) return []
    const t = fresh(variant, tee('tee', 'Can tee'), p.id)
    const [near, far] = line.to.part === p.id ? (['to', 'from'] as const) : (['from', 'to'] as const)
    const stub: Line = {
      ...line,
      id: freshId(variant, `${line.id}-to-can`),
      name: `${line.name}, tee to can`,
      from: { part: t.id, port: 'b' },
      to: line[near],
      lengthMm: Math.min(80, line.lengthMm / 2),
      riseMm: undefined,
      bends: [],
    }
    const first: Line = {
      ...line,
      from: line[far],
      to: { part: t.id, port: 'a' },
      lengthMm: Math.max(0, line.lengthMm - stub.lengthMm),
      riseMm: undefined,
    }
    const more = lead(
      variant,
      { id: `hose-${part.id}-${p.id}`, name: `Hose to the ${loweredName(p)}` },
      { from: { part: part.id, port: freePort(variant, part) }, to: { part: t.id, port: 'c' } },
      { boreMm, lengthMm: 500, bends: [{ angleDeg: 90, radiusMm: Math.round(boreMm * 4) }] },
    )
    return [
      {
        key: `into-${p.id}`,
        label: `Lead a hose from the ${loweredName(part)} to the ${loweredName(p)} as well`,
        group: 'from here',
        builders: [cut(line.id), addPart(t), join(first), join(stub), join(more)],
      },
    ]
  })
}

/** Dry sump: a scavenge stage carries gas to a tank with the oil, a passage lets the two even out. */
function oilTank({ build, variant }: OfferContext, part: Part): Offer[] {
  if (part.kind !== 'crankcase' || variant.parts.some((p) => p.kind === 'tank')) return []
  const boreMm = 19
  const stage = fresh(
    variant,
    pump('scavenge', 'Scavenge stage', {
      ccPerTurn: Math.max(8, Math.round(build.engine.displacementCc / 70)),
      ratio: 0.5,
      clearancePct: 10,
    }),
  )
  const balance = fresh(variant, passage('balance', 'Balance passage', 14, 1))
  const tank = fresh(
    variant,
    space('tank', 'tank', 'Oil tank', port('return', 'Return'), port('balance', 'Balance'), port('vent', 'Vent')),
  )
  const free = cappedPorts(variant, part).map((p) => p.id)
  const [down, across] = [free[0] ?? 'port-scavenge', free[1] ?? 'port-balance']
  const line = (id: string, name: string, laid: Pick<HoseRun, 'from' | 'to' | 'lengthMm'>): Line => ({
    ...hose(id, name, { ...laid, boreMm, bends: [[90, 60]] }),
    id: freshId(variant, id),
  })
  const open = (id: string, name: string, from: string, to: string): Line => ({
    ...direct(id, name, from, to),
    id: freshId(variant, id),
  })
  return [
    {
      key: 'oil-tank',
      label: 'Fit an oil tank with a scavenge stage',
      group: 'from here',
      builders: [
        addPart(stage),
        addPart(balance),
        addPart(tank),
        join(
          line('scavenge-line', 'Scavenge line', { from: `${part.id}.${down}`, to: `${stage.id}.in`, lengthMm: 300 }),
        ),
        join(line('tank-line', 'Tank return', { from: `${stage.id}.out`, to: `${tank.id}.return`, lengthMm: 700 })),
        join(open('balance-in', 'Balance, crankcase end', `${part.id}.${across}`, `${balance.id}.in`)),
        join(open('balance-out', 'Balance, tank end', `${balance.id}.out`, `${tank.id}.balance`)),
      ],
    },
  ]
}

/** A line from the manifold that brake, sensor or fuel regulator hang on, with a tee in it to lead a hose to. */
function vacuumLine({ variant }: OfferContext, part: Part): Offer[] {
  if (part.kind !== 'manifold') return []
  const t = fresh(variant, tee('tee', 'Tee in the vacuum line'), part.id)
  return [
    {
      key: 'vacuum-line',
      label: 'Tee into the vacuum line that brake or fuel regulator hang on',
      group: 'from here',
      builders: [
        addPart(t),
        join(
          lead(
            variant,
            { id: 'vacuum-line', name: 'Vacuum line' },
            { from: { part: t.id, port: 'b' }, to: { part: part.id, port: freePort(variant, part) } },
            { boreMm: 9.5, lengthMm: 200, bends: [] },
          ),
        ),
      ],
    },
  ]
}

/** What can be fitted as a whole where a part is chosen. */
export const wholeOffers = (here: OfferContext, part: Part, boreMm: number): Offer[] => [
  ...returnOffers(here, part),
  ...sharedDrain(here, part),
  ...throughSeparator(here, part),
  ...fillerSeparator(here, part),
  ...intoCan(here, part, boreMm),
  ...oilTank(here, part),
  ...vacuumLine(here, part),
]
