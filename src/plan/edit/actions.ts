/** What a builder can do with what is chosen: only what makes sense there is offered; what is odd but done is offered and then judged. */
import { loweredName } from '../document/words'
import { checkFor } from '../catalogue/valves'
import { isBoundary, isThrough, KINDS } from '../document/kinds'
import type { Build, Line, LineEnd, Part, Variant } from '../document/schema'
import { can, check, filter, pcv, port, regulator, relief, restrictor, sensor, space, tee } from '../catalogue/parts'
import {
  addPart,
  cut,
  editsOf,
  freshId,
  join,
  removePart,
  setPart,
  splice,
  reverseValve,
  unsplice,
  type EditBuilder,
  type Near,
} from './edit-builders'
import { activeVariant } from './edit'
import type { Edit } from './edit'
import {
  fresh,
  lead,
  nameOf,
  opening,
  ventBuilders,
  type End,
  type OfferGroup,
  type OfferContext,
  type Offer,
} from './offers'
import { cappedPorts, freePort } from './ports'
import { reach, TAKE_OFFS } from './take-offs'
import { wholeOffers } from './whole'

export type EditAction = {
  readonly key: string
  /** says what it acts on: the same words never stand for two things */
  readonly label: string
  readonly group: OfferGroup
  readonly edits: readonly Edit[]
}
export type Chosen = { readonly kind: 'line' | 'part'; readonly id: string }

/** Near which end of a line, and whether what is put there lets gas through against its direction. */
type Spot = { readonly near: Near; readonly reversed?: boolean }

function intoLine({ variant }: OfferContext, line: Line): Offer[] {
  const [a, b] = [nameOf(variant, line.from.part), nameOf(variant, line.to.part)]
  const name = loweredName(line)
  const put = (key: string, what: string, part: Part, { near, reversed = false }: Spot): Offer => ({
    key,
    label: `Put a ${what}`,
    group: 'in the line',
    builders: [splice(line.id, fresh(variant, part, line.id), near, reversed)],
  })
  const valve = check('check', 'Check valve', checkFor(line.boreMm))
  return [
    put('can', `can into the ${name}`, can('can', 'Catch can', 'baffled'), { near: 'middle' }),
    put('check-to', `check into the ${name}, towards the ${b}`, valve, { near: 'to' }),
    put('check-from', `check into the ${name}, towards the ${a}`, valve, { near: 'from', reversed: true }),
    put(
      'restrictor',
      `restrictor into the ${name}`,
      restrictor('restrictor', 'Restrictor', Math.max(2, Math.round(line.boreMm / 3))),
      { near: 'middle' },
    ),
    put('pcv', `PCV valve into the ${name}, towards the ${b}`, pcv('pcv', 'PCV valve', 'medium'), { near: 'from' }),
    put(
      'regulator',
      `regulator into the ${name}, towards the ${b}`,
      regulator('regulator', 'Regulator', Math.round(line.boreMm * 0.8)),
      { near: 'middle' },
    ),
    put(
      'sensor',
      `pressure sensor into the ${name}`,
      { ...sensor('sensor', 'Pressure sensor'), boreMm: Math.min(60, line.boreMm) } as Part,
      { near: 'middle' },
    ),
    put('flame', `flame trap or filter into the ${name}`, filter('filter', 'Filter'), { near: 'middle' }),
  ]
}

/** A tee cut into a line: two hoses and a third port. */
function teeInto({ variant }: OfferContext, line: Line): Offer {
  const t = fresh(variant, tee('tee', 'Tee'), line.id)
  const half = Math.round(line.lengthMm / 2)
  const after: Line = {
    ...line,
    id: `${line.id}-after`,
    name: `${line.name}, after ${loweredName(t)}`,
    from: { part: t.id, port: 'b' },
    lengthMm: line.lengthMm - half,
    riseMm: undefined,
    bends: [],
  }
  return {
    key: 'tee',
    label: `Cut a tee into the ${loweredName(line)}`,
    group: 'in the line',
    builders: [
      cut(line.id),
      addPart(t),
      join({ ...line, to: { part: t.id, port: 'a' }, lengthMm: half, riseMm: undefined }),
      join(after),
    ],
  }
}

