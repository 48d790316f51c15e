/** Every change a person or a verdict's fix can make to a build: small, plain, and applied in one place. */
import { fail, ok, type Result } from '@/core/result'
import { isThrough } from '../document/kinds'
import type { Build, Line, LineEnd, LogEntry, Part, Variant } from '../document/schema'

export type Path = readonly (string | number)[]

export type Edit =
  | { readonly op: 'set'; readonly path: Path; readonly value: unknown }
  | { readonly op: 'line'; readonly line: string; readonly set: Partial<Line> }
  | { readonly op: 'part'; readonly part: string; readonly set: Readonly<Record<string, unknown>> }
  /** cuts a line and puts a part with ports in and out there; gas that runs the line's way enters at `in`, unless reversed */
  | {
      readonly op: 'splice'
      readonly line: string
      readonly part: Part
      readonly near: 'from' | 'middle' | 'to'
      readonly reversed?: boolean
    }
  /** takes a spliced part out again and makes one line of its two */
  | { readonly op: 'unsplice'; readonly part: string }
  /** puts a part into the circuit, joined to nothing yet */
  | { readonly op: 'add'; readonly part: Part }
  /** takes a part out with every line that ends at it; their other ends are capped */
  | { readonly op: 'remove'; readonly part: string }
  /** joins two ports; a space gets a new port where `port` is new to it */
  | { readonly op: 'join'; readonly line: Line }
  /** takes a line off; both ports are capped */
  | { readonly op: 'cut'; readonly line: string }
  /** what was joined to `in` is joined to `out`, and the other way about */
  | { readonly op: 'turn'; readonly part: string }
  | { readonly op: 'addVariant'; readonly variant: Variant }
  | { readonly op: 'removeVariant'; readonly id: string }
  | { readonly op: 'log'; readonly entry: LogEntry }
  | { readonly op: 'unlog'; readonly id: string }

/** Length in mm that stays with the near end when a part is spliced in close to it. */
const NEAR_MM = 80

/** Replaces or, with undefined, removes what stands at `path`. Unknown parents fail rather than being made. */
function setAt(target: unknown, path: Path, value: unknown): unknown {
  if (path.length === 0) return value
  const [head, ...rest] = path as [string | number, ...(string | number)[]]
  if (Array.isArray(target)) {
    if (typeof head !== 'number' || head < 0 || head >= target.length) throw new RangeError(`no item ${head}`)
    return target.map((item, i) => (i === head ? setAt(item, rest, value) : item) as unknown)
  }
  if (target === null || typeof target !== 'object') throw new RangeError(`nothing at ${head}`)
  if (head === '__proto__' || head === 'constructor') throw new RangeError(`no field ${head}`)
  const now = target as Record<string, unknown>
  if (rest.length === 0 && value === undefined) {
    const { [head]: _gone, ...others } = now
    return others
  }
  return { ...now, [head]: setAt(now[head], rest, value) }
}

export const activeVariant = (build: Build): Variant =>
  build.variants.find((v) => v.id === build.active) ?? build.variants[0]!

const withVariant = (build: Build, change: (v: Variant) => Variant): Build => {
  const active = activeVariant(build)
  return { ...build, variants: build.variants.map((v) => (v === active ? change(v) : v)) }
}

/** An id that nothing in the variant has yet: `wanted`, else wanted-2, wanted-3... */
export function freshId(variant: Variant, wanted: string): string {
  const taken = new Set([...variant.parts.map((p) => p.id), ...variant.lines.map((l) => l.id)])
  let id = wanted
  for (let n = 2; taken.has(id); n++) id = `${wanted}-${n}`
  return id
}

function splice(
  variant: Variant,
  lineId: string,
  part: Part,
  near: 'from' | 'middle' | 'to',
  reversed: boolean,
): Variant {
  const line = variant.lines.find((l) => l.id === lineId)
  if (!line) throw new RangeError(`no line ${lineId}`)
  if (!isThrough(part.kind)) throw new RangeError(`${part.name} has no way through`)
  const placed = { ...part, id: freshId(variant, part.id) }
  const first =
    line.kind === 'direct'
      ? 0
      : near === 'from'
        ? Math.min(NEAR_MM, line.lengthMm / 2)
        : near === 'to'
          ? Math.max(line.lengthMm - NEAR_MM, line.lengthMm / 2)
          : line.lengthMm / 2
  const [inPort, outPort] = reversed ? ['out', 'in'] : ['in', 'out']
  const bendsUp = near === 'from' ? [] : line.bends
  const up: Line = { ...line, to: { part: placed.id, port: inPort! }, lengthMm: first, bends: bendsUp }
  const down: Line = {
    ...line,
    id: freshId(variant, `${line.id}-after`),
    name: `${line.name}, after ${placed.name.toLowerCase()}`,
    from: { part: placed.id, port: outPort! },
    lengthMm: line.lengthMm - first,
    bends: near === 'from' ? line.bends : [],
  }
  return {
    ...variant,
    parts: [...variant.parts, placed],
    lines: variant.lines.flatMap((l) => (l === line ? [up, down] : [l])),
  }
}

