/** What a builder can do with what is chosen: only what makes sense there is offered; what is odd but done is offered and then judged. */
import { checkFor } from '../catalogue/catalogue'
import { isBoundary, isThrough, KINDS } from '../document/kinds'
import type { Build, Line, Part, PartKind, Variant } from '../document/schema'
import {
  can,
  check,
  direct,
  filter,
  hose,
  pcv,
  port,
  regulator,
  relief,
  restrictor,
  sensor,
  space,
  tee,
} from '../schools/parts'
import { freshId, type Edit } from './edit'

export type Action = {
  readonly key: string
  readonly label: string
  readonly group: 'in the line' | 'its ends' | 'from here' | 'this part'
  readonly edits: readonly Edit[]
}
export type Chosen = { readonly kind: 'line' | 'part'; readonly id: string }

const nameOf = (variant: Variant, id: string) => variant.parts.find((p) => p.id === id)?.name.toLowerCase() ?? id
/** A name that no part has yet: Catch can, Catch can 2, ... */
function fresh<P extends Part>(variant: Variant, part: P): P {
  const taken = new Set(variant.parts.map((p) => p.name))
  let name = part.name
  for (let n = 2; taken.has(name); n++) name = `${part.name} ${n}`
  return { ...part, id: freshId(variant, part.id), name }
}
const capped = (variant: Variant, part: Part) =>
  part.ports.filter(
    (p) => !variant.lines.some((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === p.id)),
  )
const freePort = (variant: Variant, part: Part): string =>
  capped(variant, part)[0]?.id ?? `port${part.ports.length + 1}`

function spliced(variant: Variant, line: Line): Action[] {
  const put = (key: string, label: string, part: Part, near: 'from' | 'middle' | 'to', reversed = false): Action => ({
    key,
    label,
    group: 'in the line',
    edits: [{ op: 'splice', line: line.id, part: fresh(variant, part), near, reversed }],
  })
  const [a, b] = [nameOf(variant, line.from.part), nameOf(variant, line.to.part)]
  return [
    put('can', 'Put a can in', can('can', 'Catch can', 'baffled'), 'middle'),
    put('check-to', `Put a check in, towards the ${b}`, check('check', 'Check valve', checkFor(line.boreMm)), 'to'),
    put(
      'check-from',
      `Put a check in, towards the ${a}`,
      check('check', 'Check valve', checkFor(line.boreMm)),
      'from',
      true,
    ),
    put(
      'restrictor',
      'Put a restrictor in',
      restrictor('restrictor', 'Restrictor', Math.max(2, Math.round(line.boreMm / 3))),
      'middle',
    ),
    put('pcv', `Put a PCV valve in, towards the ${b}`, pcv('pcv', 'PCV valve', 'medium'), 'from'),
    put(
      'regulator',
      `Put a regulator in, towards the ${b}`,
      regulator('regulator', 'Regulator', Math.round(line.boreMm * 0.8)),
      'middle',
    ),
    put(
      'sensor',
      'Put a pressure sensor in',
      { ...sensor('sensor', 'Pressure sensor'), boreMm: Math.min(60, line.boreMm) } as Part,
      'middle',
    ),
    put('flame', 'Put a flame trap or filter in', filter('filter', 'Filter'), 'middle'),
  ]
}

/** A tee cut into a line: two hoses and a third port. */
function teeInto(variant: Variant, line: Line): Action {
  const t = fresh(variant, tee('tee', 'Tee'))
  const half = Math.round(line.lengthMm / 2)
  return {
    key: 'tee',
    label: 'Cut a tee in',
    group: 'in the line',
    edits: [
      { op: 'cut', line: line.id },
      { op: 'add', part: t },
      { op: 'join', line: { ...line, to: { part: t.id, port: 'a' }, lengthMm: half } },
      {
        op: 'join',
        line: {
          ...line,
          id: `${line.id}-after`,
          name: `${line.name}, after ${t.name.toLowerCase()}`,
          from: { part: t.id, port: 'b' },
          lengthMm: line.lengthMm - half,
          bends: [],
        },
      },
    ],
  }
}