function endOffers({ build, variant }: OfferContext, line: Line): Offer[] {
  return (['from', 'to'] as const).flatMap((side): Offer[] => {
    const here = variant.parts.find((p) => p.id === line[side].part)
    if (!here || !isBoundary(here.kind)) return []
    const toTakeOffs = TAKE_OFFS.filter((t) => t.kind !== here.kind && t.when(build.engine)).map((t): Offer => {
      const to = reach(variant, t)
      return {
        key: `to-${t.kind}`,
        label: `Lead the ${loweredName(line)} to the ${loweredName(t)} instead`,
        group: 'its ends',
        builders: [cut(line.id), ...to.builders, join({ ...line, [side]: to.end })],
      }
    })
    const vented = ventBuilders(variant, side === 'to' ? line.from : line.to, line.boreMm)
    return [
      ...toTakeOffs,
      {
        key: 'to-air',
        label: `Lead the ${loweredName(line)} to a vent filter instead`,
        group: 'its ends',
        builders: [cut(line.id), ...vented],
      },
    ]
  })
}

/** A return is led from a separator; taken off, the separator is a can again. */
const drainOffers = ({ build }: OfferContext, line: Line): Offer[] => [
  {
    key: 'cut',
    label: `Take the ${loweredName(line)} off: the separator is a can then`,
    group: 'its ends',
    builders: [
      cut(line.id),
      ...activeVariant(build).parts.flatMap((p) =>
        p.kind === 'can' && (line.from.part === p.id || line.to.part === p.id)
          ? [setPart(p.id, { drain: undefined })]
          : [],
      ),
    ],
  },
]

const lineOffers = (here: OfferContext, line: Line): Offer[] => [
  ...intoLine(here, line),
  teeInto(here, line),
  ...endOffers(here, line),
  {
    key: 'cut',
    label: `Take the ${loweredName(line)} off and cap both ends`,
    group: 'its ends',
    builders: [cut(line.id)],
  },
]

/** Parts that a new hose may be led to from a port of `part`: other spaces and boundaries, each once; and the open air. */
function joinOffers({ build, variant }: OfferContext, part: Part, boreMm: number, from: string): Offer[] {
  const end = { part: part.id, port: from }
  const of = part.ports.length > 1 && isThrough(part.kind) ? ` from ${from === 'in' ? 'its inlet' : 'its outlet'}` : ''
  const offer = (key: string, name: string, to: End, before: readonly EditBuilder[] = []): Offer => ({
    key,
    label: `Lead a hose from the ${loweredName(part)}${of} to the ${name}`,
    group: 'from here',
    builders: [
      ...before,
      join(
        lead(
          variant,
          { id: `hose-${part.id}`, name: `Hose to the ${name}` },
          { from: end, to },
          {
            boreMm,
            lengthMm: 500,
            bends: [{ angleDeg: 90, radiusMm: Math.round(boreMm * 4) }],
          },
        ),
      ),
    ],
  })
  const takesAHose = (p: Part) =>
    p !== part &&
    (!isThrough(p.kind) || cappedPorts(variant, p).length > 0) &&
    !(isBoundary(part.kind) && isBoundary(p.kind)) &&
    p.kind !== 'crankcase' &&
    p.kind !== 'passage'
  const absent = (isBoundary(part.kind) ? [] : TAKE_OFFS).filter(
    (t) => t.when(build.engine) && !variant.parts.some((p) => p.kind === t.kind),
  )
  return [
    ...variant.parts.filter(takesAHose).map((t) => {
      const to = isThrough(t.kind) ? cappedPorts(variant, t)[0]!.id : freePort(variant, t)
      return offer(`join-${t.id}`, loweredName(t), { part: t.id, port: to })
    }),
    ...absent.map((t) => {
      const to = reach(variant, t)
      return offer(`join-${t.kind}`, loweredName(t), to.end, to.builders)
    }),
    ...(isBoundary(part.kind)
      ? []
      : [
          {
            key: 'vent',
            label: `Vent the ${loweredName(part)}${of} to a filter`,
            group: 'from here' as const,
            builders: ventBuilders(variant, end, boreMm),
          },
        ]),
  ]
}

