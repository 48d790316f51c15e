/** What to buy, cut, drill and hold a spanner to, of a plan's strips. */
import { threadOf } from '@/core/sizes/threads'
import type { Build, Variant } from '../document/schema'
import { lowered, teller, type Teller } from '../document/words'
import { formOf } from '../catalogue/forms'
import type { Piece } from '../catalogue/pieces'
import { closuresOf } from './closures'
import { againstStock } from './stock'
import { stripsOf, type Strip, type StripEnd } from './strips'

export const GROUPS = [
  'Cans and valves',
  'Hose',
  'Hose ends',
  'Adapters',
  'Clamps and clips',
  'Seals',
  'Caps and plugs',
  'Consumables',
] as const
export type ShoppingGroup = (typeof GROUPS)[number]
export type Item = {
  /** the same for the same thing, whatever the plan */
  readonly key: string
  readonly group: ShoppingGroup
  readonly name: string
  /** pieces; of hose millimetres */
  readonly count: number
  readonly unit: 'piece' | 'mm'
  /** where it goes */
  readonly for: readonly string[]
}

/** Hose is sold by the half metre; spoilt cuts ask for a little more. */
const [SOLD_BY, WASTE] = [500, 1.05]
/** Outside of a hose over its bore, mm: rubber walls. */
const WALLS = 7.5

export type Cut = {
  readonly strip: Strip
  readonly label: string
  readonly line: string
  readonly hose: string
  readonly cutMm: number
  /** tape round the cut, mm: braid frays */
  readonly tapeMm: number
  readonly ends: readonly [string, string]
  readonly clockingDeg: number | undefined
}

/** How an end of a strip is made, in words. */
export const endText = (end: StripEnd): string => {
  if (!end.chain.ok) return 'not resolved'
  const { hoseEnd } = end.chain.value
  if (hoseEnd.kind === 'clamp') return 'square cut, clamp'
  if (hoseEnd.kind === 'hose end')
    return `-${hoseEnd.dash} hose end, ${end.turnDeg > 0 ? `${end.turnDeg}°` : 'straight'}`
  return 'square cut'
}

/** Clamp by the outside of the hose it goes round: ranges in which worm or smooth-band clamps are sold, mm. */
const CLAMPS = [
  [8, 12],
  [10, 16],
  [12, 20],
  [16, 25],
  [20, 32],
  [25, 40],
  [32, 50],
] as const
/**
 * @example
 * import { clampFor } from '@/plan/fit/lists'
 *
 * console.log(clampFor(19).join()) // '20,32'
 */
export function clampFor(hoseMm: number): readonly [number, number] {
  const outside = hoseMm + WALLS
  return CLAMPS.find(([low, high]) => outside >= low + 1 && outside <= high - 1) ?? CLAMPS.at(-1)!
}

type Add = (item: Omit<Item, 'count' | 'for'>, count: number, where: string) => void
function collector(): { readonly add: Add; readonly items: () => readonly Item[] } {
  const found = new Map<string, { item: Omit<Item, 'count' | 'for'>; count: number; where: string[] }>()
  return {
    add: (item, count, where) => {
      const known = found.get(item.key)
      if (!known) found.set(item.key, { item, count, where: [where] })
      else {
        known.count += count
        if (!known.where.includes(where)) known.where.push(where)
      }
    },
    items: () =>
      [...found.values()]
        .map(({ item, count, where }): Item => ({ ...item, count, for: where }))
        .toSorted((a, b) => GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group) || a.name.localeCompare(b.name)),
  }
}

function addPiece(add: Add, piece: Piece, where: string): void {
  add({ key: piece.key, group: 'Adapters', name: piece.name, unit: 'piece' }, 1, where)
  // one in it, one to spare
  if (piece.seal) add({ key: `seal ${piece.seal}`, group: 'Seals', name: piece.seal, unit: 'piece' }, 2, where)
  if (piece.sealing === 'tape')
    add({ key: 'ptfe-tape', group: 'Consumables', name: 'PTFE tape', unit: 'piece' }, 0, where)
}