/** Places that a line may be led to, by what they do: take-offs of the engine, and the open air by a filter. */
const TAKE_OFFS: readonly { kind: PartKind; id: string; name: string; when: (e: Build['engine']) => boolean }[] = [
  { kind: 'manifold', id: 'manifold', name: 'Intake manifold', when: () => true },
  { kind: 'inlet', id: 'inlet', name: 'Inlet tract', when: () => true },
  {
    kind: 'blowerInlet',
    id: 'blower-inlet',
    name: 'Between throttle and blower',
    when: (e) => e.induction === 'super',
  },
  { kind: 'chargePipe', id: 'charge-pipe', name: 'Charge pipe', when: (e) => e.induction !== 'na' },
  { kind: 'exhaust', id: 'exhaust', name: 'Exhaust collector', when: () => true },
]
const newBoundary = (kind: PartKind, id: string, name: string): Part => {
  if (kind === 'inlet') return { kind, id, name, ports: [port('a', 'Port')], at: undefined, depressionPct: 100 }
  if (kind === 'exhaust') return { kind, id, name, ports: [port('a', 'Slash-cut pipe')], at: undefined, suctionKpa: 4 }
  return space(kind as 'manifold', id, name, port('a', 'Port'))
}

/** Edits that bring a boundary of `kind` into the circuit if it is not there, and the end to join to. */
function reach(
  variant: Variant,
  kind: PartKind,
  id: string,
  name: string,
): { edits: Edit[]; end: { part: string; port: string } } {
  const there = variant.parts.find((p) => p.kind === kind)
  if (there) return { edits: [], end: { part: there.id, port: freePort(variant, there) } }
  const part = { ...newBoundary(kind, id, name), id: freshId(variant, id) } as Part
  return { edits: [{ op: 'add', part }], end: { part: part.id, port: 'a' } }
}

/** From `end` to the open air: a hose, a filter, the air. */
function ventEdits(variant: Variant, end: { part: string; port: string }, boreMm: number): Edit[] {
  const vent = fresh(variant, filter('vent', 'Vent filter'))
  const air = {
    ...space('atmosphere', 'air', 'Open air', port('vent', 'Filter mouth')),
    id: freshId(variant, 'air'),
  } as Part
  return [
    { op: 'add', part: vent },
    { op: 'add', part: air },
    {
      op: 'join',
      line: {
        ...hose(freshId(variant, 'vent-line'), 'Vent line', 'x.y', 'x.y', boreMm, 300),
        from: end,
        to: { part: vent.id, port: 'in' },
      },
    },
    {
      op: 'join',
      line: {
        ...direct(freshId(variant, 'vent-end'), 'Filter mouth', 'x.y', 'x.y'),
        from: { part: vent.id, port: 'out' },
        to: { part: air.id, port: 'vent' },
      },
    },
  ]
}

function lineActions(build: Build, variant: Variant, line: Line): Action[] {
  const name = line.name.toLowerCase()
  const ends = (['from', 'to'] as const).flatMap((side): Action[] => {
    const here = variant.parts.find((p) => p.id === line[side].part)
    if (!here || !isBoundary(here.kind)) return []
    const rest: Edit[] = [{ op: 'cut', line: line.id }]
    const moved = (end: { part: string; port: string }): Edit => ({ op: 'join', line: { ...line, [side]: end } })
    return [
      ...TAKE_OFFS.filter((t) => t.kind !== here.kind && t.when(build.engine)).map((t): Action => {
        const to = reach(variant, t.kind, t.id, t.name)
        return {
          key: `to-${t.kind}`,
          label: `Lead it to the ${t.name.toLowerCase()} instead`,
          group: 'its ends',
          edits: [...rest, ...to.edits, moved(to.end)],
        }
      }),
      {
        key: 'to-air',
        label: 'Lead it to a vent filter instead',
        group: 'its ends',
        edits: [...rest, ...ventEdits(variant, side === 'to' ? line.from : line.to, line.boreMm)],
      },
    ]
  })
  return [
    ...spliced(variant, line),
    teeInto(variant, line),
    ...ends,
    {
      key: 'cut',
      label: `Take the ${name} off and cap both ends`,
      group: 'its ends',
      edits: [{ op: 'cut', line: line.id }],
    },
  ]
}

