/** Every single failure that a build can have, as the edits that make it. Tried, never saved. */
import { RING_SHARE } from '@/core/engine/states'
import { fromSi } from '@/core/units/units'
import { KINDS } from '../document/kinds'
import { ENGINE_FIELDS } from '../document/fields'
import type { Build, Line, Part, Variant } from '../document/schema'
import { lowered } from '../document/words'
import { cappedPorts, freePort } from '../edit/ports'
import {
  addPart,
  chain,
  editsOf,
  freshId,
  join,
  reverseValve,
  setField,
  setLine,
  setPart,
  type EditBuilder,
} from '../edit/edit-builders'
import { activeVariant, type Edit } from '../edit/edit'
import { measuredFlowOf } from '../model/engine'
import { hose, port, space } from '../catalogue/parts'

/** What goes wrong, whatever part it is of. */
export type FaultKind =
  | 'stuck-open'
  | 'stuck-shut'
  | 'blocked'
  | 'clogged'
  | 'swapped'
  | 'drain-blocked'
  | 'stopped'
  | 'left-open'
  | 'cap-loose'
  | 'overfull'
  | 'off'
  | 'folded'
  | 'rings'
  | 'leaks'
  | 'split'
  | 'reversed'
  | 'torn'
export type Fault = {
  readonly id: string
  readonly kind: FaultKind
  readonly name: string
  /** part or line that fails */
  readonly of: string
  readonly edits: readonly Edit[]
}

type FailurePatch = Omit<Fault, 'edits'> & {
  readonly builders: readonly EditBuilder[]
}

/** Share of its bore that a collapsed hose keeps (estimate). */
const COLLAPSED = 0.3
/** What a blocked can, or filter, costs: kPa at 100 l/min. */
const BLOCKED_KPA = 50

function failingPart(p: Part): FailurePatch[] {
  const fail = (id: string, kind: FaultKind, name: string, change: object): FailurePatch => ({
    id: `${p.id}-${id}`,
    kind,
    of: p.id,
    name: `${p.name} ${name}`,
    builders: [setPart(p.id, { ...change })],
  })
  if (KINDS[p.kind].valve)
    return [
      fail('open', 'stuck-open', 'stuck open', { stuck: 'open' }),
      fail('shut', 'stuck-shut', 'stuck shut', { stuck: 'shut' }),
    ]
  switch (p.kind) {
    case 'restrictor':
      return [fail('frozen', 'blocked', 'frozen or blocked', { boreMm: 0 })]
    case 'can':
      return [
        fail('frozen', 'clogged', 'frozen or clogged', { dropKpaAt100: BLOCKED_KPA }),
        {
          id: `${p.id}-swapped`,
          kind: 'swapped',
          of: p.id,
          name: `${p.name} with in and out swapped`,
          builders: [reverseValve(p.id)],
        },
        ...(p.drain ? [fail('full', 'drain-blocked', 'full, its drain blocked', { stuck: 'full' })] : []),
      ]
    case 'filter':
      return [fail('blocked', 'clogged', 'blocked', { fouling: 20, dropKpaAt100: Math.max(1, p.dropKpaAt100 * 5) })]
    case 'pump':
      return [fail('stopped', 'stopped', 'stopped', { stuck: 'shut' })]
    case 'crankcase':
    case 'cover':
    case 'tank':
    case 'tee':
    case 'passage':
    case 'sensor':
    case 'manifold':
    case 'inlet':
    case 'blowerInlet':
    case 'chargePipe':
    case 'exhaust':
    case 'atmosphere':
      return []
    // named above by what they are: they stick
    case 'pcv':
    case 'check':
    case 'regulator':
    case 'relief':
      return []
  }
}

/** Bore of a nipple that was left open where it was not measured, and of the gap at a cap that does not seat (20 mm2), mm (estimates). */
const [LEFT_OPEN_MM, LOOSE_MM] = [8, 5]

/** A hole from a port of a part, or a free one of it, to the open air. */
export const openHole =
  (part: Part, portId: string | undefined, boreMm: number, name: string): EditBuilder =>
  (build) => {
    const v = activeVariant(build)
    const air = space('atmosphere', freshId(v, `${part.id}-hole`), name, port('a', 'Open'))
    const line: Line = {
      ...hose(freshId(v, `${part.id}-hole-line`), name, { from: 'x.y', to: 'x.y', boreMm, lengthMm: 10 }),
      from: { part: part.id, port: portId ?? freePort(v, part) },
      to: { part: air.id, port: 'a' },
    }
    return chain(addPart(air), join(line))(build)
  }

