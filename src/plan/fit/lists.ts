/** What to buy, cut, drill and hold a spanner to, of a plan's strips. */
import { threadOf } from '@/core/sizes/threads'
import { KINDS } from '../document/kinds'
import type { Build, Part, PartOf, Variant } from '../document/schema'
import { type UnitFormatter, joinWords, letterOf, lowered, unitFormatter } from '../document/words'
import { barbName, formName, formOf } from '../catalogue/forms'
import { PIECES, type Piece } from '../catalogue/pieces'
import { hasTap } from '../bay/place'
import type { StateResult } from '../model/results'
import { bungsOf } from './bungs'
import { coverBafflesOf } from './cover-baffle'
import { closuresOf } from './closures'
import { rubberHose, type HoseSold } from './ends'
import { couplingsOf, SLEEVE_M, type Coupling } from './couplings'
import { partKey, partSpec, type SpecGround } from './part-spec'
import { compareWithStock, stockVariant } from './stock'
import { madeOf, stripsOf, type Strip, type StripEnd } from './strips'

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
  /** what it must be, to ask for at the counter */
  readonly asks: readonly string[]
  /** pieces, with those to spare; of hose millimetres */
  readonly count: number
  /** of the count, what is to spare: a ring that is cut or lost ends the day */
  readonly spare: number
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

type Wanted = Pick<Item, 'key' | 'group' | 'name' | 'unit'> & { readonly asks?: readonly string[] }
type Add = (item: Wanted, count: number, where: string, spare?: number) => void
function collector(): { readonly add: Add; readonly items: () => readonly Item[] } {
  const found = new Map<string, { item: Wanted; count: number; spare: number; where: string[] }>()
  return {
    add: (item, count, where, spare = 0) => {
      const known = found.get(item.key)
      if (!known) found.set(item.key, { item, count: count + spare, spare, where: [where] })
      else {
        known.count += count + spare
        known.spare += spare
        if (!known.where.includes(where)) known.where.push(where)
      }
    },
    items: () =>
      [...found.values()]
        .map(({ item, count, spare, where }): Item => ({ ...item, asks: item.asks ?? [], count, spare, for: where }))
        .toSorted((a, b) => GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group) || a.name.localeCompare(b.name)),
  }
}

const P_CLAMP: Wanted = {
  key: 'p-clamp',
  group: 'Clamps and clips',
  name: 'P-clamp, rubber lined, or line separator',
  unit: 'piece',
}

function addPiece(add: Add, piece: Piece, where: string): void {
  add({ key: piece.key, group: 'Adapters', name: piece.name, unit: 'piece' }, 1, where)
  if (piece.seal) add({ key: `seal ${piece.seal}`, group: 'Seals', name: piece.seal, unit: 'piece' }, 1, where, 1)
  if (piece.sealing === 'tape')
    add({ key: 'ptfe-tape', group: 'Consumables', name: 'PTFE tape', unit: 'piece' }, 0, where)
}

const clampName = (low: number, high: number, say: UnitFormatter): string => {
  const [from, to] = [say.mm(low), say.mm(high)]
  // the unit once
  return `hose clamp ${from.replace(/\s.*$/, '')} to ${to}, smooth band`
}

function addClamps(
  add: Add,
  hoseMm: number,
  count: number,
  { say, where }: { say: UnitFormatter; where: string },
): void {
  const [low, high] = clampFor(hoseMm)
  const item = {
    key: `clamp-${low}-${high}`,
    group: 'Clamps and clips',
    name: clampName(low, high, say),
    unit: 'piece',
  } as const
  add(item, count, where)
}

function addHose(add: Add, { kind, name, mm }: HoseSold, lengthM: number, where: string): void {
  add(
    {
      key: `hose-${kind}-${mm}`,
      group: 'Hose',
      name: `${kind === 'rubber' ? 'oil-proof reinforced rubber hose' : 'braided hose'} ${name}`,
      unit: 'mm',
      asks: [
        kind === 'rubber'
          ? 'for oil mist and fuel vapour inside, reinforced: it must not fold under suction'
          : 'with an oil-proof liner, for the hose ends below',
      ],
    },
    lengthM * 1000,
    where,
  )
}