/** Parts that a new hose may be led to from `part`: other spaces and boundaries, each once. */
function joinActions(build: Build, variant: Variant, part: Part, boreMm: number, from: string): Action[] {
  const end = { part: part.id, port: from }
  const line = (to: { part: string; port: string }, name: string): Edit => ({
    op: 'join',
    line: {
      ...hose(freshId(variant, 'hose'), name, 'x.y', 'x.y', boreMm, 500, [[90, Math.round(boreMm * 4)]]),
      from: end,
      to,
    },
  })
  const targets = variant.parts.filter(
    (p) =>
      p !== part &&
      (!isThrough(p.kind) || capped(variant, p).length > 0) &&
      p.kind !== 'crankcase' &&
      p.kind !== 'passage',
  )
  return [
    ...targets.map((t): Action => ({
      key: `join-${t.id}`,
      label: `Lead a hose to the ${t.name.toLowerCase()}`,
      group: 'from here',
      edits: [
        line(
          { part: t.id, port: isThrough(t.kind) ? capped(variant, t)[0]!.id : freePort(variant, t) },
          `Hose to the ${t.name.toLowerCase()}`,
        ),
      ],
    })),
    ...TAKE_OFFS.filter((t) => t.when(build.engine) && !variant.parts.some((p) => p.kind === t.kind)).map(
      (t): Action => {
        const to = reach(variant, t.kind, t.id, t.name)
        return {
          key: `join-${t.kind}`,
          label: `Lead a hose to the ${t.name.toLowerCase()}`,
          group: 'from here',
          edits: [...to.edits, line(to.end, `Hose to the ${t.name.toLowerCase()}`)],
        }
      },
    ),
    { key: 'vent', label: 'Vent it to a filter', group: 'from here', edits: ventEdits(variant, end, boreMm) },
  ]
}

/** A can's outlet split in two: a tee after it, and from the tee a checked hose to `to`. */
function secondOutlet(variant: Variant, part: Part, kind: 'manifold' | 'inlet'): Action | undefined {
  const out = variant.lines.find(
    (l) => (l.from.part === part.id && l.from.port === 'out') || (l.to.part === part.id && l.to.port === 'out'),
  )
  if (!out || out.kind !== 'hose') return undefined
  const other = out.from.part === part.id ? out.to : out.from
  const leadsTo = variant.parts.find((p) => p.id === other.part)
  if (leadsTo?.kind === kind) return undefined
  const t = fresh(variant, tee('tee', 'Outlet tee'))
  const first = fresh(variant, check('check-first', 'First outlet check', checkFor(out.boreMm)))
  const second = fresh(variant, check('check-second', 'Second outlet check', checkFor(out.boreMm)))
  const to = reach(variant, kind, kind, kind === 'manifold' ? 'Intake manifold' : 'Inlet tract')
  return {
    key: `second-${kind}`,
    group: 'this part',
    label: `Give it a second, checked outlet to the ${kind === 'manifold' ? 'manifold' : 'inlet tract'}`,
    edits: [
      { op: 'cut', line: out.id },
      { op: 'add', part: t },
      { op: 'add', part: first },
      { op: 'add', part: second },
      ...to.edits,
      {
        op: 'join',
        line: {
          ...direct(freshId(variant, 'can-outlet'), 'Can outlet', 'x.y', 'x.y'),
          from: { part: part.id, port: 'out' },
          to: { part: t.id, port: 'a' },
        },
      },
      {
        op: 'join',
        line: {
          ...direct(freshId(variant, 'first-check'), 'First outlet', 'x.y', 'x.y'),
          from: { part: t.id, port: 'b' },
          to: { part: first.id, port: 'in' },
        },
      },
      { op: 'join', line: { ...out, from: { part: first.id, port: 'out' }, to: other } },
      {
        op: 'join',
        line: {
          ...direct(freshId(variant, 'second-check'), 'Second outlet', 'x.y', 'x.y'),
          from: { part: t.id, port: 'c' },
          to: { part: second.id, port: 'in' },
        },
      },
      {
        op: 'join',
        line: {
          ...hose(freshId(variant, 'second-line'), 'Second outlet line', 'x.y', 'x.y', out.boreMm, 500, [[90, 50]]),
          from: { part: second.id, port: 'out' },
          to: to.end,
        },
      },
    ],
  }
}