/** A port that was to be plugged and was not: the first capped one of the manifold, of each cover and of each can. */
function portsLeftOpen(variant: Variant): FailurePatch[] {
  return variant.parts.flatMap((p): FailurePatch[] => {
    if (p.kind !== 'manifold' && p.kind !== 'cover' && p.kind !== 'can') return []
    const capped = cappedPorts(variant, p).find((q) => q.id !== 'in' && q.id !== 'out')
    if (!capped) return []
    const name = `${p.name}, ${lowered(capped.name)} left open`
    return [
      {
        id: `${p.id}-left-open`,
        kind: 'left-open',
        of: p.id,
        name,
        builders: [openHole(p, capped.id, capped.boreMm ?? LEFT_OPEN_MM, 'Open port')],
      },
    ]
  })
}

/** Oil level, filler cap and dipstick. */
function carelessness({ engine }: Build, variant: Variant): FailurePatch[] {
  const crankcase = variant.parts.find((p) => p.kind === 'crankcase')
  if (!crankcase) return []
  const level = Math.max(OVERFULL_PCT, (engine.oilLevelPct ?? 0) + OVERFULL_PCT)
  return [
    {
      id: 'cap-loose',
      kind: 'cap-loose',
      of: crankcase.id,
      name: 'Filler cap or dipstick not tight',
      builders: [openHole(crankcase, undefined, LOOSE_MM, 'Gap at the cap')],
    },
    ...(level > ENGINE_FIELDS.oilLevelPct.max
      ? []
      : [
          {
            id: 'oil-overfull',
            kind: 'overfull' as const,
            of: crankcase.id,
            name: 'Oil overfull by a tenth of the sump',
            builders: [setField(['engine', 'oilLevelPct'], level)],
          },
        ]),
  ]
}
const OVERFULL_PCT = 10

/** A hose off its first end: what it came from breathes into the open, and so does the hose. */
const pulledOff =
  (l: Line): EditBuilder =>
  (build) => {
    const v = activeVariant(build)
    const air = space('atmosphere', freshId(v, `${l.id}-open`), 'Open end', port('a', 'Open'), port('b', 'Open'))
    const stub: Line = {
      ...l,
      id: freshId(v, `${l.id}-stub`),
      name: `${l.name}, open nipple`,
      to: { part: air.id, port: 'a' },
      lengthMm: 30,
      bends: [],
    }
    return chain(addPart(air), setLine(l.id, { from: { part: air.id, port: 'b' } }), join(stub))(build)
  }

const failingLine = (l: Line): FailurePatch[] =>
  l.kind === 'hose'
    ? [
        { id: `${l.id}-off`, kind: 'off', of: l.id, name: `${l.name} pulled off`, builders: [pulledOff(l)] },
        {
          id: `${l.id}-flat`,
          kind: 'folded',
          of: l.id,
          name: `${l.name} collapsed`,
          builders: [setLine(l.id, { boreMm: Math.max(1, l.boreMm * COLLAPSED) })],
        },
      ]
    : []

/** Rings gone: blow-by as of the worn class, or a measured one that many times over. */
function wornRings(build: Build): FailurePatch[] {
  const { rings, blowBy } = build.engine
  const crankcase = activeVariant(build).parts.find((p) => p.kind === 'crankcase')
  if (rings === 'worn' || !crankcase) return []
  const measured = blowBy && measuredFlowOf(build)
  const builder =
    blowBy && measured !== undefined
      ? setField(['engine', 'blowBy'], {
          state: blowBy.state,
          lpm: Math.min(2000, (fromSi('gasFlow', measured, 'l/min') * RING_SHARE.worn) / RING_SHARE[rings]),
        })
      : setField(['engine', 'rings'], 'worn')
  return [{ id: 'rings-worn', kind: 'rings', of: crankcase.id, name: 'Rings worn', builders: [builder] }]
}

/** Every single failure of the active plan and its engine. */
export function faultsOf(build: Build): readonly Fault[] {
  const variant = activeVariant(build)
  const failing = [
    ...variant.parts.flatMap(failingPart),
    ...variant.lines.flatMap(failingLine),
    ...portsLeftOpen(variant),
    ...carelessness(build, variant),
    ...wornRings(build),
  ]
  return failing.flatMap(({ builders, ...fault }) => {
    const edits = editsOf(build, ...builders)
    return edits.ok ? [{ ...fault, edits: edits.value }] : []
  })
}