function addEnd(add: Add, end: StripEnd, strip: Strip, say: UnitFormatter): void {
  if (!end.chain.ok) return
  const where = strip.line.name
  const { pieces, hoseEnd } = end.chain.value
  for (const p of pieces) addPiece(add, p, where)
  // a stepped joiner is clamped on both its hoses
  const steps = pieces.filter((p) => p.key.startsWith('step-')).length
  if (hoseEnd.kind === 'clamp')
    addClamps(add, strip.hose?.ok ? strip.hose.value.mm : strip.line.boreMm, 1 + 3 * steps, { say, where })
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

/** Parts that are new to the engine: one item for those that are the same thing. */
function addParts(add: Add, ground: SpecGround): void {
  const byKey = new Map<string, [Part, ...Part[]]>()
  for (const p of compareWithStock(ground.build, ground.variant).added) {
    const key = partKey(ground, p)
    const known = byKey.get(key)
    if (known) known.push(p)
    else byKey.set(key, [p])
  }
  for (const [key, parts] of byKey) {
    const { name, asks } = partSpec(ground, parts)
    for (const p of parts) {
      add({ key, group: 'Cans and valves', name, unit: 'piece', asks }, 1, p.name)
      if (p.kind !== 'can') continue
      addTap(add, p, ground.say)
      const lid = {
        key: `lid ${key}`.slice(0, 90),
        group: 'Seals',
        name: `lid O-ring of the ${name}`,
        unit: 'piece',
      } as const
      add(lid, 0, p.name, 1)
    }
  }
}

/** Bore of a hose that oil runs down by itself to a tap, mm (common practice, no source). */
const TAP_HOSE = 9.5
/** A tap led to where a hand reaches. */
function addTap(add: Add, can: PartOf<'can'>, say: UnitFormatter): void {
  if (!hasTap(can)) return
  const size = barbName(TAP_HOSE)
  add(
    {
      key: 'drain-tap',
      group: 'Cans and valves',
      name: `drain tap, ${size} barb`,
      unit: 'piece',
      asks: ['a lever that cannot be knocked open, its end plugged: two things to forget are better than one'],
    },
    1,
    can.name,
  )
  addHose(add, { ...rubberHose(TAP_HOSE), name: size }, can.tapMm! / 1000, can.name)
  addClamps(add, TAP_HOSE, 2, { say, where: can.name })
  const nipple = PIECES.find((p) => p.key === `pipe-3/8-barb-${TAP_HOSE}`)!
  addPiece(add, nipple, can.name)
  add(P_CLAMP, 1, can.name)
}

/** What joins bodies that stand mouth to mouth. */
function addCoupling(add: Add, { line, kind, ends, hose }: Coupling, say: UnitFormatter): void {
  const where = line.name
  if (kind === 'seat')
    add(
      { key: 'seal grommet of the PCV seat', group: 'Seals', name: 'grommet of the PCV seat', unit: 'piece' },
      1,
      where,
    )
  if (kind === 'neck') {
    add({ key: 'seal seal of the filler cap', group: 'Seals', name: 'seal of the filler cap', unit: 'piece' }, 1, where)
    const on = ends.find((e) => formOf(e.form)?.kind !== 'neck')
    if (on?.part.kind === 'can')
      add(
        {
          key: `neck-${on.form}`,
          group: 'Adapters',
          name: `filler neck adapter to ${formName(formOf(on.form)!)}`,
          unit: 'piece',
        },
        1,
        where,
      )
  }
  if (!hose) return
  addHose(add, hose, SLEEVE_M, where)
  addClamps(add, hose.mm, 2, { say, where })
  for (const e of ends) if (e.chain?.ok) for (const p of e.chain.value.pieces) addPiece(add, p, where)
}

/**
 * Everything to buy for a plan, counted: the same thing once, no two things under one name. What the plan keeps of the maker's is not in
 * it.
 * @param states the plan solved, for the pressures and the heat that its parts must stand; without them that is not asked
 *
 * @example
 * import { shoppingList } from '@/plan/fit/lists'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(shoppingList(build, build.variants[0])[0].name) // 'baffled can, 350 ml'
 */
export function shoppingList(build: Build, variant: Variant, states: readonly StateResult[] = []): readonly Item[] {
  const say = unitFormatter(build.units)
  const { add, items } = collector()
  const strips = stripsOf(build, variant)
  addParts(add, { build, variant, stock: stockVariant(build), states, say })
  for (const strip of madeOf(strips)) {
    if (strip.hose?.ok) {
      addHose(add, strip.hose.value, strip.cutM, strip.line.name)
      if (strip.hose.value.kind === 'braided')
        add(
          { key: 'cut-tape', group: 'Consumables', name: 'tape to cut braid through', unit: 'piece' },
          0,
          strip.line.name,
        )
    }
    for (const end of strip.ends) addEnd(add, end, strip, say)
    if (strip.clips > 0) add(P_CLAMP, strip.clips, strip.line.name)
  }
  for (const j of couplingsOf(build, variant)) addCoupling(add, j, say)
  for (const b of bungsOf(strips))
    add(
      {
        key: `bung-${b.form.key}`,
        group: 'Adapters',
        name: `weld bung, ${formName(b.form)}`,
        unit: 'piece',
        asks: [`of the cover’s own metal, as a rule aluminium; set into a hole of ${say.mm(b.holeM * 1000)}`],
      },
      1,
      `${b.part.name}, ${lowered(b.port)}`,
    )
  for (const { part, port, baffle } of coverBafflesOf(variant)) {
    const where = `${part.name}, ${lowered(port.name)}`
    add(
      {
        key: 'baffle-sheet',
        group: 'Consumables',
        name: 'sheet for baffle plates, 1.5 mm, in the cover’s own metal',
        unit: 'piece',
        asks: ['pieces as drawn; rivets or tack welds that cannot fall into the engine'],
      },
      baffle.plates + 2,
      where,
    )
  }
  for (const c of closuresOf(build, variant))
    add({ key: c.key, group: 'Caps and plugs', name: c.what, unit: 'piece' }, 1, c.name)
  return withDistinctNames(items()).map((i) =>
    i.unit === 'mm'
      ? { ...i, count: Math.ceil((i.count * WASTE) / SOLD_BY) * SOLD_BY }
      : { ...i, count: Math.max(1, i.count) },
  )
}

/** Two things under one name take the name of where they go. */
const withDistinctNames = (items: readonly Item[]): readonly Item[] =>
  items.map((i) =>
    items.some((o) => o !== i && o.name === i.name) ? { ...i, name: `${i.name}, for the ${lowered(i.for[0]!)}` } : i,
  )

/**
 * The cut list: a row a hose that is made, labelled at both ends.
 *
 * @example
 * import { cutList } from '@/plan/fit/lists'
 * import { stripsOf } from '@/plan/fit/strips'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(cutList(stripsOf(build, build.variants[0]))[0].cutMm) // 585
 */
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

/**
 * Holes and threads that this plan asks for, in the engine: what is bought has its own, and what was looked at is there.
 *
 * @example
 * import { unitFormatter } from '@/plan/document/words'
 * import { drillings } from '@/plan/fit/lists'
 * import { stripsOf } from '@/plan/fit/strips'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(drillings(stripsOf(build, build.variants[0]), unitFormatter(build.units)).length) // 0
 */
export function drillings(strips: readonly Strip[], say: UnitFormatter): readonly Drilling[] {
  return madeOf(strips).flatMap((s): Drilling[] =>
    s.ends.flatMap((e): Drilling[] => {
      const form = formOf(e.form)
      if (!KINDS[e.part.kind].engine || e.looked) return []
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
export function hosesToShare(strips: readonly Strip[]): readonly string[] {
  const made = madeOf(strips).filter((s) => s.hose?.ok)
  const sizes = [...new Set(made.map((s) => (s.hose!.ok ? s.hose!.value.mm : 0)))].toSorted((a, b) => a - b)
  return sizes.slice(1).flatMap((mm, i) => {
    const below = sizes[i]!
    if (mm / below > 1.2) return []
    const names = made.filter((s) => s.hose?.ok && s.hose.value.mm === below).map((s) => lowered(s.line.name))
    return [`${joinWords(names)} (${below} mm) could be cut from the ${mm} mm hose: one hose, one size of clamp.`]
  })
}