function unsplice(variant: Variant, partId: string): Variant {
  const part = variant.parts.find((p) => p.id === partId)
  if (!part || !isThrough(part.kind)) throw new RangeError(`${partId} cannot be taken out of a line`)
  const touching = variant.lines.filter((l) => l.from.part === partId || l.to.part === partId)
  if (touching.length !== 2) throw new RangeError(`${part.name} does not stand between two lines`)
  const [a, b] = touching as [Line, Line]
  const outer = (l: Line) => (l.from.part === partId ? l.to : l.from)
  const joined: Line = {
    ...(a.kind === 'hose' ? a : { ...b, id: a.id }),
    kind: a.kind === 'direct' && b.kind === 'direct' ? 'direct' : 'hose',
    from: outer(a),
    to: outer(b),
    lengthMm: a.lengthMm + b.lengthMm,
    bends: [...a.bends, ...b.bends],
    boreMm: a.kind === 'hose' && b.kind === 'hose' ? Math.min(a.boreMm, b.boreMm) : Math.max(a.boreMm, b.boreMm),
  }
  return {
    ...variant,
    parts: variant.parts.filter((p) => p !== part),
    lines: variant.lines.flatMap((l) => (l === a ? [joined] : l === b ? [] : [l])),
  }
}

function join(variant: Variant, wanted: Line): Variant {
  const line = { ...wanted, id: freshId(variant, wanted.id) }
  let parts = variant.parts
  for (const end of [line.from, line.to]) {
    const part = parts.find((p) => p.id === end.part)
    if (!part) throw new RangeError(`no part ${end.part}`)
    if (variant.lines.some((l) => [l.from, l.to].some((e) => e.part === end.part && e.port === end.port)))
      throw new RangeError(`${part.name} already has a line there`)
    if (part.ports.some((p) => p.id === end.port)) continue
    if (isThrough(part.kind)) throw new RangeError(`${part.name} has no port ${end.port}`)
    parts = parts.map((p) => (p === part ? { ...p, ports: [...p.ports, { id: end.port, name: 'Added port' }] } : p))
  }
  return { ...variant, parts, lines: [...variant.lines, line] }
}

const swapped = (end: LineEnd): LineEnd => ({
  ...end,
  port: end.port === 'in' ? 'out' : end.port === 'out' ? 'in' : end.port,
})

function apply(build: Build, edit: Edit): Build {
  switch (edit.op) {
    case 'add':
      return withVariant(build, (v) => ({ ...v, parts: [...v.parts, { ...edit.part, id: freshId(v, edit.part.id) }] }))
    case 'remove':
      return withVariant(build, (v) => ({
        ...v,
        parts: v.parts.filter((p) => p.id !== edit.part),
        lines: v.lines.filter((l) => l.from.part !== edit.part && l.to.part !== edit.part),
      }))
    case 'join':
      return withVariant(build, (v) => join(v, edit.line))
    case 'cut':
      return withVariant(build, (v) => ({ ...v, lines: v.lines.filter((l) => l.id !== edit.line) }))
    case 'turn':
      return withVariant(build, (v) => ({
        ...v,
        lines: v.lines.map((l) =>
          l.from.part === edit.part
            ? { ...l, from: swapped(l.from) }
            : l.to.part === edit.part
              ? { ...l, to: swapped(l.to) }
              : l,
        ),
      }))
    case 'addVariant':
      return { ...build, variants: [...build.variants, edit.variant], active: edit.variant.id }
    case 'removeVariant': {
      const variants = build.variants.filter((v) => v.id !== edit.id)
      if (variants.length === 0) throw new RangeError('The last plan of a build stays.')
      return { ...build, variants, active: build.active === edit.id ? variants[0]!.id : build.active }
    }
    case 'set':
      return setAt(build, edit.path, edit.value) as Build
    case 'line':
      return withVariant(build, (v) => ({
        ...v,
        lines: v.lines.map((l) => (l.id === edit.line ? { ...l, ...edit.set } : l)),
      }))
    case 'part':
      return withVariant(build, (v) => ({
        ...v,
        parts: v.parts.map((p) => (p.id === edit.part ? ({ ...p, ...edit.set } as Part) : p)),
      }))
    case 'splice':
      return withVariant(build, (v) => splice(v, edit.line, edit.part, edit.near, edit.reversed ?? false))
    case 'unsplice':
      return withVariant(build, (v) => unsplice(v, edit.part))
    case 'log': {
      const others = build.log.filter((e) => e.id !== edit.entry.id)
      return {
        ...build,
        log: [...others, edit.entry].toSorted((a, b) => a.date.localeCompare(b.date) || a.odometerKm - b.odometerKm),
      }
    }
    case 'unlog':
      return { ...build, log: build.log.filter((e) => e.id !== edit.id) }
  }
}

/** Applies edits in order to the active variant. An edit that does not fit the build fails with a reason and changes nothing. */
export function applyEdits(build: Build, edits: readonly Edit[]): Result<Build> {
  try {
    return ok(edits.reduce(apply, build))
  } catch (error) {
    return fail(error instanceof Error ? error.message : 'The edit does not fit this build.')
  }
}