function partActions(build: Build, variant: Variant, part: Part): Action[] {
  const touching = variant.lines.filter((l) => l.from.part === part.id || l.to.part === part.id)
  const bore = touching.find((l) => l.kind === 'hose')?.boreMm ?? 12.7
  const actions: Action[] = []
  if (isThrough(part.kind)) {
    if (touching.length === 2 && part.kind !== 'passage')
      actions.push({
        key: 'unsplice',
        label: 'Take it out and join the hoses',
        group: 'this part',
        edits: [{ op: 'unsplice', part: part.id }],
      })
    if (part.kind !== 'passage')
      actions.push({
        key: 'turn',
        label: 'Turn it round, in for out',
        group: 'this part',
        edits: [{ op: 'turn', part: part.id }],
      })
    if (part.kind === 'can')
      for (const kind of ['manifold', 'inlet'] as const) {
        const a = secondOutlet(variant, part, kind)
        if (a) actions.push(a)
      }
    for (const p of capped(variant, part))
      actions.push(
        ...joinActions(build, variant, part, bore, p.id).map((a) => ({
          ...a,
          key: `${p.id}-${a.key}`,
          label: `${p.name}: ${a.label.charAt(0).toLowerCase()}${a.label.slice(1)}`,
        })),
      )
  } else {
    if (!isBoundary(part.kind)) actions.push(...joinActions(build, variant, part, bore, freePort(variant, part)))
    if (part.kind === 'cover') {
      const cap = fresh(variant, relief('relief', 'Relief cap'))
      const air = {
        ...space('atmosphere', 'air', 'Open air', port('cap', 'Over the cap')),
        id: freshId(variant, 'air'),
      } as Part
      actions.push({
        key: 'relief',
        label: 'Fit a relief cap on the filler',
        group: 'from here',
        edits: [
          { op: 'add', part: cap },
          { op: 'add', part: air },
          {
            op: 'join',
            line: {
              ...direct(freshId(variant, 'cap-seat'), 'Filler neck', 'x.y', 'x.y'),
              from: {
                part: part.id,
                port: variant.lines.some((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === 'filler'))
                  ? freePort(variant, part)
                  : 'filler',
              },
              to: { part: cap.id, port: 'in' },
            },
          },
          {
            op: 'join',
            line: {
              ...direct(freshId(variant, 'cap-air'), 'Cap outlet', 'x.y', 'x.y'),
              from: { part: cap.id, port: 'out' },
              to: { part: air.id, port: 'cap' },
            },
          },
        ],
      })
    }
  }
  if (!KINDS[part.kind].engine)
    actions.push({
      key: 'remove',
      label: `Take the ${part.name.toLowerCase()} away with its hoses`,
      group: 'this part',
      edits: [{ op: 'remove', part: part.id }],
    })
  return actions
}

/** Everything that is offered for what is chosen. */
export function actionsFor(build: Build, variant: Variant, chosen: Chosen): readonly Action[] {
  if (chosen.kind === 'line') {
    const line = variant.lines.find((l) => l.id === chosen.id)
    return line && line.kind === 'hose' ? lineActions(build, variant, line) : []
  }
  const part = variant.parts.find((p) => p.id === chosen.id)
  return part ? partActions(build, variant, part) : []
}