/** A can's outlet split in two: a tee after it, and from the tee a checked hose to `kind`. */
function secondOutlet({ variant }: OfferContext, part: Part, kind: 'manifold' | 'inlet'): Offer[] {
  const isOutlet = (e: LineEnd) => e.part === part.id && e.port === 'out'
  const out = variant.lines.find((l) => isOutlet(l.from) || isOutlet(l.to))
  if (!out || out.kind !== 'hose') return []
  const other = isOutlet(out.from) ? out.to : out.from
  if (variant.parts.find((p) => p.id === other.part)?.kind === kind) return []
  const valve = (id: string, name: string) => fresh(variant, check(id, name, checkFor(out.boreMm)))
  const t = fresh(variant, tee('tee', 'Outlet tee'), part.id)
  const [first, second] = [valve('check-first', 'First outlet check'), valve('check-second', 'Second outlet check')]
  const to = reach(
    variant,
    TAKE_OFFS.find((x) => x.kind === kind)!,
  )
  const inOf = (p: Part) => ({ part: p.id, port: 'in' })
  const outOf = (p: Part) => ({ part: p.id, port: 'out' })
  return [
    {
      key: `second-${kind}`,
      group: 'this part',
      label: `Give the ${loweredName(part)} a second, checked outlet to the ${kind === 'manifold' ? 'manifold' : 'inlet tract'}`,
      builders: [
        cut(out.id),
        addPart(t),
        addPart(first),
        addPart(second),
        ...to.builders,
        join(
          opening(
            variant,
            { id: 'can-outlet', name: 'Can outlet' },
            { from: outOf(part), to: { part: t.id, port: 'a' } },
          ),
        ),
        join(
          opening(
            variant,
            { id: 'first-check', name: 'First outlet' },
            { from: { part: t.id, port: 'b' }, to: inOf(first) },
          ),
        ),
        join({ ...out, from: outOf(first), to: other }),
        join(
          opening(
            variant,
            { id: 'second-check', name: 'Second outlet' },
            { from: { part: t.id, port: 'c' }, to: inOf(second) },
          ),
        ),
        join(
          lead(
            variant,
            { id: 'second-line', name: 'Second outlet line' },
            { from: outOf(second), to: to.end },
            {
              boreMm: out.boreMm,
              lengthMm: 500,
              bends: [{ angleDeg: 90, radiusMm: 50 }],
            },
          ),
        ),
      ],
    },
  ]
}

/** A one-way cap on a cover's filler neck, open to the air above. */
function reliefCap({ variant }: OfferContext, cover: Part): Offer {
  const cap = fresh(variant, relief('relief', 'Relief cap'), cover.id)
  const air: Part = {
    ...space('atmosphere', 'air', 'Open air', port('cap', 'Over the cap')),
    id: freshId(variant, `air-${cap.id}`),
  }
  const takenNeck = variant.lines.some((l) => [l.from, l.to].some((e) => e.part === cover.id && e.port === 'filler'))
  const neck = { part: cover.id, port: takenNeck ? freePort(variant, cover) : 'filler' }
  return {
    key: 'relief',
    label: `Fit a relief cap on the filler of the ${loweredName(cover)}`,
    group: 'from here',
    builders: [
      addPart(cap),
      addPart(air),
      join(
        opening(
          variant,
          { id: `cap-seat-${cover.id}`, name: 'Filler neck' },
          { from: neck, to: { part: cap.id, port: 'in' } },
        ),
      ),
      join(
        opening(
          variant,
          { id: `cap-air-${cover.id}`, name: 'Cap outlet' },
          { from: { part: cap.id, port: 'out' }, to: { part: air.id, port: 'cap' } },
        ),
      ),
    ],
  }
}