const clampName = (low: number, high: number, say: Teller): string => {
  const [from, to] = [say.mm(low), say.mm(high)]
  // the unit once
  return `hose clamp ${from.replace(/\s.*$/, '')} to ${to}, smooth band`
}

function addEnd(add: Add, end: StripEnd, strip: Strip, say: Teller): void {
  if (!end.chain.ok) return
  const where = strip.line.name
  const { pieces, hoseEnd } = end.chain.value
  for (const p of pieces) addPiece(add, p, where)
  if (hoseEnd.kind === 'clamp') {
    const hoseMm = strip.hose?.ok ? strip.hose.value.mm : strip.line.boreMm
    const [low, high] = clampFor(hoseMm)
    add(
      {
        key: `clamp-${low}-${high}`,
        group: 'Clamps and clips',
        name: clampName(low, high, say),
        unit: 'piece',
      },
      1,
      where,
    )
    // a stepped joiner is clamped on both its hoses
    const more = pieces.filter((p) => p.key.startsWith('step-')).length * 3
    if (more > 0)
      add(
        {
          key: `clamp-${low}-${high}`,
          group: 'Clamps and clips',
          name: clampName(low, high, say),
          unit: 'piece',
        },
        more,
        where,
      )
  }
  if (hoseEnd.kind === 'hose end') {
    const turn = end.turnDeg > 0 ? `${end.turnDeg}°` : 'straight'
    add(
      {
        key: `hose-end-${hoseEnd.dash}-${end.turnDeg}`,
        group: 'Hose ends',
        name: `-${hoseEnd.dash} hose end, ${turn}`,
        unit: 'piece',
      },
      1,
      where,
    )
  }
}

/** Everything to buy for a plan, counted: the same thing once. What the plan keeps of the maker's is not in it. */
export function shoppingList(build: Build, variant: Variant): readonly Item[] {
  const say = teller(build.units)
  const { add, items } = collector()
  const off = againstStock(build, variant)
  for (const p of off.added)
    add(
      {
        key: `part ${p.kind} ${'model' in p && p.model ? p.model : p.name}`,
        group: 'Cans and valves',
        name: p.name,
        unit: 'piece',
      },
      1,
      p.name,
    )
  for (const strip of madeOf(stripsOf(build, variant))) {
    if (strip.hose?.ok) {
      const { kind, name, mm } = strip.hose.value
      add(
        {
          key: `hose-${kind}-${mm}`,
          group: 'Hose',
          name: `${kind === 'rubber' ? 'oil-proof reinforced rubber hose' : 'braided hose'} ${name}`,
          unit: 'mm',
        },
        strip.cutM * 1000,
        strip.line.name,
      )
      if (kind === 'braided')
        add(
          { key: 'cut-tape', group: 'Consumables', name: 'tape to cut braid through', unit: 'piece' },
          0,
          strip.line.name,
        )
    }
    for (const end of strip.ends) addEnd(add, end, strip, say)
    if (strip.clips > 0)
      add(
        { key: 'p-clamp', group: 'Clamps and clips', name: 'P-clamp, rubber lined, or line separator', unit: 'piece' },
        strip.clips,
        strip.line.name,
      )
  }
  for (const c of closuresOf(build, variant))
    add({ key: c.key, group: 'Caps and plugs', name: c.what, unit: 'piece' }, 1, c.name)
  return items().map((i) =>
    i.unit === 'mm'
      ? { ...i, count: Math.ceil((i.count * WASTE) / SOLD_BY) * SOLD_BY }
      : { ...i, count: Math.max(1, i.count) },
  )
}

/** Letter of the n-th hose that is cut: A to Z, then A1. */
export const letterOf = (n: number): string =>
  String.fromCharCode(65 + (n % 26)) + (n >= 26 ? String(Math.floor(n / 26)) : '')