const TEE_PORTS = ['First', 'Second', 'Third'] as const
/** A tee turned so that another of its lines branches off: the last of its ports does, the first two run straight through. */
function turnTee({ variant }: OfferContext, part: Part): Offer[] {
  if (part.kind !== 'tee' || part.ports.length !== TEE_PORTS.length) return []
  return part.ports.slice(0, -1).flatMap((branch): Offer[] => {
    const line = variant.lines.find((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === branch.id))
    if (!line) return []
    const ports = [...part.ports.filter((p) => p !== branch), branch]
    return [
      {
        key: `branch-${branch.id}`,
        label: `Turn the ${loweredName(part)} so that the ${loweredName(line)} branches off`,
        group: 'this part',
        builders: [setPart(part.id, { ports: ports.map((p, i) => ({ ...p, name: TEE_PORTS[i]! })) })],
      },
    ]
  })
}

function throughOffers(here: OfferContext, part: Part, joined: number, boreMm: number): Offer[] {
  const { variant } = here
  const movable = part.kind !== 'passage'
  const own = (key: string, label: string, builder: EditBuilder): Offer => ({
    key,
    label,
    group: 'this part',
    builders: [builder],
  })
  return [
    ...(joined === 2 && movable
      ? [own('unsplice', `Take the ${loweredName(part)} out and join the hoses`, unsplice(part.id))]
      : []),
    ...(movable ? [own('turn', `Turn the ${loweredName(part)} round, in for out`, reverseValve(part.id))] : []),
    ...(part.kind === 'can' ? (['manifold', 'inlet'] as const).flatMap((k) => secondOutlet(here, part, k)) : []),
    ...cappedPorts(variant, part).flatMap((p) =>
      joinOffers(here, part, boreMm, p.id).map((o) => ({ ...o, key: `${p.id}-${o.key}` })),
    ),
  ]
}

function partOffers(here: OfferContext, part: Part): Offer[] {
  const { variant } = here
  const touching = variant.lines.filter((l) => l.from.part === part.id || l.to.part === part.id)
  const boreMm = touching.find((l) => l.kind === 'hose')?.boreMm ?? 12.7
  const offers = isThrough(part.kind)
    ? throughOffers(here, part, touching.length, boreMm)
    : [
        ...(part.kind === 'atmosphere' ? [] : joinOffers(here, part, boreMm, freePort(variant, part))),
        ...(part.kind === 'cover' ? [reliefCap(here, part)] : []),
        ...turnTee(here, part),
      ]
  const whole = wholeOffers(here, part, boreMm)
  if (KINDS[part.kind].engine) return [...offers, ...whole]
  return [
    ...offers,
    ...whole,
    {
      key: 'remove',
      label: `Take the ${loweredName(part)} away with its hoses`,
      group: 'this part',
      builders: [removePart(part.id)],
    },
  ]
}

function offersOfLine(here: OfferContext, line: Line): Offer[] {
  if (line.kind === 'hose') return lineOffers(here, line)
  return line.kind === 'drain' ? drainOffers(here, line) : []
}

/** Everything that is offered for what is chosen. */
export function actionsFor(build: Build, variant: Variant, chosen: Chosen): readonly EditAction[] {
  const here = { build, variant }
  const line = chosen.kind === 'line' ? variant.lines.find((l) => l.id === chosen.id) : undefined
  const part = chosen.kind === 'part' ? variant.parts.find((p) => p.id === chosen.id) : undefined
  const offers = line ? offersOfLine(here, line) : part ? partOffers(here, part) : []
  return offers.flatMap(({ builders, ...offer }) => {
    const edits = editsOf(build, ...builders)
    return edits.ok ? [{ ...offer, edits: edits.value }] : []
  })
}