/** The hoses that are made, not kept. */
export const madeOf = (strips: readonly Strip[]): readonly Strip[] => strips.filter((s) => !s.kept)

/** The cut list: a row a hose that is made, labelled at both ends. */
export const cutList = (strips: readonly Strip[]): readonly Cut[] =>
  madeOf(strips).map((s, i) => ({
    strip: s,
    label: letterOf(i),
    line: s.line.name,
    hose: s.hose?.ok ? `${s.hose.value.kind} ${s.hose.value.name}` : 'no hose of this bore',
    cutMm: Math.round(s.cutM * 1000),
    tapeMm: s.hose?.ok && s.hose.value.kind === 'braided' ? 25 : 0,
    ends: [endText(s.ends[0]), endText(s.ends[1])],
    clockingDeg: s.lay?.clockingDeg,
  }))

/** What is wrapped round an end of a cut hose: its mark, and where it goes. */
export type EndLabel = { readonly mark: string; readonly goes: string }
/** Labels for both ends of every strip, as they are stuck on the hose. */
export const endLabels = (strips: readonly Strip[]): readonly EndLabel[] =>
  madeOf(strips).flatMap((s, i) =>
    s.ends.map((e, k) => ({
      mark: `${letterOf(i)}${k + 1}`,
      goes: `${s.line.name}: ${lowered(e.part.name)}, ${lowered(e.port)}`,
    })),
  )

export type Drilling = { readonly what: string; readonly at: string; readonly drillM: number; readonly after: string }

/** Holes and threads that this plan asks for. */
export function drillings(strips: readonly Strip[], say: Teller): readonly Drilling[] {
  return madeOf(strips).flatMap((s): Drilling[] =>
    s.ends.flatMap((e): Drilling[] => {
      const form = formOf(e.form)
      const at = `${e.part.name}, ${lowered(e.port)}`
      if (form?.kind === 'hole') {
        const drillM = (form.mm + 6) / 1000
        return [
          {
            what: `hole for the grommet of a ${say.mm(form.mm)} outlet`,
            at,
            drillM,
            after: 'deburr both sides; wash the chips out with the pipe off the engine',
          },
        ]
      }
      if (form?.kind !== 'pipe' && form?.kind !== 'metric') return []
      const thread = threadOf(form.kind, form.size)
      if (!thread.ok || thread.value.tapDrillM === undefined) return []
      return [
        {
          what: `${form.size}${form.kind === 'pipe' ? ' pipe thread' : ''}`,
          at,
          drillM: thread.value.tapDrillM,
          after:
            form.kind === 'pipe'
              ? 'tap until the fitting stands three turns in; only where the port is not there already'
              : 'tap square, grease on the tap; spot-face for the O-ring',
        },
      ]
    }),
  )
}

/** Spanners for the hexagons of what is made, mm, each once. */
export function spanners(strips: readonly Strip[]): readonly number[] {
  const all = madeOf(strips).flatMap((s) =>
    s.ends.flatMap((e) =>
      e.chain.ok ? e.chain.value.pieces.flatMap((p) => (p.hexMm === undefined ? [] : [p.hexMm])) : [],
    ),
  )
  return [...new Set(all)].toSorted((a, b) => a - b)
}

/** Lines that could share one hose: sizes that differ by one step, with the narrower. */
export function couldShare(strips: readonly Strip[]): readonly string[] {
  const made = madeOf(strips).filter((s) => s.hose?.ok)
  const sizes = [...new Set(made.map((s) => (s.hose!.ok ? s.hose!.value.mm : 0)))].toSorted((a, b) => a - b)
  return sizes.slice(1).flatMap((mm, i) => {
    const below = sizes[i]!
    if (mm / below > 1.2) return []
    const names = made.filter((s) => s.hose?.ok && s.hose.value.mm === below).map((s) => lowered(s.line.name))
    return [`${names.join(' and ')} (${below} mm) could be cut from the ${mm} mm hose: one hose, one size of clamp.`]
  })
}
